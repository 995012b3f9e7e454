import { Injectable, inject } from '@angular/core';
import { ExportRoutine, MOST_EXPORT_ROUTINES, type Problem } from '@bright-slot/core';
import { GraphicsRepository } from './graphics-repository';
import { KeptList } from './kept-list';
import { EXPORT_ROUTINES } from './routine-lists';

/** The person's routines for exporting, kept in the browser; the same in every tab. */
@Injectable({ providedIn: 'root' })
export class ExportRoutines {
  private readonly kept = new KeptList(inject(GraphicsRepository), EXPORT_ROUTINES, ExportRoutine);
  readonly all = this.kept.all;

  /** Keeps one; one of the same name gives way to it, and stays on the slots it was put on. */
  keep(routine: ExportRoutine): Promise<Problem | null> {
    return this.kept.change((all) => {
      const before = all.find((r) => r.name === routine.name);
      const slots = [...new Set([...(before?.slots ?? []), ...routine.slots])];
      return [...all.filter((r) => r !== before), ExportRoutine.parse({ ...routine, slots })].slice(
        -MOST_EXPORT_ROUTINES,
      );
    });
  }

  /** Puts one on a slot, or takes it off. */
  putOn(id: string, slot: string, is: boolean): Promise<Problem | null> {
    return this.kept.change((all) =>
      all.map((r) => {
        const others = r.slots.filter((s) => s !== slot);
        return r.id === id ? ExportRoutine.parse({ ...r, slots: is ? [...others, slot] : others }) : r;
      }),
    );
  }

  remove(id: string): Promise<Problem | null> {
    return this.kept.change((all) => all.filter((r) => r.id !== id));
  }
}
