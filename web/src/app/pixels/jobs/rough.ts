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
