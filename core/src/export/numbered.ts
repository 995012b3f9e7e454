import type { FileFormat } from '../slot/slot';
import { fileName } from './name';

/** A file of several that leave together. */
export interface NumberedPart {
  /** What its graphic is called. */
  readonly graphic: string;
  readonly slot: string;
  readonly format: FileFormat;
  /** Most letters of a name where it goes, its ending included. */
  readonly longest: number;
}

/** What the names of files that leave together have in common. */
export interface NumberedSet {
  readonly pattern: string;
  readonly date: string;
  /** How many there are. */
  readonly of: number;
  /** The page shows what came last first: the last place has number 1, so that files sent in the order of their names come to stand as they were made. */
  readonly latestFirst: boolean;
}

/**
 * The name of one of several files, `at` its place in the order of the page, from 0. Each begins with its number, so that
 * they are in order wherever they are listed, unless the pattern has a place for it.
 */
export function numberedName(
  { pattern, date, of, latestFirst }: NumberedSet,
  { graphic, slot, format, longest }: NumberedPart,
  at: number,
): string {
  const digits = String(of).length;
  const number = String(latestFirst ? of - at : at + 1).padStart(digits, '0');
  // Its number stands where the pattern has it, otherwise first.
  if (pattern.includes('{number}'))
    return fileName(pattern, { graphic, date, slot, format, number }, new Set(), longest);
  const name = fileName(pattern, { graphic, date, slot, format }, new Set(), longest - digits - 1);
  return `${number}-${name}`;
}
