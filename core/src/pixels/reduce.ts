import { intersection, type Box, type Size } from '../geometry/box';
import { plainRows, type MakeRowKernel, type Taps } from './rows';

/** Straight-alpha, encoded sRGB pixels, four bytes each, rows from the top. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray;
}

/** What to make of a picture: where all of it would lie, and which whole pixels are wanted. Device px. */
export interface Reduction {
  /** The whole picture's box; fractions welcome, they become part of the resampling. */
  readonly image: Box;
  /** The part that may show (a crop, or the picture itself); its fractional edges become partial alpha. */
  readonly shown: Box;
  /** The whole-pixel box of the result. */
  readonly out: Box;
}

const SUPPORT = 3;

/** Lanczos kernel with three lobes: sinc(x) · sinc(x / 3) within |x| < 3. */
function lanczos3(x: number): number {
  if (x === 0) return 1;
  if (x <= -SUPPORT || x >= SUPPORT) return 0;
  const p = Math.PI * x;
  return (SUPPORT * Math.sin(p) * Math.sin(p / SUPPORT)) / (p * p);
}

/**
 * Weights that resample one axis: output pixel `o` (0 … n - 1, first at `outStart`)
 * of a line of `length` source pixels lying from `start` over `extent` output pixels.
 */
function tapsFor(length: number, start: number, extent: number, outStart: number, n: number): Taps {
  const perOut = length / extent;
  const stretch = Math.max(1, perOut);
  const reach = SUPPORT * stretch;
  const stride = Math.ceil(2 * reach) + 2;
  const first = new Int32Array(n);
  const count = new Int32Array(n);
  const weights = new Float32Array(n * stride);
  for (let o = 0; o < n; o++) {
    const centre = (outStart + o + 0.5 - start) * perOut;
    // Pixels past the picture's edge repeat its last ones, so weights fold onto the edge.
    const low = Math.min(Math.max(Math.ceil(centre - reach - 0.5), 0), length - 1);
    const high = Math.min(Math.max(Math.floor(centre + reach - 0.5), 0), length - 1);
    const at = o * stride;
    let sum = 0;
    for (let s = Math.ceil(centre - reach - 0.5); s <= Math.floor(centre + reach - 0.5); s++) {
      const w = lanczos3((s + 0.5 - centre) / stretch);
      weights[at + Math.min(Math.max(s, low), high) - low]! += w;
      sum += w;
    }
    first[o] = low;
    count[o] = high - low + 1;
    if (sum === 0) {
      weights[at] = 1;
      count[o] = 1;
    } else for (let k = 0; k <= high - low; k++) weights[at + k]! /= sum;
  }
  return { first, count, weights, stride };
}

/** The source rectangle, in whole px, that a reduction reads; null when nothing of the picture lies in `out`. */
export function sourceNeeded(natural: Size, r: Reduction): Box | null {
  const seen = intersection(r.shown, r.out);
  if (!seen) return null;
  const axis = (length: number, start: number, extent: number, from: number, to: number) => {
    const perOut = length / extent;
    const reach = SUPPORT * Math.max(1, perOut) + 1;
    const low = Math.max(0, Math.floor((Math.floor(from) - start) * perOut - reach));
    const high = Math.min(length, Math.ceil((Math.ceil(to) - start) * perOut + reach));
    return [Math.min(low, length - 1), Math.max(high, 1)] as const;
  };
  const [x0, x1] = axis(natural.width, r.image.x, r.image.width, seen.x, seen.x + seen.width);
  const [y0, y1] = axis(natural.height, r.image.y, r.image.height, seen.y, seen.y + seen.height);
  return { x: x0, y: y0, width: x1 - x0, height: y1 - y0 };
}

/** How much of the pixel from `at` to `at + 1` lies between `from` and `to`. */
const covered = (at: number, from: number, to: number) => Math.max(0, Math.min(at + 1, to) - Math.max(at, from));

/** Taps of a whole axis as taps of the part of it that is at hand; what would lie beyond repeats its last pixel. */
function within(taps: Taps, from: number, length: number): Taps {
  const first = new Int32Array(taps.first.length);
  const count = new Int32Array(taps.count.length);
  const weights = new Float32Array(taps.weights.length);
  for (let o = 0; o < first.length; o++) {
    const start = taps.first[o]! - from;
    const at = Math.min(Math.max(start, 0), length - 1);
    const end = Math.min(Math.max(start + taps.count[o]! - 1, 0), length - 1);
    first[o] = at;
    count[o] = end - at + 1;
    for (let k = 0; k < taps.count[o]!; k++)
      weights[o * taps.stride + Math.min(Math.max(start + k, at), end) - at]! += taps.weights[o * taps.stride + k]!;
  }
  return { first, count, weights, stride: taps.stride };
}

/** Whole rows of the part that a reduction reads; the first of them is its row `from`. */
export interface SourceRows extends Pixels {
  readonly from: number;
}

/**
 * Resamples a picture once, with Lanczos-3 in linear light on premultiplied
 * alpha, straight from the source pixels to the wanted whole-pixel box.
 * `source` holds the part `part` (source px) of a picture of size `natural`.
 * `kernel` does the sums: plain TypeScript, or the compiled one (see `compiledRows`).
 */
export function reduce(source: Pixels, ...args: Parameters<typeof reducing>): Pixels {
  const parts = reducing(...args);
  let next = parts.next();
  while (!next.done) next = parts.next({ ...source, from: 0 });
  return next.value;
}

/**
 * The same a few rows at a time, of a source that is read in strips: gives the row of the part from which on it wants the
 * next strip, in rising order, or null where whoever asks may rest in between, or never ask again.
 */
export function* reducing(
  part: Box,
  natural: Size,
  r: Reduction,
  opaque: boolean,
  kernel: MakeRowKernel = plainRows,
): Generator<number | null, Pixels, SourceRows | undefined> {
  const { out } = r;
  const data = new Uint8ClampedArray(out.width * out.height * 4);
  const down = within(tapsFor(natural.height, r.image.y, r.image.height, out.y, out.height), part.y, part.height);
  const slots = down.count.reduce((most, n) => Math.max(most, n), 1);
  const rows = kernel({
    length: part.width,
    outWidth: out.width,
    opaque,
    across: within(tapsFor(natural.width, r.image.x, r.image.width, out.x, out.width), part.x, part.width),
    edges: Float32Array.from({ length: out.width }, (_, i) => covered(out.x + i, r.shown.x, r.shown.x + r.shown.width)),
    slots,
  });
  let strip: SourceRows | undefined;
  // Row y stands in slot y modulo their number: one output row never needs more rows than there are slots.
  const held = new Int32Array(slots).fill(-1);
  const from = new Int32Array(slots);
  const weights = new Float32Array(slots);
  for (let o = 0; o < out.height; o++) {
    const edge = covered(out.y + o, r.shown.y, r.shown.y + r.shown.height);
    if (edge === 0) continue;
    if ((o & 7) === 7) yield null;
    let n = 0;
    for (let k = 0; k < down.count[o]!; k++) {
      const y = down.first[o]! + k;
      const slot = y % slots;
      // A row of no weight here has some further down: taken now, rows come in rising order.
      if (held[slot] !== y) {
        while (!strip || y < strip.from || y >= strip.from + strip.height) strip = yield y;
        rows.across(strip.data, (y - strip.from) * part.width * 4, slot);
        held[slot] = y;
      }
      const w = down.weights[o * down.stride + k]!;
      if (w === 0) continue;
      from[n] = slot;
      weights[n++] = w;
    }
    rows.down(from.subarray(0, n), weights, edge, data, o * out.width * 4);
  }
  return { width: out.width, height: out.height, data };
}

/** Whether every pixel is fully opaque. */
export function isOpaque(pixels: Pixels): boolean {
  const { data } = pixels;
  for (let i = 3; i < data.length; i += 4) if (data[i] !== 255) return false;
  return true;
}
