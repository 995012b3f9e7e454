import type { Pixels } from '../reduce';

/** How many px on each side of a cut are looked at again. */
export const BAND = 2;

/** What a pixel of the ground is marked with: this bit. Without it, it stays. */
export const GROUND = 1;
/** The same of four pixels at once. */
const GROUNDS = 0x01010101;

/** Pixels within `BAND` px of the cut, both sides, as their indices. Neighbours are those beside, above and below. */
export function bandOf(ground: Uint8Array, width: number): Int32Array {
  let band = new Int32Array(4096);
  let count = 0;
  const inBand = new Uint8Array(ground.length);
  const add = (i: number) => {
    if (inBand[i]) return;
    inBand[i] = 1;
    if (count === band.length) {
      const larger = new Int32Array(count * 2);
      larger.set(band);
      band = larger;
    }
    band[count++] = i;
  };
  const view = new DataView(ground.buffer, ground.byteOffset);
  const four = (i: number) => view.getUint32(i) & GROUNDS;
  for (let i = 0; i < ground.length;) {
    if (i + width + 4 <= ground.length) {
      // Nearly everywhere four px are all of one kind, and so is what lies right of and below them.
      const own = four(i);
      if ((own === 0 || own === GROUNDS) && four(i + 1) === own && four(i + width) === own) {
        i += 4;
        continue;
      }
    }
    for (const to = Math.min(ground.length, i + 4); i < to; i++) {
      if ((i + 1) % width !== 0 && (ground[i]! ^ ground[i + 1]!) & GROUND) {
        add(i);
        add(i + 1);
      }
      if (i + width < ground.length && (ground[i]! ^ ground[i + width]!) & GROUND) {
        add(i);
        add(i + width);
      }
    }
  }
  for (let from = 0, d = 2; d <= BAND; d++) {
    const to = count;
    for (; from < to; from++) {
      const i = band[from]!;
      const x = i % width;
      if (x + 1 < width) add(i + 1);
      if (x > 0) add(i - 1);
      if (i + width < ground.length) add(i + width);
      if (i >= width) add(i - width);
    }
  }
  return band.subarray(0, count);
}

/**
 * The true colour and alpha of the pixels of a band, written to `out` (straight alpha): each is taken as a mixture
 * of the ground and of what stands on it, both looked for nearby, in encoded sRGB since that is how drawings and
 * pages mix. What is not in the band is written by the caller. Least squares on the line between the two colours.
 */
export function unmix(
  source: Pixels,
  ground: Uint8Array,
  band: Int32Array,
  common: readonly [number, number, number],
  out: Uint8ClampedArray,
): void {
  const { data, width, height } = source;
  const inBand = new Uint8Array(ground.length);
  for (const i of band) inBand[i] = 1;
  const reach = BAND + 2;
  for (const i of band) {
    const x = i % width;
    const y = (i / width) | 0;
    const o = i * 4;
    let [gr, gg, gb, gn] = [0, 0, 0, 0];
    // The nearest pixel inside, and, since a thin stroke has no inside, the one least like the ground.
    let [inside, near] = [-1, Infinity];
    let [unlike, most] = [-1, -1];
    const [x0, x1] = [Math.max(0, x - reach), Math.min(width - 1, x + reach)];
    const [y0, y1] = [Math.max(0, y - reach), Math.min(height - 1, y + reach)];
    for (let ny = y0; ny <= y1; ny++)
      for (let nx = x0, n = ny * width + x0; nx <= x1; nx++, n++) {
        const k = n * 4;
        const alpha = data[k + 3]!;
        if (ground[n]! & GROUND) {
          if (inBand[n] || alpha < 250) continue;
          gr += data[k]!;
          gg += data[k + 1]!;
          gb += data[k + 2]!;
          gn++;
          continue;
        }
        if (alpha < 250) continue;
        const far = (nx - x) * (nx - x) + (ny - y) * (ny - y);
        if (!inBand[n]) {
          if (far < near) {
            near = far;
            inside = k;
          }
        } else if (far <= 9) {
          const off = (data[k]! - common[0]) ** 2 + (data[k + 1]! - common[1]) ** 2 + (data[k + 2]! - common[2]) ** 2;
          if (off > most) {
            most = off;
            unlike = k;
          }
        }
      }
    const [r, g, b] = gn ? [gr / gn, gg / gn, gb / gn] : common;
    const f = inside >= 0 ? inside : unlike;
    if (f < 0) {
      out[o + 3] = ground[i]! & GROUND ? 0 : data[o + 3]!;
      out.set([data[o]!, data[o + 1]!, data[o + 2]!], o);
      continue;
    }
    const [fr, fg, fb] = [data[f]!, data[f + 1]!, data[f + 2]!];
    const [lr, lg, lb] = [fr - r, fg - g, fb - b];
    const long = lr * lr + lg * lg + lb * lb;
    let a =
      long < 1
        ? ground[i]! & GROUND
          ? 0
          : 1
        : ((data[o]! - r) * lr + (data[o + 1]! - g) * lg + (data[o + 2]! - b) * lb) / long;
    a = a < 0.03 ? 0 : a > 0.97 ? 1 : a;
    // What the line does not explain is the thing's own texture, as far as the pixel is its own.
    const share = a > 0.5 ? 1 : 0;
    const own = (c: number, f: number, back: number) =>
      f + (a > 0 ? ((data[o + c]! - (back + a * (f - back))) / a) * share : 0);
    out[o] = own(0, fr, r);
    out[o + 1] = own(1, fg, g);
    out[o + 2] = own(2, fb, b);
    out[o + 3] = (a * data[o + 3]!) | 0;
  }
}

/**
 * Softens a cut inwards, in place: the alpha falls off over `px` before the edge, so that nothing of the old ground
 * comes back. Two passes of a box mean, doubled beyond a half.
 */
export function soften(rgba: Uint8ClampedArray, width: number, height: number, px: number): void {
  if (px <= 0) return;
  const r = Math.max(1, Math.round(px));
  const share = Math.min(1, px / r);
  let alpha = Float32Array.from({ length: width * height }, (_, i) => rgba[i * 4 + 3]!);
  const pass = (n: number, lines: number, step: number, stride: number) => {
    const next = new Float32Array(alpha.length);
    for (let l = 0; l < lines; l++) {
      let sum = 0;
      const at = (k: number) => alpha[l * stride + Math.min(n - 1, Math.max(0, k)) * step]!;
      for (let k = -r; k <= r; k++) sum += at(k);
      for (let k = 0; k < n; k++) {
        next[l * stride + k * step] = sum / (2 * r + 1);
        sum += at(k + r + 1) - at(k - r);
      }
    }
    alpha = next;
  };
  pass(width, height, 1, width);
  pass(height, width, width, 1);
  for (let i = 0; i < alpha.length; i++) {
    const inward = Math.max(0, Math.min(255, alpha[i]! * 2 - 255));
    const own = rgba[i * 4 + 3]!;
    rgba[i * 4 + 3] = Math.min(own, own + (inward - own) * share);
  }
}
