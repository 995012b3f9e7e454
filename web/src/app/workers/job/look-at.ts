import {
  applyLook,
  applyTint,
  cutFlat,
  edgeColour,
  hasFlatBorder,
  isOpaque,
  openSides,
  partsOf,
  seamDifference,
  sideNames,
  silhouetteOf,
  silhouetteSize,
  trimBox,
  usualCutout,
  type Box,
  type Cutout,
  type Look,
  type Pixels,
  type Silhouette,
  type SurfaceNeed,
  type Tint,
} from '@bright-slot/core';
import type { EdgeFacts } from '../messages';
import { imageData, picture, pixelsOf } from './pictures';
import { rough } from './rough';
import { reducedPixels } from './surface';

interface Used {
  readonly asset: string;
  readonly cutout: Cutout | null;
  readonly drawn?: ImageBitmap | undefined;
}

const bitmapOf = async ({ asset, cutout, drawn }: Used) => drawn ?? (await picture(asset, cutout));

/** A bitmap in its own look. */
export async function looked(bitmap: ImageBitmap, look: Look | null, tint: Tint | null): Promise<ImageBitmap> {
  if (!look && !tint) return bitmap;
  const pixels = pixelsOf(bitmap);
  if (look) applyLook(pixels, look);
  if (tint) applyTint(pixels, tint);
  return createImageBitmap(imageData(pixels));
}

/** What is left when empty margins are taken off, in px of the bitmap. */
export async function trim(task: Used & { tolerance: number; breathing: number }): Promise<Box | null> {
  return trimBox(pixelsOf(await bitmapOf(task)), task.tolerance, task.breathing);
}

/** Long side of the copy in which a logo's parts are looked for, px. */
const PARTS_SIDE = 640;

/** The parts of a logo, whether it stands on a transparent ground or on a plain sheet. */
export async function parts(task: Used): Promise<Box[]> {
  let pixels: Pixels = pixelsOf(rough(await bitmapOf(task), PARTS_SIDE));
  if (isOpaque(pixels) && hasFlatBorder(pixels)) pixels = cutFlat(pixels, usualCutout);
  const { width, height, data } = pixels;
  return partsOf({ width, height, data: Uint8Array.from({ length: width * height }, (_, i) => data[i * 4 + 3]!) });
}

/** Where a picture is to be seen once something is cut out of it. */
export async function silhouette(task: Used): Promise<Silhouette> {
  const whole = await bitmapOf(task);
  const { width, height } = silhouetteSize(whole);
  const context = new OffscreenCanvas(width, height).getContext('2d')!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(whole, 0, 0, width, height);
  return silhouetteOf(context.getImageData(0, 0, width, height));
}

/** The colours of a picture's edges as it looks, and how well they meet it; only sides that leave canvas uncovered. */
export async function edges(
  need: SurfaceNeed,
  stopped: () => boolean,
  drawn?: ImageBitmap,
): Promise<EdgeFacts[] | null> {
  const pixels = await reducedPixels(need, stopped, drawn);
  if (!pixels) return null;
  const lying = { pixels: { ...pixels, data: pixels.data.slice() }, x: need.out.x, y: need.out.y };
  if (need.finish?.look) applyLook(lying.pixels, need.finish.look);
  if (need.finish?.tint) applyTint(lying.pixels, need.finish.tint);
  const part = { x: 0, y: 0, width: pixels.width, height: pixels.height };
  const { shown } = need;
  const open = need.finish?.beyond ? openSides(shown, need.finish.beyond.box) : [...sideNames];
  return open.flatMap((side) => {
    const colour = edgeColour(lying, part, side);
    if (!colour) return [];
    return [
      {
        side,
        colour,
        seam: {
          colour: seamDifference(lying, shown, side, 'colour'),
          gradient: seamDifference(lying, shown, side, 'gradient'),
        },
      },
    ];
  });
}
