import {
  MOST_PIXELS,
  bad,
  cutByMask,
  cutFlat,
  pictureFormats,
  good,
  typeOf,
  undecodable,
  type Cutout,
  type Mask,
  type Orient,
  type PictureType,
  type Pixels,
  type Result,
} from '@bright-slot/core';
import { database } from '../../storage/database';
import { BitmapCache } from '../bitmap-cache';
import { MadeOnce } from '../made-once';
import { retire } from './retired';

/** Decoded pictures. */
const decoded = new MadeOnce(new BitmapCache(72e6, retire));

/** How many files were decoded so far: exporting what is on the canvas adds none. */
let decodes = 0;
export const decodeCount = (): number => decodes;
export const countDecode = (): void => void decodes++;

/** The code that reads a kind of picture could not be fetched: nothing is wrong with the picture. */
export class CodeMissing extends Error {
  constructor() {
    super(
      'The part of Bright Slot that reads HEIC pictures could not be fetched. Check that Bright Slot is running, then try again.',
    );
  }
}

/** A file's pixels. Orientation and colour profile are the browser's work; see docs/decisions.md. HEIC is a library's. */
export async function decodeBlob(blob: Blob): Promise<ImageBitmap> {
  decodes++;
  const start = new Uint8Array(await blob.slice(0, 4096).arrayBuffer());
  if (typeOf(start) === 'heic') {
    const { decodeHeic } = await import('./heic').catch(() => {
      throw new CodeMissing();
    });
    return createImageBitmap(await decodeHeic(new Uint8Array(await blob.arrayBuffer())));
  }
  return createImageBitmap(blob, { imageOrientation: 'from-image', colorSpaceConversion: 'default' });
}

/** A picture of fewer px is decoded whole at once. */
export const LEAST_REDUCED = 3e6;

/**
 * A large JPEG at about `most` px on its longer side, upright and in sRGB, by decoding fewer of its coefficients (ITU-T
 * T.81 leaves them apart; WebCodecs, ImageDecoder, `desiredWidth`): in a quarter of the time. Null where that cannot be
 * had, or fails: decoding it whole tells why.
 */
export async function decodedReduced(
  bytes: Uint8Array<ArrayBuffer>,
  type: PictureType,
  { width, height }: { readonly width: number; readonly height: number },
  most: number,
): Promise<ImageBitmap | null> {
  const by = most / Math.max(width, height);
  if (type !== 'jpeg' || width * height < LEAST_REDUCED || by > 0.6 || typeof ImageDecoder === 'undefined') return null;
  const desired = { desiredWidth: Math.round(width * by), desiredHeight: Math.round(height * by) };
  const decoder = new ImageDecoder({ data: bytes, type: pictureFormats.jpeg.mime, ...desired });
  try {
    const { image } = await decoder.decode();
    const bitmap = await createImageBitmap(image);
    image.close();
    if (Math.abs(bitmap.width / bitmap.height - width / height) < 0.02 * (width / height)) return bitmap;
    bitmap.close();
  } catch {
    // It is told when the whole is decoded.
  } finally {
    decoder.close();
  }
  return null;
}

/** Has a picture decoded whole beside other work, for whoever asks for it next. */
export function decodeBeside(hash: string, blob: Blob): Promise<ImageBitmap> {
  return decoded.of(hash, () => decodeBlob(blob));
}

/** A picture that was brought in, decoded; or why it cannot be: what is missing is ours as often as the file's. */
export async function decodedOrWhy(blob: Blob, type: PictureType, name: string): Promise<Result<ImageBitmap>> {
  try {
    const bitmap = await decodeBlob(blob);
    if (bitmap.width * bitmap.height <= MOST_PIXELS) return good(bitmap);
    const size = `${bitmap.width} × ${bitmap.height} px`;
    bitmap.close();
    return bad(
      'too-large',
      `“${name}” is ${size}, more than its file says and than can be worked with. Save it smaller and try again.`,
    );
  } catch (error) {
    return error instanceof CodeMissing ? bad('unreachable', error.message) : undecodable(type, name);
  }
}

/** Lets go of all pictures that were decoded. */
export const forgetPictures = (): void => decoded.made.clear();

export async function stored(hash: string): Promise<Blob> {
  const asset = await database().assets.get(hash);
  if (!asset) throw new Error('The picture is no longer stored in this browser.');
  return asset.blob;
}

/** Keeps a picture that was decoded just now, so that it need not be again. */
export function remember(hash: string, bitmap: ImageBitmap): void {
  decoded.made.set(hash, bitmap);
}

/** A whole picture, upright and in sRGB, with what is cut out of it gone. */
export async function picture(hash: string, cutout: Cutout | null = null): Promise<ImageBitmap> {
  if (cutout) return decoded.of(`${hash}|${JSON.stringify(cutout)}`, () => cut(hash, cutout));
  return decoded.of(hash, async () => decodeBlob(await stored(hash)));
}

async function cut(hash: string, cutout: Cutout): Promise<ImageBitmap> {
  const source = pixelsOf(await picture(hash));
  const done =
    cutout.kind === 'flat' ? cutFlat(source, cutout) : cutByMask(source, await maskOf(cutout.mask), cutout.soft);
  return createImageBitmap(imageData(done));
}

async function maskOf(hash: string): Promise<Mask> {
  const { width, height, data } = pixelsOf(await picture(hash));
  return { width, height, data: Uint8Array.from({ length: width * height }, (_, i) => data[i * 4]!) };
}

export const imageData = (pixels: Pixels): ImageData =>
  new ImageData(pixels.data as Uint8ClampedArray<ArrayBuffer>, pixels.width, pixels.height);

/** All of a bitmap's pixels. */
export function pixelsOf(bitmap: ImageBitmap): Pixels {
  return partOf(bitmap, { x: 0, y: 0, width: bitmap.width, height: bitmap.height });
}

/** Px that are read at once: a canvas as large as a photo of 24 megapixels lies about until the browser tidies up. */
const BAND = 0.25e6;
let band: OffscreenCanvasRenderingContext2D | undefined;

/** The sheet that parts of pictures are read from, empty or not. */
function bandOf(width: number, height: number): OffscreenCanvasRenderingContext2D {
  if (band?.canvas.width === width && band.canvas.height === height) return band;
  band = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  band.imageSmoothingEnabled = false;
  return band;
}

/** Some of a bitmap's pixels, after it was mirrored and turned by quarters; the part in px of the turned picture, laid in `room` where that has enough. */
export function partOf(
  bitmap: ImageBitmap,
  part: { x: number; y: number; width: number; height: number },
  orient: Orient = { across: false, down: false, quarters: 0 },
  room?: Uint32Array<ArrayBuffer>,
): Pixels {
  const { width: w, height: h } = part;
  const data =
    room && room.length >= w * h ? new Uint8ClampedArray(room.buffer, 0, w * h * 4) : new Uint8ClampedArray(w * h * 4);
  const rows = Math.max(1, Math.min(h, Math.floor(BAND / w)));
  const context = bandOf(w, rows);
  const { width, height } = bitmap;
  for (let y = 0; y < h; y += rows) {
    context.setTransform(1, 0, 0, 1, -part.x, -part.y - y);
    if (orient.quarters === 1) context.transform(0, 1, -1, 0, height, 0);
    else if (orient.quarters === 2) context.transform(-1, 0, 0, -1, width, height);
    else if (orient.quarters === 3) context.transform(0, -1, 1, 0, 0, width);
    if (orient.across) context.transform(-1, 0, 0, 1, width, 0);
    if (orient.down) context.transform(1, 0, 0, -1, 0, height);
    // What lies there already is replaced, not laid over.
    context.globalCompositeOperation = 'copy';
    context.drawImage(bitmap, 0, 0);
    const read = context.getImageData(0, 0, w, Math.min(rows, h - y));
    data.set(read.data, y * w * 4);
  }
  return { width: w, height: h, data };
}
