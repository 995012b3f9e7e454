import { differenceOf, good, identify, type Difference, type Pixels, type Result } from '@bright-slot/core';
import { decodedOrWhy } from './pictures';

/** Longest side at which two pictures are compared, px. */
const MOST = 2400;

async function pixelsOf(blob: Blob): Promise<Result<{ pixels: Pixels; width: number; height: number }>> {
  const facts = identify(new Uint8Array(await blob.arrayBuffer()), 'The picture');
  if (!facts.ok) return facts;
  const decoded = await decodedOrWhy(blob, facts.value.type, 'The picture');
  if (!decoded.ok) return decoded;
  const bitmap = decoded.value;
  const { width, height } = bitmap;
  const down = Math.min(1, MOST / Math.max(width, height));
  const [w, h] = [Math.max(1, Math.round(width * down)), Math.max(1, Math.round(height * down))];
  const context = new OffscreenCanvas(w, h).getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0, w, h);
  bitmap.close();
  return good({ pixels: context.getImageData(0, 0, w, h), width, height });
}

export interface Compared {
  readonly size: { readonly width: number; readonly height: number };
  readonly difference: Difference;
}

/** How a picture that a visitor is shown differs from the one that was sent; null where it is no picture. */
export async function compareLive(sent: Blob, live: Blob): Promise<Compared | null> {
  const [a, b] = [await pixelsOf(sent), await pixelsOf(live)];
  if (!a.ok || !b.ok) return null;
  const { width, height } = b.value;
  return { size: { width, height }, difference: differenceOf(a.value.pixels, b.value.pixels) };
}
