import { intersection, type Box, type Size } from '../geometry/box';
import { byteOf, linearOf } from './srgb';

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

interface Taps {
  /** First source index for each output. */
  readonly first: Int32Array;
  readonly count: Int32Array;
  /** Weights, `stride` apart; each row sums to 1. */
  readonly weights: Float32Array;
  readonly stride: number;
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

/**
 * Resamples a picture once, with Lanczos-3 in linear light on premultiplied
 * alpha, straight from the source pixels to the wanted whole-pixel box.
 * `source` holds the part `part` (source px) of a picture of size `natural`.
 * `stopped` is asked between rows; when it says so the result is null.
 */
export function reduce(
  source: Pixels,
  part: Box,
  natural: Size,
  r: Reduction,
  opaque: boolean,
  stopped: () => boolean = () => false,
): Pixels | null {
  const { out } = r;
  const outWidth = out.width;
  const outHeight = out.height;
  const data = new Uint8ClampedArray(outWidth * outHeight * 4);
  const across = tapsFor(natural.width, r.image.x, r.image.width, out.x, outWidth);
  const down = tapsFor(natural.height, r.image.y, r.image.height, out.y, outHeight);
  const channels = opaque ? 3 : 4;
  const rowLength = outWidth * channels;
  const rows = new Map<number, Float32Array>();
  const spare: Float32Array[] = [];
  const line = new Float32Array(source.width * channels);
  const sum = new Float32Array(rowLength);
  const edgeX = Float32Array.from({ length: outWidth }, (_, i) =>
    covered(out.x + i, r.shown.x, r.shown.x + r.shown.width),
  );

  const widthOnce = (y: number): Float32Array => {
    const known = rows.get(y);
    if (known) return known;
    const row = spare.pop() ?? new Float32Array(rowLength);
    const sy = Math.min(Math.max(y - part.y, 0), source.height - 1);
    let i = sy * source.width * 4;
    const s = source.data;
    for (let x = 0, l = 0; x < source.width; x++, i += 4) {
      if (channels === 3) {
        line[l++] = linearOf[s[i]!]!;
        line[l++] = linearOf[s[i + 1]!]!;
        line[l++] = linearOf[s[i + 2]!]!;
      } else {
        const a = s[i + 3]! / 255;
        line[l++] = linearOf[s[i]!]! * a;
        line[l++] = linearOf[s[i + 1]!]! * a;
        line[l++] = linearOf[s[i + 2]!]! * a;
        line[l++] = a;
      }
    }
    const lastX = source.width - 1;
    for (let o = 0, at = 0; o < outWidth; o++) {
      const base = across.first[o]! - part.x;
      const n = across.count[o]!;
      const w0 = o * across.stride;
      let c0 = 0;
      let c1 = 0;
      let c2 = 0;
      let c3 = 0;
      for (let k = 0; k < n; k++) {
        const w = across.weights[w0 + k]!;
        const x = base + k;
        const p = (x < 0 ? 0 : x > lastX ? lastX : x) * channels;
        c0 += w * line[p]!;
        c1 += w * line[p + 1]!;
        c2 += w * line[p + 2]!;
        if (channels === 4) c3 += w * line[p + 3]!;
      }
      row[at++] = c0;
      row[at++] = c1;
      row[at++] = c2;
      if (channels === 4) row[at++] = c3;
    }
    rows.set(y, row);
    return row;
  };

  for (let o = 0; o < outHeight; o++) {
    const edgeY = covered(out.y + o, r.shown.y, r.shown.y + r.shown.height);
    if (edgeY === 0) continue;
    if ((o & 15) === 0 && stopped()) return null;
    const first = down.first[o]!;
    for (const [y, row] of rows)
      if (y < first) {
        spare.push(row);
        rows.delete(y);
      }
    sum.fill(0);
    for (let k = 0; k < down.count[o]!; k++) {
      const w = down.weights[o * down.stride + k]!;
      if (w === 0) continue;
      const row = widthOnce(first + k);
      for (let i = 0; i < rowLength; i++) sum[i]! += w * row[i]!;
    }
    for (let x = 0, i = 0, at = o * outWidth * 4; x < outWidth; x++, at += 4, i += channels) {
      const edge = edgeX[x]! * edgeY;
      if (edge === 0) continue;
      const alpha = channels === 3 ? 1 : sum[i + 3]!;
      if (alpha <= 0) continue;
      data[at] = byteOf(sum[i]! / alpha);
      data[at + 1] = byteOf(sum[i + 1]! / alpha);
      data[at + 2] = byteOf(sum[i + 2]! / alpha);
      data[at + 3] = Math.round(Math.min(1, alpha) * edge * 255);
    }
  }
  return { width: outWidth, height: outHeight, data };
}

/** Whether every pixel is fully opaque. */
export function isOpaque(pixels: Pixels): boolean {
  const { data } = pixels;
  for (let i = 3; i < data.length; i += 4) if (data[i] !== 255) return false;
  return true;
}
