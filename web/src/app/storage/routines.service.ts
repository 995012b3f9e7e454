import { Injectable, inject } from '@angular/core';
import { Routine, type Problem } from '@bright-slot/core';
import { GraphicsRepository } from './graphics-repository';
import { KeptList } from './kept-list';
import { MOST_ROUTINES, STEP_ROUTINES } from './routine-lists';

/** The person's routines, kept in the browser; the same in every tab. */
@Injectable({ providedIn: 'root' })
export class Routines {
  private readonly kept = new KeptList(inject(GraphicsRepository), STEP_ROUTINES, Routine);
  readonly all = this.kept.all;

  /** Keeps one; one of the same name gives way to it. */
  keep(routine: Routine): Promise<Problem | null> {
    return this.kept.change((all) =>
      [...all.filter((r) => r.name !== routine.name), Routine.parse(routine)].slice(-MOST_ROUTINES),
    );
  }

  remove(id: string): Promise<Problem | null> {
    return this.kept.change((all) => all.filter((r) => r.id !== id));
  }
}
