import { Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import { frameOf } from '@bright-slot/core';
import { Workbench } from '../../document/workbench';
import { PixelsService } from '../../pixels/pixels.service';
import { GraphicsRepository } from '../../storage/graphics-repository';

/** So many others are played through at most. */
const MOST = 12;
const WIDTH = 960;

interface Other {
  readonly name: string;
  readonly url: string;
}

/** The other graphics for a slot of which the page shows one at random: what a visitor may see instead. */
@Injectable({ providedIn: 'root' })
export class OthersAtRandom {
  private readonly workbench = inject(Workbench);
  private readonly repository = inject(GraphicsRepository);
  private readonly pixels = inject(PixelsService);
  /** Whether somebody looks. */
  readonly wanted = signal(false);
  private readonly others = signal<readonly Other[]>([]);
  private readonly turn = signal(0);
  readonly count = computed(() => this.others().length);
  /** The one that is shown instead; null for the graphic at work. */
  readonly shown = computed<Other | null>(() => {
    const at = this.turn() % (this.count() + 1);
    return at === 0 ? null : (this.others()[at - 1] ?? null);
  });

  private readonly slot = computed(() => {
    const slot = this.workbench.frame()?.slot;
    return slot?.oneOfSeveral ? slot.id : null;
  });

  constructor() {
    effect((onCleanup) => {
      const [slot, id] = [this.slot(), this.workbench.graphic()?.id];
      untracked(() => this.clear());
      if (!slot || !id || !this.wanted()) return;
      const stop = new AbortController();
      onCleanup(() => stop.abort());
      void this.load(slot, id, stop.signal);
    });
  }

  next(): void {
    this.turn.update((n) => n + 1);
  }

  private clear(): void {
    for (const { url } of this.others()) URL.revokeObjectURL(url);
    this.others.set([]);
    this.turn.set(0);
  }

  private async load(slot: string, own: string, stop: AbortSignal): Promise<void> {
    try {
      const { entries } = await this.repository.list();
      const alike = entries.filter((e) => e.id !== own && frameOf(e).slot.id === slot).slice(0, MOST);
      for (const { id, name, state } of alike) {
        const graphic = await this.repository.graphic(id);
        const blob =
          (await this.repository.preview(id, state))?.blob ??
          (graphic && (await this.pixels.miniature(graphic, frameOf(graphic), WIDTH, stop)));
        if (stop.aborted) return;
        if (blob) this.others.update((all) => [...all, { name, url: URL.createObjectURL(blob) }]);
      }
    } catch (error) {
      // Without them there is nothing to play through.
      if (!stop.aborted) console.warn(error);
    }
  }
}
