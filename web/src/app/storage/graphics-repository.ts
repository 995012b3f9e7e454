import { Step, bad, good, historyFrom, type Graphic, type History, type Problem, type Result } from '@bright-slot/core';
import { type AssetRecord, type Database, type ExportRecord, type GraphicRecord, type PreviewRecord } from './database';

/** A graphic as lists show it. */
export interface GraphicEntry {
  readonly graphic: Graphic;
  readonly changed: number;
  /** Changes whenever the graphic does: names the state that a preview belongs to. */
  readonly state: string;
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

/** What is read back and is no longer understood is told, not thrown. */
function parseSteps(records: unknown[]): Step[] {
  return records.flatMap((r) => {
    const parsed = Step.safeParse(r);
    return parsed.success ? [parsed.data] : [];
  });
}

const stateOf = (record: GraphicRecord) => `${record.head}@${record.changed}`;

export class GraphicsRepository {
  constructor(private readonly db: Database) {}

  /** All graphics that were not deleted, latest first. */
  async list(): Promise<GraphicEntry[]> {
    const records = (await this.db.graphics.toArray()).filter((r) => r.deleted === undefined);
    const heads = parseSteps(await this.db.steps.bulkGet(records.map((r) => r.head)));
    const byId = new Map(heads.map((s) => [s.id, s.graphic]));
    return records
      .sort((a, b) => b.changed - a.changed)
      .flatMap((r) => {
        const graphic = byId.get(r.head);
        return graphic ? [{ graphic, changed: r.changed, state: stateOf(r) }] : [];
      });
  }

  async load(id: string): Promise<Result<History>> {
    const record = await this.db.graphics.get(id);
    if (!record || record.deleted !== undefined)
      return bad(
        'no-graphic',
        'There is no such graphic in this browser. It may have been deleted, or made in another browser.',
      );
    const steps = parseSteps(await this.db.steps.where('graphicId').equals(id).toArray());
    const history = historyFrom(steps, record.head, record.next);
    return history ? good(history) : bad('unreadable', 'This graphic was stored in a way this version cannot read.');
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

  /** Stores a picture; one that is there already is left as it is. */
  async addAsset(asset: AssetRecord): Promise<void> {
    await this.db.transaction('rw', this.db.assets, async () => {
      if (!(await this.db.assets.get(asset.hash))) await this.db.assets.add(asset);
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
