import { identify } from '@bright-slot/core';
import { decodeBlob, decodedReduced, picture, stored } from './pictures';

/** A whole picture, at most `most` px on its longer side, quickly. */
export function rough(whole: ImageBitmap, most: number): ImageBitmap {
  const by = Math.min(1, most / Math.max(whole.width, whole.height));
  const canvas = new OffscreenCanvas(
    Math.max(1, Math.round(whole.width * by)),
    Math.max(1, Math.round(whole.height * by)),
  );
  const context = canvas.getContext('2d')!;
  // Better ones first halve the whole picture several times over, which takes as long as decoding it.
  context.imageSmoothingQuality = 'low';
  context.drawImage(whole, 0, 0, canvas.width, canvas.height);
  return canvas.transferToImageBitmap();
}

/** A file's picture of about `most` px on its longer side, or larger: of a large JPEG no more is decoded than that takes. */
export async function smallOf(blob: Blob, most: number): Promise<ImageBitmap> {
  return (await reducedOf(blob, most)) ?? decodeBlob(blob);
}

/** The same; null where it can only be decoded whole. */
export async function reducedOf(blob: Blob, most: number): Promise<ImageBitmap | null> {
  const bytes = new Uint8Array(await blob.arrayBuffer());
  const facts = identify(bytes, '');
  return facts.ok ? decodedReduced(bytes, facts.value.type, facts.value, most) : null;
}

/** A whole picture that is stored here, at most `most` px on its longer side, quickly. */
export async function roughOf(asset: string, most: number): Promise<ImageBitmap> {
  const reduced = await reducedOf(await stored(asset), most);
  if (!reduced) return rough(await picture(asset), most);
  if (Math.max(reduced.width, reduced.height) <= most) return reduced;
  const small = rough(reduced, most);
  reduced.close();
  return small;
}
