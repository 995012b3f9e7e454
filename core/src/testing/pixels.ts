import type { Pixels } from '../pixels/reduce';

/** Pixels made point by point: `at` gives encoded sRGB and alpha, 0…255. */
export function pixelsBy(
  width: number,
  height: number,
  at: (x: number, y: number) => readonly [number, number, number, number?],
): Pixels {
  const data = new Uint8ClampedArray(width * height * 4);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      const [r, g, b, a = 255] = at(x, y);
      data.set([r, g, b, a], i);
    }
  return { width, height, data };
}

export function at({ data, width }: Pixels, x: number, y: number): number[] {
  const i = (y * width + x) * 4;
  return [...data.subarray(i, i + 4)];
}
