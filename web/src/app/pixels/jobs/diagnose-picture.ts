import {
  pictureFormats,
  emptyMargins,
  good,
  identify,
  isOpaque,
  type CurrentPicture,
  type Margins,
  type Result,
} from '@bright-slot/core';
import { pictureDetails } from '@bright-slot/core/formats/picture-details';
import { decodedOrWhy } from './pictures';

/** Beyond this many pixels margins are not looked for: all of them have to be held at once. */
const MOST_FOR_MARGINS = 40e6;

/** Looks at a picture that is in use now: what its file says, and how much of it is empty. */
export async function diagnosePicture(blob: Blob, name: string): Promise<Result<CurrentPicture>> {
  const bytes = new Uint8Array(await blob.arrayBuffer());
  const facts = identify(bytes, name);
  if (!facts.ok) return facts;
  const { type, width, height } = facts.value;
  const details = await pictureDetails(bytes, type);
  const known = { type, width, height, bytes: bytes.length, ...details };
  if (type === 'svg') return good({ ...known, opaque: false, margins: null });
  const decoded = await decodedOrWhy(blob, type, name);
  if (!decoded.ok) return decoded;
  const bitmap = decoded.value;
  let margins: Margins | null = null;
  let opaque = !pictureFormats[type].alpha;
  if (width * height <= MOST_FOR_MARGINS) {
    const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d', { willReadFrequently: true })!;
    context.drawImage(bitmap, 0, 0);
    const pixels = context.getImageData(0, 0, bitmap.width, bitmap.height);
    margins = emptyMargins(pixels.data, pixels.width, pixels.height);
    opaque ||= isOpaque(pixels);
  }
  bitmap.close();
  return good({ ...known, opaque, margins });
}
