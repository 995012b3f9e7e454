import { Injectable, computed, inject, signal } from '@angular/core';
import { setWith, slotsToStart, type Slot, type SlotSet } from '@bright-slot/core';
import { storageProblem } from './storage-problem';
import { SlotsRepository } from './slots-repository';

/** The person's book of slots, kept in the browser; the same in every tab. */
@Injectable({ providedIn: 'root' })
export class SlotBook {
  private readonly repository = inject(SlotsRepository);
  /** Null until the book was read. */
  readonly slots = signal<readonly Slot[] | null>(null);
  readonly problem = signal('');
  readonly savedAt = signal<number | null>(null);
  private readonly kept = signal({ unreadable: 0, newer: false });
  readonly notice = computed(() => {
    const { unreadable, newer } = this.kept();
    if (!unreadable) return '';
    return `${unreadable} ${unreadable === 1 ? 'entry' : 'entries'} cannot be read here and ${unreadable === 1 ? 'is' : 'are'} kept as ${
      unreadable === 1 ? 'it is' : 'they are'
    }${newer ? ': a newer Bright Slot wrote them. Reload to get it.' : '.'}`;
  });
  /** The slot in the editor and the state it is in there: kept here, so that looking elsewhere loses nothing. */
  /** Whether the editor shows every field. */
  readonly editingAll = signal(false);
  readonly editing = signal<Slot | null>(null);
  readonly draft = signal<Slot | null>(null);
  readonly sets = signal<readonly SlotSet[]>([]);
  readonly byId = computed(() => new Map((this.slots() ?? []).map((s) => [s.id, s])));

  constructor() {
    void this.start();
  }

  private async start(): Promise<void> {
    try {
      await this.repository.seed(slotsToStart);
    } catch (error) {
      this.problem.set(storageProblem(error).message);
    }
    this.repository.watch().subscribe({
      next: ({ slots, sets, unreadable, newer }) => {
        this.slots.set(slots);
        this.sets.set(sets);
        this.kept.set({ unreadable, newer });
      },
      error: (error: unknown) => {
        // Without a database the shipped entries still serve, for this visit.
        this.slots.set(slotsToStart);
        this.problem.set(storageProblem(error).message);
      },
    });
  }

  /** The set a slot stands in, all of its slots being in the book. */
  setWith(slot: string): SlotSet | null {
    return setWith(slot, this.sets(), (id) => this.byId().has(id));
  }

  /** Adds slots, and the sets they stand in. Resolves to whether they are on disk. */
  putTogether(slots: readonly Slot[], sets: readonly SlotSet[]): Promise<boolean> {
    return this.write(() => this.repository.put(slots, sets));
  }

  /** Adds or changes entries. Resolves to whether they are on disk. */
  put(...slots: readonly Slot[]): Promise<boolean> {
    return this.putTogether(slots, []);
  }

  remove(...ids: readonly string[]): Promise<boolean> {
    return this.write(() => this.repository.remove(ids));
  }

  private async write(work: () => Promise<void>): Promise<boolean> {
    try {
      await work();
      this.savedAt.set(Date.now());
      this.problem.set('');
      return true;
    } catch (error) {
      this.problem.set(storageProblem(error).message);
      return false;
    }
  }
}
