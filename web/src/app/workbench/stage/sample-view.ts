import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { clamp, averageColour } from '@bright-slot/core';
import { SamplingService } from '../../ui/sampling.service';
import type { View } from './canvas-handles';

/** Pixels across the loupe, and how large each is drawn, CSS px. */
const ACROSS = 15;
const EACH = 8;

/** Taking a colour from the canvas: a cross that follows the pointer or the arrow keys, the pixels around it enlarged. */
@Component({
  selector: 'bs-sample-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      #cross
      type="button"
      class="sheet"
      [attr.aria-label]="said()"
      [style.left.px]="view().x"
      [style.top.px]="view().y"
      [style.width.px]="view().width"
      [style.height.px]="view().height"
      (pointermove)="look($event)"
      (click)="take($event)"
      (keydown)="key($event)"
      (blur)="cancel()"
    ></button>
    <div class="loupe" aria-hidden="true" [style.left.px]="loupe().x" [style.top.px]="loupe().y">
      <canvas #around [attr.width]="size" [attr.height]="size"></canvas>
      <span class="told"><i [style.background]="colour() ?? 'transparent'"></i>{{ colour() ?? 'Nothing there' }}</span>
    </div>
    <p class="which" role="status">{{ which() }}</p>
  `,
  styles: `
    .sheet {
      position: absolute;
      padding: 0;
      border: 0;
      background: none;
      cursor: crosshair;
      z-index: 5;
    }
    .loupe {
      position: absolute;
      z-index: 6;
      pointer-events: none;
      background: var(--surface);
      border: 2px solid var(--ink);
      border-radius: var(--corner);
      overflow: hidden;
    }
    canvas {
      display: block;
    }
    .told {
      display: flex;
      align-items: center;
      gap: 6px;
      padding: 4px 8px;
      font-size: 12.5px;
      font-weight: 600;
    }
    i {
      width: 14px;
      height: 14px;
      border: 1px solid var(--border);
      border-radius: 3px;
    }
    .which {
      position: absolute;
      left: 20px;
      bottom: 6px;
      margin: 0;
      padding: 6px 10px;
      font-size: 12.5px;
      background: var(--surface);
      border: 1px solid var(--border);
      border-radius: var(--corner);
      z-index: 6;
    }
  `,
})
export class SampleView {
  readonly view = input.required<View>();
  /** What is looked at: pixels of the screen over the whole canvas. */
  readonly pixels = input.required<ImageData>();
  private readonly sampling = inject(SamplingService);
  private readonly cross = viewChild.required<ElementRef<HTMLButtonElement>>('cross');
  private readonly around = viewChild.required<ElementRef<HTMLCanvasElement>>('around');
  protected readonly size = ACROSS * EACH;
  /** The pixel that is looked at. */
  private readonly at = signal({ x: 0, y: 0 });
  protected readonly colour = computed(() =>
    averageColour(this.pixels(), this.at().x, this.at().y, this.sampling.under()?.side ?? 1),
  );
  protected readonly which = computed(() => {
    const s = this.sampling.under();
    if (!s) return '';
    const over = s.side === 1 ? 'one pixel' : `${s.side} × ${s.side} pixels`;
    return s.from === 'seen'
      ? `Taken from the canvas as it is seen, ${over}. Enter takes it, Escape leaves it.`
      : `Taken from ${s.layer} only, ${over}. Enter takes it, Escape leaves it.`;
  });
  protected readonly said = computed(
    () => `Colour under the cross: ${this.colour() ?? 'nothing there'}. ${this.which()}`,
  );
  protected readonly loupe = computed(() => {
    const { x, y, width, roomWidth, roomHeight } = this.view();
    const scale = width / this.pixels().width;
    const left = x + this.at().x * scale + 18;
    const top = y + this.at().y * scale + 18;
    return {
      x: left + this.size > roomWidth ? left - this.size - 40 : left,
      y: top + this.size + 30 > roomHeight ? Math.max(0, top - this.size - 66) : top,
    };
  });

  constructor() {
    afterNextRender(() => {
      const { width, height } = this.pixels();
      this.at.set({ x: Math.floor(width / 2), y: Math.floor(height / 2) });
      this.cross().nativeElement.focus();
    });
    effect(() => {
      const { x, y } = this.at();
      const context = this.around().nativeElement.getContext('2d')!;
      const half = Math.floor(ACROSS / 2);
      const sheet = new OffscreenCanvas(ACROSS, ACROSS);
      sheet.getContext('2d')!.putImageData(this.pixels(), half - x, half - y);
      context.imageSmoothingEnabled = false;
      context.clearRect(0, 0, this.size, this.size);
      context.drawImage(sheet, 0, 0, this.size, this.size);
      const side = this.sampling.under()?.side ?? 1;
      const from = (half - (side - 1) / 2) * EACH;
      for (const [colour, width] of [
        ['#1f2a30', 3],
        ['#ffffff', 1],
      ] as const) {
        context.strokeStyle = colour;
        context.lineWidth = width;
        context.strokeRect(from, from, side * EACH, side * EACH);
      }
    });
  }

  private hold(x: number, y: number): void {
    const { width, height } = this.pixels();
    this.at.set({
      x: clamp(Math.floor(x), 0, width - 1),
      y: clamp(Math.floor(y), 0, height - 1),
    });
  }

  protected look(event: MouseEvent): void {
    const box = this.cross().nativeElement.getBoundingClientRect();
    const scale = this.pixels().width / box.width;
    this.hold((event.clientX - box.left) * scale, (event.clientY - box.top) * scale);
  }

  protected take(event: MouseEvent): void {
    // A press of Enter comes as a click without a place.
    if (event.detail > 0) this.look(event);
    this.sampling.under()?.done(this.colour());
  }

  protected key(event: KeyboardEvent): void {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (event.key === 'Escape') this.cancel();
    else if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    const by = event.shiftKey ? 10 : 1;
    if (step) this.hold(this.at().x + step[0]! * by, this.at().y + step[1]! * by);
  }

  protected cancel(): void {
    this.sampling.under()?.done(null);
  }
}
