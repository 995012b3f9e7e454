import { Injectable, computed, inject, signal } from '@angular/core';
import { liveQuery } from 'dexie';
import { SiteRecord, lookOf, type PageLook, type Slot } from '@bright-slot/core';
import { database } from './database';
import { HouseStyleService } from './house-style.service';

/** The person's sites, kept in the browser; and what a slot's page looks like. */
@Injectable({ providedIn: 'root' })
export class Sites {
  private readonly house = inject(HouseStyleService);
  private readonly db = database();
  /** Null until they were read. */
  readonly all = signal<readonly SiteRecord[] | null>(null);
  private readonly own = computed(() => lookOf(this.house.style()));
  private readonly looks = computed(() => new Map((this.all() ?? []).map((s) => [s.address, s.look])));

  /** Whether it is known what pages look like. */
  readonly known = computed(() => this.all() !== null && this.house.loaded());

  constructor() {
    liveQuery(() => this.list()).subscribe({
      next: (sites) => this.all.set(sites),
      // Without a database there are none, for this visit.
      error: () => this.all.set([]),
    });
  }

  /** Those that can be read; what cannot be stays as it is. */
  private async list(): Promise<SiteRecord[]> {
    const stored: unknown[] = await this.db.sites.toArray();
    return stored.flatMap((s) => {
      const read = SiteRecord.safeParse(s);
      return read.success ? [read.data] : [];
    });
  }

  /** What the page of a slot looks like: its site's, or as the house style has it. */
  lookOf(slot: Slot): PageLook {
    return this.looks().get(slot.site) ?? this.own();
  }

  /** Whether there is a site, asked of what is stored. */
  async any(): Promise<boolean> {
    return (await this.list()).length > 0;
  }

  async put(site: SiteRecord): Promise<void> {
    await this.db.sites.put(SiteRecord.parse(site));
  }

  async remove(id: string): Promise<void> {
    await this.db.sites.delete(id);
  }
}
