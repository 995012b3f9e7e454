import { Injectable, inject } from '@angular/core';
import { Router } from '@angular/router';
import {
  good,
  layoutLook,
  newGraphic,
  saysNothing,
  setGraphic,
  startHistory,
  withoutSize,
  type Graphic,
  type Problem,
  type Result,
  type Slot,
  type SlotSet,
  type TileSet,
} from '@bright-slot/core';
import { GraphicsRepository } from '../storage/graphics-repository';
import { HouseStyleService } from '../storage/house-style.service';
import { SlotUse } from '../storage/slot-use.service';
import { storageProblem } from '../storage/storage-problem';
import { StorageHealth } from '../storage/storage-health.service';
import { TileSets } from '../storage/tile-sets.service';
import { SetStarts } from './set-starts.service';

/** The layout that tiles are made in at first: the photo alone where they are shown too small for words. */
const firstLayout = (slot: Slot) => (saysNothing(slot) ? 'quiet' : 'band');

/** A name as it is, or with the first number with which it is free. */
function freeName(name: string, taken: readonly string[]): string {
  const known = new Set(taken);
  if (!known.has(name)) return name;
  for (let n = 2; ; n++) if (!known.has(`${name} ${n}`)) return `${name} ${n}`;
}

/** Makes graphics: stored with a history of one step, and opened where that is asked. */
@Injectable({ providedIn: 'root' })
export class MakeGraphic {
  private readonly repository = inject(GraphicsRepository);
  private readonly router = inject(Router);
  private readonly health = inject(StorageHealth);
  private readonly use = inject(SlotUse);
  private readonly house = inject(HouseStyleService);
  private readonly tileSets = inject(TileSets);
  private readonly starts = inject(SetStarts);

  /** Pictures that a new graphic begins with, until the workbench has opened on it. */
  private begun: { readonly graphic: string; readonly files: readonly File[] } | null = null;

  /** The pictures that a graphic is to begin with; given once. */
  beginningOf(graphic: string): readonly File[] {
    const files = this.begun?.graphic === graphic ? this.begun.files : [];
    this.begun = null;
    return files;
  }

  /** The slot that a graphic is to be started for, where the address does not say all of it. */
  private starting: Slot | null = null;

  /** Starts a graphic for a slot: with pictures at once, else it is asked whether bare or in a layout. */
  async start(slot: Slot, files: readonly File[] = []): Promise<Problem | null> {
    if (files.length) {
      const made = await this.forSlot(slot, files);
      return made.ok ? null : made.problem;
    }
    this.starting = slot;
    const own = slot.id.startsWith('own-');
    const queryParams = own ? { size: `${slot.width}x${slot.height}` } : { slot: slot.id };
    await this.router.navigate(['/graphics/new'], { queryParams });
    return null;
  }

  /** The slot that was asked for last. */
  toStart(): Slot | null {
    return this.starting;
  }

  /** An empty graphic for a slot, named after it; the workbench opens on it, and brings in what it begins with. */
  async forSlot(slot: Slot, files: readonly File[] = []): Promise<Result<Graphic>> {
    const graphic = newGraphic({ ...(await this.own(slot)), slot });
    const kept = await this.keep(graphic, 'Made');
    this.begun = kept.ok && files.length ? { graphic: graphic.id, files } : null;
    if (kept.ok) await this.router.navigate(['/graphics', graphic.id]);
    return kept;
  }

  /** One empty canvas for the places of a strip or a mosaic; the workbench opens on it. */
  async forSet(
    set: SlotSet,
    slotOf: (id: string) => Slot | undefined,
    files: readonly File[] = [],
  ): Promise<Result<Graphic>> {
    const made = setGraphic(await this.own(set), set, slotOf);
    if (!made.ok) return made;
    const kept = await this.keep(made.value, 'Made');
    this.begun = kept.ok && files.length ? { graphic: made.value.id, files } : null;
    if (kept.ok) await this.router.navigate(['/graphics', made.value.id]);
    return kept;
  }

  /** A new set of tiles for a slot, so many of them; its page opens and fills it. */
  async forTiles(slot: Slot, tiles: number): Promise<Problem | null> {
    await this.house.loadedOnce;
    const name = freeName(
      withoutSize(slot.name),
      this.tileSets.all().map((s) => s.name),
    );
    const set: TileSet = {
      version: 1,
      id: crypto.randomUUID(),
      name,
      created: new Date().toISOString(),
      slot,
      layout: firstLayout(slot),
      look: layoutLook(this.house.style()),
      logo: null,
      graphics: [],
    };
    const problem = await this.tileSets.write({ sets: [set], graphics: [], step: 'Made' });
    if (problem) return problem;
    this.starts.give(set.id, { tiles });
    await this.router.navigate(['/sets', set.id]);
    return null;
  }

  /** What a new graphic for a slot is called, and known by. */
  async own(slot: Pick<Slot, 'name'>): Promise<{ id: string; name: string; created: string }> {
    let taken = new Set<string>();
    try {
      taken = new Set((await this.repository.list()).entries.map((e) => e.name));
    } catch {
      // Only the name's number depends on it.
    }
    return { id: crypto.randomUUID(), name: freeName(slot.name, [...taken]), created: new Date().toISOString() };
  }

  /** Stores a graphic as the first step of a history. */
  async keep(graphic: Graphic, step: string): Promise<Result<Graphic>> {
    const history = startHistory(graphic, crypto.randomUUID(), Date.now(), step);
    try {
      await this.repository.create(history, Date.now());
      this.use.forget();
      void this.health.askToKeep();
      return good(graphic);
    } catch (error) {
      return { ok: false, problem: storageProblem(error) };
    }
  }
}
