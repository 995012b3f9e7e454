import { converter, interpolate, parse, clampRgb } from 'culori';
import type { Look, Tint } from './appearance';
import type { Pixels } from './reduce';
import { byteOf, linearOf } from '../colour/srgb';

/** Most that warmth changes the red and blue light, as a factor at ±1. Common practice, no source. */
const WARMEST = 1.35;

/** Weights of the saturate matrix. Filter Effects 1, section 9.4 (`feColorMatrix` type saturate). */
const [WR, WG, WB] = [0.213, 0.715, 0.072];

const byte = (n: number) => (n <= 0 ? 0 : n >= 255 ? 255 : Math.round(n));

/**
 * Warmth, brightness, contrast, saturation, in this order, in place. Brightness and contrast are the linear
 * transfer functions of Filter Effects 1, sections 6.1.2 and 6.1.4, on encoded sRGB as CSS shorthands work;
 * saturation is its `saturate` matrix. Each step is clamped to bytes as filters in a chain are. Warmth scales red
 * and blue light (linear) against each other, green held.
 */
export function applyLook(pixels: Pixels, look: Look): void {
  const { brightness, contrast, saturation, warmth, sharpening } = look;
  const { data } = pixels;
  const gain = WARMEST ** warmth;
  const table = (light: number) =>
    Uint8Array.from({ length: 256 }, (_, i) => {
      const warmed = light === 1 ? i : byteOf(Math.min(1, linearOf[i]! * light));
      const bright = byte(warmed * brightness);
      return byte((bright - 127.5) * contrast + 127.5);
    });
  const [red, green, blue] = [table(gain), table(1), table(1 / gain)];
  const s = saturation;
  const m = [
    WR + (1 - WR) * s,
    WG - WG * s,
    WB - WB * s,
    WR - WR * s,
    WG + (1 - WG) * s,
    WB - WB * s,
    WR - WR * s,
    WG - WG * s,
    WB + (1 - WB) * s,
  ] as const;
  for (let i = 0; i < data.length; i += 4) {
    if (data[i + 3] === 0) continue;
    const r = red[data[i]!]!;
    const g = green[data[i + 1]!]!;
    const b = blue[data[i + 2]!]!;
    if (s === 1) {
      data[i] = r;
      data[i + 1] = g;
      data[i + 2] = b;
      continue;
    }
    // The array is clamped, and rounds.
    data[i] = m[0] * r + m[1] * g + m[2] * b;
    data[i + 1] = m[3] * r + m[4] * g + m[5] * b;
    data[i + 2] = m[6] * r + m[7] * g + m[8] * b;
  }
  if (sharpening > 0) sharpen(pixels, sharpening);
}

/**
 * Sharpens in place, after reduction: each pixel is moved away from the mean of its neighbours (3 × 3, weights
 * 1-2-1, by alpha) by `amount` times their difference in lightness, the same for all channels so that no hue shifts.
 */
export function sharpen({ data, width, height }: Pixels, amount: number): void {
  const light = new Float32Array(width * height);
  for (let i = 0, k = 0; k < light.length; i += 4, k++)
    light[k] = WR * data[i]! + WG * data[i + 1]! + WB * data[i + 2]!;
  const weights = [1, 2, 1, 2, 4, 2, 1, 2, 1];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const k = y * width + x;
      if (data[k * 4 + 3] === 0) continue;
      let sum = 0;
      let whole = 0;
      for (let dy = -1, w = 0; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++, w++) {
          const at = Math.min(height - 1, Math.max(0, y + dy)) * width + Math.min(width - 1, Math.max(0, x + dx));
          const weight = weights[w]! * data[at * 4 + 3]!;
          sum += weight * light[at]!;
          whole += weight;
        }
      const by = amount * 1.6 * (light[k]! - sum / whole);
      for (let c = 0; c < 3; c++) data[k * 4 + c] = data[k * 4 + c]! + by;
    }
}

const oklab = converter('oklab');
const rgb = converter('rgb');

/** The colours a tint gives for encoded greys 0…255, as rgb triples. */
function tintTable(tint: Tint): Uint8ClampedArray {
  const table = new Uint8ClampedArray(256 * 3);
  const put = (i: number, colour: { r: number; g: number; b: number }) => {
    const c = clampRgb({ mode: 'rgb' as const, ...colour });
    table.set([c.r * 255, c.g * 255, c.b * 255], i * 3);
  };
  if (tint.kind === 'flat') {
    const c = rgb(parse(tint.colour)!);
    for (let i = 0; i < 256; i++) put(i, c);
    return table;
  }
  const lightness = (i: number) => oklab({ mode: 'rgb', r: i / 255, g: i / 255, b: i / 255 }).l;
  if (tint.kind === 'two') {
    const ramp = interpolate([tint.dark, tint.light], 'oklab');
    for (let i = 0; i < 256; i++) put(i, rgb(ramp(lightness(i))));
    return table;
  }
  const own = oklab(parse(tint.colour)!);
  for (let i = 0; i < 256; i++) {
    const l = lightness(i);
    // As light as the grey was; the most colour where the tint's own lightness is, none at black and white.
    const share = l <= own.l ? l / Math.max(own.l, 1e-6) : (1 - l) / Math.max(1 - own.l, 1e-6);
    put(i, rgb({ mode: 'oklab', l, a: own.a * share, b: own.b * share }));
  }
  return table;
}

/** Tints in place, by each pixel's luminance (linear, CSS Color 4 section 10.2; weights of Rec. 709); alpha stays. */
export function applyTint({ data }: Pixels, tint: Tint): void {
  const table = tintTable(tint);
  for (let i = 0; i < data.length; i += 4) {
    const y = 0.2126 * linearOf[data[i]!]! + 0.7152 * linearOf[data[i + 1]!]! + 0.0722 * linearOf[data[i + 2]!]!;
    const at = byteOf(y) * 3;
    data[i] = table[at]!;
    data[i + 1] = table[at + 1]!;
    data[i + 2] = table[at + 2]!;
  }
}
