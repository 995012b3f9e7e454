import { imageSize } from 'image-size';
import { bad, good, type Result } from '../problem';
import { isPictureEnding, pictureFormats, type PictureType } from './registry';
import { drawingLimits, drawingSize, drawingText, isSvg, mayBeXml, rootOf, xmlText, type Root } from './svg-source';

/** A picture's type and its size in px as it is meant to be seen (EXIF orientation applied). */
export interface PictureFacts {
  readonly type: PictureType;
  readonly width: number;
  readonly height: number;
}

/** Largest file and picture taken in. */
export const MOST_BYTES = 64 * 1024 * 1024;
export const MOST_PIXELS = 100e6;

const ascii = (b: Uint8Array, at: number, length: number) => String.fromCharCode(...b.subarray(at, at + length));
const u32 = (b: Uint8Array, at: number) => new DataView(b.buffer, b.byteOffset + at, 4).getUint32(0);
const u32le = (b: Uint8Array, at: number) => new DataView(b.buffer, b.byteOffset + at, 4).getUint32(0, true);

/** The picture type by content alone, never by name; null for anything else. */
export function typeOf(bytes: Uint8Array): PictureType | null {
  if (bytes.length >= 3 && bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff) return 'jpeg';
  if (bytes.length >= 8 && u32(bytes, 0) === 0x89504e47 && u32(bytes, 4) === 0x0d0a1a0a) return 'png';
  if (/^GIF8[79]a/.test(ascii(bytes, 0, 6))) return 'gif';
  if (ascii(bytes, 0, 4) === 'RIFF' && ascii(bytes, 8, 4) === 'WEBP') return 'webp';
  if (ascii(bytes, 4, 4) === 'ftyp' && /avi[fs]/.test(ascii(bytes, 8, 24))) return 'avif';
  if (ascii(bytes, 4, 4) === 'ftyp' && /hei[cxms]|hev[cx]|mif1/.test(ascii(bytes, 8, 24))) return 'heic';
  return drawingRoot(bytes) ? 'svg' : null;
}

/** The root element of what may be a drawing; null where it is none of SVG's. */
function drawingRoot(bytes: Uint8Array): Root | null {
  if (!mayBeXml(bytes)) return null;
  const root = rootOf(xmlText(bytes.subarray(0, drawingLimits.head)));
  return root?.tag.local === 'svg' && isSvg(root.tag) ? root : null;
}

/** Walks JPEG marker segments to the end-of-image marker. ITU-T T.81, annex B. */
function jpegEnds(b: Uint8Array): boolean {
  let i = 2;
  while (i + 1 < b.length) {
    // Entropy-coded data: no marker ends before the next 0xff.
    if (b[i] !== 0xff) {
      i = b.indexOf(0xff, i);
      if (i < 0) return false;
      continue;
    }
    const marker = b[i + 1]!;
    if (marker === 0xd9) return true;
    // Fill bytes, stuffed zeros and restart markers carry no length.
    if (marker === 0xff) i += 1;
    else if (marker === 0 || (marker >= 0xd0 && marker <= 0xd8) || marker === 1) i += 2;
    else if (i + 3 < b.length) i += 2 + ((b[i + 2]! << 8) | b[i + 3]!);
    else return false;
  }
  return false;
}

/** Walks PNG chunks to IEND. PNG (Third Edition), section 5.3. */
function pngEnds(b: Uint8Array): boolean {
  for (let i = 8; i + 12 <= b.length;) {
    const length = u32(b, i);
    if (ascii(b, i + 4, 4) === 'IEND') return true;
    i += 12 + length;
  }
  return false;
}

/** Boxes that hold boxes, as far as a picture's size is looked for in them; `meta` has four bytes of its own before. */
const HOLDERS = new Map([
  ['meta', 4],
  ['iprp', 0],
  ['ipco', 0],
]);

/**
 * Walks ISO base media boxes from `from` to `to`; each has to end there or before, none may be shorter than its own
 * head, and what holds others is walked too: nothing that goes by their lengths afterwards can go round in a ring.
 * ISO/IEC 14496-12, section 4.2.
 */
function boxesEnd(b: Uint8Array, from = 0, to = b.length, depth = 0): boolean {
  let i = from;
  while (i + 8 <= to) {
    const short = u32(b, i);
    // Only the last box of a file may say that it runs to its end.
    if (short === 0) return depth === 0;
    const large = short === 1;
    if (large && i + 16 > to) return false;
    const length = large ? u32(b, i + 8) * 2 ** 32 + u32(b, i + 12) : short;
    const head = large ? 16 : 8;
    if (length < head || i + length > to) return false;
    const own = HOLDERS.get(ascii(b, i + 4, 4));
    if (own !== undefined && depth < 4 && !boxesEnd(b, i + head + own, i + length, depth + 1)) return false;
    i += length;
  }
  return i === to;
}

/** Walks GIF blocks to the trailer. GIF89a specification, sections 18 to 27. */
function gifEnds(b: Uint8Array): boolean {
  const table = (flags: number) => (flags & 0x80 ? 3 * 2 ** ((flags & 7) + 1) : 0);
  if (b.length < 13) return false;
  let i = 13 + table(b[10]!);
  const subBlocks = () => {
    while (i < b.length && b[i] !== 0) i += b[i]! + 1;
    i++;
  };
  while (i < b.length) {
    const block = b[i];
    if (block === 0x3b) return true;
    if (block === 0x21) {
      i += 2;
      subBlocks();
    } else if (block === 0x2c && i + 9 < b.length) {
      i += 11 + table(b[i + 9]!);
      subBlocks();
    } else return false;
  }
  return false;
}

/** Whether a drawing's last tag closes its root. What stands between is for whoever reads it whole. */
function drawingEnds(b: Uint8Array): boolean {
  const root = drawingRoot(b);
  if (!root) return false;
  const text = xmlText(b);
  const last = text.lastIndexOf('</');
  const closing = last >= 0 && text.slice(last + 2, last + 2 + root.tag.name.length) === root.tag.name;
  return (closing && text.indexOf('>', last) > 0) || root.tag.isSelfClosing;
}

/** Whether a file's parts lie within each other to its end: what goes by their lengths afterwards comes to an end too. */
export function isWhole(type: PictureType, b: Uint8Array): boolean {
  switch (type) {
    case 'jpeg':
      return jpegEnds(b);
    case 'png':
      return pngEnds(b);
    case 'gif':
      return gifEnds(b);
    case 'webp':
      return b.length >= 12 && u32le(b, 4) + 8 <= b.length;
    case 'avif':
    case 'heic':
      return boxesEnd(b);
    case 'svg':
      return drawingEnds(b);
  }
}

/** A pixel picture's size as it is seen. Throws where none can be read. Its boxes and chunks have been walked before. */
function sizeOf(bytes: Uint8Array): { width: number; height: number } {
  const size = imageSize(bytes);
  const turned = (size.orientation ?? 1) >= 5;
  const [width, height] = turned ? [size.height, size.width] : [size.width, size.height];
  if (!(width > 0) || !(height > 0)) throw new Error('no size');
  return { width, height };
}

/** A pixel picture's type and size, for one that stands within another file; null for anything else. */
export function identifyPixels(bytes: Uint8Array): PictureFacts | null {
  const type = typeOf(bytes);
  if (!type || type === 'svg' || !isWhole(type, bytes)) return null;
  try {
    return { type, ...sizeOf(bytes) };
  } catch {
    return null;
  }
}

const endingOf = (name: string) => /\.([a-z0-9]{1,5})$/i.exec(name)?.[1]?.toLowerCase() ?? '';

/** The answer to a file beyond `MOST_BYTES`. */
export function tooHeavy(bytes: number, name: string) {
  return bad(
    'too-heavy',
    `${name ? `“${name}”` : 'This'} is ${Math.round(bytes / 1048576)} MB; pictures can be 64 MB at most. Nothing was changed.`,
  );
}

/** The answer to a file that is what it says but cannot be decoded. */
export function undecodable(type: PictureType, name: string) {
  return bad(
    'unreadable',
    `“${name}” is a ${pictureFormats[type].name} that cannot be decoded; it may be damaged. Nothing was changed.`,
  );
}

/**
 * Reads what a picture file is before anything decodes it.
 * Fails with `too-heavy`, `not-a-picture`, `cut-short`, `too-large`, `unreadable` or `svg-entities`.
 */
export function identify(bytes: Uint8Array, name: string): Result<PictureFacts> {
  const called = name ? `“${name}”` : 'This';
  if (bytes.length === 0)
    return bad('not-a-picture', `${called} is empty: the file holds no bytes. Nothing was changed.`);
  if (bytes.length > MOST_BYTES) return tooHeavy(bytes.length, name);
  const type = typeOf(bytes);
  if (type === 'svg') {
    const text = drawingText(bytes, called);
    if (!text.ok) return text;
  }
  if (!type) {
    const ending = endingOf(name);
    const known = isPictureEnding(ending);
    const start = mayBeXml(bytes) ? xmlText(bytes.subarray(0, 1024)).trimStart().slice(0, 60) : '';
    if (known && /^<(!doctype html|html|head|body)\b/i.test(start))
      return bad(
        'web-page',
        `${called} is a web page, whatever its name says. Open it in the browser and save the picture itself. Nothing was changed.`,
      );
    if (ending === 'svg' && mayBeXml(bytes))
      return bad('cut-short', `${called} breaks off before its drawing begins, or is damaged. Nothing was changed.`);
    return bad(
      'not-a-picture',
      known
        ? `${called} ends in .${ending}, but its content is no picture. Nothing was changed.`
        : `${called} is not a picture that can be used here. JPEG, PNG, WebP, AVIF, HEIC, GIF and SVG can. Nothing was changed.`,
    );
  }
  if (!isWhole(type, bytes))
    return bad(
      'cut-short',
      `${called} is a ${pictureFormats[type].name} that breaks off before its end. Fetch or copy it again. Nothing was changed.`,
    );
  try {
    if (type === 'svg') {
      const root = drawingRoot(bytes)!;
      if (root.entities)
        return bad(
          'svg-entities',
          `${called} is an SVG that defines entities of its own, which can hide harm. Save it as plain SVG and try again.`,
        );
      const { width, height } = drawingSize(root.tag);
      return good({ type, width, height });
    }
    const { width, height } = sizeOf(bytes);
    if (width * height > MOST_PIXELS)
      return bad(
        'too-large',
        `${called} is ${width} × ${height} px, ${Math.round((width * height) / 1e6)} million pixels; 100 million is the most. Save it smaller and try again.`,
      );
    return good({ type, width, height });
  } catch {
    return bad(
      'unreadable',
      `${called} looks like a ${pictureFormats[type].name}, but its size cannot be read; it may be damaged. Nothing was changed.`,
    );
  }
}
