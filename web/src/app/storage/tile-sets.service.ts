import { Injectable, InjectionToken, computed, inject, signal } from '@angular/core';
import { liveQuery } from 'dexie';
import { TileSet, limits, readEdition, readTileSet, type Edition, type Graphic, type Problem } from '@bright-slot/core';
import { database } from './database';
import { GraphicsRepository } from './graphics-repository';
import { storageProblem } from './storage-problem';
import { editionUses, putUses, setUses } from './used';

/** What is written of sets and graphics at once: all of it, or nothing. */
export interface SetChange {
  readonly sets: readonly TileSet[];
  /** Graphics as they are from now on, and what their step is called. */
  readonly graphics: readonly Graphic[];
  readonly step: string;
  /** Tiles that are no longer in it: their graphics are deleted, and can be brought back as any. */
  readonly removed?: readonly string[];
  /** The making before, to be kept. */
  readonly edition?: Edition | null;
  /** An edition that was taken up again: it is not kept twice. */
  readonly taken?: string;
}

/** The database they are in: a test's own stands in for it. */
export const SETS_DATABASE = new InjectionToken('sets database', { providedIn: 'root', factory: database });

/** Sets of tiles and editions, kept in the browser; the same in every tab. */
@Injectable({ providedIn: 'root' })
export class TileSets {
  private readonly db = inject(SETS_DATABASE);
  private readonly repository = inject(GraphicsRepository);
  /** Null until they were first read. */
  readonly read = signal<readonly TileSet[] | null>(null);
  readonly all = computed(() => this.read() ?? []);
  /** The set that a graphic is a tile of, by the graphic's id. */
  readonly ofGraphic = computed(() => {
    const by = new Map<string, TileSet>();
    for (const set of this.all()) for (const id of set.graphics) by.set(id, set);
    return by;
  });

  constructor() {
    liveQuery(() => this.db.tileSets.toArray()).subscribe({
      next: (all) => this.read.set(all.flatMap((v) => readTileSet(v) ?? [])),
      // Without a database there are none, for this visit.
      error: () => this.read.set([]),
    });
  }

  async set(id: string): Promise<TileSet | null> {
    return readTileSet(await this.db.tileSets.get(id));
  }

  /** The editions that are kept of a set or a graphic, the latest first; those that cannot be read are passed over. */
  async editions(of: string): Promise<Edition[]> {
    const all: unknown[] = await this.db.editions.where('of').equals(of).toArray();
    return all.flatMap((v) => readEdition(v) ?? []).sort((a, b) => b.until.localeCompare(a.until));
  }

  /** Writes a change in one transaction: a page that goes in the middle of it leaves all as it was. */
  async write(change: SetChange): Promise<Problem | null> {
    const { sets, graphics, step, removed = [], edition, taken } = change;
    const { tileSets, editions, uses } = this.db;
    const at = Date.now();
    try {
      await this.db.transaction('rw', [tileSets, editions, uses, ...this.repository.tables], async () => {
        await this.repository.putAll(
          graphics.map((graphic) => ({ graphic, step })),
          at,
        );
        for (const id of removed) await this.repository.setDeleted(id, at);
        if (taken !== undefined) await this.forget(taken);
        if (edition) {
          await editions.put(edition);
          await putUses(this.db, editionUses(edition.id), edition);
          await this.forgetEarliest(edition.of);
        }
        for (const set of sets) {
          await tileSets.put(TileSet.parse(set));
          await putUses(this.db, setUses(set.id), set);
        }
      });
      return null;
    } catch (error) {
      return storageProblem(error);
    }
  }

  private async forget(edition: string): Promise<void> {
    await this.db.editions.delete(edition);
    await this.db.uses.where('graphicId').equals(editionUses(edition)).delete();
  }

  /** So many editions are kept of one set; the earliest go. */
  private async forgetEarliest(of: string): Promise<void> {
    const all = await this.db.editions.where('of').equals(of).toArray();
    all.sort((a, b) => b.until.localeCompare(a.until));
    for (const { id } of all.slice(limits.editions)) await this.forget(id);
  }

  /** A set goes with its tiles; what was kept of it stays until it is swept with them. */
  async remove(set: TileSet): Promise<Problem | null> {
    const at = Date.now();
    try {
      await this.db.transaction('rw', [this.db.tileSets, this.db.graphics], async () => {
        for (const id of set.graphics) await this.repository.setDeleted(id, at);
        await this.db.tileSets.delete(set.id);
      });
      return null;
    } catch (error) {
      return storageProblem(error, 'delete');
    }
  }

  /** One that was removed, as it was. */
  async bringBack(set: TileSet): Promise<Problem | null> {
    try {
      await this.db.transaction('rw', [this.db.tileSets, this.db.graphics], async () => {
        for (const id of set.graphics) await this.repository.setDeleted(id, undefined);
        await this.db.tileSets.put(set);
      });
      return null;
    } catch (error) {
      return storageProblem(error);
    }
  }
}
