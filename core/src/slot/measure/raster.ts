import { hexOfChannels } from '../../colour/srgb';

/** Pixels of a screenshot: encoded sRGB, 4 bytes a pixel, alpha taken for opaque. */
export interface Raster {
  readonly data: ArrayLike<number>;
  readonly width: number;
  readonly height: number;
}

/** Distance of two pixels given by their byte offsets: the largest difference of a channel, 0 to 255. */
export function apart({ data }: Raster, i: number, j: number): number {
  const r = Math.abs(data[i]! - data[j]!);
  const g = Math.abs(data[i + 1]! - data[j + 1]!);
  const b = Math.abs(data[i + 2]! - data[j + 2]!);
  return r > g ? (r > b ? r : b) : g > b ? g : b;
}

/** Byte offset of the pixel that holds a point, kept within the raster. */
export function offsetOf({ width, height }: Raster, x: number, y: number): number {
  const px = x < 0 ? 0 : x >= width ? width - 1 : Math.floor(x);
  const py = y < 0 ? 0 : y >= height ? height - 1 : Math.floor(y);
  return (py * width + px) * 4;
}

/** "#rrggbb" of the pixel at a byte offset. */
export function hexOf({ data }: Raster, i: number): string {
  return hexOfChannels([0, 1, 2].map((k) => data[i + k]!));
}
