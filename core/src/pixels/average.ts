import type { Pixels } from './reduce';
import { byteOf, hexOfChannels, linearOf } from '../colour/srgb';

/**
 * The colour (`#rrggbb`) of a square of `side` px about a pixel, averaged in linear light by what each shows (straight
 * alpha, encoded sRGB); at a border only what there is. Null where nothing is to be seen.
 */
export function averageColour({ data, width, height }: Pixels, x: number, y: number, side: 1 | 3 | 7): string | null {
  const reach = (side - 1) / 2;
  const sum = [0, 0, 0];
  let weight = 0;
  for (let row = Math.max(0, y - reach); row <= Math.min(height - 1, y + reach); row++)
    for (let column = Math.max(0, x - reach); column <= Math.min(width - 1, x + reach); column++) {
      const i = (row * width + column) * 4;
      const alpha = data[i + 3]!;
      for (let c = 0; c < 3; c++) sum[c]! += linearOf[data[i + c]!]! * alpha;
      weight += alpha;
    }
  if (weight === 0) return null;
  return hexOfChannels(sum.map((n) => byteOf(n / weight)));
}
