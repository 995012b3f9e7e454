import { Readable } from 'node:stream';

/** Bytes in pieces, told as they are taken. */
export function told(bytes: Buffer, progress: (sent: number) => void, piece = 64 * 1024): Readable {
  return Readable.from(
    (function* () {
      for (let from = 0; from < bytes.length; from += piece) {
        yield bytes.subarray(from, from + piece);
        progress(Math.min(bytes.length, from + piece));
      }
    })(),
    { objectMode: false },
  );
}
