import {
  evenly,
  layStored,
  liesAsStored,
  lieOf,
  pictureFormats,
  storedPart,
  typeOf,
  type Box,
  type Orient,
  type Pixels,
} from '@bright-slot/core';
import { BitmapCache, type Closable } from '../bitmap-cache';
import { MadeOnce } from '../made-once';
import { LEAST_REDUCED, countDecode, partOf, picture, stored } from './pictures';
import { retire } from './retired';

/** What newer browsers say of a frame besides (WebCodecs, VideoFrame, `rotation` and `flip`). */
type Turned = VideoFrame & { readonly rotation?: number; readonly flip?: boolean };

/**
 * A large JPEG as its file stores it: brightness of each px, colours mostly of 2 × 2 (ITU-T T.871, section 7). Decoded in
 * half the time of a bitmap and held in a third of its room; colours of single px are worked out for the part that is read.
 */
class StoredFrame implements Closable {
  readonly width: number;
  readonly height: number;

  constructor(private readonly frame: Turned) {
    this.width = frame.displayWidth;
    this.height = frame.displayHeight;
  }

  close(): void {
    this.frame.close();
  }

  /** Part of the upright picture, after it was mirrored and turned by quarters; in `room`, where that has enough. */
  async part(part: Box, orient: Orient, room?: Uint32Array<ArrayBuffer>): Promise<Pixels> {
    const { codedWidth, codedHeight, rotation = 0, flip = false } = this.frame;
    const size = { width: codedWidth, height: codedHeight };
    const lie = lieOf(size, { quarters: rotation / 90, mirrored: flip }, orient);
    const into = roomOf(part.width * part.height, room);
    const data = new Uint8ClampedArray(into.buffer, into.byteOffset, into.byteLength);
    const own = storedPart(lie, part);
    const { x, y, width, height } = evenly(own);
    const bottom = y + height;
    if (liesAsStored(lie) && width === own.width && height === own.height) {
      await this.frame.copyTo(data, { rect: own, format: 'RGBA' });
      return { width, height, data };
    }
    const rows = Math.min(bottom - y, Math.max(2, Math.floor(BAND / width) & ~1));
    const spare = bands.pop();
    const band = roomOf(width * rows, spare);
    for (let at = y; at < bottom; at += rows) {
      const held = { x, y: at, width, height: Math.min(rows, bottom - at) };
      await this.frame.copyTo(band, { rect: held, format: 'RGBA' });
      layStored(band, held, lie, part, into);
    }
    bands.push(band.length < (spare?.length ?? 0) ? spare! : band);
    return { width: part.width, height: part.height, data };
  }
}

/** Px that are read at once, where they have to be turned. */
const BAND = 0.25e6;
/** Room for them that nobody uses: what is made anew each time lies about until the browser tidies up. */
const bands: Uint32Array<ArrayBuffer>[] = [];

/** So many px of a room, or of a new one where that has not enough. */
const roomOf = (px: number, room?: Uint32Array<ArrayBuffer>): Uint32Array<ArrayBuffer> =>
  room && room.length >= px ? room.subarray(0, px) : new Uint32Array(px);

/** That a picture cannot be had as it is stored. */
class NotStored extends Error {}

const frames = new MadeOnce(new BitmapCache<StoredFrame>(72e6, retire));
/** Pictures that cannot be had so: they are decoded whole. */
const never = new Set<string>();

/** Lets go of all frames. */
export const forgetFrames = (): void => frames.made.clear();

async function decodeFrame(data: Uint8Array<ArrayBuffer>): Promise<StoredFrame> {
  if (typeof ImageDecoder === 'undefined' || typeOf(data.subarray(0, 4096)) !== 'jpeg') throw new NotStored();
  const decoder = new ImageDecoder({ data, type: pictureFormats.jpeg.mime });
  try {
    countDecode();
    const frame = (await decoder.decode()).image as Turned;
    const { primaries, transfer } = frame.colorSpace;
    const even = frame.codedWidth % 2 === 0 && frame.codedHeight % 2 === 0;
    // Other colours are converted where it is decoded whole.
    const plain = primaries === 'bt709' && transfer === 'iec61966-2-1' && frame.format !== null;
    const large = frame.codedWidth * frame.codedHeight >= LEAST_REDUCED;
    if (plain && even && large && frame.rotation !== undefined && frame.rotation % 90 === 0) {
      // A browser's first reading of a frame takes a while, whatever is read.
      await frame.copyTo(new Uint8Array(16), { rect: { x: 0, y: 0, width: 2, height: 2 }, format: 'RGBA' });
      return new StoredFrame(frame);
    }
    frame.close();
  } catch {
    // It is told where it is decoded whole.
  } finally {
    decoder.close();
  }
  throw new NotStored();
}

async function frameOf(hash: string, decode: () => Promise<StoredFrame>): Promise<StoredFrame | null> {
  if (never.has(hash)) return null;
  return frames.of(hash, decode).catch((error: unknown) => {
    if (!(error instanceof NotStored)) throw error;
    never.add(hash);
    return null;
  });
}

/** Has a picture that was just brought in decoded beside other work. */
export function decodeFrameBeside(hash: string, bytes: Uint8Array<ArrayBuffer>): void {
  frameOf(hash, () => decodeFrame(bytes)).catch(() => undefined);
}

/** A picture whose parts can be read: upright, then mirrored and turned by quarters; parts in px of what that gives. */
export interface Readable {
  readonly width: number;
  readonly height: number;
  /** `room`, px: what is read may lie there, and is gone when it is used again. */
  part(part: Box, orient?: Orient, room?: Uint32Array<ArrayBuffer>): Promise<Pixels>;
}

const asItIs: Orient = { across: false, down: false, quarters: 0 };

/** A bitmap to be read. */
export const wholeOf = (whole: ImageBitmap): Readable => ({
  width: whole.width,
  height: whole.height,
  part: (p, orient, room) => Promise.resolve(partOf(whole, p, orient, room)),
});

/**
 * A picture to be read where colours of single px are of no account: shrunk to half its size or less, or looked at for its
 * brightness. How colours that were stored for 2 × 2 px are spread over them is for each reader to say.
 */
export async function readable(hash: string): Promise<Readable> {
  const frame = await frameOf(hash, async () => decodeFrame(new Uint8Array(await (await stored(hash)).arrayBuffer())));
  if (frame)
    return {
      width: frame.width,
      height: frame.height,
      part: (p, orient = asItIs, room) => frame.part(p, orient, room),
    };
  return wholeOf(await picture(hash));
}
