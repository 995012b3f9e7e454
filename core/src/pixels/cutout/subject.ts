import type { Pixels } from '../reduce';
import { bandOf, soften, unmix } from './matte';

/** A mask of any size: 255 where the picture stays. */
export interface Mask {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** A mask with its staircase smoothed away: a mean of 5 × 5, brought back to a slope about its middle. */
function smoothed({ width, height, data }: Mask): Float32Array {
  const mean = new Float32Array(data.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let dy = -2; dy <= 2; dy++)
        for (let dx = -2; dx <= 2; dx++)
          sum += data[Math.min(height - 1, Math.max(0, y + dy)) * width + Math.min(width - 1, Math.max(0, x + dx))]!;
      mean[y * width + x] = sum / 25 / 255;
    }
  return mean;
}

/**
 * A picture cut out by a mask, which may be much smaller: its edge is drawn at the picture's own px, then the px
 * around it are unmixed as with a flat ground. Straight alpha.
 */
export function cutByMask(source: Pixels, mask: Mask, soft: number): Pixels {
  const { data, width, height } = source;
  const shape = smoothed(mask);
  const ground = new Uint8Array(width * height);
  const out = data.slice();
  const [sx, sy] = [mask.width / width, mask.height / height];
  for (let y = 0, i = 0; y < height; y++) {
    const fy = Math.min(mask.height - 1.001, Math.max(0, (y + 0.5) * sy - 0.5));
    const row = Math.floor(fy) * mask.width;
    const down = Math.min(mask.height - 1, Math.floor(fy) + 1) * mask.width;
    const ty = fy - Math.floor(fy);
    for (let x = 0; x < width; x++, i++) {
      const fx = Math.min(mask.width - 1.001, Math.max(0, (x + 0.5) * sx - 0.5));
      const c = Math.floor(fx);
      const d = Math.min(mask.width - 1, c + 1);
      const tx = fx - c;
      const at =
        (shape[row + c]! * (1 - tx) + shape[row + d]! * tx) * (1 - ty) +
        (shape[down + c]! * (1 - tx) + shape[down + d]! * tx) * ty;
      if (at < 0.5) {
        ground[i] = 1;
        out[i * 4 + 3] = 0;
      }
    }
  }
  unmix(source, ground, bandOf(ground, width), [127, 127, 127], out);
  soften(out, width, height, soft);
  return { width, height, data: out };
}
