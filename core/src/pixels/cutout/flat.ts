import type { Cutout } from '../appearance';
import type { Pixels } from '../reduce';
import { channelsOf, linearOf } from '../../colour/srgb';
import { bandOf, GROUND, soften, unmix } from './matte';

type Rgb = readonly [number, number, number];

/** OKLab of an encoded sRGB colour, 0…255 each. CSS Color 4, section 18 (sample code, `OKLab`), with its matrices joined. */
export function oklabOf(r: number, g: number, b: number): Rgb {
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

/** How far an encoded sRGB colour (0…255 each) is from a given one, in 100 × OKLab. */
export function distanceFrom(colour: Rgb): (r: number, g: number, b: number) => number {
  const own = oklabOf(...(colour.map(Math.round) as [number, number, number]));
  return (r, g, b) => {
    const c = oklabOf(r, g, b);
    return 100 * Math.hypot(c[0] - own[0], c[1] - own[1], c[2] - own[2]);
  };
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
const ALIKE = 1;
const UNLIKE = 2;
const CLOSE = 3;

/** What is like the ground, before it is known whether the border leads to it. */
const LIKE = 2;

/**
 * Marks with `mark` what is clear, or within `tolerance` (100 × the distance in OKLab) of a ground; 0 elsewhere.
 * `pixels` are straight RGBA, 32 bits each, red lowest. Colours are looked up in cells of 4 × 4 × 4; only cells
 * that the limit runs through are worked out px by px, since the conversion is half the cost.
 */
function alike(pixels: Int32Array, common: Rgb, tolerance: number, mark: number): Uint8Array {
  const cells = new Uint8Array(64 * 64 * 64);
  // Half a cell's diagonal is nowhere further than this in OKLab, but for the very darkest, which are always worked out.
  const doubt = 3;
  const distance = distanceFrom(common);
  const cellOf = (r: number, g: number, b: number) => {
    if (Math.max(r, g, b) < 24) return CLOSE;
    const d = distance((r & 252) + 2, (g & 252) + 2, (b & 252) + 2);
    return Math.abs(d - tolerance) < doubt ? CLOSE : d < tolerance ? ALIKE : UNLIKE;
  };
  const out = new Uint8Array(pixels.length);
  // Flat grounds repeat themselves: the last answer often serves again.
  let last = ~pixels[0]!;
  let answer = 0;
  for (let i = 0; i < out.length; i++) {
    const v = pixels[i]!;
    if (v !== last) {
      last = v;
      if (v >>> 24 < 8) answer = mark;
      else {
        const key = ((v & 252) << 10) | ((v >>> 4) & 4032) | ((v >>> 18) & 63);
        let cell = cells[key]!;
        if (cell === UNKNOWN) cell = cells[key] = cellOf(v & 255, (v >>> 8) & 255, (v >>> 16) & 255);
        const near =
          cell === CLOSE ? distance(v & 255, (v >>> 8) & 255, (v >>> 16) & 255) <= tolerance : cell === ALIKE;
        answer = near ? mark : 0;
      }
    }
    out[i] = answer;
  }
  return out;
}

/** Marks as GROUND what is LIKE it and reached from the border through its kind, and clears its `pixels`; fills spans of rows. */
function flood(marks: Uint8Array, pixels: Int32Array, width: number, height: number): void {
  const stack: number[] = [];
  for (let x = 0; x < width; x++) stack.push(x, (height - 1) * width + x);
  for (let y = 0; y < height; y++) stack.push(y * width, y * width + width - 1);
  while (stack.length) {
    const i = stack.pop()!;
    if (marks[i] !== LIKE) continue;
    const row = i - (i % width);
    const end = row + width - 1;
    let left = i;
    while (left > row && marks[left - 1] === LIKE) left--;
    let right = i;
    while (right < end && marks[right + 1] === LIKE) right++;
    marks.fill(GROUND, left, right + 1);
    pixels.fill(0, left, right + 1);
    for (let from = left - width, side = 0; side < 2; side++, from = left + width) {
      if (from < 0 || from >= marks.length) continue;
      const to = from + right - left;
      for (let k = from; k <= to; k++) if (marks[k] === LIKE && (k === from || marks[k - 1] !== LIKE)) stack.push(k);
    }
  }
}

/** How far (100 × OKLab) what shows through a mark may be from the ground: less than a pale tint is from white. Tuned. */
const THROUGH = 1.1;

/** Counters of fewer px than this have hardly a px that is not part ink: their purest is looked at. */
const TINY = 16;

/** So many px of a part are looked at, spread over it. */
const SAMPLED = 2000;

/**
 * Marks as GROUND the enclosed parts that the ground shows through, and clears their `pixels`: those LIKE it whose purer
 * half is of the ground's very colour, within what the picture's noise makes of that. Pale parts of a mark stay.
 */
function openCounters({ width }: Pixels, marks: Uint8Array, pixels: Int32Array, common: Rgb): void {
  const distance = distanceFrom(common);
  const off = (v: number) => (v >>> 24 < 8 ? 0 : distance(v & 255, (v >>> 8) & 255, (v >>> 16) & 255));
  const seen = new Uint8Array(marks.length);
  // The parts found, one after another: each is its own queue while it is gone through.
  const parts = new Int32Array(marks.length);
  let count = 0;
  const add = (i: number) => {
    if (marks[i] !== LIKE || seen[i]) return;
    seen[i] = 1;
    parts[count++] = i;
  };
  for (let start = 0; start < marks.length; start++) {
    if (marks[start] !== LIKE || seen[start]) continue;
    count = 0;
    add(start);
    for (let at = 0; at < count; at++) {
      const i = parts[at]!;
      const x = i % width;
      if (x > 0) add(i - 1);
      if (x + 1 < width) add(i + 1);
      if (i >= width) add(i - width);
      if (i + width < marks.length) add(i + width);
    }
    const tiny = count < TINY;
    const every = Math.max(1, Math.floor(count / SAMPLED));
    const offs: number[] = [];
    for (let at = 0; at < count; at += every) offs.push(off(pixels[parts[at]!]!));
    offs.sort((a, b) => a - b);
    if (offs[tiny ? 0 : Math.floor(offs.length / 4)]! > THROUGH * (tiny ? 2 : 1)) continue;
    for (let at = 0; at < count; at++) {
      marks[parts[at]!] = GROUND;
      pixels[parts[at]!] = 0;
    }
  }
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
  const pixels = new Int32Array(out.buffer, 0, width * height);
  const inwards = cutout.where !== 'anywhere';
  const ground = alike(pixels, common, cutout.tolerance, inwards ? LIKE : GROUND);
  if (inwards) {
    flood(ground, pixels, width, height);
    if (cutout.where === 'counters') openCounters(source, ground, pixels, common);
  } else for (let i = 0; i < ground.length; i++) if (ground[i]) pixels[i] = 0;
  unmix(source, ground, bandOf(ground, width), common, out);
  soften(out, width, height, cutout.soft);
  return { width, height, data: out };
}
