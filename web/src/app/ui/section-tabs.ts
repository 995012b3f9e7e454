import { ChangeDetectionStrategy, Component, ElementRef, inject, input, output } from '@angular/core';

export interface Section<T extends string = string> {
  readonly id: T;
  readonly name: string;
}

/** The sections of a layer's settings, one open at a time; left and right arrows go between them. */
@Component({
  selector: 'bs-section-tabs',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div role="tablist" aria-label="Sections">
      @for (s of sections(); track s.id) {
        <button
          type="button"
          role="tab"
          [attr.aria-selected]="s.id === open()"
          [tabIndex]="s.id === open() ? 0 : -1"
          (click)="chosen.emit(s.id)"
          (keydown.arrowLeft)="step($event, -1)"
          (keydown.arrowRight)="step($event, 1)"
        >
          {{ s.name }}
        </button>
      }
    </div>
  `,
  styles: `
    div {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 20px;
      margin-bottom: 10px;
    }
    :host-context(.beside) div {
      column-gap: 14px;
    }
    button {
      border: 0;
      white-space: nowrap;
      background: none;
      padding: 0 0 4px;
      font:
        600 13px/1.2 'Public Sans Variable',
        sans-serif;
      color: var(--ink-soft);
      cursor: pointer;
      border-bottom: 2px solid transparent;
    }
    button[aria-selected='true'] {
      color: var(--ink);
      border-color: var(--ink);
    }
  `,
})
export class SectionTabs<T extends string> {
  readonly sections = input.required<readonly Section<T>[]>();
  readonly open = input.required<T>();
  readonly chosen = output<T>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  protected step(event: Event, by: 1 | -1): void {
    const all = this.sections();
    const to = all[all.findIndex((s) => s.id === this.open()) + by];
    if (!to) return;
    event.preventDefault();
    event.stopPropagation();
    this.chosen.emit(to.id);
    this.host.nativeElement.querySelectorAll<HTMLElement>('button')[all.indexOf(to)]?.focus();
  }
}
