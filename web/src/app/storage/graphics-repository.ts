import { liveQuery, type Observable } from 'dexie';
import {
  bad,
  boxAbout,
  checkGraphic,
  current,
  cutText,
  good,
  headOf,
  historyFrom,
  isNewerStep,
  limits,
  nameFrom,
  readStep,
  type Graphic,
  type History,
  type Listed,
  type Point,
  type Result,
  type Step,
  type Stored,
  type StoredStep,
} from '@bright-slot/core';
import {
  type AssetRecord,
  type Database,
  type ExportRecord,
  type GraphicRecord,
  type PreviewRecord,
  type RedoRecord,
} from './database';
import { HistoryStore, newer, redoRecords, redoToWrite, unreadable, type ReadHistory } from './history-store';
import { inParts } from './in-parts';
import type { LastWords } from './last-words';
import { Refused, storageProblem } from './storage-problem';
import { allUsed, usesIn } from './used';

/** A graphic as lists show it. */
export interface GraphicEntry extends Listed {
  readonly id: string;
  readonly changed: number;
  /** Changes whenever the graphic does: names the state that a preview belongs to. */
  readonly state: string;
}

/** A graphic that is there but cannot be read by this version. */
export interface UnreadableEntry {
  readonly id: string;
  readonly name: string;
  readonly why: string;
}

/** For how long a picture that nothing uses yet is left alone, ms. */
const JUST_ADDED = 10 * 60_000;

/** How many graphics are read at once where many are written. */
const TOGETHER = 10;

const stateOf = (record: GraphicRecord) => `${record.head}@${record.changed}`;

/** A history that was opened, and what has to be said of it. */
export interface Opened extends ReadHistory {
  /** Whether its head alone was read so far; the rest comes by `earlier`. */
  readonly partly: boolean;
  /** Whose saves are taken from now on; null where it was only opened to be read. */
  readonly writer: Writer | null;
}

/** Who writes, and what stood there when it last did. */
export interface Writer {
  readonly token: string;
  readonly head: string;
  /** Where redo led. */
  readonly next: ReadonlyMap<string, string>;
  /** Where there was no room to note who writes: who did before. */
  readonly instead?: { readonly of: string | undefined };
}

const elsewhere = {
  code: 'elsewhere',
  message:
    'This graphic was changed elsewhere since it was opened here, so the last changes were not written over that. Keep yours as a graphic of its own, or look at the other.',
} as const;
const gone = {
  code: 'gone',
  message:
    'This graphic was deleted elsewhere, so the last changes were not saved. Keep yours as a graphic of its own.',
} as const;

/** Steps as they may be written: whatever could not be read back is refused here. */
function checkedSteps(steps: readonly Step[]): Step[] {
  return steps.map((step) => {
    const checked = checkGraphic(step.graphic);
    if (!checked.ok) throw new Refused(checked.problem);
    const { value: graphic } = checked.value;
    const name = cutText(step.name, limits.step, true);
    return graphic === step.graphic && name === step.name ? step : { ...step, name, graphic };
  });
}

export class GraphicsRepository {
  private readonly histories: HistoryStore;

  constructor(private readonly db: Database) {
    this.histories = new HistoryStore(db);
  }

  /** All graphics that were not deleted, latest first, and those of which nothing can be read here. */
  async list(): Promise<{ entries: GraphicEntry[]; unreadable: UnreadableEntry[] }> {
    const records = (await this.db.graphics.toArray()).filter((r) => r.deleted === undefined);
    records.sort((a, b) => b.changed - a.changed);
    const listed = await this.histories.listed(records);
    const entries: GraphicEntry[] = [];
    const lost: UnreadableEntry[] = [];
    for (const [i, r] of records.entries()) {
      const entry = await this.entryOf(r, listed[i] ?? null);
      if (entry.ok) {
        entries.push(entry.value);
        continue;
      }
      const raw: unknown = (await this.db.heads.get(r.id))?.step;
      const name = (raw as { graphic?: { name?: unknown } } | undefined)?.graphic?.name;
      lost.push({
        id: r.id,
        name: nameFrom(typeof name === 'string' ? name : '', limits.name, 'A graphic'),
        why: entry.problem.message,
      });
    }
    return { entries, unreadable: lost };
  }

  /** What lists show of some graphics, in their order; those that are deleted or cannot be read are passed over. */
  async entries(ids: readonly string[]): Promise<GraphicEntry[]> {
    const found = await this.db.graphics.bulkGet([...ids]);
    const records = found.flatMap((r) => (r && r.deleted === undefined ? [r] : []));
    const listed = await this.histories.listed(records);
    const entries: GraphicEntry[] = [];
    for (const [i, r] of records.entries()) {
      const entry = await this.entryOf(r, listed[i] ?? null);
      if (entry.ok) entries.push(entry.value);
    }
    return entries;
  }

  private async entryOf(record: GraphicRecord, kept: Listed | null): Promise<Result<GraphicEntry>> {
    const shown = kept ? good(kept) : await this.latestOf(record);
    if (!shown.ok) return shown;
    const { name, frames, madeFrom } = shown.value;
    const from = madeFrom === undefined ? {} : { madeFrom };
    return good({ id: record.id, name, frames, ...from, changed: record.changed, state: stateOf(record) });
  }

  /** A graphic as it is now; null where it is deleted or cannot be read. */
  async graphic(id: string): Promise<Graphic | null> {
    const record = await this.db.graphics.get(id);
    if (!record || record.deleted !== undefined) return null;
    const latest = await this.latestOf(record);
    return latest.ok ? latest.value : null;
  }

  /** The latest state of a graphic that can be read. */
  private async latestOf(record: GraphicRecord): Promise<Result<Graphic>> {
    const opened = await this.readHead(record);
    return opened.ok ? good(current(opened.value.history)) : opened;
  }

  /**
   * Opens a graphic: its head, and all of its steps where that cannot be read. With a token it is opened for writing:
   * from then on only that session's saves are taken. What cannot be read is passed over and said.
   */
  async open(id: string, token: string | null): Promise<Result<Opened>> {
    const record = await this.db.graphics.get(id);
    if (!record || record.deleted !== undefined)
      return bad(
        'no-graphic',
        'There is no such graphic in this browser. It may have been deleted, or made in another browser.',
      );
    const opened = await this.readHead(record);
    if (!opened.ok || token === null) return opened.ok ? good({ ...opened.value, writer: null }) : opened;
    this.histories.forget();
    let note: Pick<Writer, 'head' | 'instead'> | null;
    try {
      note = await this.note(record, opened.value.history.head, token);
    } catch (error) {
      if (storageProblem(error).code !== 'disk-full') throw error;
      // The head that is stored, where it could not be written.
      note = { head: record.head, instead: { of: record.writer } };
    }
    // It was written between being read and being noted: what was read is of the past.
    if (!note) return this.open(id, token);
    return good({ ...opened.value, writer: { token, next: opened.value.history.next, ...note } });
  }

  private async readHead(record: GraphicRecord): Promise<Result<Omit<Opened, 'writer'>>> {
    const step = await this.histories.head(record);
    if (step) {
      const history = { steps: new Map([[step.id, step]]), head: step.id, next: await this.histories.redo(record.id) };
      return good({ history, told: '', partly: true });
    }
    const kept: unknown = (await this.db.heads.get(record.id))?.step;
    if (isNewerStep(kept)) return { ok: false, problem: newer };
    const all = await this.histories.read(record);
    return all.ok ? good({ ...all.value, partly: false }) : all;
  }

  /** Notes who writes a graphic from now on, unless it is not any more what was read. */
  private note(read: GraphicRecord, head: string, token: string): Promise<Pick<Writer, 'head'> | null> {
    return this.db.transaction('rw', this.db.graphics, async () => {
      const record = await this.db.graphics.get(read.id);
      if (!record || stateOf(record) !== stateOf(read) || record.writer !== read.writer) return null;
      await this.db.graphics.put({ ...record, writer: token, head });
      return { head };
    });
  }

  /** The steps of a graphic that was opened `partly`: those before its head, and beside it. */
  async earlier(id: string): Promise<Result<{ readonly steps: readonly Step[]; readonly told: string }>> {
    const record = await this.db.graphics.get(id);
    if (!record) return { ok: false, problem: gone };
    const read = await this.histories.read(record);
    return read.ok ? good({ steps: [...read.value.history.steps.values()], told: read.value.told }) : read;
  }

  /** Whether there is a graphic of an id, deleted or not. */
  async has(id: string): Promise<boolean> {
    return (await this.db.graphics.where('id').equals(id).count()) > 0;
  }

  /** Whether nobody did anything with a graphic since it was made, not even what was undone again. */
  async untouched(id: string): Promise<boolean> {
    return (await this.histories.count(id)) === 1;
  }

  /** Stores a graphic that was not there: all its steps, in one transaction. */
  async create(history: History, at: number): Promise<void> {
    const { graphics } = this.db;
    const head = headOf(history);
    const checked = checkedSteps([...history.steps.values()]);
    await this.db.transaction('rw', [graphics, ...this.histories.tables], async () => {
      const written = new Map<string, Stored>();
      await this.histories.add(checked, await this.histories.pack(checked, written));
      await this.histories.putHeads(
        checked.filter((s) => s.id === head.id),
        written,
      );
      const latest = historyFrom(checked, head.id, new Map())!.next;
      await this.histories.putRedo(head.graphicId, redoToWrite(latest, history.next, new Set()));
      const { graphicId: id, graphic } = head;
      await graphics.add({ id, head: history.head, created: graphic.created, changed: at });
    });
  }

  /**
   * Writes a history: the steps that are new or changed, and where its head stands, in one transaction. Refused where
   * another session has opened it since, where its head was moved, and where it was deleted. Resolves when the data is
   * on disk, with the writer as it is from then on.
   */
  async save(history: History, steps: readonly Step[], at: number, writer: Writer): Promise<Writer> {
    const { graphics } = this.db;
    const head = headOf(history);
    const checked = checkedSteps(steps);
    const written = await this.db.transaction('rw', [graphics, ...this.histories.tables], async () => {
      const record = await graphics.get(head.graphicId);
      if (!record || record.deleted !== undefined) throw new Refused(gone);
      const own = record.writer === writer.token || (writer.instead && record.writer === writer.instead.of);
      if (!own || record.head !== writer.head) throw new Refused(elsewhere);
      const put = await this.histories.put(checked);
      await this.histories.putHeads([checked.find((s) => s.id === head.id) ?? head], put);
      const fresh = new Set(checked.map((s) => s.id));
      await this.histories.putRedo(record.id, redoToWrite(writer.next, history.next, fresh));
      await graphics.put({ ...record, writer: writer.token, head: history.head, changed: at });
      return put;
    });
    this.histories.keep(written);
    return { token: writer.token, head: history.head, next: history.next };
  }

  /** The tables that a transaction has to hold for what is written here. */
  get tables() {
    return [this.db.graphics, ...this.histories.tables];
  }

  /**
   * Graphics as they are from now on, in one transaction: each a step after the one before, whoever has it open, or new
   * where it was not there; one that was deleted is there again. All of them or, where it is refused, none.
   */
  async putAll(changes: readonly { readonly graphic: Graphic; readonly step: string }[], at: number): Promise<void> {
    const { graphics } = this.db;
    const written = await this.db.transaction('rw', this.tables, async () => {
      const put = new Map<string, Stored>();
      const steps: Step[] = [];
      const packed: StoredStep[] = [];
      const records: GraphicRecord[] = [];
      const redo: RedoRecord[] = [];
      for (let i = 0; i < changes.length; i += TOGETHER) {
        const some = changes.slice(i, i + TOGETHER);
        const ids = some.map(({ graphic }) => graphic.id);
        const there = await graphics.bulkGet(ids);
        const heads = await this.histories.heads(there);
        const before = await this.histories.redoOf(ids);
        const fresh = checkedSteps(
          some.map(({ graphic, step: name }, n) => {
            if (there[n] && !heads[n]) throw new Refused(unreadable);
            const parent = heads[n]?.id ?? null;
            return { id: crypto.randomUUID(), graphicId: graphic.id, parent, name, at, graphic };
          }),
        );
        for (const [n, step] of fresh.entries()) {
          const { id, graphicId, graphic, parent } = step;
          const created = there[n]?.created ?? graphic.created;
          records.push({ id: graphicId, created, head: id, changed: at, writer: crypto.randomUUID() });
          if (parent === null) continue;
          const was = before.get(graphicId) ?? new Map<string, string>();
          const now = new Map(was).set(parent, id);
          redo.push(...redoRecords(graphicId, redoToWrite(was, now, new Set([id]))));
        }
        packed.push(...(await this.histories.pack(fresh, put)));
        steps.push(...fresh);
      }
      await this.histories.add(steps, packed);
      await this.histories.putHeads(steps, put);
      for (const some of inParts(redo)) await this.db.redo.bulkPut(some);
      for (const some of inParts(records)) await graphics.bulkPut(some);
      return put;
    });
    this.histories.keep(written);
  }

  /**
   * Writes what pages had not written when they went. What was written since by another stands. Gives how many
   * graphics it was for.
   */
  async recover(kept: readonly LastWords[]): Promise<number> {
    let count = 0;
    const { graphics } = this.db;
    for (const words of kept) {
      const steps = words.steps.flatMap((s) => readStep(s) ?? []).filter((s) => s.graphicId === words.graphicId);
      await this.db.transaction('rw', [graphics, ...this.histories.tables], async () => {
        const record = await graphics.get(words.graphicId);
        if (!record || record.deleted !== undefined || record.writer !== words.token) return;
        // A write that was under way may have come through after all: it was of the same session, and before these.
        const written = await this.histories.put(steps);
        const head = await this.histories.step(words.head, written);
        if (!head) return;
        await this.histories.putHeads([head], written);
        await this.histories.putRedo(record.id, words.next);
        await graphics.put({ ...record, head: words.head, changed: words.at });
        count++;
      });
      this.histories.forget();
    }
    return count;
  }

  /** All that is stored of a graphic, as text: for one that cannot be opened. */
  async raw(id: string): Promise<string> {
    const graphic = await this.db.graphics.get(id);
    const head: unknown = (await this.db.heads.get(id))?.step;
    const steps = await this.histories.records(id);
    return JSON.stringify({ format: 'bright-slot-graphic', graphic, head, steps }, null, 1);
  }

  /** Deletes a graphic for good, which takes no room. */
  async removeForGood(id: string): Promise<void> {
    await this.db.transaction('rw', [this.db.graphics, this.db.previews, ...this.histories.tables], () =>
      this.remove([id]),
    );
  }

  private async remove(ids: string[]): Promise<void> {
    await this.histories.remove(ids);
    await this.db.previews.bulkDelete(ids);
    await this.db.graphics.bulkDelete(ids);
  }

  async setDeleted(id: string, at: number | undefined): Promise<void> {
    await this.db.graphics
      .where('id')
      .equals(id)
      .modify((r) => {
        if (at === undefined) delete r.deleted;
        else r.deleted = at;
      });
  }

  /**
   * Removes for good what was deleted before `before` (ms since 1970), and pictures that no step of any graphic
   * uses, unless they were brought in within the last minutes and may be about to be used. Gives how many graphics went.
   */
  async sweep(before: number, now = Date.now()): Promise<number> {
    const { graphics, assets, previews, settings, ownPages } = this.db;
    return this.db.transaction(
      'rw',
      [graphics, assets, previews, settings, ownPages, ...this.histories.tables],
      async () => {
        const gone = (await graphics.toArray()).filter((r) => r.deleted !== undefined && r.deleted < before);
        await this.remove(gone.map((r) => r.id));
        const used = await allUsed(this.db);
        const old = await assets
          .where('added')
          .below(now - JUST_ADDED)
          .primaryKeys();
        await assets.bulkDelete(old.filter((hash) => !used.hash(hash)));
        return gone.length;
      },
    );
  }

  /** How many graphics are deleted and can still be brought back. */
  async deletedCount(): Promise<number> {
    return this.db.graphics.filter((r) => r.deleted !== undefined).count();
  }

  /** Stores a picture; one that is there already is left as it is. */
  async addAsset(given: AssetRecord): Promise<void> {
    const asset = {
      ...given,
      name: nameFrom(given.name, 300, 'Picture'),
      credit: cutText(given.credit, 300),
      ...(given.licence === undefined ? {} : { licence: cutText(given.licence, 300) }),
    };
    await this.db.transaction('rw', this.db.assets, async () => {
      if (!(await this.db.assets.get(asset.hash))) await this.db.assets.add(asset);
    });
  }

  /** The person's pictures, latest first, with the names of the graphics that use each now. */
  async pictures(): Promise<{ asset: AssetRecord; usedIn: { id: string; name: string }[] }[]> {
    const { entries } = await this.list();
    const used = new Map<string, { id: string; name: string }[]>();
    const heads = await this.db.heads.bulkGet(entries.map((e) => e.id));
    for (const [i, { id, name }] of entries.entries())
      for (const hash of usesIn(heads[i]?.step)) used.set(hash, [...(used.get(hash) ?? []), { id, name }]);
    const assets = await this.db.assets.orderBy('added').reverse().toArray();
    return assets.filter((a) => !a.mask).map((asset) => ({ asset, usedIn: used.get(asset.hash) ?? [] }));
  }

  /** Changes what is known of a picture: its name, terms, or focus. */
  async describeAsset(
    hash: string,
    change: Partial<Pick<AssetRecord, 'name' | 'credit' | 'licence' | 'showCredit' | 'focus' | 'subject'>>,
  ): Promise<void> {
    const cut = Object.fromEntries(
      Object.entries(change).map(([key, v]) => [key, typeof v === 'string' ? cutText(v, 300) : v]),
    );
    await this.db.assets.update(hash, cut);
  }

  /** Keeps in sight another place of a picture; what of it is the subject stays as large as it was. */
  async moveFocus(hash: string, focus: Point): Promise<void> {
    await this.db.assets
      .where('hash')
      .equals(hash)
      .modify((asset) => {
        asset.focus = focus;
        asset.subject = boxAbout(focus, asset.subject ?? { width: 0.3, height: 0.3 });
      });
  }

  asset(hash: string): Promise<AssetRecord | undefined> {
    return this.db.assets.get(hash);
  }

  async preview(graphicId: string, state: string): Promise<PreviewRecord | undefined> {
    const found = await this.db.previews.get(graphicId);
    return found?.state === state ? found : undefined;
  }

  async setPreview(preview: PreviewRecord): Promise<void> {
    await this.db.previews.put(preview);
  }

  /** Names already given to files from here. */
  async exportedNames(): Promise<string[]> {
    return this.db.exports.toCollection().primaryKeys();
  }

  /** The names that a graphic's files were given. */
  async exportsOf(graphicId: string): Promise<ExportRecord[]> {
    return this.db.exports.where('graphicId').equals(graphicId).toArray();
  }

  async addExport(...records: ExportRecord[]): Promise<void> {
    await this.db.exports.bulkPut(records);
  }

  async setting(key: string): Promise<unknown> {
    return (await this.db.settings.get(key))?.value;
  }

  async setSetting(key: string, value: unknown): Promise<void> {
    await this.db.settings.put({ key, value });
  }

  /** A setting, now and after every change, from whichever tab it comes. */
  watchSetting(key: string): Observable<unknown> {
    return liveQuery(() => this.setting(key));
  }

  /** Changes a setting by what is stored, in one transaction. */
  async changeSetting(key: string, change: (stored: unknown) => unknown): Promise<void> {
    await this.db.transaction('rw', this.db.settings, async () => {
      const stored = (await this.db.settings.get(key))?.value;
      await this.db.settings.put({ key, value: change(stored) });
    });
  }
}
