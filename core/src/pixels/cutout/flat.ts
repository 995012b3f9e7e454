import type { Cutout } from '../../graphic/appearance';
import type { Pixels } from '../reduce';
import { channelsOf, linearOf } from '../srgb';
import { bandOf, GROUND, soften, unmix } from './matte';

type Rgb = readonly [number, number, number];

/** OKLab of an encoded sRGB colour, 0…255 each. CSS Color 4, section 18 (sample code, `OKLab`), with its matrices joined. */
function oklabOf(r: number, g: number, b: number): Rgb {
  const [x, y, z] = [linearOf[r]!, linearOf[g]!, linearOf[b]!];
  const l = Math.cbrt(0.4122214708 * x + 0.5363325363 * y + 0.0514459929 * z);
  const m = Math.cbrt(0.2119034982 * x + 0.6806995451 * y + 0.1073969566 * z);
  const s = Math.cbrt(0.0883024619 * x + 0.2817188376 * y + 0.6299787005 * z);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/**
 * The colour that a picture's border has most of (encoded sRGB, 0…255), looked at one px deep; null where the
 * border is transparent for the most part.
 */
export function borderColour({ data, width, height }: Pixels): Rgb | null {
  const bins = new Map<number, [number, number, number, number]>();
  let clear = 0;
  let n = 0;
  const look = (x: number, y: number) => {
    const i = (y * width + x) * 4;
    n++;
    if (data[i + 3]! < 128) {
      clear++;
      return;
    }
    const key = ((data[i]! >> 4) << 8) | ((data[i + 1]! >> 4) << 4) | (data[i + 2]! >> 4);
    const bin = bins.get(key) ?? [0, 0, 0, 0];
    bin[0] += data[i]!;
    bin[1] += data[i + 1]!;
    bin[2] += data[i + 2]!;
    bin[3]++;
    bins.set(key, bin);
  };
  for (let x = 0; x < width; x++) {
    look(x, 0);
    look(x, height - 1);
  }
  for (let y = 1; y < height - 1; y++) {
    look(0, y);
    look(width - 1, y);
  }
  if (clear * 2 > n) return null;
  const [most] = [...bins.values()].sort((a, b) => b[3] - a[3]);
  return most ? [most[0] / most[3], most[1] / most[3], most[2] / most[3]] : null;
}

const UNKNOWN = 0;
const LIKE = 1;
const UNLIKE = 2;
const CLOSE = 3;

/**
 * Says of encoded colours whether they are within `tolerance` (100 × the distance in OKLab) of a ground. Colours
 * are looked up in cells of 4 × 4 × 4; only cells that the limit runs through are worked out px by px, since the
 * conversion is half the cost.
 */
function likeness(ground: Rgb, tolerance: number): (r: number, g: number, b: number) => boolean {
  const cells = new Uint8Array(64 * 64 * 64);
  const own = oklabOf(...(ground.map(Math.round) as [number, number, number]));
  const limit = tolerance / 100;
  // Half a cell's diagonal is nowhere further than this in OKLab, but for the very darkest, which are always worked out.
  const doubt = 0.03;
  const distance = (r: number, g: number, b: number) => {
    const c = oklabOf(r, g, b);
    return Math.hypot(c[0] - own[0], c[1] - own[1], c[2] - own[2]);
  };
  return (r, g, b) => {
    const key = ((r >> 2) << 12) | ((g >> 2) << 6) | (b >> 2);
    let cell = cells[key]!;
    if (cell === UNKNOWN) {
      const d = distance((r & 252) + 2, (g & 252) + 2, (b & 252) + 2);
      const dark = Math.max(r, g, b) < 24;
      cell = dark || Math.abs(d - limit) < doubt ? CLOSE : d < limit ? LIKE : UNLIKE;
      cells[key] = cell;
    }
    return cell === CLOSE ? distance(r, g, b) <= limit : cell === LIKE;
  };
}

type Near = (r: number, g: number, b: number) => boolean;

/** Whether a pixel (32 bits, red lowest) is like the ground, or clear. Flat grounds repeat themselves: the last answer often serves again. */
function likePixel(near: Near): (v: number) => boolean {
  let last = -1;
  let answer = false;
  return (v) => {
    if (v !== last) {
      last = v;
      answer = v >>> 24 < 8 || near(v & 255, (v >>> 8) & 255, (v >>> 16) & 255);
    }
    return answer;
  };
}

/** What of a row's px was found out so far. */
const OTHER = 2;

/**
 * Marks what is reached from the border through pixels that are like the ground. Fills spans of rows, and looks at
 * no pixel that the flood does not come to.
 */
function flood(pixels: Uint32Array, width: number, height: number, near: Near): Uint8Array {
  const like = likePixel(near);
  const seen = new Uint8Array(pixels.length);
  const can = (k: number) => {
    if (seen[k]) return false;
    if (like(pixels[k]!)) return true;
    seen[k] = OTHER;
    return false;
  };
  const stack: number[] = [];
  for (let x = 0; x < width; x++) stack.push(x, (height - 1) * width + x);
  for (let y = 0; y < height; y++) stack.push(y * width, y * width + width - 1);
  while (stack.length) {
    const i = stack.pop()!;
    if (!can(i)) continue;
    const row = i - (i % width);
    let left = i;
    while (left > row && can(left - 1)) left--;
    let right = i;
    while (right < row + width - 1 && can(right + 1)) right++;
    seen.fill(GROUND, left, right + 1);
    for (let from = left - width, side = 0; side < 2; side++, from = left + width) {
      if (from < 0 || from >= seen.length) continue;
      const to = from + right - left;
      let open = false;
      for (let k = from; k <= to; k++) {
        if (seen[k]) open = false;
        else if (like(pixels[k]!)) {
          if (!open) stack.push(k);
          open = true;
        } else {
          seen[k] = OTHER;
          open = false;
        }
      }
    }
  }
  return seen;
}

/**
 * Takes a flat ground away: gives new pixels, straight alpha, whose edge px have the ground's colour taken out of
 * them. The same pixels where there is no ground to be found.
 */
export function cutFlat(source: Pixels, cutout: Cutout & { kind: 'flat' }): Pixels {
  const { data, width, height } = source;
  const common = cutout.colour ? channelsOf(cutout.colour) : borderColour(source);
  if (!common) return source;
  const out = data.slice();
  const words = new Uint32Array(out.buffer, 0, width * height);
  const near = likeness(common, cutout.tolerance);
  const ground = cutout.where === 'border' ? flood(words, width, height, near) : new Uint8Array(words.length);
  if (cutout.where === 'border')
    for (let i = 0; i < ground.length; i++) {
      if (ground[i] === GROUND) words[i] = words[i]! & 0xffffff;
      else ground[i] = 0;
    }
  else {
    const like = likePixel(near);
    for (let i = 0; i < ground.length; i++)
      if (like(words[i]!)) {
        ground[i] = GROUND;
        words[i] = words[i]! & 0xffffff;
      }
  }
  unmix(source, ground, bandOf(ground, width, height), common, out);
  soften(out, width, height, cutout.soft);
  return { width, height, data: out };
}
