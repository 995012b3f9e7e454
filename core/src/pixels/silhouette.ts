import '../zod-setup';
import * as z from 'zod';
import type { Box } from '../geometry/box';
import type { Pixels } from './reduce';

/** Longest side of a silhouette, in cells. */
export const SILHOUETTE_SIDE = 128;

/** Where a picture is to be seen, coarsely: alpha 0…255 of a small copy of it, rows from the top. */
export const Silhouette = z.object({
  width: z.number().int().min(1).max(SILHOUETTE_SIDE),
  height: z.number().int().min(1).max(SILHOUETTE_SIDE),
  alpha: z.instanceof(Uint8Array),
});
export type Silhouette = z.infer<typeof Silhouette>;

/** The size of a picture's silhouette: in proportion, the longer side 128 cells at most. */
export function silhouetteSize(natural: { width: number; height: number }): { width: number; height: number } {
  const by = Math.min(1, SILHOUETTE_SIDE / Math.max(natural.width, natural.height));
  const whole = (n: number) => Math.max(1, Math.min(SILHOUETTE_SIDE, Math.round(n * by)));
  return { width: whole(natural.width), height: whole(natural.height) };
}

/** The silhouette of a small copy of a picture. */
export function silhouetteOf(small: Pixels): Silhouette {
  const alpha = Uint8Array.from({ length: small.width * small.height }, (_, i) => small.data[i * 4 + 3]!);
  return { width: small.width, height: small.height, alpha };
}

/** How far (of 255) a border pixel may be from the first and still count as the same. */
const ALIKE = 10;

/**
 * Whether a small copy of an opaque picture has one colour all along its border, as a logo on a sheet has
 * and a photograph hardly ever. A twentieth of the border may differ. Common practice, no source.
 */
export function hasFlatBorder(small: Pixels): boolean {
  const { width, height, data } = small;
  let border = 0;
  let other = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x += y === 0 || y === height - 1 ? 1 : Math.max(1, width - 1)) {
      border++;
      const i = (y * width + x) * 4;
      if ([0, 1, 2].some((k) => Math.abs(data[i + k]! - data[k]!) > ALIKE)) other++;
    }
  return width > 2 && height > 2 && other <= border / 20;
}

/** Tones that are counted, and the share of a mark's pixels that so many of them make. Tuned on drawn marks and the demo's pots on plain grounds. */
const TONES = 12;
const FEW = 0.74;

/**
 * Whether what stands on a plain ground is drawn in few tones, as a mark is, and not in the many of a photographed
 * thing before a wall. `sample` is a copy whose pixels are the picture's own (not averaged), with that ground at its
 * first pixel.
 */
export function hasFewTones({ data, width, height }: Pixels): boolean {
  const bins = new Map<number, number>();
  let rest = 0;
  for (let i = 0; i < width * height * 4; i += 4) {
    if (![0, 1, 2].some((k) => Math.abs(data[i + k]! - data[k]!) > ALIKE)) continue;
    rest++;
    const bin = ((data[i]! >> 4) << 8) | ((data[i + 1]! >> 4) << 4) | (data[i + 2]! >> 4);
    bins.set(bin, (bins.get(bin) ?? 0) + 1);
  }
  const most = [...bins.values()].sort((a, b) => b - a).slice(0, TONES);
  return most.reduce((a, b) => a + b, 0) >= FEW * rest;
}

/** From here on (of 255) a cell counts as to be seen. */
const SEEN = 64;

/**
 * The rows of what is to be seen of a picture that lies at `image`, as far as it lies `within` a box: from the middle of
 * each row's first such cell to the middle of its last, a cell high. In the units of `image`.
 */
export function silhouetteRuns(s: Silhouette, image: Box, within: Box = image): Box[] {
  const cell = { x: image.width / s.width, y: image.height / s.height };
  const whole = (n: number, most: number) => Math.min(most, Math.max(0, n));
  const [from, to] = [
    whole(Math.floor((within.x - image.x) / cell.x + 1e-9), s.width),
    whole(Math.ceil((within.x + within.width - image.x) / cell.x - 1e-9), s.width),
  ];
  const rows = [
    whole(Math.floor((within.y - image.y) / cell.y + 1e-9), s.height),
    whole(Math.ceil((within.y + within.height - image.y) / cell.y - 1e-9), s.height),
  ] as const;
  const runs: Box[] = [];
  for (let y = rows[0]; y < rows[1]; y++) {
    const row = s.alpha.subarray(y * s.width + from, y * s.width + to);
    const first = row.findIndex((a) => a >= SEEN);
    if (first < 0) continue;
    const last = row.findLastIndex((a) => a >= SEEN);
    const top = Math.max(within.y, image.y + y * cell.y);
    const x = Math.max(within.x, image.x + (from + first + 0.5) * cell.x);
    const end = Math.min(within.x + within.width, image.x + (from + last + 0.5) * cell.x);
    runs.push({
      x,
      y: top,
      width: Math.max(0, end - x),
      height: Math.min(within.y + within.height, image.y + (y + 1) * cell.y) - top,
    });
  }
  return runs;
}
