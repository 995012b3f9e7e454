import { bottom, moved, right, type Box, type Point } from './box';

type Axis = 'x' | 'y';

/** What things snap to and with: a box, and the baselines of its words where it has some. */
export interface Snappable {
  readonly box: Box;
  readonly baselines?: readonly number[];
}

/** What a moving thing may meet, canvas px. */
export interface SnapScene {
  readonly canvas: Box;
  /** Where words and logos are to stay; null where that is all of the canvas. */
  readonly safe: Box | null;
  /** The other things on the canvas. */
  readonly others: readonly Snappable[];
}

/** What has met: `at` on `axis`; it runs from one end to the other along the other axis. */
export interface Guide {
  readonly axis: Axis;
  readonly at: number;
  readonly from: number;
  readonly to: number;
  readonly of: 'canvas' | 'safe' | 'thing' | 'baseline';
}

/** A distance to be shown: along `axis` from one end to the other, at a place on the other axis. */
export interface Distance {
  readonly axis: Axis;
  readonly from: number;
  readonly to: number;
  readonly at: number;
}

export interface Snapped {
  /** Offset to add to the box. */
  readonly offset: Point;
  readonly guides: readonly Guide[];
  /** How far it is, where it has met, to what it has met; and gaps that are equal now. */
  readonly distances: readonly Distance[];
}

const start = (b: Box, axis: Axis) => (axis === 'x' ? b.x : b.y);
const end = (b: Box, axis: Axis) => (axis === 'x' ? right(b) : bottom(b));
const middle = (b: Box, axis: Axis) => (start(b, axis) + end(b, axis)) / 2;
const across = (axis: Axis): Axis => (axis === 'x' ? 'y' : 'x');
const stops = (b: Box, axis: Axis) => [start(b, axis), middle(b, axis), end(b, axis)];

/** Below this much two places are one, canvas px. */
const SAME = 1e-6;

interface Target {
  readonly at: number;
  readonly box: Box;
  readonly of: Guide['of'];
}

function targets(scene: SnapScene, axis: Axis): Target[] {
  const of = (box: Box, kind: Guide['of']) => stops(box, axis).map((at) => ({ at, box, of: kind }));
  return [
    ...of(scene.canvas, 'canvas'),
    ...(scene.safe ? of(scene.safe, 'safe') : []),
    ...scene.others.flatMap(({ box }) => of(box, 'thing')),
  ];
}

function guideAt(axis: Axis, at: number, mine: Box, met: readonly Target[]): Guide {
  const along = across(axis);
  const boxes = [mine, ...met.map((t) => t.box)];
  return {
    axis,
    at,
    from: Math.min(...boxes.map((b) => start(b, along))),
    to: Math.max(...boxes.map((b) => end(b, along))),
    of: met[0]!.of,
  };
}

/** The room between two boxes along an axis, at the middle of what they share; null where they overlap on it. */
function gap(a: Box, b: Box, axis: Axis): Distance | null {
  const [first, second] = start(a, axis) <= start(b, axis) ? [a, b] : [b, a];
  const [from, to] = [end(first, axis), start(second, axis)];
  if (to - from < SAME) return null;
  const along = across(axis);
  const at = (Math.max(start(a, along), start(b, along)) + Math.min(end(a, along), end(b, along))) / 2;
  return { axis, from, to, at };
}

/** Those that stand in one row with a box (or one column), before it and after it, the nearest first. */
function neighbours(box: Box, boxes: readonly Box[], axis: Axis) {
  const along = across(axis);
  const row = boxes.filter((b) => start(b, along) < end(box, along) - SAME && end(b, along) > start(box, along) + SAME);
  return {
    before: row.filter((b) => middle(b, axis) < middle(box, axis)).sort((a, b) => end(b, axis) - end(a, axis)),
    after: row.filter((b) => middle(b, axis) >= middle(box, axis)).sort((a, b) => start(a, axis) - start(b, axis)),
  };
}

/** Shifts that make gaps equal: in the middle between two, or going on in a row as two others stand. */
function equalGaps(box: Box, boxes: readonly Box[], axis: Axis): number[] {
  const { before, after } = neighbours(box, boxes, axis);
  const [b, b2] = before;
  const [a, a2] = after;
  const found: number[] = [];
  if (b && a) {
    const room = start(a, axis) - end(b, axis) - (end(box, axis) - start(box, axis));
    if (room >= 0) found.push(end(b, axis) + room / 2 - start(box, axis));
  }
  const between = (p: Box, q: Box) => start(q, axis) - end(p, axis);
  if (b && b2 && between(b2, b) > SAME) found.push(end(b, axis) + between(b2, b) - start(box, axis));
  if (a && a2 && between(a, a2) > SAME) found.push(start(a, axis) - between(a, a2) - end(box, axis));
  return found;
}

/** The gaps in a row around a box that are as wide as one beside it. */
function shownGaps(box: Box, boxes: readonly Box[], axis: Axis): Distance[] {
  const { before, after } = neighbours(box, boxes, axis);
  const row = [...before.slice(0, 2).reverse(), box, ...after.slice(0, 2)];
  const gaps = row.slice(1).flatMap((b, i) => gap(row[i]!, b, axis) ?? []);
  const mine = gaps.filter((g) => Math.abs(g.to - start(box, axis)) < SAME || Math.abs(g.from - end(box, axis)) < SAME);
  const long = (g: Distance) => g.to - g.from;
  return gaps.filter(
    (g) =>
      mine.some((m) => Math.abs(long(m) - long(g)) < 1e-4) &&
      gaps.filter((o) => Math.abs(long(o) - long(g)) < 1e-4).length > 1,
  );
}

/**
 * Finds the smallest shift, within `reach`, that brings an edge or the middle of what moves onto an edge or the middle
 * of the canvas, of the safe area or of another thing, a baseline onto a baseline, or makes gaps in a row equal. Each
 * axis on its own; what has met is told, with distances. All in canvas px.
 */
export function snap(moving: Snappable, scene: SnapScene, reach: number): Snapped {
  const { box } = moving;
  const boxes = scene.others.map((o) => o.box);
  const offset = { x: 0, y: 0 };
  const baselines = scene.others.flatMap((o) => (o.baselines ?? []).map((at) => ({ at, box: o.box })));
  for (const axis of ['x', 'y'] as const) {
    const shifts = [
      ...targets(scene, axis).flatMap((t) => stops(box, axis).map((mine) => t.at - mine)),
      ...(axis === 'y' ? (moving.baselines ?? []).flatMap((mine) => baselines.map((t) => t.at - mine)) : []),
      ...equalGaps(box, boxes, axis),
    ].filter((by) => Math.abs(by) <= reach);
    if (shifts.length) offset[axis] = shifts.reduce((best, by) => (Math.abs(by) < Math.abs(best) ? by : best));
  }
  return { offset, ...met({ box: moved(box, offset), baselines: moving.baselines?.map((y) => y + offset.y) }, scene) };
}

/** What a thing that stands somewhere has met there, and how far off that is. */
function met(moving: { readonly box: Box; readonly baselines?: readonly number[] | undefined }, scene: SnapScene) {
  const { box } = moving;
  const boxes = scene.others.map((o) => o.box);
  const guides: Guide[] = [];
  const distances: Distance[] = [];
  for (const axis of ['x', 'y'] as const) {
    for (const at of stops(box, axis)) {
      const all = targets(scene, axis).filter((t) => Math.abs(t.at - at) < SAME);
      if (!all.length || guides.some((g) => g.axis === axis && Math.abs(g.at - at) < SAME)) continue;
      guides.push(guideAt(axis, at, box, all));
      for (const t of all) {
        const far = t.of === 'thing' && gap(box, t.box, across(axis));
        if (far) distances.push({ ...far, at });
      }
    }
    distances.push(...shownGaps(box, boxes, axis));
  }
  for (const at of moving.baselines ?? [])
    for (const o of scene.others)
      if (o.baselines?.some((b) => Math.abs(b - at) < SAME))
        guides.push({ ...guideAt('y', at, box, [{ at, box: o.box, of: 'baseline' }]), of: 'baseline' });
  const first = (d: Distance, i: number) =>
    distances.findIndex((o) => o.axis === d.axis && o.from === d.from && o.to === d.to) === i;
  return { guides, distances: distances.filter(first) };
}

/**
 * A box that is being made larger or smaller, its moving edges brought onto what they have come near to. `from` is the
 * box as it was: edges that stand as they did are held. With `ratio` kept, the shape stays and one edge meets. Gives
 * the box itself where nothing is near; canvas px.
 */
export function snapResize(
  from: Box,
  to: Box,
  scene: SnapScene,
  reach: number,
  ratio: boolean,
): { readonly box: Box; readonly guides: readonly Guide[] } {
  const near = (axis: Axis, at: number): number | null => {
    const found = targets(scene, axis)
      .map((t) => t.at - at)
      .filter((by) => Math.abs(by) <= reach);
    return found.length ? found.reduce((best, by) => (Math.abs(by) < Math.abs(best) ? by : best)) : null;
  };
  const still = 1e-3;
  const edges = (['x', 'y'] as const).flatMap((axis) => {
    const [a, b] = [start(to, axis), end(to, axis)];
    const low = Math.abs(a - start(from, axis)) > still && Math.abs(b - end(from, axis)) <= still;
    const high = Math.abs(b - end(from, axis)) > still && Math.abs(a - start(from, axis)) <= still;
    if (!low && !high) return [];
    const by = near(axis, low ? a : b);
    return by === null ? [] : [{ axis, low, by, length: b - a, grows: low ? -by : by }];
  });
  let box = to;
  if (ratio) {
    const [best] = [...edges].sort((a, b) => Math.abs(a.by) - Math.abs(b.by));
    if (best && best.length > 0) {
      const by = (best.length + best.grows) / best.length;
      const width = to.width * by;
      const height = to.height * by;
      if (by > 0)
        box = {
          x: Math.abs(to.x - from.x) <= still ? to.x : right(to) - width,
          y: Math.abs(to.y - from.y) <= still ? to.y : bottom(to) - height,
          width,
          height,
        };
    }
  } else
    for (const { axis, low, by, length, grows } of edges) {
      if (length + grows < 1) continue;
      const side = axis === 'x' ? 'width' : 'height';
      box = { ...box, ...(low ? { [axis]: start(to, axis) + by } : {}), [side]: length + grows };
    }
  return { box, guides: box === to ? [] : met({ box }, scene).guides };
}
