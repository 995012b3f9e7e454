import type { Box } from '../geometry/box';
import type { FadeLine, Finish } from './finishing';
import type { Pixels } from './reduce';
import { frameShape, shareWithin } from './frame-shape';
import { channelsOf } from '../colour/srgb';

/** Pixels that lie with their top left at (`x`, `y`), device px. */
export interface Lying {
  readonly pixels: Pixels;
  readonly x: number;
  readonly y: number;
}

const clamp01 = (n: number) => (n <= 0 ? 0 : n >= 1 ? 1 : n);

/** How much of the px from `at` lies between `from` and `from + length`. */
const cover = (at: number, from: number, length: number) =>
  clamp01(Math.min(at + 1, from + length) - Math.max(at, from));

/**
 * A border within the edge, then corners, in place. `box` is the frame. `cut`: the pixels are cut to the frame here, its
 * straight edges having cut into them already, as a reduction does (a px half covered has half its alpha); otherwise
 * they are still to be turned, and are cut then.
 */
export function applyShape(
  { pixels, x: x0, y: y0 }: Lying,
  box: Box,
  corners: Finish['corners'],
  border: Finish['border'],
  cut: boolean,
): void {
  if (!border && !(corners && cut)) return;
  const { data, width, height } = pixels;
  const shape = frameShape(box, corners);
  const ink = border ? channelsOf(border.colour) : [];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = (y * width + x) * 4;
      const { d, round } = shape.edge(x0 + x + 0.5, y0 + y + 0.5);
      const straight = cut ? cover(x0 + x, box.x, box.width) * cover(y0 + y, box.y, box.height) : 1;
      if (straight === 0) continue;
      let own = Math.min(1, data[i + 3]! / 255 / straight);
      const ring = border ? clamp01(border.width + d + 0.5) : 0;
      if (ring > 0) {
        const under = own * (1 - ring);
        own = ring + under;
        for (let c = 0; c < 3; c++) data[i + c] = (ink[c]! * ring + data[i + c]! * under) / own;
      }
      // Where a curve cuts, it has the straight edges' part in it already.
      const share = cut && round && d > -2 ? shareWithin(shape, x0 + x + 0.5, y0 + y + 0.5) : straight;
      data[i + 3] = Math.round(own * share * 255);
    }
}

/** From 1 to 0 without a kink; its steepest slope is 1.5. The Hermite polynomial 3t² - 2t³, from memory. */
export const eased = (t: number): number => {
  const s = 1 - clamp01(t);
  return s * s * (3 - 2 * s);
};

/** How much of a picture is left at a point of a fade, 0…1. */
export function fadeAt({ from, to }: FadeLine, x: number, y: number): number {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const long = dx * dx + dy * dy;
  return long === 0 ? 1 : eased(((x - from.x) * dx + (y - from.y) * dy) / long);
}

/** Fades in place: each takes its share of the alpha. */
export function applyFades({ pixels, x: x0, y: y0 }: Lying, fades: readonly FadeLine[]): void {
  const { data, width, height } = pixels;
  for (const fade of fades)
    for (let y = 0, i = 3; y < height; y++)
      for (let x = 0; x < width; x++, i += 4) {
        const left = fadeAt(fade, x0 + x + 0.5, y0 + y + 0.5);
        if (left < 1) data[i] = data[i]! * left;
      }
}
