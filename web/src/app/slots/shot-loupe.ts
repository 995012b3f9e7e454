import { ChangeDetectionStrategy, Component, ElementRef, effect, inject, viewChild } from '@angular/core';
import { ShotService } from './shot.service';

/** Pixels across, and how large each is drawn, CSS px. */
const ACROSS = 17;
const EACH = 9;

/** A few pixels of the screenshot, much enlarged, around what is being looked at. */
@Component({
  selector: 'bs-shot-loupe',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[hidden]': '!shots.looking()', 'aria-hidden': 'true' },
  template: `<canvas #canvas [attr.width]="size" [attr.height]="size"></canvas>`,
  styles: `
    :host {
      position: absolute;
      right: 14px;
      top: 58px;
      border: 2px solid var(--ink);
      border-radius: 50%;
      overflow: hidden;
      background: var(--surface);
      pointer-events: none;
      z-index: 3;
    }
    :host([hidden]) {
      display: none;
    }
    canvas {
      display: block;
    }
  `,
})
export class ShotLoupe {
  protected readonly shots = inject(ShotService);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  protected readonly size = ACROSS * EACH;

  constructor() {
    effect(() => {
      const at = this.shots.looking();
      const shot = this.shots.shot();
      const context = this.canvas().nativeElement.getContext('2d');
      if (!at || !shot || !context) return;
      const half = Math.floor(ACROSS / 2);
      context.imageSmoothingEnabled = false;
      context.fillStyle = '#8a8271';
      context.fillRect(0, 0, this.size, this.size);
      const [x, y] = [Math.round(at.x) - half, Math.round(at.y) - half];
      context.drawImage(shot.bitmap, x, y, ACROSS, ACROSS, 0, 0, this.size, this.size);
      // A line lies between pixels: drawn light on ink, so that it shows on any ground.
      const [cx, cy] = [(Math.round(at.x) - x) * EACH, (Math.round(at.y) - y) * EACH];
      for (const [colour, width] of [
        ['#1f2a30', 3],
        ['#f2b01e', 1],
      ] as const) {
        context.strokeStyle = colour;
        context.lineWidth = width;
        context.beginPath();
        context.moveTo(cx, 0);
        context.lineTo(cx, this.size);
        context.moveTo(0, cy);
        context.lineTo(this.size, cy);
        context.stroke();
      }
    });
  }
}
