import {
  pictureFormats,
  good,
  hasFewTones,
  hasFlatBorder,
  identify,
  isOpaque,
  silhouetteOf,
  silhouetteSize,
  type Result,
} from '@bright-slot/core';
import { sha256 } from '../../storage/hash';
import type { ImportedPicture } from '../messages';
import { proposedFocus } from './focus';
import { decodedOrWhy, remember } from './pictures';
import { rough } from './rough';

/** Whether every pixel is opaque, looked at in bands, so that a large picture needs no second copy of itself. */
function opaqueAllOver(bitmap: ImageBitmap): boolean {
  const { width, height } = bitmap;
  const band = Math.max(1, Math.min(height, Math.floor(4e6 / width)));
  const context = new OffscreenCanvas(width, band).getContext('2d', { willReadFrequently: true })!;
  for (let y = 0; y < height; y += band) {
    const rows = Math.min(band, height - y);
    context.clearRect(0, 0, width, band);
    context.drawImage(bitmap, 0, -y);
    if (!isOpaque({ width, height: rows, data: context.getImageData(0, 0, width, rows).data })) return false;
  }
  return true;
}

/** A copy small enough to tell by a glance where a picture is to be seen and what its border is. */
function glance(picture: ImageBitmap, natural: { width: number; height: number }): ImageData {
  const { width, height } = silhouetteSize(natural);
  const context = new OffscreenCanvas(width, height).getContext('2d')!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(picture, 0, 0, width, height);
  return context.getImageData(0, 0, width, height);
}

/** Side of the copy in which tones are counted, px. */
const SAMPLED = 256;

/** A small copy of the picture's own pixels, none of them averaged. */
function sampled(picture: ImageBitmap): ImageData {
  const by = Math.min(1, SAMPLED / Math.max(picture.width, picture.height));
  const [width, height] = [picture.width, picture.height].map((n) => Math.max(1, Math.round(n * by)));
  const context = new OffscreenCanvas(width!, height!).getContext('2d')!;
  context.imageSmoothingEnabled = false;
  context.drawImage(picture, 0, 0, width!, height!);
  return context.getImageData(0, 0, width!, height!);
}

/** Long side of a small copy for lists, px. */
const THUMB = 360;

async function thumbOf(picture: ImageBitmap): Promise<Blob> {
  const by = Math.min(1, THUMB / Math.max(picture.width, picture.height));
  const sheet = new OffscreenCanvas(
    Math.max(1, Math.round(picture.width * by)),
    Math.max(1, Math.round(picture.height * by)),
  );
  const context = sheet.getContext('2d')!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(picture, 0, 0, sheet.width, sheet.height);
  return sheet.convertToBlob({ type: 'image/webp', quality: 0.8 });
}

/** Looks at a file by its content alone, decodes it once, and keeps what it decoded. */
export async function importPicture(blob: Blob, name: string, most: number): Promise<Result<ImportedPicture>> {
  const bytes = new Uint8Array(await blob.arrayBuffer());
  const facts = identify(bytes, name);
  if (!facts.ok) return facts;
  const { type, width, height } = facts.value;
  if (type === 'svg') return good({ type, width, height });
  // Both run beside this thread.
  const hashed = sha256(bytes);
  const decoded = await decodedOrWhy(blob, type, name);
  if (!decoded.ok) return decoded;
  const bitmap = decoded.value;
  const opaque = !pictureFormats[type].alpha || opaqueAllOver(bitmap);
  const seen = rough(bitmap, most);
  const small = glance(seen, bitmap);
  // It is encoded beside this thread while that looks on.
  const thumb = thumbOf(seen);
  const { focus, subject } = proposedFocus(seen);
  const hash = await hashed;
  remember(hash, bitmap);
  return good({
    type,
    width: bitmap.width,
    height: bitmap.height,
    hash,
    opaque,
    silhouette: opaque ? null : silhouetteOf(small),
    flatBorder: opaque && hasFlatBorder(small) && hasFewTones(sampled(bitmap)),
    focus,
    subject,
    thumb: await thumb,
    rough: seen,
  });
}
