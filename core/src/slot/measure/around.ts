import type { Box } from '../../geometry/box';
import { apart, hexOf, offsetOf, type Raster } from './raster';
import type { SlotOutline } from './row';
import { ellipseCrossings, sideCrossings, sides, type Crossing } from './step';

/** What lies around a slot. */
export interface Ground {
  /** "#rrggbb", the commonest colour. */
  readonly colour: string;
  /** Whether nearly all of it is that colour. */
  readonly even: boolean;
}

/** The commonest colour of pixels, by their byte offsets, and its share. */
function commonest(raster: Raster, offsets: Iterable<number>): { at: number; share: number } | null {
  const counts = new Map<number, { n: number; at: number }>();
  let all = 0;
  for (const i of offsets) {
    const key = (raster.data[i]! << 16) | (raster.data[i + 1]! << 8) | raster.data[i + 2]!;
    const c = counts.get(key);
    if (c) c.n++;
    else counts.set(key, { n: 1, at: i });
    all++;
  }
  let best: { n: number; at: number } | null = null;
  for (const c of counts.values()) if (!best || c.n > best.n) best = c;
  return best && { at: best.at, share: best.n / all };
}

/** Byte offsets of the pixels on the rim of a box that is `out` px larger on every side. */
function* rim(raster: Raster, box: Box, out: number): Generator<number> {
  const [l, t] = [Math.round(box.x) - out, Math.round(box.y) - out];
  const [r, b] = [Math.round(box.x + box.width) - 1 + out, Math.round(box.y + box.height) - 1 + out];
  const inside = (x: number, y: number) => x >= 0 && y >= 0 && x < raster.width && y < raster.height;
  for (let x = l; x <= r; x++) for (const y of [t, b]) if (inside(x, y)) yield offsetOf(raster, x, y);
  for (let y = t + 1; y < b; y++) for (const x of [l, r]) if (inside(x, y)) yield offsetOf(raster, x, y);
}

/** The page's ground just outside a slot. Null where the slot fills the picture. */
export function groundAround(raster: Raster, box: Box): Ground | null {
  const offsets = [2, 3, 4].flatMap((out) => [...rim(raster, box, out)]);
  const found = commonest(raster, offsets);
  return found && { colour: hexOf(raster, found.at), even: found.share > 0.85 };
}

export interface Border {
  /** Device px. */
  readonly width: number;
  readonly colour: string;
}

/** Widest border looked for, device px. */
const MOST_BORDER = 24;
/** Along a curve mixed px hide more, and a dark rim of the picture passes for one sooner. */
const MOST_CURVED = 6;

/** How a line of px beside an outline looks: its commonest colour, and how much of it is nearly that. */
interface Band {
  readonly at: number;
  readonly share: number;
}

/** Colours apart by so little are one: of 255. Along a curve a border's px are mixed with what is beside them. */
const ALIKE = 6;
const ALIKE_CURVED = 36;

function bandOf(raster: Raster, offsets: readonly number[], alike: number): Band | null {
  if (offsets.length < 12) return null;
  const found = commonest(raster, offsets);
  if (!found) return null;
  const near = offsets.filter((i) => apart(raster, i, found.at) <= alike).length;
  return { at: found.at, share: near / offsets.length };
}

/** The px at a distance inwards (0 is the first inside, -1 the first outside) along crossings. */
const along = (raster: Raster, crossings: readonly Crossing[], d: number): number[] =>
  crossings.flatMap(({ x, y, nx, ny }) => {
    const [px, py] = [x + nx * (d + 0.5), y + ny * (d + 0.5)];
    return px < 0 || py < 0 || px >= raster.width || py >= raster.height ? [] : [offsetOf(raster, px, py)];
  });

/** How far to either side of an edge that was found a border is looked for, device px. */
const NEAR_EDGE = 3;

/** A run of lines of one colour beside an edge that end on both sides at another: how far inwards it reaches, and how wide it is. */
interface Run {
  readonly to: number;
  readonly width: number;
  readonly at: number;
}

function runsBeside(raster: Raster, crossings: readonly Crossing[], curved: boolean): Run[] {
  const alike = curved ? ALIKE_CURVED : ALIKE;
  const least = curved ? 0.75 : 0.96;
  const most = curved ? MOST_CURVED : MOST_BORDER;
  const bands = new Map<number, Band | null>();
  const band = (d: number) => {
    if (!bands.has(d)) bands.set(d, bandOf(raster, along(raster, crossings, d), alike));
    return bands.get(d) ?? null;
  };
  const runs: Run[] = [];
  for (let d = -NEAR_EDGE; d < NEAR_EDGE; d++) {
    const own = band(d);
    if (!own || own.share < least || runs.some((r) => d < r.to && d >= r.to - r.width)) continue;
    const same = (k: number) => {
      const other = band(k);
      return other !== null && other.share >= least && apart(raster, other.at, own.at) <= alike;
    };
    let [from, to] = [d, d];
    while (d - from < most && same(from - 1)) from--;
    while (to - from < most && same(to + 1)) to++;
    if (to - from >= most) continue;
    // What lies behind it has to be another colour, and so has what lies before it.
    const other = (k: number) => {
      const offsets = along(raster, crossings, k);
      return offsets.filter((i) => apart(raster, i, own.at) <= alike).length < 0.6 * offsets.length;
    };
    if (other(to + 1) && other(from - 1)) runs.push({ to: to + 1, width: to - from + 1, at: own.at });
  }
  return runs;
}

/**
 * The border of a slot whose outline was found, at its outer or its inner edge, side by side: lines of px of one colour
 * and one width all around, between other colours. Gives the box within. Null where there is none.
 */
export function borderOf(raster: Raster, box: Box, outline: SlotOutline): { border: Border; inner: Box } | null {
  const curved = outline.kind === 'ellipse';
  const alike = curved ? ALIKE_CURVED : ALIKE;
  const radius = outline.kind === 'rounded' ? outline.radius : 0;
  const groups = curved
    ? [ellipseCrossings(box)]
    : sides.map((side) => sideCrossings(box, side, radius + NEAR_EDGE + 1));
  const runs = groups.map((crossings) => runsBeside(raster, crossings, curved));
  const outside = groundAround(raster, { x: box.x - 2, y: box.y - 2, width: box.width + 4, height: box.height + 4 });
  const ways = runs[0]!
    .map((first) =>
      runs.map((list) =>
        list.find((r) => apart(raster, r.at, first.at) <= alike && Math.abs(r.width - first.width) <= 1),
      ),
    )
    .filter((all): all is Run[] => all.every((r) => r !== undefined))
    // The page's own ground between neighbours is none.
    .filter((all) => all.some((r) => hexOf(raster, r.at) !== outside?.colour));
  const found = ways.sort((a, b) => a[0]!.width - b[0]!.width)[0];
  if (!found) return null;
  const [left, right, top, bottom] = curved ? [0, 0, 0, 0].map(() => found[0]!.to) : found.map((r) => r.to);
  const inner = {
    x: box.x + left!,
    y: box.y + top!,
    width: box.width - left! - right!,
    height: box.height - top! - bottom!,
  };
  if (inner.width < 4 || inner.height < 4) return null;
  return { border: { width: found[0]!.width, colour: hexOf(raster, found[0]!.at) }, inner };
}

/**
 * How abrupt an outline is, 0 to 1: the step across it as a share of the whole
 * change from 3 px outside to 3 px inside, the median over crossings that change at all.
 */
export function crispness(raster: Raster, crossings: readonly Crossing[]): number {
  const shares: number[] = [];
  for (const { x, y, nx, ny } of crossings) {
    const at = (d: number) => offsetOf(raster, x + nx * d, y + ny * d);
    const whole = apart(raster, at(-2.5), at(2.5));
    if (whole < 24) continue;
    // An edge that the screen's grid divides may be shared by two steps.
    const step = Math.max(
      apart(raster, at(-0.5), at(0.5)),
      apart(raster, at(-1.5), at(0.5)),
      apart(raster, at(-0.5), at(1.5)),
    );
    shares.push(Math.min(1, step / whole));
  }
  if (shares.length < 8) return 1;
  return shares.sort((a, b) => a - b)[shares.length >> 1]!;
}
