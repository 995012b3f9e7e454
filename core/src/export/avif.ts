import { ascii, be16, be32, joined, type Bytes } from './bytes';

/** A box: ISO/IEC 14496-12, section 4.2. */
interface Box {
  readonly type: string;
  /** What it holds, after size and type. */
  readonly body: Uint8Array;
}

/** An item that is stored: a picture, its transparency, or something said of them. */
interface Item {
  readonly id: number;
  readonly type: string;
  /** Its entry in `iinf`. */
  readonly info: Bytes;
  readonly data: Uint8Array;
}

class Unknown extends Error {}

const textAt = (b: Uint8Array, at: number) => String.fromCharCode(...b.subarray(at, at + 4));
const view = (b: Uint8Array) => new DataView(b.buffer, b.byteOffset, b.byteLength);
const box = (type: string, ...body: (Uint8Array | readonly number[])[]) => {
  const all = joined(...body);
  return joined(be32(8 + all.length), ascii(type), all);
};

function boxesIn(bytes: Uint8Array): Box[] {
  const found: Box[] = [];
  for (let at = 0; at + 8 <= bytes.length;) {
    const size = view(bytes).getUint32(at);
    if (size < 8 || at + size > bytes.length) throw new Unknown();
    found.push({ type: textAt(bytes, at + 4), body: bytes.subarray(at + 8, at + size) });
    at += size;
  }
  return found;
}

const only = (boxes: readonly Box[], type: string): Uint8Array => {
  const found = boxes.filter((b) => b.type === type);
  if (found.length !== 1) throw new Unknown();
  return found[0]!.body;
};

/** Where items lie in the file, by their ids: section 8.11.3, `iloc`, of version 0 and of offsets in the file. */
function placesOf(iloc: Uint8Array): Map<number, { readonly at: number; readonly length: number }[]> {
  const v = view(iloc);
  if (v.getUint32(0) !== 0 || iloc[4] !== 0x44 || iloc[5] !== 0) throw new Unknown();
  const places = new Map<number, { at: number; length: number }[]>();
  let at = 8;
  for (let n = v.getUint16(6); n > 0; n--) {
    const id = v.getUint16(at);
    const extents = v.getUint16(at + 4);
    at += 6;
    const own = Array.from({ length: extents }, (_, i) => ({
      at: v.getUint32(at + 8 * i),
      length: v.getUint32(at + 8 * i + 4),
    }));
    places.set(id, own);
    at += 8 * extents;
  }
  return places;
}

/** The items of a file: section 8.11.6, `iinf`. */
function itemsOf(file: Uint8Array, meta: readonly Box[]): Item[] {
  const iinf = only(meta, 'iinf');
  if (view(iinf).getUint32(0) !== 0) throw new Unknown();
  const places = placesOf(only(meta, 'iloc'));
  return boxesIn(iinf.subarray(6)).map(({ type, body }) => {
    // Version 2: the id in two bytes, then two of protection.
    if (type !== 'infe' || body[0] !== 2) throw new Unknown();
    const id = view(body).getUint16(4);
    const extents = places.get(id);
    if (!extents) throw new Unknown();
    const data = joined(...extents.map((e) => file.subarray(e.at, e.at + e.length)));
    return { id, type: textAt(body, 8), info: box('infe', body), data };
  });
}

const said = ({ type }: Item) => type === 'Exif' || type === 'mime';

/** What an item says of another: ISO/IEC 23008-12, annex A (Exif and XMP), section 6.4.4 (`cdsc`). */
function about(id: number, of: number, type: 'Exif' | 'mime', data: Bytes): Item & { readonly reference: Bytes } {
  const more = type === 'mime' ? ascii('application/rdf+xml\0') : [];
  const info = box('infe', [2, 0, 0, 0], be16(id), be16(0), ascii(type), [0], more);
  return { id, type, info, data, reference: box('cdsc', be16(id), be16(1), be16(of)) };
}

/**
 * An AVIF that says that its colours are sRGB, where its encoder left them open: primaries of BT.709 and the transfer of IEC
 * 61966-2-1 (ITU-T H.273, tables 2 and 3) in its `colr` box (ISO/IEC 23008-12, section 6.5.5, `nclx`). The file itself is
 * left as it is.
 */
function withColours(file: Uint8Array): Bytes {
  const out = joined(file);
  const mark = ascii('colrnclx');
  for (let i = 0; i + 18 <= out.length; i++)
    if (mark.every((c, k) => out[i + k] === c)) {
      out.set([0, 1, 0, 13], i + mark.length);
      break;
    }
  return out;
}

/**
 * An AVIF, sRGB stated, with an Exif block (TIFF) and an XMP packet as far as there are any, each an item of its own, and
 * without those it had (AV1 Image File Format 1.1, section 2; the boxes as in ISO/IEC 14496-12, section 8.11). One whose
 * boxes are laid out otherwise than our encoder does keeps what it says.
 */
export function noteAvif(
  file: Uint8Array,
  { exif, xmp }: { readonly exif: Bytes | null; readonly xmp: Bytes | null },
): Bytes {
  const plain = withColours(file);
  try {
    const top = boxesIn(plain);
    const metaBody = only(top, 'meta');
    const meta = boxesIn(metaBody.subarray(4));
    const all = itemsOf(plain, meta);
    const pictures = all.filter((i) => !said(i));
    if (pictures.length === all.length && !exif && !xmp) return plain;
    const main = view(only(meta, 'pitm')).getUint16(4);
    const free = Math.max(...pictures.map((i) => i.id)) + 1;
    const notes = [
      // The TIFF begins right after four bytes that say so.
      ...(exif ? [about(free, main, 'Exif', joined(be32(0), exif))] : []),
      ...(xmp ? [about(free + (exif ? 1 : 0), main, 'mime', xmp)] : []),
    ];
    const items = [...pictures, ...notes];
    const gone = new Set(all.filter(said).map((i) => i.id));
    const kept = meta
      .filter((b) => b.type === 'iref')
      .flatMap((b) => boxesIn(b.body.subarray(4)))
      .filter((r) => !gone.has(view(r.body).getUint16(0)))
      .map((r) => box(r.type, r.body));
    const references = [...kept, ...notes.map((n) => n.reference)];
    const built = (from: number) => {
      let at = from;
      const places = items.map(({ id, data }) => {
        const place = joined(be16(id), be16(0), be16(1), be32(at), be32(data.length));
        at += data.length;
        return place;
      });
      const iloc = box('iloc', be32(0), [0x44, 0], be16(items.length), ...places);
      const iinf = box('iinf', be32(0), be16(items.length), ...items.map((i) => i.info));
      const iref = references.length ? box('iref', be32(0), ...references) : [];
      const parts = meta.flatMap(({ type, body }): (Bytes | readonly number[])[] => {
        if (type === 'iref') return [];
        if (type === 'iloc') return [iloc];
        return type === 'iinf' ? [iinf, iref] : [box(type, body)];
      });
      return box('meta', metaBody.subarray(0, 4), ...parts);
    };
    const head = box('ftyp', only(top, 'ftyp'));
    // How long the list is does not depend on where things lie.
    const from = head.length + built(0).length + 8;
    return joined(head, built(from), box('mdat', ...items.map((i) => i.data)));
  } catch (error) {
    if (error instanceof Unknown || error instanceof RangeError) return plain;
    throw error;
  }
}
