import slugify from '@sindresorhus/slugify';
import { endingFor, fileFormats, type FileFormat } from '../formats/registry';
import { topDensity, type Slot } from '../slot/slot';

export const DEFAULT_PATTERN = '{graphic}-{slot}-{date}{letter}';

/** Most letters of a name before its ending. Common practice, no source. */
const MOST_STEM = 120;

/** Lower-case ASCII letters, digits and hyphens only, from any text; never empty. */
export function safeWord(text: string): string {
  return slugify(text).slice(0, 60).replace(/-+$/, '') || 'graphic';
}

export interface NameParts {
  readonly graphic: string;
  readonly slot: string;
  /** `yyyy-mm-dd`. */
  readonly date: string;
  readonly format: FileFormat;
  /** The site of the slot, or whose it is. */
  readonly site?: string;
  /** How many states of the graphic have left, this one among them. */
  readonly version?: number;
  /** The slot's size in CSS px. */
  readonly size?: { readonly width: number; readonly height: number };
  /** Device px a CSS px. */
  readonly density?: number;
  /** Its place among several that leave together, as it is written. */
  readonly number?: string;
}

/** What is known of a slot's file for its name; `business` stands where the slot is on no site. */
export function nameParts(
  graphic: string,
  slot: Pick<Slot, 'name' | 'site' | 'width' | 'height' | 'densities'>,
  format: FileFormat,
  date: string,
  business: string,
): NameParts {
  const { width, height } = slot;
  const site = slot.site || business;
  return { graphic, slot: slot.name, date, format, site, size: { width, height }, density: topDensity(slot) };
}

/** What a pattern can hold, in the order in which they are offered; each is written in braces. */
export const nameFields = [
  'site',
  'slot',
  'graphic',
  'version',
  'date',
  'size',
  'density',
  'number',
  'letter',
] as const;
export type NameField = (typeof nameFields)[number];
const FIELD = new RegExp(`(\\{(?:${nameFields.join('|')})\\})`);

/** `a`, `b` … `z`, `aa`, `ab` …: the nth letter, from 0. */
function letter(n: number): string {
  return (n >= 26 ? letter(Math.floor(n / 26) - 1) : '') + String.fromCharCode(97 + (n % 26));
}

/**
 * A safe file name by a pattern, whose letter steps until the name is none of `taken`.
 * A pattern without `{letter}` gets one at its end when its first name is taken. No longer than `longest` letters with
 * its ending (20 at the least), however long its words are.
 */
export function fileName(
  pattern: string,
  parts: NameParts,
  taken: ReadonlySet<string> = new Set(),
  longest = Infinity,
): string {
  const ending = `.${endingFor(parts.format)}`;
  // Longer ones are cut by file systems and refused by sites.
  const most = Math.max(12, Math.min(MOST_STEM, longest - ending.length));
  const make = (step: string, withLetter: boolean) => {
    const marked = withLetter && !pattern.includes('{letter}') ? `${pattern}{letter}` : pattern;
    // No word twice: “blog-header-blog-header” says no more than “blog-header”.
    const said = new Set<string>();
    const once = (words: string) =>
      words
        .split('-')
        .filter((word) => !said.has(word) && said.add(word))
        .join('-');
    const stem = marked
      .split(FIELD)
      .map((piece) => {
        const { site, version, size, density, number } = parts;
        if (piece === '{site}') return site ? once(safeWord(site)) : '';
        if (piece === '{graphic}') return once(safeWord(parts.graphic));
        if (piece === '{slot}') return once(safeWord(parts.slot));
        if (piece === '{date}') return parts.date;
        if (piece === '{letter}') return step;
        if (piece === '{version}') return version === undefined ? '' : `v${version}`;
        if (piece === '{size}') return size ? `${Math.ceil(size.width)}x${Math.ceil(size.height)}` : '';
        if (piece === '{density}') return density === undefined ? '' : `${density}x`;
        if (piece === '{number}') return number ?? '';
        // Separators of the pattern stay; everything unsafe in it goes.
        return piece
          .normalize('NFD')
          .toLowerCase()
          .replace(/[^a-z0-9]+/g, '-');
      })
      .join('')
      .replace(/-{2,}/g, '-')
      .replace(/^-+|-+$/g, '');
    // The letter stays, since it tells names apart.
    const short = stem.length > most ? `${stem.slice(0, most - 8).replace(/-+$/, '')}-${step || 'x'}` : stem;
    return `${short || 'graphic'}${ending}`;
  };
  if (!pattern.includes('{letter}')) {
    const plain = make('', false);
    if (!taken.has(plain)) return plain;
  }
  for (let n = 0; ; n++) {
    const name = make(letter(n), true);
    if (!taken.has(name)) return name;
  }
}

/** A file's name with the ending of a format instead of its own. */
export const withEnding = (name: string, format: FileFormat): string => name.replace(/[^.]+$/, endingFor(format));

/** The next free name after one that is taken: its last letter stepped. */
export function nextFreeName(name: string, taken: ReadonlySet<string>): string {
  const dot = name.lastIndexOf('.');
  const stem = name.slice(0, dot).replace(/(\d)[a-z]{1,2}$/, '$1');
  const format = fileFormats.find((f) => name.endsWith(`.${endingFor(f)}`)) ?? fileFormats[0];
  return fileName(`${stem}{letter}`, { graphic: '', slot: '', date: '', format }, taken);
}

const SAFE = new RegExp(`^[a-z0-9]+(-[a-z0-9]+)*\\.(${fileFormats.map(endingFor).join('|')})$`);

/** Whether a name has nothing but lower-case letters, digits, hyphens and one known ending. */
export function isSafeName(name: string): boolean {
  return SAFE.test(name) && name.length <= 200;
}
