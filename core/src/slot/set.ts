import '../zod-setup';
import * as z from 'zod';
import type { Box } from '../geometry/box';
import { mosaicOf } from './mosaic';
import { LONGEST_SIDE, figure, type Slot } from './slot';
import { stripOf } from './strip';

const slotId = z.string().min(1).max(64);
const length = z.number().min(0).max(LONGEST_SIDE);
const count = z.number().int().min(1).max(100);
const gap = z.object({ across: length, down: length });
const tracks = z.number().int().min(1).max(24);

const own = {
  version: z.literal(1),
  id: z.string().min(1).max(64),
  name: z.string().min(1).max(120),
  /** Whose page it stands on, and how one knows, as a slot has it. */
  site: z.string().max(200),
  source: z.string().max(300),
};

/** Slots that stand on their page together, each of them a slot in its own right. Lengths in CSS px. */
export const SlotSet = z.discriminatedUnion('kind', [
  z.object({
    ...own,
    kind: z.literal('mosaic'),
    /** Of the cells and the gaps between them, without a gap around the outside. */
    width: length,
    height: length,
    gap,
    columns: tracks,
    rows: tracks,
    /** In the order the page lays them out (see `mosaicOf`): each slot with how many columns and rows it takes. */
    cells: z
      .array(z.object({ slot: slotId, columns: tracks, rows: tracks }))
      .min(2)
      .max(100),
  }),
  z.object({
    ...own,
    kind: z.literal('strip'),
    /** One picture over so many equal slots, and whether it runs on behind the gaps or skips them. */
    slot: slotId,
    count: count.min(2),
    gap: length,
    behind: z.enum(['runs-on', 'skips']),
  }),
  z.object({
    ...own,
    kind: z.literal('row'),
    /** Pictures of their own in places of one kind, so many across and down. */
    slot: slotId,
    columns: count,
    rows: count,
    gap,
  }),
]);
export type SlotSet = z.infer<typeof SlotSet>;

/** One place of a set: which slot it is, and where it stands in the set, CSS px. */
export interface SetPlace {
  readonly slot: string;
  readonly box: Box;
}

/** The slots of a set, each once. */
export function slotsIn(set: SlotSet): readonly string[] {
  return set.kind === 'mosaic' ? set.cells.map((c) => c.slot) : [set.slot];
}

/** All places of a set, in the order the page lays them out, at the sizes its slots are shown at; none where its figures do not go together. */
export function placesOf(
  set: SlotSet,
  shown: Pick<Slot, 'width' | 'height' | 'shownWidth'> | null,
): readonly SetPlace[] {
  if (set.kind === 'mosaic') {
    const { width, height, gap, columns, rows, cells } = set;
    const { across, down } = gap;
    const laid = mosaicOf({ width, height, gap: across, gapDown: down, columns, rows, outerGap: false, spans: cells });
    return laid.ok ? laid.value.cells.map(({ box }, i) => ({ slot: cells[i]!.slot, box })) : [];
  }
  if (!shown) return [];
  const width = shown.shownWidth;
  const height = (shown.height * shown.shownWidth) / shown.width;
  const at = (x: number, y: number): SetPlace => ({ slot: set.slot, box: { x, y, width, height } });
  if (set.kind === 'strip') {
    const laid = stripOf({ count: set.count, tile: width, gap: set.gap, total: null, behind: set.behind });
    return laid.ok ? laid.value.tiles.map((t) => at(t.on, 0)) : [];
  }
  const { across, down } = set.gap;
  return Array.from({ length: set.columns * set.rows }, (_, i) =>
    at((i % set.columns) * (width + across), Math.floor(i / set.columns) * (height + down)),
  );
}

/** How large a set is on its page, CSS px. */
export function setSize(places: readonly SetPlace[]): { width: number; height: number } {
  return {
    width: Math.max(0, ...places.map(({ box }) => box.x + box.width)),
    height: Math.max(0, ...places.map(({ box }) => box.y + box.height)),
  };
}

/** The set a slot stands in, where all of its slots are in the book; null for one that stands alone. */
export function setWith(slot: string, sets: readonly SlotSet[], has: (slot: string) => boolean): SlotSet | null {
  return sets.find((set) => slotsIn(set).includes(slot) && slotsIn(set).every(has)) ?? null;
}

/** A set in words: "Mosaic of 4, gaps of 15 px", "Strip of 5, the picture runs on behind gaps of 20 px". */
export function setText(set: SlotSet): string {
  const gaps = (gap: number) => (gap > 0 ? `gaps of ${figure(gap)} px` : 'no gaps');
  const both = ({ across, down }: { across: number; down: number }) =>
    across === down ? gaps(across) : `gaps of ${figure(across)} and ${figure(down)} px`;
  switch (set.kind) {
    case 'mosaic':
      return `Mosaic of ${set.cells.length}, ${both(set.gap)}`;
    case 'strip':
      return `Strip of ${set.count}, ${set.gap > 0 ? `the picture ${set.behind === 'runs-on' ? 'runs on behind' : 'skips'} ${gaps(set.gap)}` : gaps(0)}`;
    case 'row': {
      const { columns, rows, gap } = set;
      const all = rows === 1 ? `Row of ${columns}` : `${columns} across and ${rows} down`;
      return `${all}, ${rows === 1 ? gaps(gap.across) : both(gap)}`;
    }
  }
}
