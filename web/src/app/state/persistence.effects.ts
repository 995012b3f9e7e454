import { Injectable, inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { concatMap, filter, map, pairwise, startWith, withLatestFrom } from 'rxjs';
import type { History } from '@bright-slot/core';
import { GraphicsRepository, storageProblem } from '../storage/graphics-repository';
import { StorageHealth } from '../storage/storage-health.service';
import { GraphicLock } from './graphic-lock';
import { WorkbenchActions, workbenchFeature } from './workbench.store';

/** Every change of a history is written as it happens; "saved" follows only when the transaction is on disk. */
@Injectable()
export class PersistenceEffects {
  private readonly actions = inject(Actions);
  private readonly store = inject(Store);
  private readonly repository = inject(GraphicsRepository);
  private readonly lock = inject(GraphicLock);
  private readonly health = inject(StorageHealth);
  /** Steps whose write failed; they go along with the next one. */
  private readonly unsaved = new Set<string>();

  readonly save = createEffect(() =>
    this.actions.pipe(
      ofType(
        WorkbenchActions.opened,
        WorkbenchActions.edited,
        WorkbenchActions.amended,
        WorkbenchActions.undone,
        WorkbenchActions.redone,
        WorkbenchActions.wentTo,
        WorkbenchActions.retried,
      ),
      withLatestFrom(this.store.select(workbenchFeature.selectHistory)),
      map(([action, history]) => ({ why: action.type, history })),
      startWith({ why: WorkbenchActions.opened.type, history: null as History | null }),
      pairwise(),
      filter(([before, after]) => {
        if (after.history === null || after.why === WorkbenchActions.opened.type) return false;
        return after.history !== before.history || after.why === WorkbenchActions.retried.type;
      }),
      concatMap(async ([before, { history }]) => {
        const h = history!;
        const at = Date.now();
        if (h.steps[h.head] !== before.history?.steps[h.head]) this.unsaved.add(h.head);
        const steps = [...this.unsaved].flatMap((id) => h.steps[id] ?? []);
        try {
          await this.repository.save(h, steps, at);
          this.unsaved.clear();
          this.lock.changed();
          void this.health.look();
          void this.health.askToKeep();
          return WorkbenchActions.saved({ at });
        } catch (error) {
          return WorkbenchActions.saveFailed({ problem: storageProblem(error) });
        }
      }),
    ),
  );
}
