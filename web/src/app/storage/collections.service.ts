import { Injectable, computed, signal } from '@angular/core';
import { liveQuery } from 'dexie';
import { Collection, collectionLimits, collectionName, withMember, type Problem } from '@bright-slot/core';
import { database } from './database';
import { readable } from './readable';
import { storageProblem } from './storage-problem';

/** The person's collections of graphics, kept in the browser; the same in every tab. */
@Injectable({ providedIn: 'root' })
export class Collections {
  private readonly db = database();
  /** By name. */
  readonly all = signal<readonly Collection[]>([]);
  /** Names of the collections that a graphic is in, by its id. */
  readonly holding = computed(() => {
    const by = new Map<string, string[]>();
    for (const { name, graphics } of this.all()) for (const id of graphics) by.set(id, [...(by.get(id) ?? []), name]);
    return by;
  });

  constructor() {
    liveQuery(() => this.list()).subscribe({
      next: (all) => this.all.set(all),
      // Without a database there are none, for this visit.
      error: () => this.all.set([]),
    });
  }

  private async list(): Promise<Collection[]> {
    const all = readable(await this.db.collections.toArray(), Collection);
    return all.sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
  }

  /** A new one, with graphics in it; its id, or why there is none. */
  async make(typed: string, graphics: readonly string[] = []): Promise<string | Problem> {
    const all = await this.list();
    if (all.length >= collectionLimits.collections)
      return { code: 'too-many', message: 'There are 500 collections. Take one away first.' };
    const name = collectionName(
      typed,
      all.map((c) => c.name),
    );
    const own: Collection = {
      version: 1,
      id: crypto.randomUUID(),
      name,
      created: new Date().toISOString(),
      graphics: [...graphics],
    };
    const problem = await this.write(() => this.db.collections.add(Collection.parse(own)));
    return problem ?? own.id;
  }

  rename(id: string, typed: string): Promise<Problem | null> {
    return this.change(id, (c, others) => ({ ...c, name: collectionName(typed, others) }));
  }

  /** Puts a graphic in, or takes it out. */
  hold(id: string, graphic: string, is: boolean): Promise<Problem | null> {
    return this.change(id, (c) => withMember(c, graphic, is));
  }

  /** The collection goes, its graphics stay. */
  remove(id: string): Promise<Problem | null> {
    return this.write(() => this.db.collections.delete(id));
  }

  /** One that was removed, as it was. */
  bringBack(collection: Collection): Promise<Problem | null> {
    return this.write(() => this.db.collections.put(collection));
  }

  private change(
    id: string,
    change: (collection: Collection, others: readonly string[]) => Collection,
  ): Promise<Problem | null> {
    return this.write(() =>
      this.db.transaction('rw', this.db.collections, async () => {
        const all = await this.list();
        const own = all.find((c) => c.id === id);
        const others = all.flatMap((c) => (c.id === id ? [] : [c.name]));
        if (own) await this.db.collections.put(Collection.parse(change(own, others)));
      }),
    );
  }

  private async write(work: () => PromiseLike<unknown>): Promise<Problem | null> {
    try {
      await work();
      return null;
    } catch (error) {
      return storageProblem(error);
    }
  }
}
