import { contains, grown, intersection, moved, right, bottom, type Box, type Point, type Size } from '../geometry/box';
import { middleOf } from '../geometry/turn';
import { movedLayer, scaledLayer } from '../graphic/arrange';
import { placedBox } from '../graphic/picture-geometry';
import type { Layer } from '../graphic/graphic';
import type { Frame } from '../graphic/frame';
import { safeBoxes } from '../slot/safe';
import { seenEverywhere } from '../slot/shown';
import type { Slot } from '../slot/slot';
import type { Shaper } from '../words/shaper';
import { textOf } from '../words/words';
import type { AssetFacts } from './asset-facts';
import { boxOf, extremes, type Subject } from './extent';
import type { Fix } from './rule';
import { beyondShape } from './shape-depth';

/** Where something may stand, and what it may not stand on. Canvas px. */
export interface FreeRoom {
  /** Upright boxes of which one has to hold it. */
  readonly within: readonly Box[];
  /** What the page lays over it, and other words and logos. */
  readonly zones: readonly Box[];
  readonly others: readonly Box[];
  /** The frame, and the shape that its page cuts it to. */
  readonly rect: Box;
  readonly shape: Slot['shape'];
}

/** A layer that was freed: by which move (canvas px), and how much smaller it had to become (1: not at all). */
export interface Freed<L extends Subject = Subject> {
  readonly layer: L;
  readonly by: Point;
  readonly scale: number;
}

/** So near (canvas px) nothing comes to what it is moved clear of. */
const APART = 4;
/** Sizes that are tried where no place is large enough. */
const SCALES = Array.from({ length: 40 }, (_, i) => 0.94 ** i);

/** Longer texts than titles and lines, in letters. */
const LONG = 1000;
export const isLong = (layer: Subject): boolean => layer.role === 'words' && textOf(layer).length > LONG;

/**
 * The room that words and logos have in a frame: its safe area, as far as every device shows it, clear of what the page
 * lays over it and of other words and logos (but not of those that `layer` stands on already).
 */
export function roomIn(
  frame: Pick<Frame, 'slot' | 'rect'>,
  layer: Subject,
  layers: readonly Layer[],
  canvas: Size,
  shaper: Shaper,
  assets: ReadonlyMap<string, AssetFacts>,
): FreeRoom {
  const { slot, rect } = frame;
  const own = extremes(layer, canvas, shaper, assets);
  const now = own.length ? boxOf(own) : null;
  const others = layers.flatMap((l) => {
    if (l.id === layer.id || !l.visible || (l.role !== 'words' && l.role !== 'logo')) return [];
    const points = extremes(l, canvas, shaper, assets);
    const box = points.length ? boxOf(points) : null;
    return box && !(now && intersection(box, now)) ? [grown(box, APART)] : [];
  });
  const zones = slot.covered.map((z) => grown(moved(z, rect), APART / 2));
  return { within: roomOf(frame), zones, others, rect, shape: slot.shape };
}

/** The parts of a frame, canvas px, that are safe and that every device shows. */
export function roomOf({ slot, rect }: Pick<Frame, 'slot' | 'rect'>): Box[] {
  const seen = seenEverywhere(slot);
  const safe = safeBoxes(slot);
  const both = seen ? safe.flatMap((b) => intersection(b, seen) ?? []) : [];
  return (both.length ? both : safe).map((b) => moved(b, rect));
}

/**
 * A layer after the shortest move after which it has room; made smaller only where no move is enough, and nearer to other
 * words only where nothing else helps. Null where nothing does.
 */
export function freed<L extends Subject>(
  layer: L,
  room: FreeRoom,
  canvas: Size,
  shaper: Shaper,
  assets: ReadonlyMap<string, AssetFacts>,
): Freed<L> | null {
  const points = extremes(layer, canvas, shaper, assets);
  // Laying out so long a text anew takes longer than a press may: it is moved, not made smaller.
  const long = isLong(layer);
  const anchor = layer.role === 'words' ? layer.place : middleOf(placedBox(layer, canvas));
  for (const taken of [[...room.zones, ...room.others], room.zones])
    for (const scale of long ? [1] : SCALES) {
      // By its outline in proportion first: laying out a long text at every size would take seconds.
      if (!shortest(scaledAbout(points, anchor, scale), room, taken)) continue;
      const own = scale === 1 ? layer : scaledLayer(layer, scale, canvas);
      const by = shortest(scale === 1 ? points : extremes(own, canvas, shaper, assets), room, taken);
      if (by) return { layer: movedLayer(own, by, canvas), by, scale };
    }
  return null;
}

const scaledAbout = (points: readonly Point[], about: Point, by: number): Point[] =>
  points.map((p) => ({ x: about.x + (p.x - about.x) * by, y: about.y + (p.y - about.y) * by }));

function shortest(points: readonly Point[], { within, rect, shape }: FreeRoom, taken: readonly Box[]): Point | null {
  if (!points.length) return null;
  const box = boxOf(points);
  const middle = {
    x: rect.x + rect.width / 2 - box.x - box.width / 2,
    y: rect.y + rect.height / 2 - box.y - box.height / 2,
  };
  // The shortest way to a place that is free ends at an edge of what is in the way, or within a round shape towards its middle.
  const towards = shape.kind === 'rectangle' ? [] : Array.from({ length: 20 }, (_, i) => (i + 1) / 20);
  const ways = (from: number, to: number, axis: 'x' | 'y') => [
    0,
    ...within.flatMap((b) => (axis === 'x' ? [b.x - from, right(b) - to] : [b.y - from, bottom(b) - to])),
    ...taken.flatMap((b) => (axis === 'x' ? [right(b) - from, b.x - to] : [bottom(b) - from, b.y - to])),
    ...towards.map((share) => middle[axis] * share),
  ];
  const moves = ways(box.x, right(box), 'x')
    .flatMap((x) => ways(box.y, bottom(box), 'y').map((y) => ({ x, y })))
    .sort((a, b) => Math.hypot(a.x, a.y) - Math.hypot(b.x, b.y));
  return (
    moves.find((by) => {
      const there = moved(box, by);
      return (
        within.some((b) => contains(b, there, 1e-6)) &&
        !taken.some((b) => overlaps(b, there)) &&
        (shape.kind === 'rectangle' ||
          beyondShape(
            points.map((p) => ({ x: p.x + by.x - rect.x, y: p.y + by.y - rect.y })),
            rect,
            shape,
          ) <= 0)
      );
    }) ?? null
  );
}

const overlaps = (a: Box, b: Box) => {
  const shared = intersection(a, b);
  return shared !== null && shared.width > 1e-6 && shared.height > 1e-6;
};

/** The press that frees a layer, named by its move; none where it is locked, or nothing frees it. */
export function freeingFix(
  name: string,
  layer: Subject,
  frame: Pick<Frame, 'slot' | 'rect'>,
  layers: readonly Layer[],
  canvas: Size,
  shaper: Shaper,
  assets: ReadonlyMap<string, AssetFacts>,
): Fix[] {
  if (layer.locked) return [];
  const done = freed(layer, roomIn(frame, layer, layers, canvas, shaper, assets), canvas, shaper, assets);
  return done ? [{ label: moveText(done), edit: { type: 'replace-layer', name, layer: done.layer } }] : [];
}

/** "Move it left 38 px and down 4 px", with its new size where it has one. */
export function moveText({ by, scale }: Pick<Freed, 'by' | 'scale'>): string {
  const px = (n: number) => `${Math.max(1, Math.round(Math.abs(n)))} px`;
  const ways = [
    ...(Math.abs(by.x) >= 0.05 ? [`${by.x < 0 ? 'left' : 'right'} ${px(by.x)}`] : []),
    ...(Math.abs(by.y) >= 0.05 ? [`${by.y < 0 ? 'up' : 'down'} ${px(by.y)}`] : []),
  ].join(' and ');
  const smaller = scale === 1 ? '' : `${Math.round(scale * 100)} % as large`;
  if (!ways) return `Make it ${smaller}`;
  return smaller ? `Make it ${smaller}, and move it ${ways}` : `Move it ${ways}`;
}
