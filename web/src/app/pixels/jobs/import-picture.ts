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
import { decodeBeside, decodedOrWhy, decodedReduced, remember } from './pictures';
import { rough } from './rough';
import { decodeFrameBeside } from './stored-frames';

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
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
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
  const context = new OffscreenCanvas(width!, height!).getContext('2d', { willReadFrequently: true })!;
  context.imageSmoothingEnabled = false;
  context.drawImage(picture, 0, 0, width!, height!);
  return context.getImageData(0, 0, width!, height!);
}

/** Long side of a small copy for lists, px. */
const THUMB = 360;

async function thumbOf(picture: ImageBitmap, opaque: boolean): Promise<Blob> {
  const by = Math.min(1, THUMB / Math.max(picture.width, picture.height));
  const sheet = new OffscreenCanvas(
    Math.max(1, Math.round(picture.width * by)),
    Math.max(1, Math.round(picture.height * by)),
  );
  const context = sheet.getContext('2d', { willReadFrequently: true })!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(picture, 0, 0, sheet.width, sheet.height);
  // On this thread, while somebody waits for the picture: JPEG takes half the time.
  return sheet.convertToBlob({ type: (opaque ? pictureFormats.jpeg : pictureFormats.webp).mime, quality: 0.8 });
}

/** Looks at a file by its content alone and decodes it once; what it decoded is kept where that goes `toCanvas` at once. */
export async function importPicture(
  blob: Blob,
  name: string,
  most: number,
  toCanvas: boolean,
): Promise<Result<ImportedPicture>> {
  const bytes = new Uint8Array(await blob.arrayBuffer());
  const facts = identify(bytes, name);
  if (!facts.ok) return facts;
  const { type, width, height } = facts.value;
  if (type === 'svg') return good({ type, width, height });
  // Both run beside this thread.
  const hashed = sha256(bytes);
  const reduced = await decodedReduced(bytes, type, facts.value, most);
  if (reduced) return good(await looked(reduced));
  const decoded = await decodedOrWhy(blob, type, name);
  if (!decoded.ok) return decoded;
  const bitmap = decoded.value;
  if (toCanvas) remember(await hashed, bitmap);
  const found = await looked(bitmap, bitmap);
  if (!toCanvas) bitmap.close();
  return good(found);

  /** What is found out of a picture, from a smaller copy as far as that tells it. */
  async function looked(copy: ImageBitmap, whole?: ImageBitmap): Promise<ImportedPicture> {
    const hash = await hashed;
    const opaque = !pictureFormats[type].alpha || opaqueAllOver(copy);
    const seen = copy === whole ? rough(copy, most) : copy;
    const small = glance(seen, { width, height });
    const { focus, subject } = proposedFocus(seen);
    const size = whole ? { width: whole.width, height: whole.height } : { width, height };
    const flat = opaque && hasFlatBorder(small);
    const thumb = await thumbOf(seen, opaque);
    // All of it is decoded when the copy goes on its way, beside this thread: there when the canvas has come to rest.
    if (toCanvas && !whole) decodeFrameBeside(hash, bytes);
    return {
      type,
      ...size,
      hash,
      opaque,
      silhouette: opaque ? null : silhouetteOf(small),
      flatBorder: flat && hasFewTones(sampled(whole ?? (await decodeBeside(hash, blob)))),
      focus,
      subject,
      thumb,
      rough: seen,
    };
  }
}
