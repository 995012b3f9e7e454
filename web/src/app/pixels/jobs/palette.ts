import { paletteOf } from '@bright-slot/core/pixels/palette';
import { smallOf } from './rough';

const SIDE = 96;

/** The colours that pictures are made of, each picture as much as another; a file that cannot be decoded adds none. */
export async function paletteFrom(pictures: readonly (Blob | ImageBitmap)[]): Promise<string[]> {
  const context = new OffscreenCanvas(SIDE, SIDE * Math.max(1, pictures.length)).getContext('2d', {
    willReadFrequently: true,
  })!;
  let drawn = 0;
  for (const picture of pictures)
    try {
      const bitmap = picture instanceof ImageBitmap ? picture : await smallOf(picture, 8 * SIDE);
      context.drawImage(bitmap, 0, drawn * SIDE, SIDE, SIDE);
      bitmap.close();
      drawn++;
    } catch {
      // What cannot be decoded has no colours to give.
    }
  if (!drawn) return [];
  return paletteOf(context.getImageData(0, 0, SIDE, SIDE * drawn)).map((c) => c.colour);
}
