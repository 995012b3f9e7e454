import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  effect,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { clamp, canvasPoint, ownPoint, pictureGeometry, type PictureLayer, type Point } from '@bright-slot/core';
import { Workbench } from '../../document/workbench';
import type { View } from './canvas-handles';
import { SurfaceStore } from '../../pixels/surface-store';
import { SubjectHints } from './subject-hints';

/** Over the canvas while a subject is marked: the box and the strokes, drawn with a pointer or with the keyboard. */
@Component({
  selector: 'bs-subject-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<canvas
    #sheet
    tabindex="0"
    role="application"
    aria-label="Mark the subject. Arrow keys move the cross, with Shift by one px; Space marks there, or sets a corner of the box."
    (pointerdown)="down($event)"
    (pointermove)="move($event)"
    (pointerup)="up()"
    (pointercancel)="up()"
    (keydown)="key($event)"
  ></canvas>`,
  styles: `
    :host {
      position: absolute;
      inset: 0;
    }
    canvas {
      cursor: crosshair;
      touch-action: none;
      position: absolute;
      inset: 0;
    }
  `,
})
export class SubjectView {
  readonly layer = input.required<PictureLayer>();
  readonly view = input.required<View>();
  private readonly hints = inject(SubjectHints);
  private readonly workbench = inject(Workbench);
  private readonly surfaces = inject(SurfaceStore);
  private readonly sheet = viewChild.required<ElementRef<HTMLCanvasElement>>('sheet');
  /** The stroke or box in hand, own px. */
  private readonly inHand = signal<Point[] | null>(null);
  /** The keyboard's cross, in CSS px of the room. */
  private readonly cross = signal<Point | null>(null);
  private corner: Point | null = null;

  constructor() {
    effect(() => {
      this.surfaces.arrived();
      this.paint();
    });
  }

  private canvas() {
    return this.workbench.graphic()!.canvas;
  }

  private own(p: Point): Point {
    const { x, y, zoom } = this.view();
    const at = ownPoint(this.layer(), this.canvas(), { x: (p.x - x) / zoom, y: (p.y - y) / zoom });
    const { width, height } = this.layer().natural;
    return { x: clamp(at.x, 0, width), y: clamp(at.y, 0, height) };
  }

  private room(p: Point): Point {
    const { x, y, zoom } = this.view();
    const at = canvasPoint(this.layer(), this.canvas(), p);
    return { x: x + at.x * zoom, y: y + at.y * zoom };
  }

  private paint(): void {
    const { roomWidth, roomHeight } = this.view();
    const element = this.sheet().nativeElement;
    const dpr = devicePixelRatio || 1;
    element.width = roomWidth * dpr;
    element.height = roomHeight * dpr;
    element.style.width = `${roomWidth}px`;
    element.style.height = `${roomHeight}px`;
    const context = element.getContext('2d')!;
    context.scale(dpr, dpr);
    this.paintWhole(context);
    const path = (points: readonly Point[], close: boolean) => {
      context.beginPath();
      points.map((p) => this.room(p)).forEach((p, i) => (i ? context.lineTo(p.x, p.y) : context.moveTo(p.x, p.y)));
      if (points.length === 1) {
        const p = this.room(points[0]!);
        context.lineTo(p.x + 0.1, p.y);
      }
      if (close) context.closePath();
    };
    const hand = this.inHand();
    const drawing = this.hints.tool() === 'box' && hand && hand.length > 1;
    const box = this.hints.box();
    const corners = drawing
      ? [hand[0]!, { x: hand[1]!.x, y: hand[0]!.y }, hand[1]!, { x: hand[0]!.x, y: hand[1]!.y }]
      : box && [
          { x: box.x, y: box.y },
          { x: box.x + box.width, y: box.y },
          { x: box.x + box.width, y: box.y + box.height },
          { x: box.x, y: box.y + box.height },
        ];
    if (corners) {
      path(corners, true);
      context.lineWidth = 3;
      context.strokeStyle = '#ffffff';
      context.stroke();
      context.lineWidth = 1.5;
      context.setLineDash([7, 5]);
      context.strokeStyle = '#1f2a30';
      context.stroke();
      context.setLineDash([]);
    }
    context.lineCap = 'round';
    context.lineJoin = 'round';
    const [zero, one] = [this.room({ x: 0, y: 0 }), this.room({ x: 1, y: 0 })];
    const by = Math.hypot(one.x - zero.x, one.y - zero.y);
    const strokes = [...this.hints.strokes()];
    if (hand && this.hints.tool() !== 'box')
      strokes.push({ keep: this.hints.tool() === 'keep', width: this.hints.width(), points: hand });
    for (const s of strokes) {
      path(s.points, false);
      context.lineWidth = Math.max(3, s.width * by);
      context.strokeStyle = s.keep ? 'rgba(31, 111, 92, 0.75)' : 'rgba(180, 71, 46, 0.75)';
      // What goes is dashed, so that the two are told apart without their colours.
      context.setLineDash(s.keep ? [] : [context.lineWidth * 1.2, context.lineWidth * 1.4]);
      context.stroke();
    }
    context.setLineDash([]);
    const cross = this.cross();
    if (cross) {
      for (const [colour, width] of [
        ['#ffffff', 4],
        ['#1f2a30', 1.5],
      ] as const) {
        context.strokeStyle = colour;
        context.lineWidth = width;
        context.beginPath();
        context.moveTo(cross.x - 12, cross.y);
        context.lineTo(cross.x + 12, cross.y);
        context.moveTo(cross.x, cross.y - 12);
        context.lineTo(cross.x, cross.y + 12);
        context.stroke();
      }
    }
  }

  /** All of the picture, faintly, so that what was taken wrongly can be marked. */
  private paintWhole(context: CanvasRenderingContext2D): void {
    const layer = this.layer();
    const whole = layer.cutout && this.surfaces.whole({ ...layer, cutout: null });
    if (!whole) return;
    const { image, pivot } = pictureGeometry(layer, this.canvas());
    const { x, y, zoom } = this.view();
    context.save();
    context.globalAlpha = 0.35;
    context.translate(x + pivot.x * zoom, y + pivot.y * zoom);
    context.rotate((layer.turn * Math.PI) / 180);
    context.translate((image.x + image.width / 2 - pivot.x) * zoom, (image.y + image.height / 2 - pivot.y) * zoom);
    context.scale(layer.flip.across ? -zoom : zoom, layer.flip.down ? -zoom : zoom);
    context.drawImage(whole, -image.width / 2, -image.height / 2, image.width, image.height);
    context.restore();
  }

  protected down(event: PointerEvent): void {
    this.sheet().nativeElement.setPointerCapture(event.pointerId);
    this.inHand.set([this.own({ x: event.offsetX, y: event.offsetY })]);
  }

  protected move(event: PointerEvent): void {
    const hand = this.inHand();
    if (!hand) return;
    const p = this.own({ x: event.offsetX, y: event.offsetY });
    this.inHand.set(this.hints.tool() === 'box' ? [hand[0]!, p] : [...hand, p].slice(-4000));
  }

  protected up(): void {
    const hand = this.inHand();
    this.inHand.set(null);
    if (hand) this.finish(hand);
  }

  private finish(hand: Point[]): void {
    const [a, b] = [hand[0]!, hand.at(-1)!];
    if (this.hints.tool() === 'box') {
      const box = {
        x: Math.min(a.x, b.x),
        y: Math.min(a.y, b.y),
        width: Math.abs(a.x - b.x),
        height: Math.abs(a.y - b.y),
      };
      if (box.width < 4 || box.height < 4) return;
      this.hints.box.set(box);
    } else
      this.hints.strokes.update((s) => [
        ...s,
        { keep: this.hints.tool() === 'keep', width: this.hints.width(), points: hand },
      ]);
    this.hints.marked.update((n) => n + 1);
  }

  protected key(event: KeyboardEvent): void {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    const { roomWidth, roomHeight } = this.view();
    const now = this.cross() ?? { x: roomWidth / 2, y: roomHeight / 2 };
    if (step) {
      const by = event.shiftKey ? 1 : 10;
      this.cross.set({ x: now.x + step[0]! * by, y: now.y + step[1]! * by });
    } else if (event.key === ' ') {
      const p = this.own(now);
      this.cross.set(now);
      if (this.hints.tool() !== 'box') this.finish([p]);
      else if (!this.corner) this.corner = p;
      else {
        this.finish([this.corner, p]);
        this.corner = null;
      }
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }
}
