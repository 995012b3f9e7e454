import { Injectable, signal } from '@angular/core';
import { liveQuery } from 'dexie';
import { SentFile, heldWithin } from '@bright-slot/core';
import { database, type SentRecord } from './database';
import { readable } from './readable';
import { Refused } from './storage-problem';

/** Files that were sent to sites or found there, with their bytes: kept, so that any of them can be put back. */
@Injectable({ providedIn: 'root' })
export class SentFiles {
  private readonly db = database();
  /** Null until they were read. */
  readonly all = signal<readonly SentFile[] | null>(null);

  constructor() {
    liveQuery(() => this.list()).subscribe({
      next: (files) => this.all.set(files),
      // Without a database there are none, for this visit.
      error: () => this.all.set([]),
    });
  }

  private async list(): Promise<SentFile[]> {
    return readable(await this.db.sent.toArray(), SentFile);
  }

  /** Those of a site, asked of what is stored. */
  async of(site: string): Promise<readonly SentFile[]> {
    return (await this.list()).filter((f) => f.site === site);
  }

  /** Its bytes; null where they are gone. */
  async blob(id: string): Promise<Blob | null> {
    return (await this.db.sent.get(id))?.blob ?? null;
  }

  async add(file: SentFile, blob: Blob): Promise<void> {
    await this.db.sent.add({ ...this.sound(file), blob });
  }

  /** Changes one; nothing where it is gone. */
  async change(id: string, change: Partial<SentFile>): Promise<void> {
    await this.db.transaction('rw', this.db.sent, async () => {
      const record = await this.db.sent.get(id);
      if (!record) return;
      const { blob, ...file } = record;
      await this.db.sent.put({ ...this.sound({ ...file, ...change }), blob });
    });
  }

  /** Makes one what its place shows, and no other. */
  async show(slot: string, site: string, id: string | null): Promise<void> {
    await this.db.sent
      .where('slot')
      .equals(slot)
      .modify((f: SentRecord) => {
        if (f.site === site) f.shown = f.id === id;
      });
  }

  async remove(id: string): Promise<void> {
    await this.db.sent.delete(id);
  }

  private sound(file: SentFile): SentFile {
    const held = heldWithin<SentFile>(SentFile, file);
    if (held) return held.value;
    throw new Refused({
      code: 'unsound',
      message: 'What was sent could not be noted: something of it is not as it should be.',
    });
  }
}
