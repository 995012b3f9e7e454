import { Unzip, UnzipInflate, UnzipPassThrough, type UnzipFile } from 'fflate';
import { bad, good, type Result } from '../problem';

export interface ArchiveLimits {
  /** Most files, most bytes of any one once unpacked, and of all together. */
  readonly files: number;
  readonly each: number;
  readonly all: number;
}

/** Room for a few thousand photographs; more would not fit a browser's memory. */
export const archiveLimits: ArchiveLimits = { files: 50_000, each: 64 * 2 ** 20, all: 1.5 * 2 ** 30 };

class Refused extends Error {
  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

/** Whether a name stays within its folder and is plain: no `..`, no root, no drive, no backslash. */
export function isPlainEntry(name: string): boolean {
  return (
    /^[A-Za-z0-9._/-]+$/.test(name) && !name.startsWith('/') && !name.split('/').some((p) => p === '..' || p === '.')
  );
}

export interface Unpacker {
  /** Takes the next piece of the file; `last` with the last one. */
  push(piece: Uint8Array, last: boolean): Result<null>;
  /** What was in it; fails with `cut-short` where a file did not come to its end. */
  finish(): Result<Map<string, Uint8Array>>;
}

/**
 * Unpacks a zip piece by piece, never trusting what it says of itself: names are checked, and bytes are
 * counted as they come, so that one that swells is stopped early. Fails with `climbs`, `swells`, `too-many`,
 * `not-a-zip` or `cut-short`. (PKWARE APPNOTE 6.3, sections 4.3 and 4.4.)
 */
export function createUnpacker(limits: ArchiveLimits = archiveLimits): Unpacker {
  const files = new Map<string, Uint8Array>();
  const open = new Set<string>();
  let total = 0;
  let count = 0;
  let begun = false;
  let refused: Refused | null = null;

  const take = (file: UnzipFile) => {
    count++;
    if (count > limits.files)
      throw new Refused('too-many', `The file holds more than ${limits.files} entries; nothing was brought in.`);
    if (!isPlainEntry(file.name))
      throw new Refused(
        'climbs',
        `The file holds “${file.name.slice(0, 60)}”, a name that would lead out of its folder. It was not made here; nothing was brought in.`,
      );
    if (file.name.endsWith('/')) return;
    const pieces: Uint8Array[] = [];
    let size = 0;
    open.add(file.name);
    file.ondata = (error, piece, final) => {
      // The library hands back what was thrown at it here before.
      if (error instanceof Refused) throw error;
      if (error) throw new Refused('damaged', 'The file is damaged and cannot be unpacked; nothing was brought in.');
      size += piece.length;
      total += piece.length;
      if (size > limits.each || total > limits.all)
        throw new Refused(
          'swells',
          'The file swells to far more than it should when unpacked; nothing was brought in.',
        );
      pieces.push(piece);
      if (!final) return;
      const whole = new Uint8Array(size);
      let at = 0;
      for (const p of pieces) {
        whole.set(p, at);
        at += p.length;
      }
      files.set(file.name, whole);
      open.delete(file.name);
    };
    file.start();
  };

  const unzip = new Unzip(take);
  unzip.register(UnzipInflate);
  unzip.register(UnzipPassThrough);

  return {
    push(piece, last) {
      if (refused) return bad(refused.code, refused.message);
      try {
        if (!begun && piece.length) {
          begun = true;
          if (piece[0] !== 0x50 || piece[1] !== 0x4b)
            throw new Refused('not-a-zip', 'That is not a zip file. Choose the one that “Save everything” made.');
        }
        // Small pieces, so that a bomb is stopped soon after it begins to swell.
        for (let i = 0; i < piece.length; i += 65_536)
          unzip.push(piece.subarray(i, i + 65_536), last && i + 65_536 >= piece.length);
        return good(null);
      } catch (error) {
        refused =
          error instanceof Refused
            ? error
            : new Refused('damaged', 'The file is damaged and cannot be unpacked; nothing was brought in.');
        return bad(refused.code, refused.message);
      }
    },
    finish() {
      if (refused) return bad(refused.code, refused.message);
      if (!begun) return bad('not-a-zip', 'That file is empty.');
      if (open.size)
        return bad('cut-short', 'The file breaks off before its end. Copy it again; nothing was brought in.');
      return good(files);
    },
  };
}
