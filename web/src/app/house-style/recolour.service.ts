import { Injectable, inject } from '@angular/core';
import { commit, recolouring, usesOf, type Graphic, type Problem } from '@bright-slot/core';
import { GraphicsRepository, storageProblem } from '../storage/graphics-repository';

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
    return entries
      .map(({ graphic }) => ({ graphic, places: usesOf(graphic, colour) }))
      .filter(({ places }) => places > 0);
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
          const opened = await this.repository.load(id);
          if (!opened.ok) return 'gone';
          const history = opened.value;
          const change = recolouring(history.steps[history.head]!.graphic, from, to);
          if (!change) return 'gone';
          const at = Date.now();
          const next = commit(history, { ...change, name: `House colour ${called}: ${to}` }, crypto.randomUUID(), at);
          await this.repository.save(next, [next.steps[next.head]!], at);
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
