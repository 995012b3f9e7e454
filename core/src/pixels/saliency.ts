import type { Box } from '../geometry/box';
import { oklabOf } from './cutout/flat';
import type { Pixels } from './reduce';

/** Passes over the raster; from the third on little changes (the paper's own figure). */
const PASSES = 4;

/**
 * The minimum barrier distance of each pixel to the picture's rim, one channel: the least difference between the highest
 * and the lowest value on a way there. Zhang, Sclaroff, Lin, Shen, Price and Mech, "Minimum Barrier Salient Object
 * Detection at 80 FPS", ICCV 2015, algorithm 1 (FastMBD): raster scans forwards and back.
 */
export function barrierDistances(values: Float32Array, width: number, height: number): Float32Array {
  const high = values.slice();
  const low = values.slice();
  const distance = new Float32Array(values.length).fill(Infinity);
  for (let x = 0; x < width; x++) distance[x] = distance[(height - 1) * width + x] = 0;
  for (let y = 0; y < height; y++) distance[y * width] = distance[y * width + width - 1] = 0;
  // Scans forwards look at the px above and before, scans back at those below and behind: each written out, since this is
  // most of what a dropped photo waits for.
  for (let pass = 0; pass < PASSES; pass++) {
    const step = pass % 2 === 0 ? 1 : -1;
    const line = step * width;
    for (let n = 1; n < height - 1; n++) {
      const row = (step > 0 ? n : height - 1 - n) * width;
      let at = step > 0 ? row + 1 : row + width - 2;
      for (let m = 2; m < width; m++, at += step) {
        const own = values[at]!;
        let best = distance[at]!;
        if (best === 0) continue;
        let from = at - line;
        let top = high[from]! > own ? high[from]! : own;
        let bottom = low[from]! < own ? low[from]! : own;
        if (top - bottom < best) {
          best = top - bottom;
          high[at] = top;
          low[at] = bottom;
        }
        from = at - step;
        top = high[from]! > own ? high[from]! : own;
        bottom = low[from]! < own ? low[from]! : own;
        if (top - bottom < best) {
          best = top - bottom;
          high[at] = top;
          low[at] = bottom;
        }
        distance[at] = best;
      }
    }
  }
  return distance;
}

/** The threshold that parts values 0…1 into two classes furthest apart. Otsu, "A threshold selection method", IEEE 1979. */
export function otsu(values: Float32Array): number {
  const counts = new Float64Array(256);
  for (const v of values) counts[Math.min(255, Math.max(0, Math.round(v * 255)))]!++;
  let sum = 0;
  counts.forEach((n, i) => (sum += n * i));
  let [best, at, below, belowSum] = [-1, 0, 0, 0];
  for (let i = 0; i < 256; i++) {
    below += counts[i]!;
    belowSum += counts[i]! * i;
    const above = values.length - below;
    if (!below || !above) continue;
    const apart = (belowSum / below - (sum - belowSum) / above) ** 2 * below * above;
    if (apart > best) [best, at] = [apart, i];
  }
  return (at + 0.5) / 255;
}

/** A picture's subject: the box around it, in shares of the picture. */
export interface Subject {
  readonly box: Box;
}

/** Of the threshold, how far down a part goes on: tuned on the demo's photographs. */
const FAIR = 0.75;

/** Parts of a subject that have this share of its largest part's weight belong to it. */
const PART = 0.22;

/** Share of a subject's weight that may lie beyond each side of its box. */
const TAIL = 0.005;

/** From where to where a course of weights lies but for its tails: whole px. */
function within(weights: Float64Array, total: number): [from: number, to: number] {
  let [from, to] = [0, weights.length];
  for (let sum = 0; from < to && sum + weights[from]! <= TAIL * total; from++) sum += weights[from]!;
  for (let sum = 0; to > from && sum + weights[to - 1]! <= TAIL * total; to--) sum += weights[to - 1]!;
  return [from, to];
}

/** How salient each pixel of a small picture is, 0…1: barrier distances in Oklab, summed, drawn towards the middle. */
export function saliencyOf({ data, width, height }: Pixels): Float32Array {
  const lab = [0, 1, 2].map(() => new Float32Array(width * height));
  for (let i = 0, p = 0; i < width * height; i++, p += 4) {
    const [l, a, b] = oklabOf(data[p]!, data[p + 1]!, data[p + 2]!);
    lab[0]![i] = l;
    // Colour counts as much as light: it is what parts a pot from its shadow.
    lab[1]![i] = a * 2;
    lab[2]![i] = b * 2;
  }
  const sum = new Float32Array(width * height);
  for (const channel of lab) barrierDistances(channel, width, height).forEach((d, i) => (sum[i]! += d));
  const most = sum.reduce((m, v) => Math.max(m, v), 1e-6);
  return sum.map((v, i) => {
    const [dx, dy] = [((i % width) + 0.5) / width - 0.5, (Math.floor(i / width) + 0.5) / height - 0.5];
    // A centre prior, as the paper has it (section 4.3): what stands at the rim is rarely meant.
    return (v / most) * Math.exp(-(dx * dx + dy * dy) / (2 * 0.36 * 0.36));
  });
}

/** The subject of a small, opaque picture, found from its content; null where nothing stands out. */
export function subjectOf(pixels: Pixels): Subject | null {
  const { width, height } = pixels;
  const saliency = saliencyOf(pixels);
  // Parts begin where it is clearly so and go on where it is fairly so: a jug's shaded side is the jug's.
  const limit = otsu(saliency);
  const fair = limit * FAIR;
  const label = new Int32Array(saliency.length).fill(-1);
  const weights: number[] = [];
  for (let start = 0; start < saliency.length; start++) {
    if (label[start] !== -1 || saliency[start]! < limit) continue;
    let weight = 0;
    const stack = [start];
    const join = (next: number) => {
      if (label[next] !== -1 || saliency[next]! < fair) return;
      label[next] = weights.length;
      stack.push(next);
    };
    label[start] = weights.length;
    for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
      const [x, y] = [at % width, Math.floor(at / width)];
      weight += saliency[at]!;
      if (x > 0) join(at - 1);
      if (x < width - 1) join(at + 1);
      if (y > 0) join(at - width);
      if (y < height - 1) join(at + width);
    }
    weights.push(weight);
  }
  const heaviest = Math.max(0, ...weights);
  if (heaviest === 0) return null;
  const own = weights.map((w) => w >= PART * heaviest);
  const weight = weights.reduce((n, w, i) => (own[i] ? n + w : n), 0);
  // The box leaves out what hardly weighs anything at its sides: a shadow's end is not the subject's.
  const across = new Float64Array(width);
  const down = new Float64Array(height);
  label.forEach((part, i) => {
    if (part < 0 || !own[part]) return;
    across[i % width]! += saliency[i]!;
    down[Math.floor(i / width)]! += saliency[i]!;
  });
  const [left, right] = within(across, weight);
  const [top, bottom] = within(down, weight);
  return {
    box: { x: left / width, y: top / height, width: (right - left) / width, height: (bottom - top) / height },
  };
}

/** How busy a picture is in each of so many parts across and down: mean change of lightness from px to px, 0…1. */
export interface BusyMap {
  readonly across: number;
  readonly down: number;
  readonly parts: readonly number[];
}

const ACROSS = 24;

/** Where a picture is calm enough for words and where it is not, from a small copy of it. */
export function busyMap({ data, width, height }: Pixels): BusyMap {
  const across = Math.min(ACROSS, width);
  const down = Math.max(1, Math.min(height, Math.round((across * height) / width)));
  const sums = new Float64Array(across * down);
  const counts = new Float64Array(across * down);
  const light = (i: number) => (0.299 * data[i]! + 0.587 * data[i + 1]! + 0.114 * data[i + 2]!) / 255;
  for (let y = 0; y + 1 < height; y++)
    for (let x = 0; x + 1 < width; x++) {
      const i = (y * width + x) * 4;
      const own = light(i);
      const part = Math.floor((y * down) / height) * across + Math.floor((x * across) / width);
      sums[part]! += Math.abs(light(i + 4) - own) + Math.abs(light(i + width * 4) - own);
      counts[part]!++;
    }
  return { across, down, parts: Array.from(sums, (s, i) => (counts[i] ? s / counts[i] : 0)) };
}

/** How busy the part of a picture in a box (shares of it) is, 0…1; 0 off the picture. */
export function busyIn(map: BusyMap, box: Box): number {
  let sum = 0;
  let area = 0;
  for (let j = 0; j < map.down; j++)
    for (let i = 0; i < map.across; i++) {
      const wide = Math.min(box.x + box.width, (i + 1) / map.across) - Math.max(box.x, i / map.across);
      const high = Math.min(box.y + box.height, (j + 1) / map.down) - Math.max(box.y, j / map.down);
      if (wide <= 0 || high <= 0) continue;
      sum += map.parts[j * map.across + i]! * wide * high;
      area += wide * high;
    }
  return area > 0 ? sum / area : 0;
}
