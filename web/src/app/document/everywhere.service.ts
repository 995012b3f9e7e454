import { Injectable, inject } from '@angular/core';
import {
  colouredWith,
  contentsWith,
  placesUsed,
  replacedEverywhere,
  rowContents,
  withRoutine,
  type Graphic,
  type Instead,
  type Problem,
  type Routine,
  type TileSet,
  type Used,
} from '@bright-slot/core';
import { GraphicsRepository } from '../storage/graphics-repository';
import { storageProblem } from '../storage/storage-problem';
import { TileSets } from '../storage/tile-sets.service';
import { Composing } from './composing.service';

/** A graphic that uses something, and in how many places. */
export interface Use {
  readonly graphic: Graphic;
  readonly places: number;
}

/** What was replaced: as it was before, so that it can be undone as one; how many were at work elsewhere. */
export interface Replaced {
  readonly before: readonly Graphic[];
  readonly sets: readonly TileSet[];
  readonly busy: number;
  readonly problem: Problem | null;
}

/** A change that is made to many graphics at once. */
export interface ChangeOfMany {
  /** What its step is called in each. */
  readonly step: string;
  /** A graphic with it; the same where nothing comes of it. */
  of(graphic: Graphic): Graphic | Promise<Graphic>;
  /** What a set of tiles is made with, with it. */
  ofSet(set: TileSet): TileSet;
}

/** That something is replaced by something else. */
export const replacing = (what: Used, by: Instead, step: string): ChangeOfMany => ({
  step,
  of: (graphic) => replacedEverywhere(graphic, what, by),
  ofSet: (set) => setWith(set, what, by),
});

/** Something that is used in many graphics: where, and one change made to all of them at once. */
@Injectable({ providedIn: 'root' })
export class Everywhere {
  private readonly repository = inject(GraphicsRepository);
  private readonly sets = inject(TileSets);
  private readonly composing = inject(Composing);

  /** Every graphic there is, one after another; those that cannot be read are passed over. */
  async *graphics(): AsyncGenerator<Graphic, void, void> {
    for (const { id } of (await this.repository.list()).entries) {
      const graphic = await this.repository.graphic(id);
      if (graphic) yield graphic;
    }
  }

  async uses(what: Used): Promise<Use[]> {
    const uses: Use[] = [];
    for await (const graphic of this.graphics()) {
      const places = placesUsed(graphic, what);
      if (places) uses.push({ graphic, places });
    }
    return uses;
  }

  /** That a routine's steps are taken with them. */
  taking(routine: Routine): ChangeOfMany {
    return {
      step: `Routine: ${routine.name}`,
      of: async (graphic) => withRoutine(graphic, (await this.composing.source(graphic)).roles, routine),
      ofSet: (set) => set,
    };
  }

  /** A graphic with a change, its veils just strong enough again. */
  async changed(graphic: Graphic, change: ChangeOfMany, stop: AbortSignal): Promise<Graphic> {
    const next = await change.of(graphic);
    if (next === graphic || !next.layers.some((l) => l.role === 'veil' && l.justEnough)) return next;
    return (await this.composing.veiled({ graphic: next }, true, stop)).graphic;
  }

  /** Makes a change to graphics, in one transaction: a step in each. Graphics open in another tab are left to it. */
  async change(
    ids: readonly string[],
    change: ChangeOfMany,
    stop: AbortSignal = new AbortController().signal,
  ): Promise<Replaced> {
    return locked(ids, async (free) => {
      const busy = ids.length - free.length;
      const before: Graphic[] = [];
      const after: Graphic[] = [];
      try {
        for (const id of free) {
          const graphic = await this.repository.graphic(id);
          const next = graphic && (await this.changed(graphic, change, stop));
          if (!graphic || !next || next === graphic) continue;
          before.push(graphic);
          after.push(next);
        }
        const changed = new Set(after.map((g) => g.id));
        const sets = this.sets.all().filter((s) => s.graphics.some((id) => changed.has(id)));
        const problem = await this.sets.write({
          sets: sets.map((s) => change.ofSet(s)),
          graphics: after,
          step: change.step,
        });
        return { before, sets, busy, problem };
      } catch (error) {
        return { before: [], sets: [], busy, problem: storageProblem(error) };
      }
    });
  }

  /** Everything as it was, in one transaction; a step in each. */
  async undo({ before, sets }: Replaced, step: string): Promise<Problem | null> {
    return this.sets.write({ sets, graphics: before, step: `Undone: ${step}` });
  }
}

/** What all tiles of a set have alike, with something replaced. */
function setWith(set: TileSet, what: Used, by: Instead): TileSet {
  const { logo } = contentsWith(rowContents({ word: '', line: '', photo: null }, set), what, by);
  return { ...set, logo, look: colouredWith(set.look, what, by) };
}

/** Does something while graphics are held, of which those that are open elsewhere are not. */
function locked<T>(
  ids: readonly string[],
  work: (free: readonly string[]) => Promise<T>,
  free: readonly string[] = [],
): Promise<T> {
  const [id, ...rest] = ids;
  if (id === undefined) return work(free);
  return navigator.locks.request(`graphic:${id}`, { ifAvailable: true }, (lock) =>
    locked(rest, work, lock ? [...free, id] : free),
  ) as Promise<T>;
}
