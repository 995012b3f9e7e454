import '../zod-setup';
import * as z from 'zod';
import { bad, good, type Result } from '../problem';
import { SlotSet, slotsIn } from './set';
import { slotFrom } from './slots-to-start';
import { Slot, SlotRecord, SLOT_VERSION, migrateSlot, type SlotGroup, type SlotShape } from './slot';

export const SLOT_FILE_FORMAT = 'bright-slot-book';
const FILE_VERSION = 1;
/** Largest file of slots that is read, and most slots in it. */
const MOST_CHARACTERS = 8_000_000;
const MOST_SLOTS = 2000;

const SlotFile = z.object({
  format: z.literal(SLOT_FILE_FORMAT),
  version: z.literal(FILE_VERSION),
  slots: z.array(SlotRecord).max(MOST_SLOTS),
  /** Which of them stand together; files from before there were any have none. */
  sets: z.array(SlotSet).max(MOST_SLOTS).optional(),
});

/** The JSON Schema of a file of slots (draft 2020-12), made from the Zod one. */
export function slotFileSchema(): Record<string, unknown> {
  return {
    $id: 'slot-book.schema.json',
    title: 'Bright Slot: a book of slots',
    description: `Slots of version ${SLOT_VERSION}. Lengths are CSS px of the slot unless a field says otherwise.`,
    ...z.toJSONSchema(SlotFile),
  };
}

/** Slots, and the sets they stand in, as the text of a JSON file. */
export function writeSlotFile(slots: readonly Slot[], sets: readonly SlotSet[] = []): string {
  const together = sets.length ? { sets } : {};
  return `${JSON.stringify({ format: SLOT_FILE_FORMAT, version: FILE_VERSION, slots, ...together }, null, 2)}\n`;
}

/**
 * The slots of a JSON file, earlier versions brought up to date. Those that cannot be
 * read are named in `problems`, the others come in all the same.
 * Fails with `slot-file` where the text is no file of slots at all, or from a newer version.
 */
export function readSlotFile(text: string): Result<{ slots: Slot[]; sets: SlotSet[]; problems: string[] }> {
  if (text.length > MOST_CHARACTERS)
    return bad('slot-file', 'That file is too large to be a book of slots. Nothing was brought in.');
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return bad('slot-file', 'That is no JSON, or it breaks off before its end. Save it anew and try again.');
  }
  const file = z
    .object({
      format: z.literal(SLOT_FILE_FORMAT),
      version: z.number(),
      slots: z.array(z.unknown()).max(MOST_SLOTS),
      sets: z.array(z.unknown()).max(MOST_SLOTS).default([]),
    })
    .safeParse(value);
  if (!file.success)
    return bad('slot-file', `That is JSON, but no book of slots (at most ${MOST_SLOTS}). Nothing was brought in.`);
  if (file.data.version > FILE_VERSION)
    return bad('slot-file', 'That was saved by a newer Bright Slot. Update this one and try again.');
  const slots: Slot[] = [];
  const problems: string[] = [];
  const seen = new Set<string>();
  file.data.slots.forEach((raw, i) => {
    const read = Slot.safeParse(raw);
    const name = (migrateSlot(raw) as { name?: unknown } | null | undefined)?.name;
    const called = typeof name === 'string' && name ? `“${name.slice(0, 60)}”` : `Entry ${i + 1}`;
    if (!read.success) {
      const [issue] = read.error.issues;
      problems.push(`${called} was left out: ${issue?.path.join('.') || 'the entry'} is not as it should be.`);
    } else if (seen.has(read.data.id)) problems.push(`${called} was left out: another entry has the same id.`);
    else {
      seen.add(read.data.id);
      slots.push(read.data);
    }
  });
  const sets = file.data.sets.flatMap((raw) => {
    const read = SlotSet.safeParse(raw);
    if (!read.success) problems.push('A set of slots was left out: it is not as it should be.');
    return read.success && slotsIn(read.data).every((id) => seen.has(id)) ? [read.data] : [];
  });
  return good({ slots, sets, problems });
}

/**
 * What of a file has to be added to a book: entries it has not; one that differs comes
 * beside it under another id, once where the same entry always gets the same one.
 */
export function slotsToAdd(book: readonly Slot[], coming: readonly Slot[], newId: (slot: Slot) => string): Slot[] {
  const byId = new Map(book.map((s) => [s.id, JSON.stringify(s)]));
  return coming.flatMap((slot) => {
    const here = byId.get(slot.id);
    if (here === undefined) return [slot];
    if (here === JSON.stringify(slot)) return [];
    const id = newId(slot);
    return byId.has(id) ? [] : [{ ...slot, id, name: `${slot.name.slice(0, 66)}, brought in` }];
  });
}

export interface SlotFilter {
  readonly words: string;
  readonly group: SlotGroup | null;
  readonly shape: SlotShape['kind'] | null;
  readonly site: string | null;
}

export const noFilter: SlotFilter = { words: '', group: null, shape: null, site: null };

/** The slots that match all of a filter; words look at name, site and size ("1584x396", "1584 × 396"). */
export function filterSlots(slots: readonly Slot[], filter: SlotFilter): Slot[] {
  const words = filter.words
    .toLowerCase()
    .replace(/\s*[x×]\s*(?=\d)/g, 'x')
    .split(/\s+/)
    .filter(Boolean);
  return slots.filter((s) => {
    const text = `${s.name} ${s.site} ${s.group} ${s.width}x${s.height}`
      .toLowerCase()
      .replace(/(\d)\s*×\s*(?=\d)/g, '$1x');
    return (
      words.every((w) => text.includes(w)) &&
      (filter.group === null || s.group === filter.group) &&
      (filter.shape === null || s.shape.kind === filter.shape) &&
      (filter.site === null || s.site === filter.site)
    );
  });
}

/** A name that no slot of the book has yet: "Blog header", "Blog header 2". */
export function freeSlotName(name: string, slots: readonly Slot[]): string {
  const taken = new Set(slots.map((s) => s.name));
  let free = name.slice(0, 80);
  for (let n = 2; taken.has(free); n++) free = `${name.slice(0, 74)} ${n}`;
  return free;
}

/** A copy under an id and a name of its own. */
export function duplicateSlot(slot: Slot, id: string, slots: readonly Slot[]): Slot {
  return { ...slotFrom(slot), id, name: freeSlotName(`${slot.name.slice(0, 70)}, copy`, slots) };
}
