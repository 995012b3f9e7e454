import { Injectable, signal } from '@angular/core';
import { liveQuery } from 'dexie';
import {
  OwnPage,
  heldWithin,
  plainPage,
  shotDevice,
  shotFor,
  type Device,
  type PageColours,
  type PageShot,
  type ShownShot,
} from '@bright-slot/core';
import { database } from './database';
import { readable } from './readable';
import { Refused } from './storage-problem';

const none: ReadonlyMap<string, OwnPage> = new Map();

/** What the person knows of their slots' pages: screenshots and colours, kept in the browser; the same in every tab. */
@Injectable({ providedIn: 'root' })
export class OwnPages {
  private readonly db = database();
  /** By the slot's id; null until they were read. */
  private readonly pages = signal<ReadonlyMap<string, OwnPage> | null>(null);
  /** Addresses of screenshots, once they were read. */
  private readonly urls = signal<ReadonlyMap<string, string>>(new Map());
  private readonly reading = new Set<string>();

  constructor() {
    liveQuery(() => this.list()).subscribe({
      next: (pages) => this.pages.set(pages),
      // Without a database there are none, for this visit.
      error: () => this.pages.set(none),
    });
  }

  private async list(): Promise<ReadonlyMap<string, OwnPage>> {
    return new Map(readable(await this.db.ownPages.toArray(), OwnPage).map((page) => [page.slot, page]));
  }

  of(slot: string): OwnPage | undefined {
    return this.pages()?.get(slot);
  }

  /** The screenshot that a slot's page is drawn from on a device; null where there is none, or until it was read. */
  shown(slot: string, device: Device): ShownShot | null {
    const shot = shotFor(this.of(slot), device);
    if (!shot) return null;
    const url = this.urls().get(shot.asset);
    if (!url) void this.read(shot.asset);
    return url ? { url, shot } : null;
  }

  private async read(hash: string): Promise<void> {
    if (this.reading.has(hash)) return;
    this.reading.add(hash);
    const asset = await this.db.assets.get(hash).catch(() => undefined);
    if (asset) this.urls.update((all) => new Map(all).set(hash, URL.createObjectURL(asset.blob)));
    // One that is not there yet is asked for again.
    else this.reading.delete(hash);
  }

  /** Makes a screenshot a slot's page, on the device that it is as wide as. Gives what stood there before. */
  async keepShot(slot: string, shot: PageShot): Promise<OwnPage | undefined> {
    return this.change(slot, { [shotDevice(shot)]: shot });
  }

  async dropShot(slot: string, device: 'desktop' | 'phone'): Promise<OwnPage | undefined> {
    return this.change(slot, { [device]: null });
  }

  /** `was`: what the slot had before any were kept, to go back to. */
  async keepColours(slot: string, colours: PageColours | null, was: OwnPage['was']): Promise<OwnPage | undefined> {
    return this.change(slot, { colours, was });
  }

  /** Puts back what stood there; where nothing did, takes it away. */
  async restore(slot: string, page: OwnPage | undefined): Promise<void> {
    if (page) await this.db.ownPages.put(page);
    else await this.db.ownPages.delete(slot);
  }

  private async change(slot: string, change: Partial<OwnPage>): Promise<OwnPage | undefined> {
    const before = this.of(slot);
    const held = heldWithin<OwnPage>(OwnPage, { ...(before ?? plainPage(slot)), ...change });
    if (!held)
      throw new Refused({
        code: 'unsound',
        message: 'That page could not be kept: something of it is not as it should be.',
      });
    await this.db.ownPages.put(held.value);
    return before;
  }
}
