import {
  isPicture,
  isNewerStep,
  Step,
  bad,
  boxAbout,
  good,
  historyFrom,
  type Graphic,
  type History,
  type Point,
  type Problem,
  type Result,
} from '@bright-slot/core';
import { type AssetRecord, type Database, type ExportRecord, type GraphicRecord, type PreviewRecord } from './database';

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

/** Turns what storage threw into a sentence for the person. */
export function storageProblem(error: unknown): Problem {
  const name = (error as { name?: string; inner?: { name?: string } } | null)?.name ?? '';
  const inner = (error as { inner?: { name?: string } } | null)?.inner?.name ?? '';
  if (name === 'QuotaExceededError' || inner === 'QuotaExceededError')
    return {
      code: 'disk-full',
      message:
        'The browser has no room left, so the last change is not saved. Free some space or delete graphics; your work stays open here.',
    };
  return {
    code: 'storage',
    message: `The browser could not store the last change (${name || 'unknown reason'}). Your work stays open here; try again or save a file.`,
  };
}

/** For how long a picture that nothing uses yet is left alone, ms. */
const JUST_ADDED = 10 * 60_000;

/** What is read back and is not understood is left out here, and never written over. */
function parseSteps(records: unknown[]): Step[] {
  return records.flatMap((r) => {
    const parsed = Step.safeParse(r);
    return parsed.success ? [parsed.data] : [];
  });
}

const newerText =
  'This graphic was last changed in a newer Bright Slot. It is kept as it is and can be changed there; reload this page to get the newer one.';
const unreadableText = 'This graphic was stored in a way this version cannot read. It is kept as it is.';

const stateOf = (record: GraphicRecord) => `${record.head}@${record.changed}`;

export class GraphicsRepository {
  constructor(private readonly db: Database) {}

  /** All graphics that were not deleted, latest first, and those that cannot be read here. */
  async list(): Promise<{ entries: GraphicEntry[]; unreadable: UnreadableEntry[] }> {
    const records = (await this.db.graphics.toArray()).filter((r) => r.deleted === undefined);
    records.sort((a, b) => b.changed - a.changed);
    const stored: unknown[] = await this.db.steps.bulkGet(records.map((r) => r.head));
    const entries: GraphicEntry[] = [];
    const unreadable: UnreadableEntry[] = [];
    records.forEach((r, i) => {
      const head = parseSteps([stored[i]])[0];
      if (head) entries.push({ graphic: head.graphic, changed: r.changed, state: stateOf(r) });
      else {
        const name = (stored[i] as { graphic?: { name?: unknown } } | undefined)?.graphic?.name;
        unreadable.push({
          id: r.id,
          name: typeof name === 'string' ? name.slice(0, 120) : 'A graphic',
          why: isNewerStep(stored[i]) ? newerText : unreadableText,
        });
      }
    });
    return { entries, unreadable };
  }

  async load(id: string): Promise<Result<History>> {
    const record = await this.db.graphics.get(id);
    if (!record || record.deleted !== undefined)
      return bad(
        'no-graphic',
        'There is no such graphic in this browser. It may have been deleted, or made in another browser.',
      );
    const stored: unknown[] = await this.db.steps.where('graphicId').equals(id).toArray();
    if (stored.some(isNewerStep)) return bad('newer', newerText);
    const history = historyFrom(parseSteps(stored), record.head, record.next);
    return history ? good(history) : bad('unreadable', unreadableText);
  }

  /**
   * Writes a history: the steps that are new or changed, and where its head stands,
   * in one transaction. Resolves when the data is on disk.
   */
  async save(history: History, steps: readonly Step[], at: number): Promise<void> {
    const head = history.steps[history.head]!;
    await this.db.transaction('rw', this.db.graphics, this.db.steps, async () => {
      if (steps.length) await this.db.steps.bulkPut([...steps]);
      await this.db.graphics.put({
        id: head.graphicId,
        head: history.head,
        next: { ...history.next },
        created: head.graphic.created,
        changed: at,
      });
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
      const used = new Set<string>();
      // Also steps that cannot be read here keep their pictures: whatever looks like a hash in them counts.
      await this.db.steps.each((step: unknown) => {
        for (const [hash] of JSON.stringify(step).matchAll(/[0-9a-f]{64}/g)) used.add(hash);
      });
      // And what is kept beside graphics: the house style's logos.
      await settings.each(({ value }) => {
        for (const [hash] of (JSON.stringify(value) ?? '').matchAll(/[0-9a-f]{64}/g)) used.add(hash);
      });
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
  async addAsset(asset: AssetRecord): Promise<void> {
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
    await this.db.assets.update(hash, change);
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

  async addExport(record: ExportRecord): Promise<void> {
    await this.db.exports.put(record);
  }

  async setting(key: string): Promise<unknown> {
    return (await this.db.settings.get(key))?.value;
  }

  async setSetting(key: string, value: unknown): Promise<void> {
    await this.db.settings.put({ key, value });
  }
}
