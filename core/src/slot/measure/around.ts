import type { Box } from '../../geometry/box';
import { apart, hexOf, offsetOf, type Raster } from './raster';
import { sideStep, sides, type Crossing } from './step';

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

/**
 * Whether what was found is a border's outer edge: bands of one colour all
 * around, with an edge at their inner side. Gives the box within; null where there is none.
 */
export function borderWithin(raster: Raster, box: Box): { border: Border; inner: Box } | null {
  const first = commonest(raster, rim(raster, box, 0));
  if (!first || first.share < 0.97) return null;
  const outside = groundAround(raster, box);
  for (let w = 1; w <= Math.min(MOST_BORDER, box.width / 4, box.height / 4); w++) {
    const next = [...rim(raster, box, -w)];
    const alike = next.filter((i) => apart(raster, i, first.at) <= 6).length / next.length;
    if (alike > 0.97) continue;
    const inner = { x: box.x + w, y: box.y + w, width: box.width - 2 * w, height: box.height - 2 * w };
    const edges = sides.map((s) => sideStep(raster, inner, s, 2));
    const colour = hexOf(raster, first.at);
    return Math.min(...edges) > 0.15 && colour !== outside?.colour ? { border: { width: w, colour }, inner } : null;
  }
  return null;
}

/**
 * A border just outside a box that was snapped to its inner edge: bands of one
 * colour all around that end, within a few px, at another colour. Null where there is none.
 */
export function borderAround(raster: Raster, box: Box): Border | null {
  const first = commonest(raster, rim(raster, box, 1));
  if (!first || first.share < 0.97) return null;
  for (let w = 1; w <= MOST_BORDER; w++) {
    const next = [...rim(raster, box, w + 1)];
    if (!next.length) return null;
    const alike = next.filter((i) => apart(raster, i, first.at) <= 6).length / next.length;
    if (alike > 0.9) continue;
    // Text or a neighbour beside the slot changes part of a band; a border ends all along.
    return alike < 0.1 ? { width: w, colour: hexOf(raster, first.at) } : null;
  }
  return null;
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
