import { Injectable, inject } from '@angular/core';
import { nameFrom, limits, photosIn, withPhotos, type Edition, type PlacedPicture } from '@bright-slot/core';
import { Composing } from '../document/composing.service';
import { TileSets } from '../storage/tile-sets.service';
import { SetSession } from './set-session';
import { TileTable } from './tile-table';

/** A photo that a next edition may take another for. */
export interface EditionPlace {
  /** What is said there, where it is a tile's. */
  readonly word: string;
  readonly asset: string | null;
  readonly photo: string;
}

/** Editions of a set: the next one made with other photos, an earlier one put back; each in one step. */
@Injectable()
export class Editions {
  private readonly session = inject(SetSession);
  private readonly table = inject(TileTable);
  private readonly sets = inject(TileSets);
  private readonly composing = inject(Composing);

  /** The photos of the set, in its order. */
  places(): EditionPlace[] {
    if (this.session.set())
      return this.session
        .rows()
        .map(({ word, photo }) => ({ word, asset: photo?.asset ?? null, photo: photo?.name ?? '' }));
    const [graphic] = this.session.graphics();
    return graphic ? photosIn(graphic).map((l) => ({ word: '', asset: l.asset, photo: l.name })) : [];
  }

  /** What stands now, as an edition. */
  private asEdition(): Edition {
    const now = new Date();
    const day = now.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });
    return {
      version: 1,
      id: crypto.randomUUID(),
      of: this.session.id(),
      name: nameFrom(`${this.session.name()}, until ${day}`, limits.name, day),
      until: now.toISOString(),
      set: this.session.set(),
      graphics: [...this.session.graphics()],
    };
  }

  /** The next edition with these photos, in the order of the places; null keeps what is there. Whether it was made. */
  async make(photos: readonly (PlacedPicture | null)[]): Promise<boolean> {
    const edition = this.asEdition();
    if (this.session.set()) return this.table.nextEdition(photos, edition);
    const [graphic] = this.session.graphics();
    if (!graphic) return false;
    const changed = withPhotos(graphic, photos);
    const made = (await this.composing.veiled({ graphic: changed }, true, new AbortController().signal)).graphic;
    return this.write([made], 'New edition', edition);
  }

  /** An earlier edition as it was; what stands now is kept in its place. */
  async putBack(edition: Edition): Promise<boolean> {
    const now = this.asEdition();
    if (edition.set) return this.table.putBack(edition, now);
    return this.write(edition.graphics, `Put back: ${edition.name}`, now, edition.id);
  }

  private async write(graphics: Edition['graphics'], step: string, edition: Edition, taken?: string): Promise<boolean> {
    const change = { sets: [], graphics, step, edition, ...(taken === undefined ? {} : { taken }) };
    const problem = await this.sets.write(change);
    if (problem) {
      this.table.problem.set(problem.message);
      return false;
    }
    await this.session.take(null, graphics);
    await this.session.readEditions();
    return true;
  }
}
