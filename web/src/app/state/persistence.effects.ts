import { Injectable, inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { concatMap, filter, map, pairwise, startWith, withLatestFrom } from 'rxjs';
import type { History } from '@bright-slot/core';
import { GraphicsRepository, storageProblem } from '../storage/graphics-repository';
import { WorkbenchActions, workbenchFeature } from './workbench.store';

/** Every change of a history is written as it happens; "saved" follows only when the transaction is on disk. */
@Injectable()
export class PersistenceEffects {
  private readonly actions = inject(Actions);
  private readonly store = inject(Store);
  private readonly repository = inject(GraphicsRepository);
  /** Steps whose write failed; they go along with the next one. */
  private readonly unsaved = new Set<string>();

  readonly save = createEffect(() =>
    this.actions.pipe(
      ofType(
        WorkbenchActions.opened,
        WorkbenchActions.edited,
        WorkbenchActions.undone,
        WorkbenchActions.redone,
        WorkbenchActions.wentTo,
      ),
      withLatestFrom(this.store.select(workbenchFeature.selectHistory)),
      map(([action, history]) => ({ opened: action.type === WorkbenchActions.opened.type, history })),
      startWith({ opened: true, history: null as History | null }),
      pairwise(),
      filter(([before, after]) => !after.opened && after.history !== null && after.history !== before.history),
      concatMap(async ([before, { history }]) => {
        const h = history!;
        const at = Date.now();
        if (h.steps[h.head] !== before.history?.steps[h.head]) this.unsaved.add(h.head);
        const steps = [...this.unsaved].flatMap((id) => h.steps[id] ?? []);
        try {
          await this.repository.save(h, steps, at);
          this.unsaved.clear();
          return WorkbenchActions.saved({ at });
        } catch (error) {
          return WorkbenchActions.saveFailed({ problem: storageProblem(error) });
        }
      }),
    ),
  );
}
