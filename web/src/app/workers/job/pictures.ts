import { database } from '../../storage/database';

/** Decoded pictures, most recently used last, within a budget of pixels. */
const decoded = new Map<string, Promise<ImageBitmap>>();
const BUDGET = 120e6;

async function decode(hash: string): Promise<ImageBitmap> {
  const asset = await database().assets.get(hash);
  if (!asset) throw new Error('The picture is no longer stored in this browser.');
  // Orientation and colour profile are the browser's work; see docs/decisions.md.
  return createImageBitmap(asset.blob, { imageOrientation: 'from-image', colorSpaceConversion: 'default' });
}

/** A whole picture, upright and in sRGB. */
export async function picture(hash: string): Promise<ImageBitmap> {
  const known = decoded.get(hash);
  decoded.delete(hash);
  const wanted = known ?? decode(hash);
  decoded.set(hash, wanted);
  wanted.catch(() => decoded.delete(hash));
  const bitmap = await wanted;
  let sum = 0;
  for (const [other, promise] of [...decoded].reverse()) {
    const b = await promise.catch(() => null);
    sum += b ? b.width * b.height : 0;
    if (sum > BUDGET && other !== hash) decoded.delete(other);
  }
  return bitmap;
}
