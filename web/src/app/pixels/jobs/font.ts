import { bad, createShaper, fontKind, good, MOST_FONT_BYTES, type Result } from '@bright-slot/core';
import { sha256 } from '../../storage/hash';
import type { OpenedFont } from '../../type/font-reader';

/** WOFF2 unpacked, by a worker of its own that is gone afterwards, whatever it was given. Rejects what it cannot unpack. */
function unpacked(woff2: Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer>> {
  const worker = new Worker(new URL('/unpack/unpack.js', self.location.origin));
  return new Promise<Uint8Array<ArrayBuffer>>((resolve, reject) => {
    const late = setTimeout(() => reject(new Error('Unpacking took too long.')), LONGEST);
    worker.onmessage = (event: MessageEvent<{ font?: unknown } | null>) => {
      clearTimeout(late);
      const font = event.data?.font;
      if (font instanceof ArrayBuffer) resolve(new Uint8Array(font));
      else reject(new Error('It cannot be unpacked.'));
    };
    worker.onerror = () => reject(new Error('It cannot be unpacked.'));
    worker.postMessage(woff2.slice().buffer);
  }).finally(() => worker.terminate());
}

/** A font that is not unpacked after so long is none, ms. */
const LONGEST = 20_000;

const megabytes = (n: number) => `${Math.round(n / 1e5) / 10} MB`;

/** Opens a font file: TTF, OTF or WOFF2; reads it, and tries whether words can really be set in it. */
export async function openFont(file: Blob, name: string): Promise<Result<OpenedFont>> {
  if (file.size > MOST_FONT_BYTES)
    return bad(
      'too-heavy',
      `“${name}” weighs ${megabytes(file.size)}; fonts of up to ${megabytes(MOST_FONT_BYTES)} can be brought in.`,
    );
  let bytes: Uint8Array<ArrayBuffer> = new Uint8Array(await file.arrayBuffer());
  const kind = fontKind(bytes);
  if (kind === 'collection')
    return bad('collection', `“${name}” holds several fonts in one file. Bring the one you want as a file of its own.`);
  if (kind === 'woff') return bad('woff', `“${name}” is a WOFF of the first kind. Bring it as WOFF2, TTF or OTF.`);
  if (!kind) return bad('no-font', `“${name}” is no font, whatever its name says. Bring a TTF, OTF or WOFF2 file.`);
  const damaged = bad(
    'damaged',
    `“${name}” cannot be read as a font: it is cut off or damaged. Bring the file again from where it came.`,
  );
  if (kind === 'woff2')
    try {
      bytes = await unpacked(bytes);
    } catch {
      return damaged;
    }
  if (bytes.length > 4 * MOST_FONT_BYTES)
    return bad(
      'too-heavy',
      `“${name}” unpacks to ${megabytes(bytes.length)}, which is more than a font for the web has.`,
    );
  const { readFont } = await import('@bright-slot/core/words/read-font');
  const read = readFont(bytes, name);
  if (!read.ok) return read;
  try {
    const library = await import('harfbuzzjs');
    const face = { family: read.value.family, weight: read.value.weights[0], italic: false };
    const shaper = createShaper(library, new Map([['tried', bytes]]), {
      families: () => ({ name: face.family, kind: 'own', weights: read.value.weights, italic: false, file: 'tried' }),
    });
    const glyphs = shaper.shape('Hamburgefonts', face);
    const drawn = glyphs.filter((g) => g.glyph > 0 && shaper.outline(face, g.glyph).length > 0);
    const sound = drawn.length >= 8 && glyphs.every((g) => Number.isFinite(g.advance) && Math.abs(g.advance) < 1e5);
    if (!sound) return bad('lies', `“${name}” says it has letters, but they cannot be drawn. It may be damaged.`);
  } catch {
    return damaged;
  }
  const buffer = bytes.buffer;
  return good({ font: { ...read.value, hash: await sha256(buffer) }, bytes: buffer });
}
