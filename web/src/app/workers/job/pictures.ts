import { database } from '../../storage/database';
import { BitmapCache } from '../bitmap-cache';

/** Decoded pictures, and those that are being decoded, so that none is decoded twice at once. */
const decoded = new BitmapCache(120e6);
const underWay = new Map<string, Promise<ImageBitmap>>();

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
  decoded.set(hash, bitmap);
}

/** A whole picture, upright and in sRGB. */
export async function picture(hash: string): Promise<ImageBitmap> {
  const known = decoded.get(hash);
  if (known) return known;
  const going = underWay.get(hash) ?? decode(hash).finally(() => underWay.delete(hash));
  underWay.set(hash, going);
  const bitmap = await going;
  decoded.set(hash, bitmap);
  return bitmap;
}
