import { DestroyRef, ElementRef, inject, signal, type Signal } from '@angular/core';

/** Whether a component has been near the window: a thousand of them do not begin at once. To be asked while it is made. */
export function whenSeen(): Signal<boolean> {
  const seen = signal(false);
  const watch = new IntersectionObserver(
    ([entry]) => {
      if (entry?.isIntersecting) seen.set(true);
    },
    { rootMargin: '300px' },
  );
  watch.observe(inject<ElementRef<HTMLElement>>(ElementRef).nativeElement);
  inject(DestroyRef).onDestroy(() => watch.disconnect());
  return seen.asReadonly();
}
