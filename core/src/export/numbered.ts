import { fileName, type NameParts } from './name';

/** A file of several that leave together: what is known of it for its name, and most letters of that, its ending included. */
export interface NumberedPart extends Omit<NameParts, 'date' | 'number'> {
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
  { longest, ...known }: NumberedPart,
  at: number,
): string {
  const digits = String(of).length;
  const number = String(latestFirst ? of - at : at + 1).padStart(digits, '0');
  const parts = { ...known, date };
  // Its number stands where the pattern has it, otherwise first.
  if (pattern.includes('{number}')) return fileName(pattern, { ...parts, number }, new Set(), longest);
  return `${number}-${fileName(pattern, parts, new Set(), longest - digits - 1)}`;
}
