import { safeWord } from '../export/name';
import type { SheetRow } from './sheet';

/** A photo that there is, by its name; in the order in which they are to be taken. */
export interface NamedPhoto {
  readonly id: string;
  readonly name: string;
  /** What its file is called, where that is known beside its name. */
  readonly file?: string;
}

/** A photo for each row, and what of the rows could not be followed. */
export interface ProposedPhotos {
  /** By row; null where there is none left. */
  readonly photos: readonly (string | null)[];
  /** Names of photos that rows ask for and that are not there. */
  readonly missing: readonly string[];
  /** Names that several photos have: the first of each was taken. */
  readonly doubled: readonly string[];
}

const stemOf = (name: string) => safeWord(name.replace(/^.*[\\/]/, '').replace(/\.[a-z0-9]{2,4}$/i, ''));
/** Words of a name, in the singular as far as that is told by an s. */
const wordsOf = (name: string) =>
  stemOf(name)
    .split('-')
    .filter((w) => w.length > 1 && !/^\d+$/.test(w))
    .map((w) => w.replace(/(ch|sh|ss|x)es$/, '$1').replace(/([^s])s$/, '$1'));

/** The photo that has all of some words in its name, where no other has: “kiln.jpg” is “Kiln at night”. */
function onlyOneWith(words: readonly string[], photos: readonly NamedPhoto[]): readonly NamedPhoto[] {
  const found = photos.filter((p) => words.length > 0 && words.every((w) => wordsOf(p.name).includes(w)));
  return found.length === 1 ? found : [];
}

/** How well a photo's name goes with a word: 1 is the same, 0 nothing in common. */
function likeness(word: readonly string[], name: readonly string[]): number {
  const shared = word.filter((w) => name.includes(w)).length;
  return shared ? shared / Math.max(word.length, Math.min(name.length, word.length + 1)) : 0;
}

/**
 * A photo for each row: the one a row names; else one whose name goes with the row's word, the likest first; else those
 * that are left, in their order. A photo is proposed once; one that is named is taken as often as it is named.
 */
export function proposedPhotos(
  rows: readonly Pick<SheetRow, 'word' | 'photo'>[],
  photos: readonly NamedPhoto[],
): ProposedPhotos {
  const chosen: (string | null)[] = rows.map(() => null);
  const used = new Set<string>();
  const missing: string[] = [];
  const doubled = new Set<string>();
  const stems = new Map<string, NamedPhoto[]>();
  for (const p of photos)
    for (const stem of new Set([p.name, ...(p.file === undefined ? [] : [p.file])].map(stemOf)))
      stems.set(stem, [...(stems.get(stem) ?? []), p]);
  const take = (row: number, id: string) => {
    chosen[row] = id;
    used.add(id);
  };
  const open: number[] = [];
  for (const [i, { photo }] of rows.entries()) {
    if (!photo.trim()) {
      open.push(i);
      continue;
    }
    const found = stems.get(stemOf(photo)) ?? onlyOneWith(wordsOf(photo), photos);
    if (found.length > 1) doubled.add(photo);
    if (found[0]) take(i, found[0].id);
    else {
      missing.push(photo);
      open.push(i);
    }
  }
  const names = photos.map((p) => ({ id: p.id, words: wordsOf(p.name) }));
  const pairs = open.flatMap((row) => {
    const word = wordsOf(rows[row]!.word);
    return names.flatMap(({ id, words }, at) => {
      const like = likeness(word, words);
      return like > 0 ? [{ row, id, like, at }] : [];
    });
  });
  pairs.sort((a, b) => b.like - a.like || a.row - b.row || a.at - b.at);
  for (const { row, id } of pairs) if (chosen[row] === null && !used.has(id)) take(row, id);
  for (const row of open) {
    if (chosen[row] !== null) continue;
    const next = photos.find((p) => !used.has(p.id));
    if (next) take(row, next.id);
  }
  return { photos: chosen, missing, doubled: [...doubled] };
}

/**
 * Which rows photos that were given together are for: each the row whose word its name goes with, where that is so of
 * more than half of them; else one after the other from `first` on. By the photos' order; null where no row is left.
 */
export function rowsForPhotos(
  words: readonly string[],
  photos: readonly { readonly name: string }[],
  first = 0,
): (number | null)[] {
  const of = photos.map(({ name }) => wordsOf(name));
  const taken = new Set<number>();
  const byName = of.map((name) => {
    let best: { row: number; like: number } | null = null;
    for (const [row, word] of words.entries()) {
      const like = taken.has(row) ? 0 : likeness(wordsOf(word), name);
      if (like > (best?.like ?? 0)) best = { row, like };
    }
    if (best) taken.add(best.row);
    return best?.row ?? null;
  });
  const named = byName.filter((r) => r !== null).length;
  if (named * 2 <= photos.length) return photos.map((_, i) => (first + i < words.length ? first + i : null));
  // Those of no row's name go where there is room still.
  const free = words.map((_, i) => i).filter((i) => !taken.has(i));
  return byName.map((row) => row ?? free.shift() ?? null);
}

/** The photo whose name goes best with a word; null where none does. */
export function likestPhoto(word: string, photos: readonly NamedPhoto[]): string | null {
  const own = wordsOf(word);
  let best: { id: string; like: number } | null = null;
  for (const { id, name } of photos) {
    const like = likeness(own, wordsOf(name));
    if (like > (best?.like ?? 0)) best = { id, like };
  }
  return best?.id ?? null;
}
