import { LRUCache } from 'lru-cache';
import {
  Unpacking,
  good,
  historyFrom,
  inOrder,
  isNewerStep,
  isPatch,
  packStep,
  readStep,
  readListed,
  readSteps,
  unpackStep,
  type History,
  type Listed,
  type PatchStep,
  type Result,
  type Step,
  type Stored,
  type StoredStep,
} from '@bright-slot/core';
import {
  listedOf,
  type Database,
  type GraphicRecord,
  type HeadRecord,
  type ListedRecord,
  type RedoRecord,
  type UseRecord,
} from './database';
import { breather, yieldTurn } from '../ui/breather';
import { inParts } from './in-parts';
import { Refused } from './storage-problem';
import { usesIn } from './used';

/** How many graphics as they are stored are kept for what is written next; they share what did not change. */
const KEPT = 1000;
/** How many records are read at once. */
const AT_ONCE = 100;
/** How many of what lists show are read at once. */
const LISTED = 250;

/** Why a graphic is left as it is. */
export const newer = {
  code: 'newer',
  message:
    'This graphic was last changed in a newer Bright Slot. It is kept as it is and can be changed there; reload this page to get the newer one.',
} as const;
export const unreadable = {
  code: 'unreadable',
  message:
    'This graphic was stored in a way this version cannot read. It is kept as it is: save it as a file, or delete it.',
} as const;

/** What was written, by step: all of it, or what is worth keeping. */
interface StoredNow {
  get(step: string): Stored | undefined;
  set(step: string, stored: Stored): unknown;
}

/** What was read of a graphic's steps, and what has to be said of it. */
export interface ReadHistory {
  readonly history: History;
  readonly told: string;
}

/**
 * The steps of graphics in the database: each as a patch of the one before, now and then whole; the head beside them,
 * whole; what they use in an index.
 */
export class HistoryStore {
  /** Graphics as they are stored, by their steps' ids; only what this one knows to be on disk. */
  private readonly stored = new LRUCache<string, Stored>({ max: KEPT });

  constructor(private readonly db: Database) {}

  /** The tables that a transaction has to hold for what is written here. */
  get tables() {
    const { steps, heads, listed, redo, uses } = this.db;
    return [steps, heads, listed, redo, uses];
  }

  /** Forgets what it knows to be on disk: another session may have written since. */
  forget(): void {
    this.stored.clear();
  }

  /** The head of a graphic, as it is kept apart; null where it has to be looked for among the steps. */
  async head(record: GraphicRecord): Promise<Step | null> {
    return this.keptHead(record, await this.db.heads.get(record.id));
  }

  /** What lists show of graphics; null where their heads have to be looked at. */
  async listed(records: readonly GraphicRecord[]): Promise<(Listed | null)[]> {
    const ids = records.map((r) => r.id);
    const by = new Map<string, ListedRecord>();
    for await (const some of records.length > AT_ONCE ? this.allListed() : [await this.db.listed.bulkGet(ids)])
      for (const kept of some) if (kept) by.set(kept.id, kept);
    const found: (Listed | null)[] = [];
    const breathe = breather(yieldTurn);
    for (const { id, head } of records) {
      const kept = by.get(id);
      found.push(kept?.head === head ? readListed(kept) : null);
      await breathe();
    }
    return found;
  }

  /** All that lists show, a few hundred at a time: one by one each of them takes as long as ten so. */
  private async *allListed(): AsyncGenerator<ListedRecord[], void, void> {
    for (let last = ''; ;) {
      const some = await this.db.listed.where('id').above(last).limit(LISTED).toArray();
      yield some;
      if (some.length < LISTED) return;
      last = some.at(-1)!.id;
    }
  }

  /** The heads of several; those that are not there, or cannot be read, are null. */
  async heads(records: readonly (GraphicRecord | undefined)[]): Promise<(Step | null)[]> {
    const there = records.flatMap((r) => r ?? []);
    const kept = await this.db.heads.bulkGet(there.map((r) => r.id));
    const steps = new Map<GraphicRecord, Step | null>();
    for (const [i, record] of there.entries()) {
      const apart = this.keptHead(record, kept[i]);
      steps.set(record, apart ?? (await this.step(record.head)));
    }
    return records.map((r) => (r && steps.get(r)) ?? null);
  }

  private keptHead(record: GraphicRecord, kept: HeadRecord | undefined): Step | null {
    const step = this.soundHead(record, kept?.step);
    if (kept && step) this.stored.set(step.id, { graphic: kept.step.graphic, depth: kept.depth, weight: kept.weight });
    return step;
  }

  private soundHead(record: GraphicRecord, raw: unknown): Step | null {
    const step = readStep(raw);
    return step?.id === record.head && step.graphicId === record.id && step.graphic.id === record.id ? step : null;
  }

  /** Where redo leads from steps, where that was said. */
  async redo(graphicId: string): Promise<Map<string, string>> {
    const rows = await this.db.redo.where('graphicId').equals(graphicId).toArray();
    return new Map(rows.map((r) => [r.from, r.to]));
  }

  /** Where redo leads from steps of several graphics, by graphic. */
  async redoOf(graphicIds: readonly string[]): Promise<Map<string, Map<string, string>>> {
    const by = new Map<string, Map<string, string>>();
    for (const { graphicId, from, to } of await this.db.redo.where('graphicId').anyOf(graphicIds).toArray())
      by.set(graphicId, (by.get(graphicId) ?? new Map<string, string>()).set(from, to));
    return by;
  }

  /** How many steps a graphic has. */
  count(graphicId: string): Promise<number> {
    return this.db.steps.where('graphicId').equals(graphicId).count();
  }

  /** The steps of a graphic as they are stored, as they stood at one moment. */
  async records(graphicId: string): Promise<unknown[]> {
    const { steps } = this.db;
    return this.db.transaction('r', steps, async () => {
      const ids = await steps.where('graphicId').equals(graphicId).primaryKeys();
      const records: unknown[] = [];
      for (let i = 0; i < ids.length; i += AT_ONCE)
        for (const record of await steps.bulkGet(ids.slice(i, i + AT_ONCE)))
          if (record !== undefined) records.push(record);
      return records;
    });
  }

  /**
   * Reads all steps of a graphic, a slice at a time, so that the page stays at hand. What cannot be read is passed
   * over and said. Fails with `newer` and `unreadable`.
   */
  async read({ id, head }: GraphicRecord): Promise<Result<ReadHistory>> {
    const records = await this.records(id);
    const redo = await this.redo(id);
    const unpacking = new Unpacking();
    const values: unknown[] = [];
    const breathe = breather(yieldTurn);
    for (const record of inOrder(records)) {
      const value = unpacking.whole(record);
      if (isNewerStep(value)) return { ok: false, problem: newer };
      values.push(readStep(value) ?? value);
      await breathe();
    }
    const { steps, passed } = readSteps(values, id);
    const history = historyFrom(steps, head, redo);
    if (!history) return { ok: false, problem: unreadable };
    if (history.head !== head)
      return good({
        history,
        told: `The last state of this graphic cannot be read. This is the latest that can: “${history.steps.get(history.head)!.name}”.`,
      });
    const of = passed === 1 ? 'One earlier step' : `${passed} earlier steps`;
    return good({
      history,
      told: passed ? `${of} of this graphic cannot be read and ${passed === 1 ? 'is' : 'are'} passed over.` : '',
    });
  }

  /** Every step of a graphic, made whole, one after another; no more than a few are held at once. */
  async *wholes(graphicId: string): AsyncGenerator<unknown, void, void> {
    const { steps } = this.db;
    const ids = await steps.where('graphicId').equals(graphicId).primaryKeys();
    /** Patches as they are; of whole steps, of which each is as large as its graphic, only which they are. */
    const stubs: { id: string; parent: string | null }[] = [];
    for (let i = 0; i < ids.length; i += AT_ONCE)
      for (const record of await steps.bulkGet(ids.slice(i, i + AT_ONCE)))
        if (record) stubs.push(isPatch(record) ? record : { id: record.id, parent: record.parent });
    const order = [...inOrder(stubs)];
    const unpacking = new Unpacking();
    for (let i = 0; i < order.length; i += AT_ONCE) {
      const some = order.slice(i, i + AT_ONCE);
      const whole = await steps.bulkGet(some.filter((s) => !isPatch(s)).map((s) => s.id));
      const byId = new Map(whole.map((s) => [s?.id, s]));
      for (const stub of some) {
        const record = isPatch(stub) ? stub : byId.get(stub.id);
        if (record) yield unpacking.whole(record);
      }
    }
  }

  /** One step, made whole; null where it is not there or cannot be. */
  async step(id: string, written: Pick<StoredNow, 'get'> = new Map()): Promise<Step | null> {
    const record: unknown = await this.db.steps.get(id);
    const stored = await this.storedAs(id, written);
    return record && stored ? readStep({ ...record, graphic: stored.graphic }) : null;
  }

  /**
   * A graphic exactly as it is stored, where it need not be read: a hundred waits in a row that ask nothing of the
   * database let go of its transaction (ZONE_ECHO_LIMIT in Dexie 4).
   */
  private known(id: string, written: Pick<StoredNow, 'get'>): Stored | undefined {
    return written.get(id) ?? this.stored.get(id);
  }

  /** A graphic exactly as it is stored, through the patches it stands on. */
  private async storedAs(id: string, written: Pick<StoredNow, 'get'>): Promise<Stored | undefined> {
    const patches: PatchStep[] = [];
    let found: Stored | undefined;
    const seen = new Set<string>();
    for (let at: string | null = id; at !== null && !seen.has(at);) {
      seen.add(at);
      found = this.known(at, written);
      if (found) break;
      const record: unknown = await this.db.steps.get(at);
      if (!isPatch(record)) {
        const graphic = (record as Partial<Step> | undefined)?.graphic;
        if (graphic) found = { graphic, depth: 0, weight: 0 };
        if (found) this.stored.set(at, found);
        break;
      }
      patches.push(record as PatchStep);
      at = (record as PatchStep).parent;
    }
    for (const patch of patches.reverse()) {
      const step = unpackStep(patch, found?.graphic) as Partial<Step>;
      if (!step.graphic) return undefined;
      found = { graphic: step.graphic, depth: patch.depth, weight: patch.weight };
      this.stored.set(patch.id, found);
    }
    return found;
  }

  /**
   * Writes steps, each as a patch where what it follows is there, and what they use. One that was there already is
   * written over, and what stands on it stays what it was. Call it in a transaction over `tables`; what it gives is to
   * be `keep`t once that is through.
   */
  async put(steps: readonly Step[]): Promise<Map<string, Stored>> {
    const written = new Map<string, Stored>();
    for (const step of steps) {
      const old: unknown = await this.db.steps.get(step.id);
      const oldGraphic = old === undefined ? undefined : await this.storedAs(step.id, written);
      const before = step.parent === null ? undefined : await this.storedAs(step.parent, written);
      const { record, stored } = packStep(step, before);
      await this.db.steps.put(record);
      written.set(step.id, stored);
      if (old !== undefined) await this.putOnTop(step.id, oldGraphic, stored, written);
    }
    await this.putUses(steps);
    return written;
  }

  /** What stands on a step that was written over: made anew for what it stands on now. */
  private async putOnTop(id: string, old: Stored | undefined, now: Stored, written: Map<string, Stored>) {
    for (const record of (await this.db.steps.where('parent').equals(id).toArray()) as unknown[]) {
      if (!isPatch(record)) continue;
      if (isNewerStep(record)) throw new Refused(newer);
      const step = unpackStep(record, old?.graphic) as Step;
      // What could not be read before cannot be read now.
      if (!('graphic' in step)) continue;
      const packed = packStep(step, now);
      await this.db.steps.put(packed.record);
      written.set(step.id, packed.stored);
    }
  }

  /** Steps that are all new as they are stored, in the order they were made; each notes itself in `written`. */
  async pack(steps: readonly Step[], written: StoredNow): Promise<StoredStep[]> {
    const records: StoredStep[] = [];
    // What is asked for here is of no use; a transaction ends where it is left without anything to do.
    const breathe = breather(() => this.db.steps.get(''));
    for (const step of steps) {
      const rest = breathe();
      if (rest) await rest;
      const before =
        step.parent === null
          ? undefined
          : (this.known(step.parent, written) ?? (await this.storedAs(step.parent, written)));
      const { record, stored } = packStep(step, before);
      written.set(step.id, stored);
      records.push(record);
    }
    return records;
  }

  /** Writes steps that are all new, `pack`ed. Call it in a transaction over `tables`. */
  async add(steps: readonly Step[], packed: readonly StoredStep[]): Promise<void> {
    for (const some of inParts(packed)) await this.db.steps.bulkPut(some);
    for (const some of inParts(steps)) await this.putUses(some);
  }

  private async putUses(steps: readonly Step[]): Promise<void> {
    const uses = new Map<string, UseRecord>();
    for (const step of steps)
      for (const what of usesIn(step)) uses.set(`${step.graphicId} ${what}`, { graphicId: step.graphicId, what });
    for (const some of inParts([...uses.values()])) await this.db.uses.bulkPut(some);
  }

  /** Keeps the heads of graphics apart. */
  async putHeads(steps: readonly Step[], written: Pick<StoredNow, 'get'>): Promise<void> {
    const heads: HeadRecord[] = [];
    for (const step of steps) {
      const stored = this.known(step.id, written) ?? (await this.storedAs(step.id, written));
      const { depth, weight, graphic } = stored ?? { depth: 0, weight: 0, graphic: step.graphic };
      heads.push({ id: step.graphicId, step: { ...step, graphic }, depth, weight });
    }
    for (const some of inParts(heads)) {
      await this.db.heads.bulkPut(some);
      await this.db.listed.bulkPut(some.map((h) => listedOf(h.step)));
    }
  }

  /** Writes where redo leads. */
  async putRedo(graphicId: string, pairs: Iterable<readonly [string, string]>): Promise<void> {
    await this.db.redo.bulkPut(redoRecords(graphicId, pairs));
  }

  /** From now on these are known to be on disk. */
  keep(written: ReadonlyMap<string, Stored>): void {
    for (const [id, stored] of written) this.stored.set(id, stored);
  }

  /** Removes all there is of graphics but their records. Call it in a transaction over `tables`. */
  async remove(ids: readonly string[]): Promise<void> {
    const { steps, heads, listed, redo, uses } = this.db;
    for (const table of [steps, redo, uses]) await table.where('graphicId').anyOf(ids).delete();
    await heads.bulkDelete([...ids]);
    await listed.bulkDelete([...ids]);
  }
}

/** Pairs of one graphic as they are stored. */
export const redoRecords = (graphicId: string, pairs: Iterable<readonly [string, string]>): RedoRecord[] =>
  [...pairs].map(([from, to]) => ({ from, to, graphicId }));

/** The pairs of `now` that have to be written: those that changed, but for a new step that follows one as its first. */
export function redoToWrite(
  before: ReadonlyMap<string, string>,
  now: ReadonlyMap<string, string>,
  fresh: ReadonlySet<string>,
): [string, string][] {
  return [...now].filter(([from, to]) => {
    const was = before.get(from);
    return was !== to && (was !== undefined || !fresh.has(to));
  });
}
