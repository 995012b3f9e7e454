import type { Edit } from '@bright-slot/core';
import { ChangeDetectionStrategy, Component, ElementRef, inject, input, output } from '@angular/core';
import type { Point } from '@bright-slot/core';
import type { View } from './canvas-handles';

export type EditPointShape = 'dot' | 'ring' | 'bar-x' | 'bar-y';

/** One thing to take hold of: where it is, and the edit that moving it makes. */
export interface EditPointOn {
  readonly id: string;
  readonly label: string;
  readonly shape: EditPointShape;
  readonly at: Point;
  to(p: Point): Edit;
}

/** Something on the canvas to take hold of, by pointer or by the arrow keys: an end of a line, a point, a seam. */
@Component({
  selector: 'bs-edit-point',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<button
    type="button"
    [class]="shape()"
    [attr.aria-label]="label() + ', ' + round(at().x) + ', ' + round(at().y) + ' px. Arrow keys move it.'"
    [style.left.px]="view().x + at().x * view().zoom"
    [style.top.px]="view().y + at().y * view().zoom"
    (pointerdown)="down($event)"
    (pointermove)="move($event)"
    (pointerup)="up()"
    (pointercancel)="up()"
    (keydown)="key($event)"
  ></button>`,
  styles: `
    button {
      position: absolute;
      width: 24px;
      height: 24px;
      margin: -12px 0 0 -12px;
      padding: 0;
      border: 0;
      border-radius: 50%;
      background: none;
      cursor: move;
      touch-action: none;
      z-index: 3;
    }
    button::before {
      content: '';
      position: absolute;
      inset: 5px;
      border-radius: 50%;
      background: #fff;
      border: 2px solid var(--ink);
    }
    .ring::before {
      inset: 2px;
      background: none;
      border: 3px solid #fff;
      box-shadow:
        0 0 0 2px var(--ink),
        inset 0 0 0 2px var(--ink);
    }
    .bar-x,
    .bar-y {
      border-radius: 0;
    }
    .bar-y {
      cursor: ns-resize;
    }
    .bar-x {
      cursor: ew-resize;
    }
    .bar-y::before {
      inset: 7px -14px;
      border-radius: 5px;
    }
    .bar-x::before {
      inset: -14px 7px;
      border-radius: 5px;
    }
  `,
})
export class EditPoint {
  readonly at = input.required<Point>();
  readonly view = input.required<View>();
  readonly label = input.required<string>();
  readonly shape = input<EditPointShape>('dot');
  /** Where it was moved to, canvas px; not made yet. */
  readonly moved = output<Point>();
  readonly letGo = output();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private from: { pointer: Point; at: Point } | null = null;

  protected round(n: number): number {
    return Math.round(n * 10) / 10;
  }

  protected down(event: PointerEvent): void {
    event.stopPropagation();
    (event.target as HTMLElement).setPointerCapture(event.pointerId);
    this.from = { pointer: { x: event.clientX, y: event.clientY }, at: this.at() };
  }

  protected move(event: PointerEvent): void {
    if (!this.from) return;
    const { pointer, at } = this.from;
    const { zoom } = this.view();
    this.moved.emit({ x: at.x + (event.clientX - pointer.x) / zoom, y: at.y + (event.clientY - pointer.y) / zoom });
  }

  protected up(): void {
    if (!this.from) return;
    this.from = null;
    this.letGo.emit();
  }

  protected key(event: KeyboardEvent): void {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    const by = event.shiftKey ? 10 : 1;
    this.moved.emit({ x: this.at().x + step[0]! * by, y: this.at().y + step[1]! * by });
    this.letGo.emit();
    // The step is made; the focus stays for the next.
    setTimeout(() => this.host.nativeElement.querySelector('button')?.focus());
  }
}
