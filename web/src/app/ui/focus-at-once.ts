import { Directive, ElementRef, afterNextRender, inject } from '@angular/core';

/** Has the focus as soon as it is there. */
@Directive({ selector: '[bsFocus]' })
export class FocusAtOnce {
  constructor() {
    const { nativeElement } = inject<ElementRef<HTMLElement>>(ElementRef);
    afterNextRender(() => nativeElement.focus());
  }
}
