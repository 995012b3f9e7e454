import Konva from 'konva';
import {
  boxAbout,
  contains,
  isPicture,
  movedLayer,
  placeFor,
  blockInBox,
  carriedBy,
  scaledWords,
  shapeInBox,
  snap,
  turnedLayer,
  type Box,
  type Graphic,
  type Layer,
  type Point,
  type WordsLayer,
} from '@bright-slot/core';
import type { Workbench } from '../../document/workbench';
import { BACKDROP } from '../../document/workbench.store';

/** Where the canvas lies in its room (CSS px) and how large a canvas px is there. */
export interface View {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly zoom: number;
  readonly roomWidth: number;
  readonly roomHeight: number;
}

const INK = '#1f2a30';
const SPRUCE = '#1f6f5c';
const corners = ['top-left', 'top-right', 'bottom-right', 'bottom-left'];
const all = [...corners, 'top-center', 'middle-right', 'bottom-center', 'middle-left'];

/** Where a layer can be taken hold of to be made larger: by its corners in proportion, or by every side. */
function anchorsOf(layer: Layer): readonly string[] {
  if (layer.role === 'words') return layer.sizing.kind === 'grow' ? corners : all;
  if (layer.role !== 'shape' || layer.form.kind === 'path') return corners;
  if (layer.place.mode !== 'band') return all;
  return [{ left: 'middle-right', right: 'middle-left', top: 'bottom-center', bottom: 'top-center' }[layer.place.side]];
}

/** Whether a layer lies where it is put: not along a side, and not as a veil. */
const moves = (layer: Layer) => layer.role !== 'veil' && !(layer.role === 'shape' && layer.place.mode === 'band');
const turns = (layer: Layer) =>
  !(layer.role === 'shape' && (layer.place.mode === 'band' || layer.place.mode === 'line'));

/** How wide and high at least what is hit is, CSS px: eight, and a px of rounding on either side. */
const LEAST_HIT = 10;

/** How near an edge has to come to another to snap, in CSS px. */
const REACH = 6;

/** What can be taken hold of on the canvas: hits, the selection's corners, snapping lines. Draws nothing of the graphic itself. */
export class CanvasHandles {
  private readonly stage: Konva.Stage;
  private readonly hits = new Konva.Layer();
  private readonly marks = new Konva.Layer();
  private readonly transformer: Konva.Transformer;
  private readonly frame = new Konva.Rect({ stroke: SPRUCE, strokeWidth: 1.5, listening: false, visible: false });
  private readonly rects = new Map<string, Konva.Rect>();
  private graphic: Graphic | undefined;
  private view: View | undefined;
  /** The layer, what is moved with it, its box and the upright box around it, as they were when the gesture began. */
  private start: { layer: Layer; carried: Layer; box: Box; bounds: Box } | undefined;
  opened: ((layer: Layer) => void) | undefined;

  constructor(
    container: HTMLDivElement,
    private readonly workbench: Workbench,
    private readonly boundsOf: (layer: Layer) => Box,
    private readonly placeOf: (layer: Layer) => Box,
  ) {
    this.stage = new Konva.Stage({ container, width: 1, height: 1 });
    this.transformer = new Konva.Transformer({
      rotateEnabled: false,
      rotateAnchorOffset: 26,
      rotationSnaps: [0, 90, 180, 270],
      rotationSnapTolerance: 2,
      keepRatio: true,
      flipEnabled: false,
      enabledAnchors: ['top-left', 'top-right', 'bottom-right', 'bottom-left'],
      borderStroke: SPRUCE,
      borderStrokeWidth: 1.5,
      anchorStroke: INK,
      anchorFill: '#ffffff',
      anchorSize: 10,
      anchorCornerRadius: 5,
      ignoreStroke: true,
    });
    this.marks.add(this.frame, this.transformer);
    this.stage.add(this.hits, this.marks);
    this.stage.on('pointerdown', (event) => {
      if (event.target !== this.stage) return;
      const at = this.stage.getPointerPosition();
      const v = this.view;
      const within = at && v && at.x >= v.x && at.y >= v.y && at.x <= v.x + v.width && at.y <= v.y + v.height;
      // Where nothing lies on the canvas one sees its backdrop.
      this.workbench.select(within ? BACKDROP : null);
    });
  }

  /** Brings hits and handles in step with what is painted. */
  show(graphic: Graphic, view: View, selected: string | null, active: boolean): void {
    this.graphic = graphic;
    this.view = view;
    if (this.stage.width() !== view.roomWidth || this.stage.height() !== view.roomHeight)
      this.stage.size({ width: view.roomWidth, height: view.roomHeight });
    this.stage.listening(active);
    const wanted = graphic.layers.filter((l) => l.visible);
    for (const [id, rect] of this.rects)
      if (!wanted.some((l) => l.id === id)) {
        rect.destroy();
        this.rects.delete(id);
      }
    for (const [order, layer] of wanted.entries()) {
      const rect = this.rects.get(layer.id) ?? this.newRect(layer.id);
      const box = this.placeOf(layer);
      // Held by its middle, since that is what it is turned about.
      rect.setAttrs({
        x: view.x + (box.x + box.width / 2) * view.zoom,
        y: view.y + (box.y + box.height / 2) * view.zoom,
        offsetX: (box.width * view.zoom) / 2,
        offsetY: (box.height * view.zoom) / 2,
        width: box.width * view.zoom,
        height: box.height * view.zoom,
        rotation: layer.role === 'veil' ? 0 : layer.turn,
        scaleX: 1,
        scaleY: 1,
        draggable: !layer.locked && moves(layer),
        // A veil lies over what is to be taken hold of: it is chosen in the layer list.
        listening: !layer.locked && layer.role !== 'veil',
      });
      rect.zIndex(order);
    }
    const chosen = wanted.find((l) => l.id === selected);
    const rect = chosen ? this.rects.get(chosen.id) : undefined;
    this.transformer.nodes(rect ? [rect] : []);
    // A picture that covers the canvas is seen as far as that goes.
    const covering = !!chosen && isPicture(chosen) && chosen.place.mode === 'cover';
    this.transformer.borderEnabled(!covering);
    this.frame.setAttrs({ x: view.x, y: view.y, width: view.width, height: view.height, visible: covering });
    const open = !!chosen && !chosen.locked && chosen.role !== 'veil';
    const line = chosen?.role === 'shape' && chosen.place.mode === 'line';
    const sides = chosen ? anchorsOf(chosen) : corners;
    // A line has its own ends.
    this.transformer.resizeEnabled(open && !line && !covering);
    this.transformer.rotateEnabled(open && turns(chosen) && !covering);
    this.transformer.enabledAnchors([...sides]);
    this.transformer.keepRatio(sides === corners);
    this.transformer.forceUpdate();
    this.stage.batchDraw();
  }

  destroy(): void {
    this.stage.destroy();
  }

  private layer(id: string): Layer | undefined {
    return this.graphic?.layers.find((l) => l.id === id);
  }

  private newRect(id: string): Konva.Rect {
    const rect = new Konva.Rect({
      fill: 'rgba(0,0,0,0)',
      // A rule of one px can be taken hold of too.
      hitFunc(context, shape) {
        const [across, down] = [shape.width(), shape.height()].map((n) => Math.max(0, LEAST_HIT - n) / 2);
        context.beginPath();
        context.rect(-across!, -down!, shape.width() + 2 * across!, shape.height() + 2 * down!);
        context.closePath();
        context.fillStrokeShape(shape);
      },
    });
    rect.on('pointerdown', () => this.workbench.select(id));
    rect.on('pointerdblclick', () => {
      const layer = this.layer(id);
      if (layer) this.opened?.(layer);
    });
    rect.on('mouseenter', () => (this.stage.container().style.cursor = 'move'));
    rect.on('mouseleave', () => (this.stage.container().style.cursor = ''));
    const begin = () => {
      const { graphic } = this;
      const layer = this.layer(id);
      if (layer && graphic)
        this.start = {
          layer,
          carried: carriedBy(layer, graphic),
          box: this.placeOf(layer),
          bounds: this.boundsOf(layer),
        };
    };
    rect.on('dragstart transformstart', begin);
    rect.on('dragmove', (event: Konva.KonvaEventObject<MouseEvent>) => this.dragged(rect, event.evt));
    rect.on('transform', () => this.resized(rect));
    rect.on('dragend transformend', () => {
      this.start = undefined;
      this.showLines([]);
      this.workbench.commitDraft();
    });
    this.hits.add(rect);
    this.rects.set(id, rect);
    return rect;
  }

  private dragged(rect: Konva.Rect, event: MouseEvent | TouchEvent): void {
    const { start, view, graphic } = this;
    if (!start || !view || !graphic) return;
    const middle = this.middle(rect, view);
    const to = {
      ...start.bounds,
      x: middle.x - start.bounds.width / 2,
      y: middle.y - start.bounds.height / 2,
    };
    const { carried } = start;
    const others = graphic.layers
      .filter(
        (l) =>
          l.visible &&
          l.role !== 'veil' &&
          l.id !== start.layer.id &&
          !(l.role === 'shape' && carriedBy(l, graphic).id === carried.id),
      )
      .map((l) => this.boundsOf(l));
    const canvas = { x: 0, y: 0, ...graphic.canvas };
    // A photo well over the canvas has no use for lines; holding Alt goes free.
    const free = 'altKey' in event && event.altKey;
    const roomy = contains(to, canvas) && start.layer.role === 'photo';
    const { offset, lines } =
      free || roomy
        ? { offset: { x: 0, y: 0 }, lines: [] }
        : snap(to, [canvas, ...others.filter((o) => !contains(o, canvas))], REACH / view.zoom);
    this.showLines(lines);
    // Whole canvas pixels, so that what is seen can be typed.
    const by = { x: Math.round(to.x + offset.x - start.bounds.x), y: Math.round(to.y + offset.y - start.bounds.y) };
    const snapped = {
      x: lines.some((l) => l.axis === 'x') ? to.x + offset.x - start.bounds.x : by.x,
      y: lines.some((l) => l.axis === 'y') ? to.y + offset.y - start.bounds.y : by.y,
    };
    this.workbench.draft.set({
      type: 'replace-layer',
      layer: movedLayer(carried, snapped, graphic.canvas),
      name: `${start.layer.name} moved`,
    });
  }

  private resized(rect: Konva.Rect): void {
    const { start, view, graphic } = this;
    if (!start || !view || !graphic) return;
    const { layer } = start;
    if (this.transformer.getActiveAnchor() === 'rotater') {
      const turn = Math.round(rect.rotation() * 10) / 10;
      const turned = turnedLayer(layer, turn) as Exclude<Layer, { role: 'veil' }>;
      this.workbench.draft.set({
        type: 'replace-layer',
        layer: turned,
        name: `${layer.name} turned by ${turned.turn}°`,
      });
      return;
    }
    const by = (rect.width() * rect.scaleX()) / view.zoom / start.box.width;
    const down = (rect.height() * rect.scaleY()) / view.zoom / start.box.height;
    const to = boxAbout(this.middle(rect, view), { width: start.box.width * by, height: start.box.height * down });
    const next = this.resizedLayer(layer, start.box, to, by, graphic);
    if (!next) return;
    this.workbench.draft.set({ type: 'replace-layer', layer: next, name: `${layer.name} resized` });
  }

  private resizedLayer(layer: Layer, from: Box, to: Box, by: number, graphic: Graphic): Layer | null {
    if (layer.role === 'veil') return null;
    if (layer.role === 'shape') return shapeInBox(layer, from, to);
    if (layer.role === 'words')
      return layer.sizing.kind === 'grow' ? this.resizedWords(layer, from, to, by) : blockInBox(layer, to);
    return { ...layer, place: placeFor(layer, to, graphic.canvas) };
  }

  private middle(rect: Konva.Rect, view: View): Point {
    return { x: (rect.x() - view.x) / view.zoom, y: (rect.y() - view.y) / view.zoom };
  }

  private resizedWords(layer: WordsLayer, from: Box, to: Box, by: number): WordsLayer {
    const place = { x: to.x + (layer.place.x - from.x) * by, y: to.y + (layer.place.y - from.y) * by };
    return { ...scaledWords(layer, by), place };
  }

  private showLines(lines: readonly { axis: 'x' | 'y'; at: number }[]): void {
    const { view } = this;
    if (!view) return;
    for (const old of this.marks.find('.snap')) old.destroy();
    for (const { axis, at } of lines) {
      const where = axis === 'x' ? view.x + at * view.zoom : view.y + at * view.zoom;
      const points = axis === 'x' ? [where, 0, where, view.roomHeight] : [0, where, view.roomWidth, where];
      this.marks.add(new Konva.Line({ name: 'snap', points, stroke: '#ffffff', strokeWidth: 3, listening: false }));
      this.marks.add(
        new Konva.Line({ name: 'snap', points, stroke: SPRUCE, strokeWidth: 1, dash: [6, 4], listening: false }),
      );
      const distance = new Konva.Text({
        name: 'snap',
        text: `${Math.round(at * 10) / 10}`,
        fontSize: 11,
        fill: INK,
        x: axis === 'x' ? where + 4 : 4,
        y: axis === 'x' ? 4 : where + 4,
        listening: false,
      });
      this.marks.add(distance);
    }
    this.marks.batchDraw();
  }
}
