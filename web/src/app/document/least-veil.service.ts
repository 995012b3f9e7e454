import { Injectable, effect, inject, signal, untracked } from '@angular/core';
import { applyEdit, type Graphic, type VeilLayer } from '@bright-slot/core';
import { PixelsService } from '../pixels/pixels.service';
import { Workbench } from './workbench';
import type { FoundStrength } from '../pixels/jobs/least-veil';
import { JobStopped } from '../pixels/pixel-client';

/** How long nothing may change before strengths are looked for again, in ms. */
const REST = 90;

/** Keeps the strength of veils at just enough for as long as that is asked of them, as photo and words change. */
@Injectable({ providedIn: 'root' })
export class LeastVeilService {
  private readonly workbench = inject(Workbench);
  private readonly pixels = inject(PixelsService);
  /** What was found for each veil, by its id. */
  readonly found = signal<ReadonlyMap<string, FoundStrength>>(new Map());
  /** The veil whose strength is being looked for. */
  readonly looking = signal<string | null>(null);
  readonly problem = signal('');

  constructor() {
    effect((onCleanup) => {
      const graphic = this.workbench.graphic();
      // Looked for anew when a tab that only read may write.
      this.workbench.writes();
      // While something is dragged its veil stays; what it needs is found when it is let go.
      if (!graphic || this.workbench.draft()) return;
      const veils = graphic.layers.filter((l): l is VeilLayer => l.role === 'veil' && l.justEnough && l.visible);
      if (!veils.length) return;
      const stop = new AbortController();
      const resting = setTimeout(
        () =>
          untracked(
            () =>
              void this.look(
                graphic,
                veils.map((v) => v.id),
                stop.signal,
              ),
          ),
        REST,
      );
      onCleanup(() => {
        clearTimeout(resting);
        stop.abort();
        untracked(() => this.looking.set(null));
      });
    });
  }

  private async look(graphic: Graphic, veils: readonly string[], stop: AbortSignal): Promise<void> {
    try {
      let now = graphic;
      // From back to front: what is in front is judged over what was found for those behind.
      for (const id of veils) {
        this.looking.set(id);
        const found = await this.inAllFrames(now, id, stop);
        if (stop.aborted) return;
        this.found.update((all) => new Map(all).set(id, found));
        const layer = now.layers.find((l): l is VeilLayer => l.id === id && l.role === 'veil')!;
        const strength = found.words ? (found.strength ?? layer.strength) : layer.strength;
        if (strength !== layer.strength) {
          const change = { type: 'replace-layer' as const, layer: { ...layer, strength } };
          this.workbench.amend(change, now);
          now = this.workbench.graphic() ?? applyEdit(now, change);
        }
      }
      this.problem.set('');
      this.looking.set(null);
    } catch (error) {
      if (error instanceof JobStopped || stop.aborted) return;
      this.looking.set(null);
      this.problem.set('The strength could not be looked for. It stays as it is; try again after the next change.');
    }
  }

  /** What is found in each frame, as one: strong enough for all of them, or for none. */
  private async inAllFrames(graphic: Graphic, veil: string, stop: AbortSignal): Promise<FoundStrength> {
    const found: FoundStrength[] = [];
    for (const frame of graphic.frames) found.push(await this.pixels.strengthFor(graphic, frame, veil, stop));
    return found.reduce((most, f) => {
      if (!f.words || (most.words && most.strength === null)) return most;
      return !most.words || f.strength === null || f.strength > most.strength! ? f : most;
    });
  }
}
