import { liveQuery, type Observable } from 'dexie';
import {
  heldWithin,
  isNewer,
  readSlots,
  SLOT_VERSION,
  SlotRecord,
  SlotSet,
  slotsIn,
  type Slot,
} from '@bright-slot/core';
import type { Database } from './database';
import { Refused } from './storage-problem';

const SEEDED = 'slots-seeded';

export interface StoredBook {
  readonly slots: readonly Slot[];
  /** Which of them stand together. */
  readonly sets: readonly SlotSet[];
  /** How many entries cannot be read here; they are kept as they are. */
  readonly unreadable: number;
  /** Whether those were written by a newer version of this app. */
  readonly newer: boolean;
}

/** The book of slots in the browser's database. */
export class SlotsRepository {
  constructor(private readonly db: Database) {}

  /** Puts the entries that ship into the book, each once: what a person deleted does not come back. */
  async seed(entries: readonly Slot[]): Promise<void> {
    await this.db.transaction('rw', this.db.slots, this.db.settings, async () => {
      const stored = (await this.db.settings.get(SEEDED))?.value;
      const seeded = new Set(Array.isArray(stored) ? (stored as unknown[]).map(String) : []);
      const fresh = entries.filter((s) => !seeded.has(s.id));
      if (!fresh.length) return;
      const there = new Set(await this.db.slots.toCollection().primaryKeys());
      await this.db.slots.bulkPut(fresh.filter((s) => !there.has(s.id)));
      await this.db.settings.put({ key: SEEDED, value: [...seeded, ...fresh.map((s) => s.id)] });
    });
  }

  async list(): Promise<StoredBook> {
    const stored: unknown[] = await this.db.slots.toArray();
    const slots = readSlots(stored);
    return {
      slots,
      sets: ((await this.db.sets.toArray()) as unknown[]).flatMap((set) => {
        const read = SlotSet.safeParse(set);
        return read.success ? [read.data] : [];
      }),
      unreadable: stored.length - slots.length,
      newer: stored.some((s) => isNewer(s, SLOT_VERSION)),
    };
  }

  /** The book, now and after every change, from whichever tab it comes. */
  watch(): Observable<StoredBook> {
    return liveQuery(() => this.list());
  }

  /** Writes entries, and sets they stand in: what could not be read back is held within its limits, or refused. */
  async put(slots: readonly Slot[], sets: readonly SlotSet[] = []): Promise<void> {
    const checked = slots.map((slot) => {
      const held = heldWithin<Slot>(SlotRecord, slot);
      if (!held)
        throw new Refused({
          code: 'unsound',
          message: `“${slot.name}” holds something that could not be read again, so it was not kept. Nothing was changed.`,
        });
      return held.value;
    });
    const together = sets.map((set) => SlotSet.parse(set));
    await this.db.transaction('rw', this.db.slots, this.db.sets, async () => {
      await this.db.slots.bulkPut(checked);
      await this.db.sets.bulkPut(together);
    });
  }

  /** Removes slots, and the sets of which none is left. One of which some is left is whole again once the rest is back. */
  async remove(ids: readonly string[]): Promise<void> {
    await this.db.transaction('rw', this.db.slots, this.db.sets, async () => {
      await this.db.slots.bulkDelete([...ids]);
      const here = new Set(await this.db.slots.toCollection().primaryKeys());
      const stored = await this.db.sets.toArray();
      const gone = stored.filter((set) => SlotSet.safeParse(set).success && !slotsIn(set).some((id) => here.has(id)));
      await this.db.sets.bulkDelete(gone.map((set) => set.id));
    });
  }
}
