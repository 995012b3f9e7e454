import { DestroyRef, Directive, ElementRef, inject } from '@angular/core';
import { Viewport } from './viewport';

const typing = (target: EventTarget | null) =>
  !!(target as HTMLElement | null)?.closest?.(
    'input, textarea, select, button, a, [contenteditable=true], [role=option]',
  );

/** The canvas moved about by hand: with Space held, with the middle button, or by two fingers, which make it larger too. */
@Directive({ selector: '[bsMovingAbout]' })
export class MovingAbout {
  private readonly viewport = inject(Viewport);
  private readonly room = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private space = false;
  private fingers: { x: number; y: number; apart: number } | null = null;

  constructor() {
    const ends = new AbortController();
    const { signal } = ends;
    inject(DestroyRef).onDestroy(() => ends.abort());
    // Before what lies on the canvas hears of it.
    const early = { capture: true, signal };
    document.addEventListener('keydown', (event) => this.spaced(event, true), { signal });
    document.addEventListener('keyup', (event) => this.spaced(event, false), { signal });
    window.addEventListener('blur', () => this.hold(false), { signal });
    this.room.addEventListener('pointerdown', (event) => this.taken(event), early);
    for (const type of ['mousedown', 'touchstart'])
      this.room.addEventListener(type, (event) => this.moving(event) && event.stopPropagation(), early);
    this.room.addEventListener('touchmove', (event) => this.pinched(event), { ...early, passive: false });
    for (const type of ['touchend', 'touchcancel'])
      this.room.addEventListener(type, () => (this.fingers = null), early);
  }

  private moving(event: Event): boolean {
    return this.space || (event as MouseEvent).button === 1;
  }

  private spaced(event: KeyboardEvent, down: boolean): void {
    if (event.key !== ' ' || (down && (typing(event.target) || event.repeat))) return;
    if (down) event.preventDefault();
    this.hold(down);
  }

  private hold(on: boolean): void {
    this.space = on;
    this.room.style.cursor = on ? 'grab' : '';
    this.room.classList.toggle('moving', on);
  }

  private taken(down: PointerEvent): void {
    if (!this.moving(down)) return;
    down.preventDefault();
    down.stopPropagation();
    let at = { x: down.clientX, y: down.clientY };
    const ends = new AbortController();
    const options = { signal: ends.signal };
    window.addEventListener(
      'pointermove',
      (event) => {
        this.viewport.panBy(event.clientX - at.x, event.clientY - at.y);
        at = { x: event.clientX, y: event.clientY };
      },
      options,
    );
    for (const type of ['pointerup', 'pointercancel']) window.addEventListener(type, () => ends.abort(), options);
  }

  private pinched(event: TouchEvent): void {
    const [a, b] = [...event.touches];
    if (!a || !b) return;
    event.preventDefault();
    event.stopPropagation();
    const room = this.room.getBoundingClientRect();
    const now = {
      x: (a.clientX + b.clientX) / 2 - room.left,
      y: (a.clientY + b.clientY) / 2 - room.top,
      apart: Math.hypot(a.clientX - b.clientX, a.clientY - b.clientY),
    };
    const before = this.fingers;
    this.fingers = now;
    if (!before) return;
    this.viewport.panBy(now.x - before.x, now.y - before.y);
    if (before.apart > 0) this.viewport.zoomTo((this.viewport.zoom() * now.apart) / before.apart, now);
  }
}
