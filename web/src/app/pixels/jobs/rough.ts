import { identify } from '@bright-slot/core';
import { decodedReduced, picture, stored } from './pictures';

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

/** The same of a picture that is stored here: of a large JPEG no more is decoded than that takes. */
export async function roughOf(asset: string, most: number): Promise<ImageBitmap> {
  const bytes = new Uint8Array(await (await stored(asset)).arrayBuffer());
  const facts = identify(bytes, '');
  const reduced = facts.ok ? await decodedReduced(bytes, facts.value.type, facts.value, most) : null;
  if (!reduced) return rough(await picture(asset), most);
  if (Math.max(reduced.width, reduced.height) <= most) return reduced;
  const small = rough(reduced, most);
  reduced.close();
  return small;
}
