import type { Box } from '../geometry/box';
import { borderColour } from './cutout/flat';
import type { Pixels } from './reduce';

/**
 * The box (px) of what is left when empty margins are taken off: rows and columns wholly transparent (alpha below
 * 8), or wholly within `tolerance` (0…255, the largest channel difference) of the colour that the border has most
 * of. `breathing` px stay around it, as far as the picture goes. Null where nothing is left.
 */
export function trimBox(pixels: Pixels, tolerance: number, breathing = 0): Box | null {
  const { data, width, height } = pixels;
  const ground = borderColour(pixels);
  const empty = (i: number) =>
    data[i + 3]! < 8 ||
    (ground !== null &&
      Math.abs(data[i]! - ground[0]) <= tolerance &&
      Math.abs(data[i + 1]! - ground[1]) <= tolerance &&
      Math.abs(data[i + 2]! - ground[2]) <= tolerance);
  let [x0, y0, x1, y1] = [width, height, -1, -1];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      if (empty(i)) continue;
      if (x < x0) x0 = x;
      if (x > x1) x1 = x;
      if (y < y0) y0 = y;
      y1 = y;
    }
  if (x1 < 0) return null;
  x0 = Math.max(0, x0 - breathing);
  y0 = Math.max(0, y0 - breathing);
  x1 = Math.min(width - 1, x1 + breathing);
  y1 = Math.min(height - 1, y1 + breathing);
  return { x: x0, y: y0, width: x1 - x0 + 1, height: y1 - y0 + 1 };
}
