import { usualCutout, type Cutout } from '../appearance';
import type { Box } from '../../geometry/box';
import type { Pixels } from '../reduce';
import { trimBox } from '../trim';
import { borderColour, cutFlat, distanceFrom } from './flat';

/** Steps of distances that are counted, in 100 × OKLab, and how far. */
const STEP = 0.5;
const FAR = 30;

/** A border that differs by more than this all along is no sheet: paper in a fair light differs by half of it. */
const NOISIEST = 10;

/** The least and most tolerance that is proposed. */
const LEAST = 2;
const MOST = 12;

/**
 * The tolerance (100 × OKLab) that parts a sheet from what is printed on it: beyond the noise of the sheet's border, short
 * of the palest flat part. A flat part is a distance that many more px have than those about it; edges have all alike.
 */
export function sheetTolerance(pixels: Pixels): number | null {
  const { data, width, height } = pixels;
  const ground = borderColour(pixels);
  if (!ground) return null;
  const distance = distanceFrom(ground);
  const off = (i: number) => distance(data[i]!, data[i + 1]!, data[i + 2]!);
  const border: number[] = [];
  for (let x = 0; x < width; x++) border.push(off(x * 4), off(((height - 1) * width + x) * 4));
  for (let y = 0; y < height; y++) border.push(off(y * width * 4), off((y * width + width - 1) * 4));
  border.sort((a, b) => a - b);
  // What touches the border now and then is no noise of it.
  const noise = border[Math.floor(border.length * 0.9)]!;
  if (noise > NOISIEST) return null;
  const counts = new Float64Array(Math.ceil(FAR / STEP) + 1);
  for (let i = 0; i < data.length; i += 4)
    if (data[i + 3]! >= 128) counts[Math.min(counts.length - 1, Math.floor(off(i) / STEP))]!++;
  const wanted = Math.min(MOST, Math.max(LEAST, usualCutout.tolerance, noise * 1.6 + 1));
  const least = width * height * 0.0008;
  for (let b = Math.ceil((noise * 1.3 + 1) / STEP); b * STEP < 2 * wanted; b++) {
    const of = (...steps: number[]) => Math.max(1, ...steps.map((d) => (b + d < 1 ? Infinity : (counts[b + d] ?? 0))));
    const peak = ((counts[b - 1] ?? 0) + counts[b]! + (counts[b + 1] ?? 0)) / 3;
    // What JPEG leaves about edges only falls off; a flat part stands out on both sides.
    if (peak * 3 > least && peak > 4 * of(-5, -6, -7) && peak > 4 * of(5, 6, 7))
      return Math.max(LEAST, Math.min(wanted, b * STEP * 0.6));
  }
  return wanted;
}

/** A logo taken off its sheet. */
export interface CleanedLogo {
  readonly cutout: Cutout & { kind: 'flat' };
  /** What is left of it, px of the picture. */
  readonly box: Box;
}

/**
 * A logo off the plain sheet it stands on: the ground gone, through counters too, pale parts kept, trimmed. `pixels` are
 * opaque, encoded sRGB. Null where nothing would be left, or nothing goes.
 */
export function cleanedLogo(pixels: Pixels): CleanedLogo | null {
  const tolerance = sheetTolerance(pixels);
  if (tolerance === null) return null;
  const cutout = { ...usualCutout, where: 'counters' as const, tolerance: Math.round(tolerance * 2) / 2 };
  const cut = cutFlat(pixels, cutout);
  if (cut === pixels) return null;
  const box = trimBox(cut, 0);
  return box && { cutout, box };
}
