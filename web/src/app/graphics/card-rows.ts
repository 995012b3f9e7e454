import type { GraphicEntry } from '../storage/graphics-repository';
import { cardOf } from './card-size';

/** Room between cards, and between rows of them beside what their words leave, px; across as in the page's style. */
const GAP = { across: 22, down: 8 };
/** What stands under a card's window: its name, and what is known of it on two lines, or three where it is narrow, px. */
const WORDS = { wide: 80, narrow: 98 };
const NARROW = 300;
/** A heading, and the room above the next, px. */
const HEAD = 36;
const BETWEEN = 10;

/** A row of the page: a group's heading, or cards beside each other. `height` in px, the room below it included. */
export type CardRow =
  | {
      readonly key: string;
      readonly kind: 'head';
      readonly name: string;
      readonly count: number;
      readonly height: number;
    }
  | {
      readonly key: string;
      readonly kind: 'cards';
      readonly entries: readonly GraphicEntry[];
      readonly height: number;
    };

/** Groups of graphics laid in rows of a width, px. */
export function cardRows(
  groups: readonly { readonly name: string; readonly entries: readonly GraphicEntry[] }[],
  width: number,
): CardRow[] {
  const rows: CardRow[] = [];
  for (const { name, entries } of groups) {
    rows.push({
      key: `head ${name}`,
      kind: 'head',
      name,
      count: entries.length,
      height: HEAD + (rows.length ? BETWEEN : 0),
    });
    let row: GraphicEntry[] = [];
    let taken = 0;
    let height = 0;
    const end = () => {
      if (row.length) rows.push({ key: `row ${row[0]!.id}`, kind: 'cards', entries: row, height: height + GAP.down });
      [row, taken, height] = [[], 0, 0];
    };
    for (const entry of entries) {
      const card = cardOf(entry.frames);
      const wide = Math.min(card.width, width);
      if (row.length && taken + GAP.across + wide > width) end();
      taken += (row.length ? GAP.across : 0) + wide;
      height = Math.max(height, card.height + (card.width < NARROW ? WORDS.narrow : WORDS.wide));
      row.push(entry);
    }
    end();
  }
  return rows;
}

/** The last row that begins at or above a place, by halving. */
export function rowAt(starts: readonly number[], at: number): number {
  let [low, high] = [0, starts.length - 1];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if (starts[middle]! <= at) low = middle;
    else high = middle - 1;
  }
  return low;
}
