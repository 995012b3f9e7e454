import { Injectable, inject } from '@angular/core';
import { commit, current, headOf, recolouring, usesOf, type Graphic, type Problem } from '@bright-slot/core';
import { GraphicsRepository } from '../storage/graphics-repository';
import { storageProblem } from '../storage/storage-problem';

/** A graphic that has a colour. */
export interface ColourUse {
  readonly graphic: Graphic;
  readonly places: number;
}

/** House colours in the graphics there are: where they are used, and changing them there. */
@Injectable({ providedIn: 'root' })
export class RecolourService {
  private readonly repository = inject(GraphicsRepository);

  async usesOf(colour: string): Promise<ColourUse[]> {
    const { entries } = await this.repository.list();
    const uses: ColourUse[] = [];
    for (const { id } of entries) {
      const graphic = await this.repository.graphic(id);
      const places = graphic ? usesOf(graphic, colour) : 0;
      if (graphic && places) uses.push({ graphic, places });
    }
    return uses;
  }

  /**
   * Gives graphics another colour wherever they have one: a step each, undone in each like any other. Graphics open in
   * another tab are left to it. Gives how many were changed.
   */
  async change(
    graphics: readonly Graphic[],
    from: string,
    to: string,
    called: string,
  ): Promise<{ changed: number; busy: number; problem: Problem | null }> {
    let changed = 0;
    let busy = 0;
    for (const { id } of graphics)
      try {
        const done = await navigator.locks.request(`graphic:${id}`, { ifAvailable: true }, async (lock) => {
          if (!lock) return 'busy';
          // A session of its own: what is open elsewhere with an older state cannot write over it.
          const opened = await this.repository.open(id, crypto.randomUUID());
          if (!opened.ok || !opened.value.writer) return 'gone';
          const { history, writer } = opened.value;
          const change = recolouring(current(history), from, to);
          if (!change) return 'gone';
          const at = Date.now();
          const edit = { ...change, name: `House colour ${called}: ${to}` };
          const next = commit(history, edit, crypto.randomUUID(), at);
          if (!next.ok) return 'gone';
          await this.repository.save(next.value.history, [headOf(next.value.history)], at, writer);
          return 'changed';
        });
        if (done === 'changed') changed++;
        if (done === 'busy') busy++;
      } catch (error) {
        return { changed, busy, problem: storageProblem(error) };
      }
    return { changed, busy, problem: null };
  }
}
