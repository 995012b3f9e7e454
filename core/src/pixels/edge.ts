import { converter, differenceCiede2000 } from 'culori';
import type { Box } from '../geometry/box';
import type { SideName } from './appearance';
import type { Lying } from './mask';
import { byteOf, encoded, hexOfChannels, linearOf } from '../colour/srgb';

/** How deep into a picture its edge's colour is looked at, as a share of its depth, and at most, px. Common practice, no source. */
const DEPTH = 0.02;
const MOST_DEPTH = 12;
/** A gradient along an edge is smoothed over this share of its length on each side. Common practice, no source. */
const SMOOTH = 0.04;

/** Colours along an edge, encoded sRGB triples; one triple where it is one colour. */
export interface EdgeColours {
  readonly side: SideName;
  /** One triple for each px along the edge, from the left or the top; encoded sRGB, not rounded. */
  readonly along: Float32Array;
}

/**
 * A picture's colours along one side: each px the mean, in linear light, of the few px behind it, noise averaged
 * out; `colour` gives their one mean, `gradient` their course smoothed along the edge. `part` is where the picture
 * lies within the pixels, in their px.
 */
export function edgeColours(lying: Lying, part: Box, side: SideName, style: 'colour' | 'gradient'): EdgeColours {
  const { data, width } = lying.pixels;
  const upright = side === 'left' || side === 'right';
  const length = upright ? part.height : part.width;
  const depth = Math.max(1, Math.min(MOST_DEPTH, Math.ceil((upright ? part.width : part.height) * DEPTH)));
  const lines = new Float64Array(length * 4);
  for (let k = 0; k < length; k++)
    for (let d = 0; d < depth; d++) {
      const x = upright ? (side === 'left' ? part.x + d : part.x + part.width - 1 - d) : part.x + k;
      const y = upright ? part.y + k : side === 'top' ? part.y + d : part.y + part.height - 1 - d;
      const i = (y * width + x) * 4;
      // Only what is whole counts: a pixel half covered has no colour of the edge.
      if (data[i + 3]! < 250) continue;
      for (let c = 0; c < 3; c++) lines[k * 4 + c]! += linearOf[data[i + c]!]!;
      lines[k * 4 + 3]!++;
    }
  const along = new Float32Array(length * 3);
  const put = (k: number, sum: ArrayLike<number>) => {
    for (let c = 0; c < 3; c++) along[k * 3 + c] = sum[3]! ? 255 * encoded(sum[c]! / sum[3]) : 0;
  };
  // Prefix sums, so that each window costs the same.
  const prefix = new Float64Array((length + 1) * 4);
  for (let k = 0; k < length; k++)
    for (let c = 0; c < 4; c++) prefix[(k + 1) * 4 + c] = prefix[k * 4 + c]! + lines[k * 4 + c]!;
  const between = (a: number, b: number) => [0, 1, 2, 3].map((c) => prefix[b * 4 + c]! - prefix[a * 4 + c]!);
  if (style === 'colour') {
    const mean = between(0, length);
    for (let k = 0; k < length; k++) put(k, mean);
    return { side, along };
  }
  const reach = Math.max(1, Math.round(length * SMOOTH));
  const once = new Float64Array(length * 3);
  for (let k = 0; k < length; k++) {
    // A window even on both sides, so that the course is not pushed towards the middle at its ends.
    const r = Math.min(reach, k, length - 1 - k);
    let sum = between(k - r, k + r + 1);
    // Where nothing whole lies, the nearest that is speaks for it.
    for (let far = r + 1; sum[3] === 0 && far < length; far++)
      sum = between(Math.max(0, k - far), Math.min(length, k + far + 1));
    put(k, sum);
    once.set(along.subarray(k * 3, k * 3 + 3), k * 3);
  }
  for (let k = 0; k < length; k++) {
    const r = Math.min(reach >> 1, k, length - 1 - k);
    for (let c = 0; c < 3; c++) {
      let sum = 0;
      for (let j = k - r; j <= k + r; j++) sum += once[j * 3 + c]!;
      along[k * 3 + c] = sum / (2 * r + 1);
    }
  }
  return { side, along };
}

/** The one mean colour of an edge, as `#rrggbb`; null where nothing whole lies there. */
export function edgeColour(lying: Lying, part: Box, side: SideName): string | null {
  const { along } = edgeColours(lying, part, side, 'colour');
  const [r, g, b] = along;
  return along.length ? hexOfChannels([r, g, b].map((n) => Math.round(n!))) : null;
}

/** Which sides of `inner` leave something of `outer` uncovered. */
export function openSides(inner: Box, outer: Box): SideName[] {
  const sides: SideName[] = [];
  if (inner.x > outer.x) sides.push('left');
  if (inner.y > outer.y) sides.push('top');
  if (inner.x + inner.width < outer.x + outer.width) sides.push('right');
  if (inner.y + inner.height < outer.y + outer.height) sides.push('bottom');
  return sides;
}

/** A part of the pixels (whole px) where the picture is whole: what `frame` covers fully. */
function wholePart({ pixels, x, y }: Lying, frame: Box): Box {
  const left = Math.max(0, Math.ceil(frame.x - 1e-6) - x);
  const top = Math.max(0, Math.ceil(frame.y - 1e-6) - y);
  const right = Math.min(pixels.width, Math.floor(frame.x + frame.width + 1e-6) - x);
  const bottom = Math.min(pixels.height, Math.floor(frame.y + frame.height + 1e-6) - y);
  return { x: left, y: top, width: Math.max(1, right - left), height: Math.max(1, bottom - top) };
}

/**
 * A larger sheet on which the picture's edges run on to `box` (whole device px): under the picture too, so that it
 * may fade into them; `over`, the picture as it is to be seen, lies on top. Left and right first, then above and
 * below over the whole width. Only sides that leave something of `box` uncovered run on.
 */
export function runOn(lying: Lying, frame: Box, box: Box, style: 'colour' | 'gradient', over: Lying = lying): Lying {
  const part = wholePart(lying, frame);
  const inner = { ...part, x: part.x + lying.x, y: part.y + lying.y };
  const data = new Uint8ClampedArray(box.width * box.height * 4);
  const open = openSides(inner, box);
  const put = (x: number, y: number, from: ArrayLike<number>, k: number) => {
    const i = (y * box.width + x) * 4;
    data[i] = from[k]!;
    data[i + 1] = from[k + 1]!;
    data[i + 2] = from[k + 2]!;
    data[i + 3] = 255;
  };
  const middle = inner.x + inner.width / 2 - box.x;
  const sides = open.filter((s) => s === 'left' || s === 'right');
  for (const side of sides) {
    const { along } = edgeColours(lying, part, side, style);
    // With one side open its colours lie under the whole picture; with two each has its half.
    const from = side === 'left' ? 0 : sides.length === 2 ? Math.round(middle) : 0;
    const to = side === 'right' ? box.width : sides.length === 2 ? Math.round(middle) : box.width;
    for (let k = 0; k < inner.height; k++) {
      const y = inner.y - box.y + k;
      if (y < 0 || y >= box.height) continue;
      for (let x = from; x < to; x++) put(x, y, along, k * 3);
    }
  }
  // Above and below one course runs over the whole width, the sides that ran on included, so that no corner shows.
  const ends = open.filter((s) => s === 'top' || s === 'bottom');
  const wide = style === 'gradient' && sides.length && ends.length ? widened(lying, data, box) : lying;
  const top = Math.max(0, inner.y - box.y);
  const low = Math.min(box.height, inner.y - box.y + inner.height);
  const line = wide === lying ? part : { x: 0, y: top, width: box.width, height: low - top };
  for (const side of ends) {
    const { along } = edgeColours(wide, line, side, style);
    const row = side === 'top' ? inner.y - box.y : inner.y + inner.height - 1 - box.y;
    // Where no side runs on there is nothing yet under the picture, which may fade.
    const under = sides.length ? 0 : Math.ceil(inner.height / 2);
    const [from, to] = side === 'top' ? [0, row + under] : [row + 1 - under, box.height];
    const first = line.x + wide.x - box.x;
    for (let x = 0; x < box.width; x++) {
      const k = Math.min(line.width - 1, Math.max(0, x - first)) * 3;
      for (let y = Math.max(0, from); y < Math.min(box.height, to); y++) put(x, y, along, k);
    }
  }
  const { data: own, width, height } = over.pixels;
  for (let y = 0; y < height; y++) {
    const to = y + lying.y - box.y;
    if (to < 0 || to >= box.height) continue;
    for (let x = 0; x < width; x++) {
      const at = x + lying.x - box.x;
      if (at < 0 || at >= box.width) continue;
      const i = (y * width + x) * 4;
      const o = (to * box.width + at) * 4;
      const a = own[i + 3]! / 255;
      if (a === 0) continue;
      const under = data[o + 3]! / 255;
      const alpha = a + under * (1 - a);
      for (let c = 0; c < 3; c++) data[o + c] = (own[i + c]! * a + data[o + c]! * under * (1 - a)) / alpha;
      data[o + 3] = alpha * 255;
    }
  }
  return { pixels: { width: box.width, height: box.height, data }, x: box.x, y: box.y };
}

/** A picture with the sides that ran on already, on the whole sheet. */
function widened({ pixels, x: x0, y: y0 }: Lying, sides: Uint8ClampedArray, box: Box): Lying {
  const data = sides.slice();
  for (let y = Math.max(0, box.y - y0); y < Math.min(pixels.height, box.y + box.height - y0); y++)
    for (let x = Math.max(0, box.x - x0); x < Math.min(pixels.width, box.x + box.width - x0); x++) {
      const i = (y * pixels.width + x) * 4;
      if (pixels.data[i + 3]! < 250) continue;
      data.set(pixels.data.subarray(i, i + 4), ((y + y0 - box.y) * box.width + x + x0 - box.x) * 4);
    }
  return { pixels: { width: box.width, height: box.height, data }, x: box.x, y: box.y };
}

/** How visibly two colours differ along a seam, CIEDE2000: 1 is just to be seen, from memory of the trade. */
export interface SeamDifference {
  readonly mean: number;
  readonly worst: number;
}

const lab65 = converter('lab65');
const deltaE = differenceCiede2000();

/** Mean alpha 0…1 of the px along a side of a picture. */
export function edgeAlpha(lying: Lying, frame: Box, side: SideName): number {
  const part = wholePart(lying, frame);
  const { data, width } = lying.pixels;
  const upright = side === 'left' || side === 'right';
  const length = upright ? part.height : part.width;
  const across = { left: part.x, right: part.x + part.width - 1, top: part.y, bottom: part.y + part.height - 1 }[side];
  let sum = 0;
  for (let k = 0; k < length; k++) {
    const [x, y] = upright ? [across, part.y + k] : [part.x + k, across];
    sum += data[(y * width + x) * 4 + 3]!;
  }
  return length ? sum / length / 255 : 0;
}

/**
 * The difference between a picture's edge and what it runs on in, px by px along the side. Each is the mean over a
 * few px along the edge, as the eye takes it, so that a photo's grain is no seam.
 */
export function seamDifference(lying: Lying, frame: Box, side: SideName, style: 'colour' | 'gradient'): SeamDifference {
  const part = wholePart(lying, frame);
  const raw = edgeColours(lying, part, side, 'gradient').along;
  const fill = edgeColours(lying, part, side, style).along;
  const length = raw.length / 3;
  // A line of the very edge, averaged along it over seven px and two deep.
  const upright = side === 'left' || side === 'right';
  const { data, width } = lying.pixels;
  let sum = 0;
  let worst = 0;
  let n = 0;
  for (let k = 0; k < length; k += 2) {
    const light = [0, 0, 0];
    let count = 0;
    for (let j = Math.max(0, k - 3); j <= Math.min(length - 1, k + 3); j++)
      for (let d = 0; d < 2; d++) {
        const x = upright ? (side === 'left' ? part.x + d : part.x + part.width - 1 - d) : part.x + j;
        const y = upright ? part.y + j : side === 'top' ? part.y + d : part.y + part.height - 1 - d;
        const i = (y * width + x) * 4;
        if (data[i + 3]! < 250) continue;
        for (let c = 0; c < 3; c++) light[c]! += linearOf[data[i + c]!]!;
        count++;
      }
    if (!count) continue;
    const edge = light.map((v) => byteOf(v / count) / 255);
    const difference = deltaE(
      lab65({ mode: 'rgb', r: edge[0]!, g: edge[1]!, b: edge[2]! }),
      lab65({ mode: 'rgb', r: fill[k * 3]! / 255, g: fill[k * 3 + 1]! / 255, b: fill[k * 3 + 2]! / 255 }),
    );
    sum += difference;
    worst = Math.max(worst, difference);
    n++;
  }
  return { mean: n ? sum / n : 0, worst };
}
