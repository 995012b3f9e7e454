import { database } from '../../storage/database';

/** Decoded pictures, most recently used last, within a budget of pixels. */
const decoded = new Map<string, Promise<ImageBitmap>>();
const BUDGET = 120e6;

/** A file's pixels. Orientation and colour profile are the browser's work; see docs/decisions.md. */
export function decodeBlob(blob: Blob): Promise<ImageBitmap> {
  return createImageBitmap(blob, { imageOrientation: 'from-image', colorSpaceConversion: 'default' });
}

async function decode(hash: string): Promise<ImageBitmap> {
  const asset = await database().assets.get(hash);
  if (!asset) throw new Error('The picture is no longer stored in this browser.');
  return decodeBlob(asset.blob);
}

/** Keeps a picture that was decoded just now, so that it need not be again. */
export function remember(hash: string, bitmap: ImageBitmap): void {
  decoded.set(hash, Promise.resolve(bitmap));
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
