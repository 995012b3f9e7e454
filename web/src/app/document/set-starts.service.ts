import { Injectable } from '@angular/core';

/** What a set's page is to begin with. */
export interface SetStart {
  /** So many tiles, to be filled: the set is new. */
  readonly tiles: number;
  /** Photos of a next edition, as they were dropped on the set. */
  readonly photos: readonly File[];
}

/** What sets are opened with, until their pages have begun on it. */
@Injectable({ providedIn: 'root' })
export class SetStarts {
  private readonly given = new Map<string, SetStart>();

  give(set: string, start: Partial<SetStart>): void {
    this.given.set(set, { tiles: 0, photos: [], ...start });
  }

  /** What was given for a set; once. */
  take(set: string): SetStart {
    const start = this.given.get(set) ?? { tiles: 0, photos: [] };
    this.given.delete(set);
    return start;
  }
}
