import { BlobReader, TextReader, ZipReader, ZipWriter, configure, type Entry, type FileEntry } from '@zip.js/zip.js';
import { bad, good, type Result } from '@bright-slot/core';

// This is a worker already, or a test.
configure({ useWebWorkers: false });

/** Most entries of a zip that is read: its directory is held in memory. */
export const MOST_ENTRIES = 400_000;
/** An entry that is gone through piece by piece may be so large, bytes: it takes time, and no memory. */
const MOST_STREAMED = 16 * 2 ** 30;

/** Why reading an entry was given up, in a sentence. */
export class EntryRefused extends Error {}

/** Whether a name stays within its folder and is plain: no `..`, no root, no drive, no backslash. */
export function isPlainEntry(name: string): boolean {
  return (
    /^[A-Za-z0-9._/-]+$/.test(name) && !name.startsWith('/') && !name.split('/').some((p) => p === '..' || p === '.')
  );
}

const climbs = (name: string) =>
  bad(
    'climbs',
    `The file holds “${name.slice(0, 60)}”, a name that would lead out of its folder. It was not made here; nothing was brought in.`,
  );

export interface OpenZip {
  has(name: string): boolean;
  /** Bytes of an entry as they come; none where there is no such entry. Throws `EntryRefused` for what is damaged or swells. */
  pieces(name: string, most?: number): AsyncGenerator<Uint8Array<ArrayBuffer>, void, void>;
  /** An entry whole; null where there is none, it is damaged, or larger than `most` bytes. */
  bytes(name: string, most: number): Promise<Uint8Array<ArrayBuffer> | null>;
  /** How many bytes an entry takes in the file. */
  packed(name: string): number;
  close(): Promise<void>;
}

const swells = 'The file swells to far more than it should when unpacked; nothing was brought in.';

/**
 * Opens a zip of any size; only its directory is read now. Names are checked, and nothing it says of its sizes is
 * trusted. `ours`: made here, so that its names are plain; of others nothing is ever written under the names they give.
 * Fails with `not-a-zip`, `cut-short`, `climbs` or `too-many`. (PKWARE APPNOTE 6.3, sections 4.3 and 4.4.)
 */
export async function openZip(file: Blob, ours = true): Promise<Result<OpenZip>> {
  if (file.size === 0) return bad('not-a-zip', 'That file is empty.');
  const start = new Uint8Array(await file.slice(0, 2).arrayBuffer());
  if (start[0] !== 0x50 || start[1] !== 0x4b)
    return bad('not-a-zip', 'That is not a zip file. Choose the one that “Save everything” made.');
  const reader = new ZipReader(new BlobReader(file), { checkSignature: true });
  const files = new Map<string, FileEntry>();
  try {
    let count = 0;
    for await (const entry of reader.getEntriesGenerator() as AsyncIterable<Entry>) {
      if (++count > MOST_ENTRIES)
        return bad('too-many', `The file holds more than ${MOST_ENTRIES} entries; nothing was brought in.`);
      if (ours && !isPlainEntry(entry.filename)) return climbs(entry.filename);
      // Of two of one name the first counts, as it would have if it had been read from the front.
      if (!entry.directory && !files.has(entry.filename)) files.set(entry.filename, entry);
    }
  } catch (error) {
    // The library looks at names too, and says which it does not like.
    const { filename } = (error ?? {}) as { filename?: unknown };
    if (typeof filename === 'string') return climbs(filename);
    return bad(
      'cut-short',
      'The file breaks off before its end, or is damaged. Copy it again; nothing was brought in.',
    );
  }

  async function* pieces(name: string, most = MOST_STREAMED): AsyncGenerator<Uint8Array<ArrayBuffer>, void, void> {
    const entry = files.get(name);
    if (!entry) return;
    if (entry.encrypted) throw new EntryRefused('It is locked with a password.');
    const { readable, writable } = new TransformStream<Uint8Array<ArrayBuffer>, Uint8Array<ArrayBuffer>>();
    const stop = new AbortController();
    const done = entry.getData(writable, { signal: stop.signal }).then(
      () => null,
      (error: unknown) => error ?? new Error('damaged'),
    );
    const taking = readable.getReader();
    let size = 0;
    try {
      for (;;) {
        const { value, done: ended } = await taking.read();
        if (ended) break;
        size += value.length;
        if (size > most) throw new EntryRefused(swells);
        yield value;
      }
    } catch (error) {
      throw error instanceof EntryRefused ? error : new EntryRefused('It is damaged.');
    } finally {
      stop.abort();
      await taking.cancel().catch(() => undefined);
    }
    if (await done) throw new EntryRefused('It is damaged.');
  }

  return good({
    has: (name) => files.has(name),
    packed: (name) => files.get(name)?.compressedSize ?? 0,
    pieces,
    async bytes(name, most) {
      if (!files.has(name)) return null;
      const parts: Uint8Array<ArrayBuffer>[] = [];
      let size = 0;
      try {
        for await (const piece of pieces(name, most)) {
          size += piece.length;
          parts.push(piece);
        }
      } catch (error) {
        if (error instanceof EntryRefused) return null;
        throw error;
      }
      const whole = new Uint8Array(size);
      let at = 0;
      for (const p of parts) {
        whole.set(p, at);
        at += p.length;
      }
      return whole;
    },
    close: () => reader.close().then(() => undefined),
  });
}

/** So many bytes at once are handed to the browser, which keeps a large blob on disk. */
const PART = 16 * 2 ** 20;

/** A blob that is written piece by piece; the page itself never holds more than a part of it. */
export function blobSink(type: string): { readonly writable: WritableStream<Uint8Array<ArrayBuffer>>; blob(): Blob } {
  const parts: Blob[] = [];
  let open: Uint8Array<ArrayBuffer>[] = [];
  let size = 0;
  const flush = () => {
    if (open.length) parts.push(new Blob(open));
    [open, size] = [[], 0];
  };
  return {
    writable: new WritableStream<Uint8Array<ArrayBuffer>>({
      write(piece) {
        open.push(piece.slice());
        size += piece.length;
        if (size >= PART) flush();
      },
    }),
    blob() {
      flush();
      return new Blob(parts, { type });
    },
  };
}

export interface ZipMaker {
  /** Lines of JSON, one a value, as they come; gives how many. */
  lines(name: string, values: AsyncIterable<unknown>): Promise<number>;
  text(name: string, text: string): Promise<void>;
  /** A short text as the very first entry, plain and without extra fields, so that what kind of file it is can be told by its first bytes. */
  kind(name: string, text: string): Promise<void>;
  /** Bytes as they are (`packed`: compressed already) or deflated. */
  blob(name: string, blob: Blob, packed: boolean): Promise<void>;
  finish(): Promise<void>;
}

/** Makes a zip of any size (zip64 where it needs it), piece by piece. */
export function makeZip(into: WritableStream<Uint8Array<ArrayBuffer>>): ZipMaker {
  const zip = new ZipWriter(into, { level: 6, useWebWorkers: false });
  const encoder = new TextEncoder();
  return {
    async lines(name, values) {
      let count = 0;
      const from = values[Symbol.asyncIterator]();
      const readable = new ReadableStream<Uint8Array>(
        {
          async pull(controller) {
            const next: IteratorResult<unknown, unknown> = await from.next();
            if (next.done) return controller.close();
            count++;
            controller.enqueue(encoder.encode(`${JSON.stringify(next.value)}\n`));
          },
        },
        { highWaterMark: 1 },
      );
      await zip.add(name, readable);
      return count;
    },
    async text(name, text) {
      await zip.add(name, new Blob([text]).stream() as ReadableStream<Uint8Array>);
    },
    async kind(name, text) {
      const plain = { level: 0, dataDescriptor: false, extendedTimestamp: false, zip64: false } as const;
      await zip.add(name, new TextReader(text), plain);
    },
    async blob(name, blob, packed) {
      await zip.add(name, new BlobReader(blob), { level: packed ? 0 : 6 });
    },
    async finish() {
      await zip.close();
    },
  };
}
