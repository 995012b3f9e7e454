import { Injectable, computed, inject, signal } from '@angular/core';
import { liveQuery } from 'dexie';
import { SiteRecord, lookOf, siteOf, type PageColours, type PageLook, type Slot } from '@bright-slot/core';
import { database } from './database';
import { readable } from './readable';
import { HouseStyleService } from './house-style.service';

/** The person's sites, kept in the browser; and what a slot's page looks like. */
@Injectable({ providedIn: 'root' })
export class Sites {
  private readonly house = inject(HouseStyleService);
  private readonly db = database();
  /** Null until they were read. */
  readonly all = signal<readonly SiteRecord[] | null>(null);
  private readonly own = computed(() => lookOf(this.house.style()));
  /** The person's own sites look as their house style says. */
  private readonly looks = computed(
    () => new Map((this.all() ?? []).filter((s) => s.way.kind === 'stand-in').map((s) => [s.address, s.look])),
  );

  /** Whether it is known what pages look like. */
  readonly known = computed(() => this.all() !== null && this.house.loaded());

  constructor() {
    liveQuery(() => this.list()).subscribe({
      next: (sites) => this.all.set(sites),
      // Without a database there are none, for this visit.
      error: () => this.all.set([]),
    });
  }

  private async list(): Promise<SiteRecord[]> {
    return readable(await this.db.sites.toArray(), SiteRecord);
  }

  /** What the page of a slot looks like: its site's, or as the house style has it. */
  lookOf(slot: Slot): PageLook {
    return this.looks().get(slot.site) ?? this.own();
  }

  /** The settings that every page of a slot's site has; null where there are none. */
  standardOf(slot: Slot): PageColours | null {
    const site = siteOf(slot, this.all() ?? []);
    return site?.settings.find((s) => s.name === site.standard)?.colours ?? null;
  }

  /** Whether the stand-in is one of them, asked of what is stored. */
  async standIn(): Promise<boolean> {
    return (await this.list()).some((s) => s.way.kind === 'stand-in');
  }

  async put(site: SiteRecord): Promise<void> {
    await this.db.sites.put(SiteRecord.parse(site));
  }

  /** Changes one as it is stored; nothing where it is gone. */
  async change(id: string, change: (site: SiteRecord) => SiteRecord): Promise<void> {
    await this.db.transaction('rw', this.db.sites, async () => {
      const read = SiteRecord.safeParse(await this.db.sites.get(id));
      if (read.success) await this.put(change(read.data));
    });
  }

  async remove(id: string): Promise<void> {
    await this.db.sites.delete(id);
  }
}
