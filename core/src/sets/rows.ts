import { contentLetters, type LayoutContents, type PlacedPicture } from '../graphic/contents';
import type { Graphic } from '../graphic/graphic';
import { PLACEHOLDER } from '../graphic/new-words';
import { contentsOf } from '../layouts/change';
import { limits } from '../limits';
import { bad, good, type Result } from '../problem';
import { cutText } from '../text';
import type { TileSet } from './tile-set';

/** What a tile says and shows: a row of the table it is made from. */
export interface TileRow {
  readonly word: string;
  /** A second, smaller line; empty for none. */
  readonly line: string;
  readonly photo: PlacedPicture | null;
}

/** A row as a layout takes it; a word that is not written yet has its place all the same. */
export function rowContents({ word, line, photo }: TileRow, { logo }: Pick<TileSet, 'logo'>): LayoutContents {
  return {
    photo,
    cutout: null,
    logo,
    title: cutText(word.trim(), contentLetters.title) || PLACEHOLDER,
    line: cutText(line.trim(), contentLetters.line),
    note: '',
  };
}

/** What a tile says and shows now, also where that was changed on its own canvas. Null for one that follows no layout. */
export function rowOf(graphic: Graphic, subjects: ReadonlyMap<string, PlacedPicture['subject']>): TileRow | null {
  const contents = contentsOf(graphic, subjects);
  if (!contents) return null;
  const { title, line, photo } = contents;
  return { word: title === PLACEHOLDER ? '' : title, line, photo };
}

/**
 * A place of the rows in another: `from` and `to` count from 0. The same list where nothing moves.
 */
export function movedRow<T>(list: readonly T[], from: number, to: number): readonly T[] {
  const moving = list[from];
  if (moving === undefined || from === to || to < 0 || to >= list.length) return list;
  const rest = list.filter((_, i) => i !== from);
  return [...rest.slice(0, to), moving, ...rest.slice(to)];
}

/** Whether so many tiles can be in a set. Fails with `too-many`. */
export function enoughTiles(count: number): Result<number> {
  if (count <= limits.tiles) return good(count);
  return bad(
    'too-many',
    `A set holds ${limits.tiles} tiles, and these would be ${count}. Make a second set for the rest.`,
  );
}

/** Of tiles in a row, how many their page shows; all where it shows as many as there are. */
export function seenInRow(count: number, rowShows: number | undefined): number {
  return rowShows === undefined || rowShows < 1 ? count : Math.min(count, rowShows);
}
