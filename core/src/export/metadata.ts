import '../zod-setup';
import crc from 'crc-32';
import escapeHtml from 'escape-html';
import * as z from 'zod';
import { limits } from '../limits';
import type { FileFormat } from '../slot/slot';
import { noteAvif } from './avif';
import { ascii, be16, be32, joined, le32, readLe32, type Bytes } from './bytes';
import { srgbProfile } from './icc';

/** What a file is to say about itself besides its pixels; what is empty is not written. */
export const FileNotes = z.object({
  copyright: z.string().max(200),
  /** Who made it. */
  creator: z.string().max(200),
  /** Who is to be named where it is shown. */
  credit: z.string().max(200),
  /** What it shows, for people who cannot see it. */
  alt: z.string().max(limits.description),
  /** Px an inch, for programs that print; null says nothing. */
  ppi: z.number().int().min(1).max(9600).nullable(),
});
export type FileNotes = z.infer<typeof FileNotes>;

/** What a file of a frame is to say: the house's lines, and what the frame's own choices say. */
export function notesFor(
  { copyright, creator, credit }: { readonly copyright: string; readonly creator: string; readonly credit: string },
  { alt, ppi = null }: { readonly alt: string; readonly ppi?: number | null | undefined },
): FileNotes {
  return { copyright, creator, credit, alt: alt.trim(), ppi };
}

export const noNotes: FileNotes = { copyright: '', creator: '', credit: '', alt: '', ppi: null };

/**
 * A TIFF block with resolution (282, 283, 296), artist (315) and copyright (33432), as far as there is something to say;
 * null where there is nothing. Exif 2.32 / CIPA DC-008, sections 4.6.2 and 4.6.5; text as UTF-8.
 */
function exifBlock({ copyright, creator, ppi }: FileNotes): Bytes | null {
  const text = (said: string) => joined(new TextEncoder().encode(said), [0]);
  const [ASCII, SHORT, RATIONAL] = [2, 3, 5];
  const entries: { tag: number; type: number; count: number; value: Uint8Array | number[] }[] = [];
  const add = (tag: number, type: number, count: number, value: Uint8Array | number[]) =>
    entries.push({ tag, type, count, value });
  if (ppi !== null) {
    for (const tag of [282, 283]) add(tag, RATIONAL, 1, [...be32(ppi), ...be32(1)]);
    add(296, SHORT, 1, [...be16(2), 0, 0]);
  }
  for (const [tag, said] of [
    [315, creator],
    [33432, copyright],
  ] as const)
    if (said) add(tag, ASCII, text(said).length, text(said));
  if (!entries.length) return null;
  const rest: (Uint8Array | number[])[] = [];
  let at = 8 + 2 + 12 * entries.length + 4;
  const table = entries.flatMap(({ tag, type, count, value }) => {
    const head = [...be16(tag), ...be16(type), ...be32(count)];
    // Up to four bytes stand in the table itself.
    if (value.length <= 4) return [...head, ...value, ...new Array<number>(4 - value.length).fill(0)];
    rest.push(value, value.length % 2 ? [0] : []);
    const entry = [...head, ...be32(at)];
    at += value.length + (value.length % 2);
    return entry;
  });
  return joined(ascii('MM'), [0, 42, ...be32(8), ...be16(entries.length)], table, be32(0), ...rest);
}

/**
 * XMP (ISO 16684-1, section 7) with the IPTC Photo Metadata Standard’s creator, copyright notice and alternative text
 * (2023.1, sections 6.2 and 6.5), and whom to name as `cc:attributionName` (ccREL, W3C Member Submission 2008, section 4);
 * empty where there is nothing to say.
 */
function xmpRdf({ copyright, creator, credit, alt }: FileNotes): string {
  if (!copyright && !creator && !credit && !alt) return '';
  const alternatives = (name: string, said: string) =>
    said ? `<${name}><rdf:Alt><rdf:li xml:lang="x-default">${escapeHtml(said)}</rdf:li></rdf:Alt></${name}>` : '';
  const by = creator ? `<dc:creator><rdf:Seq><rdf:li>${escapeHtml(creator)}</rdf:li></rdf:Seq></dc:creator>` : '';
  return (
    '<rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about=""' +
    ' xmlns:dc="http://purl.org/dc/elements/1.1/"' +
    ' xmlns:Iptc4xmpCore="http://iptc.org/std/Iptc4xmpCore/1.0/xmlns/"' +
    (credit ? ' xmlns:cc="http://creativecommons.org/ns#">' : '>') +
    by +
    (credit ? `<cc:attributionName>${escapeHtml(credit)}</cc:attributionName>` : '') +
    alternatives('dc:rights', copyright) +
    alternatives('Iptc4xmpCore:AltTextAccessibility', alt) +
    '</rdf:Description></rdf:RDF>'
  );
}

/** The same as a packet: section 7.3. Null where there is nothing to say. */
function xmpPacket(notes: FileNotes): Bytes | null {
  const rdf = xmpRdf(notes);
  if (!rdf) return null;
  return new TextEncoder().encode(`<?xpacket begin="\uFEFF" id="W5M0MpCehiHzreSzNTczkc9d"?>${rdf}<?xpacket end="r"?>`);
}

/** Strips APPn and comment segments, then states sRGB and the notes. JPEG: ITU-T T.81, B.2.4; T.871, 10.1; ICC.1 annex B.4; ISO 16684-3, 6.2. */
function noteJpeg(file: Uint8Array, notes: FileNotes): Bytes {
  const segment = (marker: number, body: Uint8Array) =>
    joined([0xff, marker, ((body.length + 2) >> 8) & 255, (body.length + 2) & 255], body);
  const kept: Uint8Array[] = [];
  let i = 2;
  while (file[i] === 0xff && file[i + 1] !== 0xda) {
    const marker = file[i + 1]!;
    const length = 2 + ((file[i + 2]! << 8) | file[i + 3]!);
    const said = (marker >= 0xe0 && marker <= 0xef) || marker === 0xfe;
    if (!said) kept.push(file.subarray(i, i + length));
    i += length;
  }
  // Version 1.01, units and density, no miniature: T.871, 10.1.
  const density = notes.ppi === null ? [0, 0, 1, 0, 1] : [1, ...be16(notes.ppi), ...be16(notes.ppi)];
  const jfif = segment(0xe0, joined(ascii('JFIF\0'), [1, 1], density, [0, 0]));
  const [block, packet] = [exifBlock(notes), xmpPacket(notes)];
  const exif = block ? [segment(0xe1, joined(ascii('Exif\0\0'), block))] : [];
  const xmp = packet ? [segment(0xe1, joined(ascii('http://ns.adobe.com/xap/1.0/\0'), packet))] : [];
  const icc = segment(0xe2, joined(ascii('ICC_PROFILE\0'), [1, 1], srgbProfile()));
  return joined([0xff, 0xd8], jfif, ...exif, ...xmp, icc, ...kept, file.subarray(i));
}

/** Keeps the chunks that carry the picture; adds sRGB, pHYs, eXIf and iTXt. PNG (Third Edition), sections 11.3.2.5, 11.3.4.3 and 11.3.4.5; XMP as ISO 16684-3, 6.4. */
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
      // Px a metre: PNG (Third Edition), section 11.3.4.3.
      const perMetre = notes.ppi === null ? null : Math.round(notes.ppi / 0.0254);
      if (perMetre) parts.push(chunk('pHYs', Uint8Array.of(...be32(perMetre), ...be32(perMetre), 1)));
      const [block, packet] = [exifBlock(notes), xmpPacket(notes)];
      if (block) parts.push(chunk('eXIf', block));
      if (packet) parts.push(chunk('iTXt', joined(ascii('XML:com.adobe.xmp'), [0, 0, 0, 0, 0], packet)));
    }
    i += 12 + length;
  }
  return joined(...parts);
}

/** Rewrites a WebP in the extended layout with ICCP, EXIF and XMP. RFC 9649, section 2.7. */
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
  const [block, packet] = [exifBlock(notes), xmpPacket(notes)];
  const exif = block ? [chunk('EXIF', block)] : [];
  const xmp = packet ? [chunk('XMP ', packet)] : [];
  const le24 = (n: number) => le32(n).slice(0, 3);
  const flags = 0x20 | (alpha ? 0x10 : 0) | (exif.length ? 0x08 : 0) | (xmp.length ? 0x04 : 0);
  const head = chunk('VP8X', Uint8Array.from([flags, 0, 0, 0, ...le24(size.width - 1), ...le24(size.height - 1)]));
  const body = joined(ascii('WEBP'), head, chunk('ICCP', srgbProfile()), ...picture, ...exif, ...xmp);
  return joined(ascii('RIFF'), le32(body.length), body);
}

/**
 * Puts the alternative text into an SVG as it is drawn here, as its `desc` (SVG 1.1, section 5.4), and the XMP's RDF as its
 * `metadata` (section 21.2), after its title. Its colours are sRGB in any case (section 4.2), and it has no pixels that an
 * inch could hold.
 */
function noteSvg(file: Uint8Array, notes: FileNotes): Bytes {
  const text = new TextDecoder().decode(file).replace(/(<desc>[^<]*<\/desc>\n)?<metadata>.*?<\/metadata>\n/s, '');
  const rdf = xmpRdf(notes);
  const head = /^<svg [^>]*>\n(<title>[^<]*<\/title>\n)?/.exec(text)?.[0] ?? '';
  if (!rdf || !head) return new TextEncoder().encode(text);
  const said = notes.alt ? `<desc>${escapeHtml(notes.alt)}</desc>\n` : '';
  return new TextEncoder().encode(`${head}${said}<metadata>${rdf}</metadata>\n${text.slice(head.length)}`);
}

/**
 * A file with all foreign metadata taken out, sRGB stated, and the notes as far as there are any. `file` has to be whole and of the format named. Done again with other notes, only those stand.
 */
export function withNotes(file: Uint8Array, format: FileFormat, notes: FileNotes): Bytes {
  if (format === 'jpeg') return noteJpeg(file, notes);
  if (format === 'avif') return noteAvif(file, { exif: exifBlock(notes), xmp: xmpPacket(notes) });
  if (format === 'svg') return noteSvg(file, notes);
  return format === 'png' ? notePng(file, notes) : noteWebp(file, notes);
}
