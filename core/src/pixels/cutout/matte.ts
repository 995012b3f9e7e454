import type { Pixels } from '../reduce';

/** How many px on each side of a cut are looked at again. */
export const BAND = 2;

/** What a pixel of the ground is marked with; 0 is what stays. */
export const GROUND = 1;

/** Pixels within `BAND` px of the cut, both sides, as their indices. Neighbours are those beside, above and below. */
export function bandOf(ground: Uint8Array, width: number, height: number): Int32Array {
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
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const own = ground[i];
      if (x + 1 < width && ground[i + 1] !== own) {
        add(i);
        add(i + 1);
      }
      if (y + 1 < height && ground[i + width] !== own) {
        add(i);
        add(i + width);
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
    let [fr, fg, fb, near] = [0, 0, 0, Infinity];
    let [mr, mg, mb, most] = [0, 0, 0, -1];
    const [x0, x1] = [Math.max(0, x - reach), Math.min(width - 1, x + reach)];
    const [y0, y1] = [Math.max(0, y - reach), Math.min(height - 1, y + reach)];
    for (let ny = y0; ny <= y1; ny++)
      for (let nx = x0, n = ny * width + x0; nx <= x1; nx++, n++) {
        const k = n * 4;
        const alpha = data[k + 3]!;
        if (ground[n]) {
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
            [fr, fg, fb] = [data[k]!, data[k + 1]!, data[k + 2]!];
          }
        } else if (far <= 9) {
          const off = (data[k]! - common[0]) ** 2 + (data[k + 1]! - common[1]) ** 2 + (data[k + 2]! - common[2]) ** 2;
          if (off > most) {
            most = off;
            [mr, mg, mb] = [data[k]!, data[k + 1]!, data[k + 2]!];
          }
        }
      }
    const [r, g, b] = gn ? [gr / gn, gg / gn, gb / gn] : common;
    // A thin stroke has no inside: the pixel least like the ground stands for it.
    if (near === Infinity && most >= 0) [fr, fg, fb] = [mr, mg, mb];
    else if (near === Infinity) {
      out[o + 3] = ground[i] ? 0 : data[o + 3]!;
      out.set([data[o]!, data[o + 1]!, data[o + 2]!], o);
      continue;
    }
    const [lr, lg, lb] = [fr - r, fg - g, fb - b];
    const long = lr * lr + lg * lg + lb * lb;
    let a =
      long < 1 ? (ground[i] ? 0 : 1) : ((data[o]! - r) * lr + (data[o + 1]! - g) * lg + (data[o + 2]! - b) * lb) / long;
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
