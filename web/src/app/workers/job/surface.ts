import { reduce, sourceNeeded, type SurfaceNeed } from '@bright-slot/core';
import { picture } from './pictures';

/** The pixels a surface needs, straight from the original; null when stopped. */
export async function makeSurface(need: SurfaceNeed, stopped: () => boolean): Promise<ImageData | null> {
  const source = await picture(need.asset);
  const part = sourceNeeded(need.natural, need);
  if (!part) return new ImageData(need.out.width, need.out.height);
  if (stopped()) return null;
  const canvas = new OffscreenCanvas(part.width, part.height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(source, -part.x, -part.y);
  const { data } = context.getImageData(0, 0, part.width, part.height);
  // Let a cancel message in before the long sum.
  await new Promise((done) => setTimeout(done));
  const pixels = reduce(
    { width: part.width, height: part.height, data },
    part,
    need.natural,
    need,
    need.opaque,
    stopped,
  );
  return pixels && new ImageData(pixels.data as Uint8ClampedArray<ArrayBuffer>, pixels.width, pixels.height);
}
