import { comparable, fileDifference, type Comparable, type FileDifference } from '@bright-slot/core';

/** What a picture shows on an opaque ground. */
function onGround(picture: OffscreenCanvas | ImageBitmap, ground: string): Comparable {
  const { width, height } = picture;
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  context.fillStyle = ground;
  context.fillRect(0, 0, width, height);
  context.drawImage(picture, 0, 0);
  return comparable(context.getImageData(0, 0, width, height));
}

/** What a canvas was made ready as: many files are held against it. */
const ready = new WeakMap<OffscreenCanvas, { readonly ground: string; readonly of: Comparable }>();

/** How a file that was read back differs from the canvas it was made from, both on the page’s ground. */
export function differenceFrom(canvas: OffscreenCanvas, ground: string, file: ImageBitmap): FileDifference {
  let known = ready.get(canvas);
  if (known?.ground !== ground) ready.set(canvas, (known = { ground, of: onGround(canvas, ground) }));
  return fileDifference(known.of, onGround(file, ground));
}
