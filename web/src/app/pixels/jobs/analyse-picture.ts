import {
  applyFades,
  applyLook,
  applyTint,
  cleanedLogo,
  cutFlat,
  edgeAlpha,
  edgeColour,
  grown,
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
  type CleanedLogo,
  type Cutout,
  type Look,
  type Pixels,
  type SideName,
  type Silhouette,
  type SurfaceNeed,
  type Tint,
} from '@bright-slot/core';
import type { EdgeFacts } from '../messages';
import { imageData, picture, pixelsOf } from './pictures';
import { rough } from './rough';
import { reducedPixels } from './surface';
import type { Turn } from './turn';

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

/** A logo off the plain sheet it stands on. */
export async function clean(asset: string): Promise<CleanedLogo | null> {
  return cleanedLogo(pixelsOf(await picture(asset)));
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

/** Less uncovered canvas than this shows no seam, device px; nor does an edge with less alpha left than that. */
const HARDLY = 0.5;
const FADED = 0.02;

/** The colours of a picture's edges as it looks, and how well what runs on meets those that leave canvas uncovered. */
export async function edges(need: SurfaceNeed, turn: Turn, drawn?: ImageBitmap): Promise<EdgeFacts[]> {
  const pixels = await reducedPixels(need, turn, drawn);
  await turn.pass();
  const lying = { pixels: { ...pixels, data: pixels.data.slice() }, x: need.out.x, y: need.out.y };
  if (need.finish?.look) applyLook(lying.pixels, need.finish.look);
  if (need.finish?.tint) applyTint(lying.pixels, need.finish.tint);
  const part = { x: 0, y: 0, width: pixels.width, height: pixels.height };
  const { shown } = need;
  // Only where canvas is left uncovered does anything meet it, and only as far as it has not faded by then.
  const open = need.finish?.beyond ? openSides(grown(shown, HARDLY), need.finish.beyond.box) : [];
  const faded = { ...lying, pixels: { ...lying.pixels, data: lying.pixels.data.slice() } };
  applyFades(faded, need.finish?.fades ?? []);
  const seamOf = (side: SideName, style: 'colour' | 'gradient', left: number) => {
    const { mean, worst } = seamDifference(lying, shown, side, style);
    return { mean: mean * left, worst: worst * left };
  };
  return sideNames.flatMap((side) => {
    const colour = edgeColour(lying, part, side);
    if (!colour) return [];
    const left = open.includes(side) ? edgeAlpha(faded, shown, side) : 0;
    return [
      {
        side,
        colour,
        seam: left < FADED ? null : { colour: seamOf(side, 'colour', left), gradient: seamOf(side, 'gradient', left) },
      },
    ];
  });
}
