import Konva from 'konva';
import {
  blockInBox,
  boxAbout,
  carriedBy,
  contains,
  enclosing,
  intersection,
  isPicture,
  isPlaced,
  moved,
  movedLayer,
  movedUnits,
  placeFor,
  scaledAbout,
  scaledWords,
  shapeInBox,
  snap,
  snapResize,
  turnedAbout,
  turnedLayer,
  turnedPoint,
  unitsOf,
  type Box,
  type Edit,
  type Graphic,
  type Layer,
  type Point,
  type Shaper,
  type SnapScene,
  type Snappable,
  type Unit,
  type WordsLayer,
} from '@bright-slot/core';
import type { Workbench } from '../../document/workbench';
import { BACKDROP } from '../../document/workbench.store';
import { Guides } from './guides';

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

const turns = (layer: Layer) =>
  !(layer.role === 'shape' && (layer.place.mode === 'band' || layer.place.mode === 'line'));

/** How wide and high at least what is hit is, CSS px: eight, and a px of rounding on either side. */
const LEAST_HIT = 10;

/** How near an edge has to come to another to snap, in CSS px. */
const REACH = 6;

/** What of the graphic the stage knows better: boxes of layers as they are painted, baselines, the safe area. Canvas px. */
export interface Sight {
  readonly boundsOf: (layer: Layer) => Box;
  /** The box that handles hold, to be turned about its middle. */
  readonly placeOf: (layer: Layer) => Box;
  readonly baselinesOf: (layer: Layer) => readonly number[];
  readonly safe: () => Box | null;
  readonly shaper: () => Shaper | null;
}

/** A gesture under way: what it began with. */
interface Gesture {
  readonly graphic: Graphic;
  /** The layer that is changed by itself; null where several are together. */
  readonly layer: Layer | null;
  /** What moves: the layer, its note's words, or all that is selected. */
  readonly units: readonly Unit[];
  /** The box that is held, and the upright box around it. */
  readonly box: Box;
  readonly bounds: Box;
  readonly baselines: readonly number[];
  /** Where the middle of what was taken hold of was. */
  readonly from: Point;
  readonly scene: SnapScene;
}

/** From so far on a press that moves is a drag, CSS px. */
const STIRS = 4;

/** What can be taken hold of on the canvas: hits, the selection's corners, snapping lines. Draws nothing of the graphic itself. */
export class CanvasHandles {
  private readonly stage: Konva.Stage;
  private readonly hits = new Konva.Layer();
  private readonly marks = new Konva.Layer();
  private readonly transformer: Konva.Transformer;
  private readonly frame = new Konva.Rect({ stroke: SPRUCE, strokeWidth: 1.5, listening: false, visible: false });
  /** What is held where several are selected: the box around all of them. */
  private readonly pack = new Konva.Rect({ fill: 'rgba(0,0,0,0)', visible: false, draggable: true });
  /** The outline of each of several, and the box that is being drawn to select with. */
  private readonly outlines = new Konva.Group({ listening: false });
  private readonly band = new Konva.Rect({
    stroke: INK,
    strokeWidth: 1,
    dash: [4, 3],
    listening: false,
    visible: false,
  });
  private readonly guides: Guides;
  private readonly rects = new Map<string, Konva.Rect>();
  private graphic: Graphic | undefined;
  private view: View | undefined;
  private start: Gesture | undefined;
  /** What ends a box that is being drawn. */
  private bandEnds: AbortController | undefined;
  opened: ((layer: Layer) => void) | undefined;
  /** A menu is asked for: what lies there, from front to back. */
  menu: ((event: MouseEvent, there: readonly Layer[]) => void) | undefined;

  constructor(
    container: HTMLDivElement,
    private readonly workbench: Workbench,
    private readonly sight: Sight,
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
    this.marks.add(this.frame, this.outlines, this.transformer, this.band);
    this.guides = new Guides(this.marks);
    this.hits.add(this.pack);
    this.held(this.pack, null);
    this.pack.on('pointerclick', (event: Konva.KonvaEventObject<PointerEvent>) => {
      const at = this.stage.getPointerPosition();
      const under =
        at &&
        !event.evt.shiftKey &&
        event.evt.button === 0 &&
        this.hitsAt(at).find((l) => !l.locked && l.role !== 'veil');
      if (under) this.workbench.pick(under.id);
    });
    this.stage.add(this.hits, this.marks);
    this.stage.on('pointerdown', (event) => {
      if (event.evt.button !== 0) return;
      const shift = event.evt.shiftKey;
      if (event.target !== this.stage && !(shift && event.target.getLayer() === this.hits)) return;
      this.drawBand(event.evt, shift);
    });
    this.stage.on('contextmenu', (event) => {
      const at = this.stage.getPointerPosition();
      if (!at) return;
      event.evt.preventDefault();
      this.menu?.(event.evt, this.hitsAt(at));
    });
  }

  /** Brings hits and handles in step with what is painted. */
  show(graphic: Graphic, view: View, selection: readonly string[], active: boolean): void {
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
      const box = this.sight.placeOf(layer);
      // Held by its middle, since that is what it is turned about.
      rect.setAttrs({
        ...this.attrsOf(box, view),
        rotation: layer.role === 'veil' ? 0 : layer.turn,
        draggable: !layer.locked && isPlaced(layer),
        // A veil lies over what is to be taken hold of: it is chosen in the layer list.
        listening: !layer.locked && layer.role !== 'veil',
      });
      rect.zIndex(order);
    }
    const several = wanted.filter((l) => selection.includes(l.id));
    if (selection.length > 1 && several.length > 1) this.showSeveral(several, view);
    else
      this.showOne(
        wanted.find((l) => l.id === selection[0]),
        view,
      );
    this.transformer.forceUpdate();
    this.stage.batchDraw();
  }

  private attrsOf(box: Box, view: View) {
    return {
      x: view.x + (box.x + box.width / 2) * view.zoom,
      y: view.y + (box.y + box.height / 2) * view.zoom,
      offsetX: (box.width * view.zoom) / 2,
      offsetY: (box.height * view.zoom) / 2,
      width: box.width * view.zoom,
      height: box.height * view.zoom,
      scaleX: 1,
      scaleY: 1,
    };
  }

  private showOne(chosen: Layer | undefined, view: View): void {
    this.pack.visible(false);
    this.outlines.destroyChildren();
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
  }

  /** Several are held by the box around all that can be moved of them. */
  private showSeveral(several: readonly Layer[], view: View): void {
    this.frame.visible(false);
    this.outlines.destroyChildren();
    for (const layer of several) {
      const b = this.sight.boundsOf(layer);
      const at = {
        x: view.x + b.x * view.zoom,
        y: view.y + b.y * view.zoom,
        width: b.width * view.zoom,
        height: b.height * view.zoom,
      };
      this.outlines.add(new Konva.Rect({ ...at, stroke: '#ffffff', strokeWidth: 3, opacity: 0.7 }));
      this.outlines.add(new Konva.Rect({ ...at, stroke: SPRUCE, strokeWidth: 1 }));
    }
    const box = this.start ? null : enclosing(this.unitsOf(several.map((l) => l.id)).map((u) => u.box));
    // In a gesture it is where the gesture has it.
    if (box) this.pack.setAttrs({ ...this.attrsOf(box, view), rotation: 0, visible: true });
    else if (!this.start) this.pack.visible(false);
    if (this.pack.visible()) this.pack.moveToTop();
    this.transformer.nodes(this.pack.visible() ? [this.pack] : []);
    this.transformer.borderEnabled(true);
    this.transformer.resizeEnabled(true);
    this.transformer.rotateEnabled(true);
    this.transformer.enabledAnchors([...corners]);
    this.transformer.keepRatio(true);
  }

  destroy(): void {
    this.bandEnds?.abort();
    this.stage.destroy();
  }

  private unitsOf(ids: readonly string[]): Unit[] {
    const shaper = this.sight.shaper();
    return this.graphic && shaper ? unitsOf(this.graphic, ids, shaper) : [];
  }

  private layer(id: string): Layer | undefined {
    return this.graphic?.layers.find((l) => l.id === id);
  }

  /** What lies at a place of the stage, from front to back: also what is locked, and veils. */
  private hitsAt(at: Point): Layer[] {
    const { view, graphic } = this;
    if (!view || !graphic) return [];
    const p = { x: (at.x - view.x) / view.zoom, y: (at.y - view.y) / view.zoom };
    const slack = LEAST_HIT / 2 / view.zoom;
    return graphic.layers
      .filter((l) => {
        if (!l.visible) return false;
        const box = this.sight.placeOf(l);
        const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
        const q = l.role === 'veil' ? p : turnedPoint(p, -l.turn, middle);
        return (
          Math.abs(q.x - middle.x) <= Math.max(box.width / 2, slack) &&
          Math.abs(q.y - middle.y) <= Math.max(box.height / 2, slack)
        );
      })
      .reverse();
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
    rect.on('pointerdown', (event) => {
      if (event.evt.button === 0 && !event.evt.shiftKey) this.workbench.pick(id);
    });
    this.held(rect, id);
    this.hits.add(rect);
    this.rects.set(id, rect);
    return rect;
  }

  /** What is done by hand to what a rect stands for: a layer, or all that are selected. */
  private held(rect: Konva.Rect, id: string | null): void {
    rect.on('pointerdblclick', () => {
      const at = this.stage.getPointerPosition();
      const layer = id === null ? at && this.hitsAt(at).find((l) => !l.locked && l.role !== 'veil') : this.layer(id);
      if (layer) this.opened?.(layer);
    });
    rect.on('mouseenter', () => (this.stage.container().style.cursor = 'move'));
    rect.on('mouseleave', () => (this.stage.container().style.cursor = ''));
    rect.on('dragstart transformstart', (event: Konva.KonvaEventObject<MouseEvent>) => {
      if (this.bandEnds || (event.type === 'dragstart' && event.evt?.shiftKey)) return rect.stopDrag();
      const ids = this.workbench.selection();
      // A layer of several that was taken by itself moves them all.
      this.begin(rect, id !== null && ids.length < 2 ? this.layer(id) : undefined, ids);
    });
    rect.on('dragmove', (event: Konva.KonvaEventObject<MouseEvent>) => this.dragged(rect, event.evt));
    rect.on('transform', (event: Konva.KonvaEventObject<MouseEvent>) => this.resized(rect, event.evt));
    rect.on('dragend transformend', () => {
      if (!this.start) return;
      this.start = undefined;
      this.guides.clear();
      this.workbench.commitDraft();
    });
  }

  private begin(rect: Konva.Rect, layer: Layer | undefined, ids: readonly string[]): void {
    const { graphic, view } = this;
    if (!graphic || !view) return;
    const units = layer
      ? [{ layers: [carriedBy(layer, graphic)], box: this.sight.boundsOf(layer) }]
      : this.unitsOf(ids);
    const bounds = enclosing(units.map((u) => u.box));
    if (!bounds) return;
    const moving = new Set(units.flatMap((u) => u.layers.map((l) => l.id)));
    const canvas = { x: 0, y: 0, ...graphic.canvas };
    const others = graphic.layers
      .filter((l) => l.visible && l.role !== 'veil' && !moving.has(l.id) && !moving.has(carriedBy(l, graphic).id))
      .map((l): Snappable => ({ box: this.sight.boundsOf(l), baselines: this.sight.baselinesOf(l) }))
      .filter(({ box }) => !contains(box, canvas));
    this.start = {
      graphic,
      layer: layer ?? null,
      units,
      box: layer ? this.sight.placeOf(layer) : bounds,
      bounds,
      baselines: units.flatMap((u) => u.layers.flatMap((l) => this.sight.baselinesOf(l))),
      from: this.middle(rect, view),
      scene: { canvas, safe: this.sight.safe(), others },
    };
  }

  private drafted(layers: readonly Layer[], what: string): void {
    const { start } = this;
    const first = layers[0];
    if (!start || !first) return;
    const edit: Edit =
      layers.length === 1
        ? { type: 'replace-layer', layer: first, name: `${start.layer?.name ?? first.name} ${what}` }
        : {
            type: 'together',
            edits: layers.map((layer) => ({ type: 'replace-layer', layer })),
            name: `${layers.length} layers ${what}`,
          };
    this.workbench.draft.set(edit);
  }

  private dragged(rect: Konva.Rect, event: MouseEvent | TouchEvent): void {
    const { start, view } = this;
    if (!start || !view) return;
    const middle = this.middle(rect, view);
    const off = { x: middle.x - start.from.x, y: middle.y - start.from.y };
    const to = moved(start.bounds, off);
    // A photo well over the canvas has no use for lines; holding Alt goes free.
    const free = 'altKey' in event && event.altKey;
    const roomy = contains(to, start.scene.canvas) && start.layer?.role === 'photo';
    const met =
      free || roomy
        ? { offset: { x: 0, y: 0 }, guides: [], distances: [] }
        : snap({ box: to, baselines: start.baselines.map((y) => y + off.y) }, start.scene, REACH / view.zoom);
    this.guides.show(view, met.guides, met.distances);
    // Whole canvas pixels where nothing is met, so that what is seen can be typed.
    const by = (axis: 'x' | 'y') =>
      met.offset[axis] !== 0 || met.guides.some((g) => g.axis === axis) || met.distances.some((d) => d.axis === axis)
        ? off[axis] + met.offset[axis]
        : Math.round(to[axis] - start.bounds[axis]);
    const whole = { x: by('x'), y: by('y') };
    if (!start.layer) this.pack.setAttrs(this.attrsOf(moved(start.box, whole), view));
    const { layer } = start;
    const canvas = start.graphic.canvas;
    this.drafted(
      layer ? [movedLayer(start.units[0]!.layers[0]!, whole, canvas)] : movedUnits(start.units, whole, canvas),
      'moved',
    );
  }

  private resized(rect: Konva.Rect, event: MouseEvent | TouchEvent): void {
    const { start, view } = this;
    const shaper = this.sight.shaper();
    if (!start || !view || !shaper) return;
    const { layer, graphic } = start;
    if (this.transformer.getActiveAnchor() === 'rotater') {
      const turn = Math.round(rect.rotation() * 10) / 10;
      if (layer) {
        const turned = turnedLayer(layer, turn) as Exclude<Layer, { role: 'veil' }>;
        this.drafted([turned], `turned by ${turned.turn}°`);
      } else {
        const about = { x: start.box.x + start.box.width / 2, y: start.box.y + start.box.height / 2 };
        const all = start.units.flatMap((u) => u.layers.map((l) => turnedAbout(l, turn, about, graphic, shaper)));
        this.drafted(all, `turned by ${turn}°`);
      }
      return;
    }
    const by = (rect.width() * rect.scaleX()) / view.zoom / start.box.width;
    const down = (rect.height() * rect.scaleY()) / view.zoom / start.box.height;
    const asked = boxAbout(this.middle(rect, view), { width: start.box.width * by, height: start.box.height * down });
    const ratio = this.transformer.keepRatio();
    const upright = !layer || layer.role === 'veil' || layer.turn === 0;
    const free = 'altKey' in event && event.altKey;
    const met = upright && !free ? snapResize(start.box, asked, start.scene, REACH / view.zoom, ratio) : null;
    const to = met?.box ?? asked;
    this.guides.show(view, met?.guides ?? [], []);
    const times = to.width / start.box.width;
    if (!layer) {
      const corner = { x: start.box.x, y: start.box.y };
      const off = { x: to.x - corner.x, y: to.y - corner.y };
      const all = start.units.flatMap((u) =>
        u.layers.map((l) => movedLayer(scaledAbout(l, times, corner, graphic.canvas), off, graphic.canvas)),
      );
      this.drafted(all, 'resized');
      return;
    }
    const next = this.resizedLayer(layer, start.box, to, times, graphic);
    if (next) this.drafted([next], 'resized');
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

  /**
   * From a press where nothing lies, or with Shift anywhere: a box that selects what it touches once it is let go; a
   * press that does not stir selects what lies there (with Shift: beside the rest), or the backdrop.
   */
  private drawBand(down: MouseEvent, more: boolean): void {
    const { view } = this;
    const from = this.stage.getPointerPosition();
    if (!view || !from) return;
    const under = this.hitsAt(from).find((l) => !l.locked && l.role !== 'veil');
    const before = more ? this.workbench.selection().filter((id) => id !== BACKDROP) : [];
    const ends = new AbortController();
    this.bandEnds?.abort();
    this.bandEnds = ends;
    let stirred = false;
    const boxOf = (event: MouseEvent): Box => {
      const to = { x: from.x + event.clientX - down.clientX, y: from.y + event.clientY - down.clientY };
      return {
        x: Math.min(from.x, to.x),
        y: Math.min(from.y, to.y),
        width: Math.abs(to.x - from.x),
        height: Math.abs(to.y - from.y),
      };
    };
    const touched = (box: Box): string[] => {
      const on = {
        x: (box.x - view.x) / view.zoom,
        y: (box.y - view.y) / view.zoom,
        width: box.width / view.zoom,
        height: box.height / view.zoom,
      };
      return (this.graphic?.layers ?? []).flatMap((l) => {
        if (!l.visible || l.locked || l.role === 'veil') return [];
        const b = this.sight.boundsOf(l);
        // What the box was drawn upon is not meant.
        return intersection(b, on) && !contains(b, on) ? [l.id] : [];
      });
    };
    const over = () => {
      ends.abort();
      if (this.bandEnds === ends) this.bandEnds = undefined;
      this.band.visible(false);
      this.marks.batchDraw();
    };
    const options = { signal: ends.signal };
    window.addEventListener(
      'pointermove',
      (event) => {
        const box = boxOf(event);
        stirred ||= Math.max(box.width, box.height) > STIRS;
        if (!stirred) return;
        this.band.setAttrs({ ...box, visible: true });
        this.marks.batchDraw();
      },
      options,
    );
    window.addEventListener(
      'pointerup',
      (event) => {
        over();
        if (stirred) return this.workbench.selectUnits([...before, ...touched(boxOf(event))]);
        if (more && under) return this.workbench.pick(under.id, true);
        const within =
          from.x >= view.x && from.y >= view.y && from.x <= view.x + view.width && from.y <= view.y + view.height;
        // Where nothing lies on the canvas one sees its backdrop.
        if (!more) this.workbench.select(within ? BACKDROP : null);
      },
      options,
    );
    window.addEventListener('pointercancel', over, options);
  }
}
