import Konva from 'konva';
import {
  contains,
  movedLayer,
  placeFor,
  scaledWords,
  snap,
  type Box,
  type Graphic,
  type Layer,
  type WordsLayer,
} from '@bright-slot/core';
import type { Workbench } from '../state/draft';

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
/** How near an edge has to come to another to snap, in CSS px. */
const REACH = 6;

/** What can be taken hold of on the canvas: hits, the selection's corners, snapping lines. Draws nothing of the graphic itself. */
export class CanvasHandles {
  private readonly stage: Konva.Stage;
  private readonly hits = new Konva.Layer();
  private readonly marks = new Konva.Layer();
  private readonly transformer: Konva.Transformer;
  private readonly rects = new Map<string, Konva.Rect>();
  private graphic: Graphic | undefined;
  private view: View | undefined;
  /** The layer and its box as they were when the gesture began. */
  private start: { layer: Layer; box: Box } | undefined;
  opened: ((layer: Layer) => void) | undefined;

  constructor(
    container: HTMLDivElement,
    private readonly workbench: Workbench,
    private readonly boundsOf: (layer: Layer) => Box,
  ) {
    this.stage = new Konva.Stage({ container, width: 1, height: 1 });
    this.transformer = new Konva.Transformer({
      rotateEnabled: false,
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
    this.marks.add(this.transformer);
    this.stage.add(this.hits, this.marks);
    this.stage.on('pointerdown', (event) => {
      if (event.target === this.stage) this.workbench.select(null);
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
      const box = this.boundsOf(layer);
      rect.setAttrs({
        x: view.x + box.x * view.zoom,
        y: view.y + box.y * view.zoom,
        width: box.width * view.zoom,
        height: box.height * view.zoom,
        scaleX: 1,
        scaleY: 1,
        draggable: !layer.locked,
        listening: !layer.locked,
      });
      rect.zIndex(order);
    }
    const chosen = wanted.find((l) => l.id === selected);
    const rect = chosen ? this.rects.get(chosen.id) : undefined;
    this.transformer.nodes(rect ? [rect] : []);
    this.transformer.resizeEnabled(!!chosen && !chosen.locked);
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
    const rect = new Konva.Rect({ fill: 'rgba(0,0,0,0)' });
    rect.on('pointerdown', () => this.workbench.select(id));
    rect.on('pointerdblclick', () => {
      const layer = this.layer(id);
      if (layer) this.opened?.(layer);
    });
    rect.on('mouseenter', () => (this.stage.container().style.cursor = 'move'));
    rect.on('mouseleave', () => (this.stage.container().style.cursor = ''));
    const begin = () => {
      const layer = this.layer(id);
      if (layer) this.start = { layer, box: this.boundsOf(layer) };
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
    const to = { ...start.box, x: (rect.x() - view.x) / view.zoom, y: (rect.y() - view.y) / view.zoom };
    const others = graphic.layers.filter((l) => l.visible && l.id !== start.layer.id).map((l) => this.boundsOf(l));
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
    const by = { x: Math.round(to.x + offset.x - start.box.x), y: Math.round(to.y + offset.y - start.box.y) };
    const snapped = {
      x: lines.some((l) => l.axis === 'x') ? to.x + offset.x - start.box.x : by.x,
      y: lines.some((l) => l.axis === 'y') ? to.y + offset.y - start.box.y : by.y,
    };
    this.workbench.draft.set({
      type: 'replace-layer',
      layer: movedLayer(start.layer, snapped, graphic.canvas),
      name: `${start.layer.name} moved`,
    });
  }

  private resized(rect: Konva.Rect): void {
    const { start, view, graphic } = this;
    if (!start || !view || !graphic) return;
    const by = (rect.width() * rect.scaleX()) / view.zoom / start.box.width;
    const to = {
      x: (rect.x() - view.x) / view.zoom,
      y: (rect.y() - view.y) / view.zoom,
      width: start.box.width * by,
      height: start.box.height * by,
    };
    const { layer } = start;
    const next =
      layer.role === 'words'
        ? this.resizedWords(layer, start.box, to, by)
        : { ...layer, place: placeFor(layer, to, graphic.canvas) };
    this.workbench.draft.set({ type: 'replace-layer', layer: next, name: `${layer.name} resized` });
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
