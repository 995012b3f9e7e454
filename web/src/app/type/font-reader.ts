import type { BroughtFont, Result } from '@bright-slot/core';

/** A font as it is to be kept: what is known of it, and its bytes as bare OpenType. */
export interface OpenedFont {
  readonly font: Omit<BroughtFont, 'added'>;
  readonly bytes: ArrayBuffer;
}

/** Reads font files and tries them, off the main thread. */
export abstract class FontReader {
  abstract font(file: File): Promise<Result<OpenedFont>>;
}
