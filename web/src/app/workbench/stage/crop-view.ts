import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  effect,
  inject,
  input,
  viewChild,
} from '@angular/core';
import Konva from 'konva';
import {
  boxAbout,
  cropWindow,
  middleOf,
  pictureGeometry,
  turnedPoint,
  withImageAt,
  withWindow,
  zoomedInWindow,
  type Box,
  type PictureLayer,
  type Point,
} from '@bright-slot/core';
import { Workbench } from '../../document/workbench';
import type { View } from './canvas-handles';
import { SurfaceStore } from '../../pixels/surface-store';

const INK = '#1f2a30';
const SPRUCE = '#1f6f5c';

/** While a picture is cropped: all of it, dimmed outside its window; dragged, zoomed, its own window drawn by its edges. */
@Component({
  selector: 'bs-crop-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<canvas #whole></canvas>
    <div #hits></div>`,
  styles: `
    :host,
    canvas,
    div {
      position: absolute;
      inset: 0;
    }
    div {
      cursor: grab;
    }
    div:active {
      cursor: grabbing;
    }
  `,
  host: { '(wheel)': 'wheel($event)' },
})
export class CropView {
  readonly layer = input.required<PictureLayer>();
  readonly view = input.required<View>();
  private readonly workbench = inject(Workbench);
  private readonly surfaces = inject(SurfaceStore);
  private readonly whole = viewChild.required<ElementRef<HTMLCanvasElement>>('whole');
  private readonly hits = viewChild.required<ElementRef<HTMLDivElement>>('hits');
  private stage: Konva.Stage | undefined;
  private readonly image = new Konva.Rect({ draggable: true, fill: 'rgba(0,0,0,0)' });
  private readonly window = new Konva.Rect({ listening: false });
  private readonly edges = new Konva.Transformer({
    rotateEnabled: false,
    keepRatio: false,
    flipEnabled: false,
    borderStroke: SPRUCE,
    borderStrokeWidth: 1.5,
    anchorStroke: INK,
    anchorFill: '#ffffff',
    anchorSize: 10,
    anchorCornerRadius: 2,
    ignoreStroke: true,
  });
  /** The layer as it was when the gesture began. */
  private start: PictureLayer | undefined;
  private wheelEnds: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    afterNextRender(() => {
      this.stage = new Konva.Stage({ container: this.hits().nativeElement, width: 1, height: 1 });
      const layer = new Konva.Layer();
      layer.add(this.image, this.window, this.edges);
      this.stage.add(layer);
      const begin = () => (this.start = this.layer());
      const end = () => {
        this.start = undefined;
        this.workbench.commitDraft();
      };
      this.image.on('dragstart', begin);
      this.image.on('dragmove', () => this.moved());
      this.image.on('dragend', end);
      this.window.on('transformstart', begin);
      this.window.on('transform', () => this.resized());
      this.window.on('transformend', end);
      this.show();
    });
    effect(() => {
      this.layer();
      this.view();
      this.surfaces.arrived();
      this.show();
    });
    inject(DestroyRef).onDestroy(() => {
      clearTimeout(this.wheelEnds);
      this.workbench.commitDraft();
      this.stage?.destroy();
    });
  }

  private onRoom(b: Box): Box {
    const { x, y, zoom } = this.view();
    return { x: x + b.x * zoom, y: y + b.y * zoom, width: b.width * zoom, height: b.height * zoom };
  }

  private fromRoom(b: Box): Box {
    const { x, y, zoom } = this.view();
    return { x: (b.x - x) / zoom, y: (b.y - y) / zoom, width: b.width / zoom, height: b.height / zoom };
  }

  private canvasSize() {
    return this.workbench.graphic()!.canvas;
  }

  private show(): void {
    if (!this.stage) return;
    const layer = this.layer();
    const { roomWidth, roomHeight } = this.view();
    this.stage.size({ width: roomWidth, height: roomHeight });
    const geometry = pictureGeometry(layer, this.canvasSize());
    const image = this.onRoom(geometry.image);
    const window = this.onRoom(cropWindow(layer, this.canvasSize()));
    const pivot = middleOf(window);
    // Held by their middles, since they are turned about one.
    const held = (b: Box) => ({
      width: b.width,
      height: b.height,
      offsetX: b.width / 2,
      offsetY: b.height / 2,
      rotation: layer.turn,
    });
    this.image.setAttrs(held(image));
    if (!this.image.isDragging()) this.image.position(turnedPoint(middleOf(image), layer.turn, pivot));
    this.window.setAttrs({ ...held(window), ...pivot, scaleX: 1, scaleY: 1 });
    // Where the canvas is the window there are no edges to draw.
    this.edges.nodes(layer.place.mode === 'cover' ? [] : [this.window]);
    this.edges.forceUpdate();
    this.stage.batchDraw();
    this.paint(layer, image, window);
  }

  private paint(layer: PictureLayer, image: Box, window: Box): void {
    const element = this.whole().nativeElement;
    const { roomWidth, roomHeight } = this.view();
    const dpr = devicePixelRatio || 1;
    element.width = roomWidth * dpr;
    element.height = roomHeight * dpr;
    element.style.width = `${roomWidth}px`;
    element.style.height = `${roomHeight}px`;
    const context = element.getContext('2d')!;
    context.scale(dpr, dpr);
    const pivot = middleOf(window);
    context.save();
    context.translate(pivot.x, pivot.y);
    context.rotate((layer.turn * Math.PI) / 180);
    context.translate(-pivot.x, -pivot.y);
    const rough = this.surfaces.whole(layer);
    if (rough) {
      context.save();
      context.translate(image.x + image.width / 2, image.y + image.height / 2);
      context.scale(layer.flip.across ? -1 : 1, layer.flip.down ? -1 : 1);
      context.drawImage(rough, -image.width / 2, -image.height / 2, image.width, image.height);
      context.restore();
    }
    context.fillStyle = 'rgba(31, 42, 48, 0.62)';
    context.fillRect(image.x, image.y, image.width, image.height);
    context.strokeStyle = '#ffffff';
    context.strokeRect(image.x + 0.5, image.y + 0.5, image.width - 1, image.height - 1);
    const covers = layer.place.mode === 'cover';
    if (covers) context.restore();
    // In the window the graphic itself shows through, with all that stands over the photo.
    const seen = covers ? this.onRoom({ x: 0, y: 0, ...this.canvasSize() }) : window;
    context.globalCompositeOperation = 'destination-out';
    context.fillStyle = '#000';
    context.fillRect(seen.x, seen.y, seen.width, seen.height);
    context.globalCompositeOperation = 'source-over';
    if (!covers) context.restore();
  }

  private draft(layer: PictureLayer): void {
    this.workbench.draft.set({
      type: 'replace-layer',
      layer,
      name: `${layer.name} cropped`,
      merge: `crop:${layer.id}`,
    });
  }

  /** A point of the room as a point of the canvas before the layer was turned. */
  private unturned(p: Point, layer: PictureLayer): Point {
    const { x, y } = this.fromRoom({ ...p, width: 0, height: 0 });
    return turnedPoint({ x, y }, -layer.turn, middleOf(cropWindow(layer, this.canvasSize())));
  }

  private moved(): void {
    if (!this.start) return;
    const { image } = pictureGeometry(this.start, this.canvasSize());
    const to = boxAbout(this.unturned(this.image.position(), this.start), image);
    this.draft(withImageAt(this.start, to, this.canvasSize()));
  }

  private resized(): void {
    if (!this.start) return;
    const { zoom } = this.view();
    const to = boxAbout(this.unturned(this.window.position(), this.start), {
      width: (this.window.width() * this.window.scaleX()) / zoom,
      height: (this.window.height() * this.window.scaleY()) / zoom,
    });
    this.draft(withWindow(this.start, to, this.canvasSize()));
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    event.stopPropagation();
    this.draft(zoomedInWindow(this.layer(), Math.exp(-event.deltaY / 500), this.canvasSize()));
    clearTimeout(this.wheelEnds);
    this.wheelEnds = setTimeout(() => this.workbench.commitDraft(), 250);
  }
}
