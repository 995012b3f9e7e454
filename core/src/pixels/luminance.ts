import type { Box } from '../geometry/box';
import type { Pixels } from './reduce';
import { linearOf } from '../colour/srgb';

/** One number a pixel, rows from the top. */
export interface Field {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

/**
 * Relative luminance 0…1 of every pixel as it is seen over a page's ground (`#rrggbb`).
 * Alpha is mixed in encoded sRGB, as browsers do (Compositing and Blending 1, section 5.1);
 * luminance as in WCAG 2.2, definition of relative luminance.
 */
export function luminanceField(pixels: Pixels, ground: string): Field {
  const under = [1, 3, 5].map((i) => parseInt(ground.slice(i, i + 2), 16));
  const { data } = pixels;
  const out = new Float32Array(pixels.width * pixels.height);
  for (let i = 0, p = 0; i < out.length; i++, p += 4) {
    const a = data[p + 3]! / 255;
    const seen = (k: 0 | 1 | 2) => linearOf[Math.round(data[p + k]! * a + under[k]! * (1 - a))]!;
    out[i] = 0.2126 * seen(0) + 0.7152 * seen(1) + 0.0722 * seen(2);
  }
  return { width: pixels.width, height: pixels.height, data: out };
}

/** The part of a field within a box of whole px that lies inside it. */
export function part(field: Field, box: Box): Field {
  const data = new Float32Array(box.width * box.height);
  for (let y = 0; y < box.height; y++) {
    const from = (box.y + y) * field.width + box.x;
    data.set(field.data.subarray(from, from + box.width), y * box.width);
  }
  return { width: box.width, height: box.height, data };
}

/** A field smoothed by a Gaussian of `sigma` px, cut off at three sigma; at the borders the weights within are made to sum to 1. */
export function smoothed(field: Field, sigma: number): Field {
  if (sigma < 0.2) return field;
  const { width, height } = field;
  const reach = Math.ceil(3 * sigma);
  const kernel = Float32Array.from({ length: reach + 1 }, (_, i) => Math.exp(-(i * i) / (2 * sigma * sigma)));
  const total = kernel.reduce((sum, w, i) => sum + (i ? 2 * w : w), 0);
  /** The sum around `at`, which is the `i`th of a line of `length`, whose px lie `step` apart. */
  const weigh = (source: Float32Array, at: number, i: number, length: number, step: number) => {
    let sum = kernel[0]! * source[at]!;
    if (i >= reach && i + reach < length) {
      for (let d = 1; d <= reach; d++) sum += kernel[d]! * (source[at - d * step]! + source[at + d * step]!);
      return sum / total;
    }
    let weight = kernel[0]!;
    for (let d = 1; d <= reach; d++) {
      if (d <= i) {
        sum += kernel[d]! * source[at - d * step]!;
        weight += kernel[d]!;
      }
      if (i + d < length) {
        sum += kernel[d]! * source[at + d * step]!;
        weight += kernel[d]!;
      }
    }
    return sum / weight;
  };
  const across = new Float32Array(field.data.length);
  const out = new Float32Array(field.data.length);
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) across[at] = weigh(field.data, at, x, width, 1);
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) out[at] = weigh(across, at, y, height, width);
  return { width, height, data: out };
}
