import { Injectable, inject, signal } from '@angular/core';
import type { Frame } from '@bright-slot/core';
import { GraphicsRepository } from './graphics-repository';

/** How many graphics there are for each slot: counted when it is first asked, and whenever lists are read anew. */
@Injectable({ providedIn: 'root' })
export class SlotUse {
  private readonly repository = inject(GraphicsRepository);
  private readonly counts = signal<ReadonlyMap<string, number> | null>(null);
  private counting = false;

  /** At the least 1: whoever asks has one. */
  of(slot: string): number {
    const counts = this.counts();
    if (!counts) void this.count();
    return Math.max(1, counts?.get(slot) ?? 1);
  }

  /** From what a list has read. */
  note(entries: readonly { readonly frames: readonly Frame[] }[]): void {
    const counts = new Map<string, number>();
    for (const { frames } of entries)
      for (const slot of new Set(frames.map((f) => f.slot.id))) counts.set(slot, (counts.get(slot) ?? 0) + 1);
    this.counts.set(counts);
  }

  /** There is another graphic, or one less. */
  forget(): void {
    this.counts.set(null);
  }

  private async count(): Promise<void> {
    if (this.counting) return;
    this.counting = true;
    try {
      this.note((await this.repository.list()).entries);
    } catch {
      this.note([]);
    } finally {
      this.counting = false;
    }
  }
}
