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
  isPicture,
  limits,
  nameFrom,
  pairsOf,
  readStep,
  readSteps,
  type Graphic,
  type History,
  type Point,
  type Result,
  type Step,
} from '@bright-slot/core';
import { type AssetRecord, type Database, type ExportRecord, type GraphicRecord, type PreviewRecord } from './database';
import type { LastWords } from './last-words';
import { Refused, storageProblem } from './storage-problem';
import { usedIn } from './used';

/** A graphic as lists show it. */
export interface GraphicEntry {
  readonly graphic: Graphic;
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

const newerText =
  'This graphic was last changed in a newer Bright Slot. It is kept as it is and can be changed there; reload this page to get the newer one.';
const unreadableText =
  'This graphic was stored in a way this version cannot read. It is kept as it is: save it as a file, or delete it.';

const stateOf = (record: GraphicRecord) => `${record.head}@${record.changed}`;

/** A history that was opened, and what has to be said of it. */
export interface Opened {
  readonly history: History;
  readonly told: string;
  /** Whose saves are taken from now on; null where it was only opened to be read. */
  readonly writer: Writer | null;
}

/** Who writes, and what stood there when it last did. */
export interface Writer {
  readonly token: string;
  readonly head: string;
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
  constructor(private readonly db: Database) {}

  /** All graphics that were not deleted, latest first, and those of which nothing can be read here. */
  async list(): Promise<{ entries: GraphicEntry[]; unreadable: UnreadableEntry[] }> {
    const records = (await this.db.graphics.toArray()).filter((r) => r.deleted === undefined);
    records.sort((a, b) => b.changed - a.changed);
    const stored: unknown[] = await this.db.steps.bulkGet(records.map((r) => r.head));
    const entries: GraphicEntry[] = [];
    const unreadable: UnreadableEntry[] = [];
    for (const [i, r] of records.entries()) {
      const head = readStep(stored[i]);
      const sound = head?.graphicId === r.id && head.graphic.id === r.id;
      const graphic = sound ? head.graphic : await this.latestOf(r, stored[i]);
      if (graphic) entries.push({ graphic, changed: r.changed, state: stateOf(r) });
      else {
        const name = (stored[i] as { graphic?: { name?: unknown } } | undefined)?.graphic?.name;
        const newer = isNewerStep(stored[i]);
        unreadable.push({
          id: r.id,
          name: nameFrom(typeof name === 'string' ? name : '', limits.name, 'A graphic'),
          why: newer ? newerText : unreadableText,
        });
      }
    }
    return { entries, unreadable };
  }

  /** The latest state of a graphic that can be read, where its head cannot. */
  private async latestOf(record: GraphicRecord, head: unknown): Promise<Graphic | null> {
    if (isNewerStep(head)) return null;
    const opened = await this.read(record);
    return opened.ok ? current(opened.value.history) : null;
  }

  private async read(record: GraphicRecord): Promise<Result<Omit<Opened, 'writer'>>> {
    const stored: unknown[] = await this.db.steps.where('graphicId').equals(record.id).toArray();
    if (stored.some(isNewerStep)) return bad('newer', newerText);
    const { steps, passed } = readSteps(stored, record.id);
    const history = historyFrom(steps, record.head, new Map(pairsOf(record.next)));
    if (!history) return bad('unreadable', unreadableText);
    if (history.head !== record.head)
      return good({
        history,
        told: `The last state of this graphic cannot be read. This is the latest that can: “${headOf(history).name}”.`,
      });
    const of = passed === 1 ? 'One earlier step' : `${passed} earlier steps`;
    return good({
      history,
      told: passed ? `${of} of this graphic cannot be read and ${passed === 1 ? 'is' : 'are'} passed over.` : '',
    });
  }

  /**
   * Opens a graphic. With a token it is opened for writing: from then on only that session's saves are taken. What
   * cannot be read is passed over and said.
   */
  async open(id: string, token: string | null): Promise<Result<Opened>> {
    if (token === null) return this.openAs(id, null, false);
    try {
      return await this.openAs(id, token, true);
    } catch (error) {
      if (storageProblem(error).code !== 'disk-full') throw error;
      return this.openAs(id, token, false);
    }
  }

  private openAs(id: string, token: string | null, noted: boolean): Promise<Result<Opened>> {
    const { graphics, steps } = this.db;
    return this.db.transaction(noted ? 'rw' : 'r', graphics, steps, async () => {
      const record = await graphics.get(id);
      if (!record || record.deleted !== undefined)
        return bad(
          'no-graphic',
          'There is no such graphic in this browser. It may have been deleted, or made in another browser.',
        );
      const opened = await this.read(record);
      if (!opened.ok) return opened;
      const { head } = opened.value.history;
      if (noted) await graphics.put({ ...record, writer: token!, head });
      // The head that is stored, where it could not be written.
      const instead = noted ? {} : { instead: { of: record.writer } };
      const writer = token === null ? null : { token, head: noted ? head : record.head, ...instead };
      return good({ ...opened.value, writer });
    });
  }

  /** Whether there is a graphic of an id, deleted or not. */
  async has(id: string): Promise<boolean> {
    return (await this.db.graphics.where('id').equals(id).count()) > 0;
  }

  /** Stores a graphic that was not there: all its steps, in one transaction. */
  async create(history: History, at: number): Promise<void> {
    const { graphics, steps } = this.db;
    const head = headOf(history);
    const checked = checkedSteps([...history.steps.values()]);
    await this.db.transaction('rw', graphics, steps, async () => {
      await steps.bulkAdd(checked);
      await graphics.add({
        id: head.graphicId,
        head: history.head,
        next: Object.fromEntries(history.next),
        created: head.graphic.created,
        changed: at,
      });
    });
  }

  /**
   * Writes a history: the steps that are new or changed, and where its head stands, in one transaction. Refused where
   * another session has opened it since, where its head was moved, and where it was deleted. Resolves when the data is
   * on disk.
   */
  async save(history: History, steps: readonly Step[], at: number, writer: Writer): Promise<void> {
    const head = headOf(history);
    const checked = checkedSteps(steps);
    await this.db.transaction('rw', this.db.graphics, this.db.steps, async () => {
      const record = await this.db.graphics.get(head.graphicId);
      if (!record || record.deleted !== undefined) throw new Refused(gone);
      const own = record.writer === writer.token || (writer.instead && record.writer === writer.instead.of);
      if (!own || record.head !== writer.head) throw new Refused(elsewhere);
      if (checked.length) await this.db.steps.bulkPut(checked);
      await this.db.graphics.put({
        ...record,
        writer: writer.token,
        head: history.head,
        next: Object.fromEntries(history.next),
        changed: at,
      });
    });
  }

  /**
   * Writes what pages had not written when they went. What was written since by another stands. Gives how many
   * graphics it was for.
   */
  async recover(kept: readonly LastWords[]): Promise<number> {
    let count = 0;
    for (const words of kept) {
      const steps = words.steps.flatMap((s) => readStep(s) ?? []).filter((s) => s.graphicId === words.graphicId);
      await this.db.transaction('rw', this.db.graphics, this.db.steps, async () => {
        const record = await this.db.graphics.get(words.graphicId);
        if (!record || record.deleted !== undefined || record.writer !== words.token) return;
        // A write that was under way may have come through after all: it was of the same session, and before these.
        await this.db.steps.bulkPut(steps);
        if (!(await this.db.steps.get(words.head))) return;
        const next = Object.fromEntries(words.next);
        await this.db.graphics.put({ ...record, head: words.head, next, changed: words.at });
        count++;
      });
    }
    return count;
  }

  /** All that is stored of a graphic, as text: for one that cannot be opened. */
  async raw(id: string): Promise<string> {
    const graphic = await this.db.graphics.get(id);
    const steps: unknown[] = await this.db.steps.where('graphicId').equals(id).toArray();
    return JSON.stringify({ format: 'bright-slot-graphic', graphic, steps }, null, 1);
  }

  /** Deletes a graphic for good, which takes no room. */
  async removeForGood(id: string): Promise<void> {
    const { graphics, steps, previews } = this.db;
    await this.db.transaction('rw', [graphics, steps, previews], async () => {
      await steps.where('graphicId').equals(id).delete();
      await previews.delete(id);
      await graphics.delete(id);
    });
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
    const { graphics, steps, assets, previews, settings } = this.db;
    return this.db.transaction('rw', [graphics, steps, assets, previews, settings], async () => {
      const gone = (await this.db.graphics.toArray()).filter((r) => r.deleted !== undefined && r.deleted < before);
      const ids = gone.map((r) => r.id);
      await this.db.steps.where('graphicId').anyOf(ids).delete();
      await this.db.previews.bulkDelete(ids);
      await this.db.graphics.bulkDelete(ids);
      const { hashes: used } = await usedIn(this.db);
      const old = await assets
        .where('added')
        .below(now - JUST_ADDED)
        .primaryKeys();
      await assets.bulkDelete(old.filter((hash) => !used.has(hash)));
      return ids.length;
    });
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
    for (const { graphic } of entries)
      for (const hash of new Set(graphic.layers.flatMap((l) => (isPicture(l) ? [l.asset] : []))))
        used.set(hash, [...(used.get(hash) ?? []), { id: graphic.id, name: graphic.name }]);
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

  async addExport(record: ExportRecord): Promise<void> {
    await this.db.exports.put(record);
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
