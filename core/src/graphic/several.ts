import { enclosing, type Box, type Point, type Size } from '../geometry/box';
import { boxAbout, middleOf, turnedPoint } from '../geometry/turn';
import { movedWords } from '../words/layout';
import type { Shaper } from '../words/shaper';
import { blockInBox, carriedBy, movedLayer, scaledShape, scaledWords, shapeInBox, turnedLayer } from './arrange';
import { isPicture, type Graphic, type Layer } from './graphic';
import { placedBox, placeFor } from './picture-geometry';
import { heldBox, layerBounds, type Scene } from './shape-geometry';

/** What is arranged as one: a layer, a note with its words, or a group. */
export interface Unit {
  /** What is moved to move it. */
  readonly layers: readonly Layer[];
  /** The upright box around all that it draws but shadows, canvas px. */
  readonly box: Box;
}

type Axis = 'x' | 'y';
const lengthOf = { x: 'width', y: 'height' } as const;

/** Whether a layer lies where it is put: not along a side, and not as a veil. */
export const isPlaced = (layer: Layer): boolean =>
  layer.role !== 'veil' && !(layer.role === 'shape' && layer.place.mode === 'band');

/**
 * What can be arranged of the layers named, in the order they are named: groups as one, a note as one with its words.
 * What is locked, or lies as it is set to (veils, bands), is left out.
 */
export function unitsOf(graphic: Scene, ids: readonly string[], shaper: Shaper): Unit[] {
  const found = new Map<string, { layers: Set<Layer>; boxes: Box[] }>();
  for (const id of ids) {
    const layer = graphic.layers.find((l) => l.id === id);
    if (!layer || layer.locked || !isPlaced(layer)) continue;
    const carrier = carriedBy(layer, graphic);
    if (carrier.locked) continue;
    const key = layer.group ? `group ${layer.group.id}` : `layer ${carrier.id}`;
    const unit = found.get(key) ?? { layers: new Set<Layer>(), boxes: [] };
    found.set(key, unit);
    unit.layers.add(carrier);
    unit.boxes.push(layerBounds(layer, graphic, shaper));
  }
  return [...found.values()].map(({ layers, boxes }) => ({ layers: [...layers], box: enclosing(boxes)! }));
}

const movedUnit = (unit: Unit, by: Point, canvas: Size): Layer[] =>
  by.x === 0 && by.y === 0 ? [] : unit.layers.map((l) => movedLayer(l, by, canvas));

/** All of some units moved by an offset, canvas px: the layers that changed. */
export const movedUnits = (units: readonly Unit[], by: Point, canvas: Size): Layer[] =>
  units.flatMap((u) => movedUnit(u, by, canvas));

/** The edges and middles that things are aligned by. */
export const alignments = ['left', 'centre', 'right', 'top', 'middle', 'bottom'] as const;
export type Alignment = (typeof alignments)[number];

const shareOf = { left: 0, centre: 0.5, right: 1, top: 0, middle: 0.5, bottom: 1 } as const;
const axisOf = (by: Alignment): Axis => (by === 'left' || by === 'centre' || by === 'right' ? 'x' : 'y');

/** Units with an edge or middle brought to that of a box: the layers that changed. Canvas px. */
export function aligned(units: readonly Unit[], by: Alignment, to: Box, canvas: Size): Layer[] {
  const axis = axisOf(by);
  const length = lengthOf[axis];
  const share = shareOf[by];
  return units.flatMap((u) => {
    const off = to[axis] + to[length] * share - (u.box[axis] + u.box[length] * share);
    return movedUnit(u, { x: 0, y: 0, [axis]: off }, canvas);
  });
}

/** Units brought to the middle of a box as they stand, both ways, all of them as one: the layers that changed. */
export function centredIn(units: readonly Unit[], to: Box, canvas: Size): Layer[] {
  const all = enclosing(units.map((u) => u.box));
  if (!all) return [];
  const [from, at] = [middleOf(all), middleOf(to)];
  return movedUnits(units, { x: at.x - from.x, y: at.y - from.y }, canvas);
}

/**
 * Units with equal gaps between them along an axis, in the order they stand: from the first to the last, which stay;
 * or over all of a box, from its one end to the other. Where they are wider than that, gaps are below nothing and they
 * overlap alike. The layers that changed; canvas px.
 */
export function spread(units: readonly Unit[], axis: Axis, canvas: Size, within: Box | null = null): Layer[] {
  const length = lengthOf[axis];
  const row = [...units].sort((a, b) => a.box[axis] + a.box[length] / 2 - (b.box[axis] + b.box[length] / 2));
  if (row.length < (within ? 2 : 3)) return [];
  const [first, last] = [row[0]!, row.at(-1)!];
  const from = within ? within[axis] : first.box[axis];
  const to = within ? within[axis] + within[length] : last.box[axis] + last.box[length];
  const gap = (to - from - row.reduce((sum, u) => sum + u.box[length], 0)) / (row.length - 1);
  let at = from;
  return row.flatMap((u) => {
    const off = at - u.box[axis];
    at += u.box[length] + gap;
    // What stands there already is left, but for rounding.
    return Math.abs(off) < 1e-9 ? [] : movedUnit(u, { x: 0, y: 0, [axis]: off }, canvas);
  });
}

/** A layer with every length times `by`, in proportion, about a point of the canvas. */
export function scaledAbout<L extends Layer>(layer: L, by: number, about: Point, canvas: Size): L {
  const to = (p: Point) => ({ x: about.x + (p.x - about.x) * by, y: about.y + (p.y - about.y) * by });
  if (layer.role === 'words') return { ...scaledWords(layer, by), place: to(layer.place) } as L;
  if (layer.role === 'shape') return scaledShape(layer, by, about) as L;
  if (!isPicture(layer)) return layer;
  const b = placedBox(layer, canvas);
  const box = boxAbout(to(middleOf(b)), { width: b.width * by, height: b.height * by });
  return { ...layer, place: placeFor(layer, box, canvas) };
}

/** A layer turned by an angle (degrees clockwise) about a point of the canvas. */
export function turnedAbout(layer: Layer, degrees: number, about: Point, scene: Scene, shaper: Shaper): Layer {
  if (layer.role === 'veil') return layer;
  if (layer.role === 'shape' && layer.place.mode === 'line') {
    const { from, to } = layer.place;
    const turned = (p: Point) => turnedPoint(p, degrees, about);
    return { ...layer, place: { ...layer.place, from: turned(from), to: turned(to) } };
  }
  const middle = middleOf(heldBox(layer, scene, shaper));
  const at = turnedPoint(middle, degrees, about);
  // Turned before it is moved: a picture that covers the canvas is moved off it as it lies then.
  const turned = turnedLayer(layer, layer.turn + degrees);
  return movedLayer(turned, { x: at.x - middle.x, y: at.y - middle.y }, scene.canvas);
}

/** A layer made so wide or so high, about its middle: pictures, words and paths in proportion, other shapes on that side alone. */
function sizedLayer(layer: Layer, axis: Axis, length: number, graphic: Scene, shaper: Shaper): Layer {
  const held = heldBox(layer, graphic, shaper);
  const bounds = layerBounds(layer, graphic, shaper);
  const side = lengthOf[axis];
  const by = bounds[side] > 0 ? length / bounds[side] : 1;
  if (!(by > 0) || !Number.isFinite(by)) return layer;
  const block = layer.role === 'words' && layer.sizing.kind !== 'grow';
  const plain = layer.role === 'shape' && layer.form.kind !== 'path' && layer.place.mode !== 'line' && layer.turn === 0;
  if (plain) return shapeInBox(layer, held, boxAbout(middleOf(held), { ...held, [side]: held[side] * by }));
  if (block && axis === 'x' && layer.turn === 0) return blockInBox(layer, { ...held, width: held.width * by });
  const next = scaledAbout(layer, by, middleOf(bounds), graphic.canvas);
  if (next.role !== 'words') return next;
  // Sizes of type are whole tenths: what that leaves is shared out on both sides.
  const [was, is] = [middleOf(bounds), middleOf(layerBounds(next, graphic, shaper))];
  return movedWords(next, { x: was.x - is.x, y: was.y - is.y });
}

/**
 * Units made as wide (`x`) or as high (`y`) as a length, canvas px, about their middles; nothing is stretched but plain
 * shapes, which have no proportions of their own. Words come as near as tenths of their size allow. The layers that changed.
 */
export function sameSize(
  units: readonly Unit[],
  axis: Axis,
  length: number,
  graphic: Graphic,
  shaper: Shaper,
): Layer[] {
  return units.flatMap((u) => {
    const own = u.box[lengthOf[axis]];
    if (Math.abs(own - length) < 1e-9 || !(own > 0)) return [];
    const [only] = u.layers;
    if (u.layers.length === 1) return [sizedLayer(only!, axis, length, graphic, shaper)];
    return u.layers.map((l) => scaledAbout(l, length / own, middleOf(u.box), graphic.canvas));
  });
}

/** How far an arrow key moves things, canvas px: half a px along a side of the canvas that has halves. */
export const nudgeStep = (canvas: Size, axis: Axis): number => (Number.isInteger(canvas[lengthOf[axis]]) ? 1 : 0.5);
