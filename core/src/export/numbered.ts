import type { FileFormat } from '../slot/slot';
import { fileName } from './name';

/** A file of several that leave together. */
export interface NumberedPart {
  /** What it is called beside the others, where each is a graphic of its own. */
  readonly graphic?: string;
  readonly slot: string;
  readonly format: FileFormat;
  /** Most letters of a name where it goes, its ending included. */
  readonly longest: number;
}

/**
 * Names of files that stand beside each other, in the order of the page, each beginning with its number, so that they
 * are in order wherever they are listed. `latestFirst`: where a page shows what came last first, the last place has
 * number 1, so that files sent in the order of their names come to stand as they were made.
 */
export function numberedNames(
  pattern: string,
  own: { readonly graphic: string; readonly date: string },
  parts: readonly NumberedPart[],
  latestFirst = false,
): string[] {
  const digits = String(parts.length).length;
  return parts.map(({ graphic = own.graphic, slot, format, longest }, i) => {
    const number = String(latestFirst ? parts.length - i : i + 1).padStart(digits, '0');
    const name = fileName(pattern, { graphic, date: own.date, slot, format }, new Set(), longest - digits - 1);
    return `${number}-${name}`;
  });
}
