import crc from 'crc-32';
import type { FileFormat } from '../slot/slot';
import { srgbProfile } from './icc';

/** What a file is to say about itself besides its pixels. */
export interface FileNotes {
  /** Copyright line; none is written when empty. */
  readonly copyright: string;
}

type Bytes = Uint8Array<ArrayBuffer>;

function joined(...parts: (Uint8Array | readonly number[])[]): Bytes {
  const all = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const p of parts) {
    all.set(p, at);
    at += p.length;
  }
  return all;
}

const ascii = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));
const be32 = (n: number) => [(n >>> 24) & 255, (n >>> 16) & 255, (n >>> 8) & 255, n & 255];
const le32 = (n: number) => be32(n).reverse();
const readLe32 = (b: Uint8Array, at: number) =>
  (b[at]! | (b[at + 1]! << 8) | (b[at + 2]! << 16) | (b[at + 3]! << 24)) >>> 0;

/** A TIFF block with the Copyright tag alone (33432). Exif 2.32 / CIPA DC-008, section 4.6.5; text as UTF-8. */
function copyrightBlock(copyright: string): Bytes {
  const text = joined(new TextEncoder().encode(copyright), [0]);
  const padded = text.length < 5 ? joined(text, new Array<number>(5 - text.length).fill(0)) : text;
  return joined(
    ascii('MM'),
    [0, 42, ...be32(8), 0, 1, 0x82, 0x98, 0, 2, ...be32(padded.length), ...be32(26), ...be32(0)],
    padded,
  );
}

/** Strips APPn and comment segments, then states sRGB and copyright. JPEG: ITU-T T.81, B.2.4; ICC.1 annex B.4. */
function noteJpeg(file: Uint8Array, notes: FileNotes): Bytes {
  const segment = (marker: number, body: Uint8Array) =>
    joined([0xff, marker, ((body.length + 2) >> 8) & 255, (body.length + 2) & 255], body);
  const kept: Uint8Array[] = [];
  let i = 2;
  while (file[i] === 0xff && file[i + 1] !== 0xda) {
    const marker = file[i + 1]!;
    const length = 2 + ((file[i + 2]! << 8) | file[i + 3]!);
    const own = (marker >= 0xe1 && marker <= 0xef) || marker === 0xfe;
    if (!own) kept.push(file.subarray(i, i + length));
    i += length;
  }
  const jfif = kept[0]?.[1] === 0xe0 ? kept.splice(0, 1) : [];
  const exif = notes.copyright ? [segment(0xe1, joined(ascii('Exif\0\0'), copyrightBlock(notes.copyright)))] : [];
  const icc = segment(0xe2, joined(ascii('ICC_PROFILE\0'), [1, 1], srgbProfile()));
  return joined([0xff, 0xd8], ...jfif, ...exif, icc, ...kept, file.subarray(i));
}

/** Keeps the chunks that carry the picture; adds sRGB and eXIf. PNG (Third Edition), sections 11.3.2.5 and 11.3.4.5. */
function notePng(file: Uint8Array, notes: FileNotes): Bytes {
  const chunk = (type: string, body: Uint8Array) => {
    const typed = joined(ascii(type), body);
    return joined(be32(body.length), typed, be32(crc.buf(typed)));
  };
  const picture = new Set(['IHDR', 'PLTE', 'tRNS', 'IDAT', 'IEND']);
  const parts: Uint8Array[] = [file.subarray(0, 8)];
  for (let i = 8; i + 12 <= file.length;) {
    const length = ((file[i]! << 24) | (file[i + 1]! << 16) | (file[i + 2]! << 8) | file[i + 3]!) >>> 0;
    const type = String.fromCharCode(...file.subarray(i + 4, i + 8));
    if (picture.has(type)) parts.push(file.subarray(i, i + 12 + length));
    if (type === 'IHDR') {
      parts.push(chunk('sRGB', Uint8Array.of(0)));
      if (notes.copyright) parts.push(chunk('eXIf', copyrightBlock(notes.copyright)));
    }
    i += 12 + length;
  }
  return joined(...parts);
}

/** Rewrites a WebP in the extended layout with ICCP and EXIF. RFC 9649, section 2.7. */
function noteWebp(file: Uint8Array, notes: FileNotes): Bytes {
  const chunk = (type: string, body: Uint8Array) =>
    joined(ascii(type), le32(body.length), body, body.length % 2 ? [0] : []);
  const picture: Uint8Array[] = [];
  let alpha = false;
  let size = { width: 1, height: 1 };
  for (let i = 12; i + 8 <= file.length;) {
    const type = String.fromCharCode(...file.subarray(i, i + 4));
    const length = readLe32(file, i + 4);
    const body = file.subarray(i + 8, i + 8 + length);
    if (type === 'VP8 ')
      size = { width: (body[6]! | (body[7]! << 8)) & 0x3fff, height: (body[8]! | (body[9]! << 8)) & 0x3fff };
    if (type === 'VP8L') {
      const bits = readLe32(body, 1);
      size = { width: (bits & 0x3fff) + 1, height: ((bits >>> 14) & 0x3fff) + 1 };
      alpha ||= ((bits >>> 28) & 1) === 1;
    }
    if (type === 'ALPH') alpha = true;
    if (['VP8 ', 'VP8L', 'ALPH'].includes(type)) picture.push(chunk(type, body));
    i += 8 + length + (length % 2);
  }
  const exif = notes.copyright ? [chunk('EXIF', copyrightBlock(notes.copyright))] : [];
  const le24 = (n: number) => le32(n).slice(0, 3);
  const flags = 0x20 | (alpha ? 0x10 : 0) | (exif.length ? 0x08 : 0);
  const head = chunk('VP8X', Uint8Array.from([flags, 0, 0, 0, ...le24(size.width - 1), ...le24(size.height - 1)]));
  const body = joined(ascii('WEBP'), head, chunk('ICCP', srgbProfile()), ...picture, ...exif);
  return joined(ascii('RIFF'), le32(body.length), body);
}

/**
 * A file with all foreign metadata taken out, sRGB stated, and the copyright line
 * when there is one. `file` has to be whole and of the format named.
 */
export function withNotes(file: Uint8Array, format: FileFormat, notes: FileNotes): Bytes {
  if (format === 'jpeg') return noteJpeg(file, notes);
  return format === 'png' ? notePng(file, notes) : noteWebp(file, notes);
}
