import { Injectable, inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { concatMap, filter, map, tap, withLatestFrom } from 'rxjs';
import { headOf, type History, type Step } from '@bright-slot/core';
import { GraphicsRepository, type Writer } from '../storage/graphics-repository';
import { redoToWrite } from '../storage/history-store';
import { keepLastWords } from '../storage/last-words';
import { storageProblem } from '../storage/storage-problem';
import { StorageHealth } from '../storage/storage-health.service';
import { Workbench } from './workbench';
import { GraphicLock } from './graphic-lock';
import { WorkbenchActions, workbenchFeature } from './workbench.store';

/** What a session has on disk, and what it has not yet. */
interface Session {
  writer: Writer;
  /** The history as it was when it was last looked at for changes. */
  seen: History;
  /** Steps that are not on disk as they are now; those whose write failed go along with the next one. */
  readonly unsaved: Map<string, Step>;
  /** Whether anything changed since the last write. */
  changed: boolean;
}

/**
 * Every change of a history is written as it happens; "saved" follows only when the transaction is on disk. A session
 * writes what is its own: it is known by its token, also when another graphic is open by the time a write has its turn.
 */
@Injectable()
export class PersistenceEffects {
  private readonly actions = inject(Actions);
  private readonly store = inject(Store);
  private readonly repository = inject(GraphicsRepository);
  private readonly lock = inject(GraphicLock);
  private readonly health = inject(StorageHealth);
  private readonly workbench = inject(Workbench);
  private session: Session | null = null;

  constructor() {
    addEventListener('pagehide', () => this.leave());
  }

  /** The page goes: what is being typed or dragged is taken, and what is not on disk is kept for the next start. */
  private leave(): void {
    // A field gives its value when it is left.
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
    this.workbench.commitDraft();
    const own = this.session;
    if (!own?.changed && !own?.unsaved.size) return;
    const { writer, seen, unsaved } = own;
    keepLastWords({
      graphicId: headOf(seen).graphicId,
      token: writer.token,
      head: seen.head,
      next: redoToWrite(writer.next, seen.next, new Set(unsaved.keys())),
      steps: [...unsaved.values()],
      at: Date.now(),
    });
  }

  readonly begin = createEffect(
    () =>
      this.actions.pipe(
        ofType(WorkbenchActions.opened),
        tap(({ history, writer }) => {
          this.session = writer && { writer, seen: history, unsaved: new Map(), changed: false };
        }),
      ),
    { dispatch: false },
  );

  /** What was read later is on disk as it is. */
  readonly earlier = createEffect(
    () =>
      this.actions.pipe(
        ofType(WorkbenchActions.earlierRead),
        withLatestFrom(this.store.select(workbenchFeature.selectWorkbenchState)),
        tap(([, { history, token }]) => {
          const own = this.session;
          if (!history || own?.writer.token !== token) return;
          const next = new Map([...history.next].filter(([from]) => !own.seen.next.has(from)));
          for (const [from, to] of own.writer.next) next.set(from, to);
          own.writer = { ...own.writer, next };
          own.seen = history;
        }),
      ),
    { dispatch: false },
  );

  readonly save = createEffect(() =>
    this.actions.pipe(
      ofType(
        WorkbenchActions.edited,
        WorkbenchActions.amended,
        WorkbenchActions.undone,
        WorkbenchActions.redone,
        WorkbenchActions.wentTo,
        WorkbenchActions.called,
        WorkbenchActions.retried,
      ),
      withLatestFrom(this.store.select(workbenchFeature.selectWorkbenchState)),
      map(([action, { history, token }]) => ({
        again: action.type === WorkbenchActions.retried.type,
        // A step that was named may be another than the one that is shown.
        named: action.type === WorkbenchActions.called.type ? action.step : null,
        history,
        token,
        session: this.session,
      })),
      filter(({ again, history, session }) => history !== null && (again || history !== session?.seen)),
      map(({ history, token, session, named }) => {
        const h = history!;
        const own = session?.writer.token === token ? session : null;
        if (own) {
          for (const id of [h.head, ...(named === null ? [] : [named])]) {
            const step = h.steps.get(id);
            if (step && step !== own.seen.steps.get(id)) own.unsaved.set(id, step);
          }
          own.seen = h;
          own.changed = true;
        }
        return { token, own };
      }),
      concatMap(async ({ token, own }) => {
        const at = Date.now();
        // One write takes all that was done meanwhile along, so that nothing waits in a queue while someone types.
        if (own && !own.changed) return WorkbenchActions.saved({ at, token });
        try {
          if (!own) throw new Error('There is no session that may write this.');
          const h = own.seen;
          const steps = [...own.unsaved.values()];
          own.changed = false;
          const before = own.writer;
          const after = await this.repository.save(h, steps, at, before);
          // What was read meanwhile is on disk beside what was written.
          own.writer = own.writer === before ? after : { ...after, next: new Map([...own.writer.next, ...after.next]) };
          for (const s of steps) if (own.unsaved.get(s.id) === s) own.unsaved.delete(s.id);
          this.lock.changed(headOf(h).graphicId);
          void this.health.look();
          void this.health.askToKeep();
          return WorkbenchActions.saved({ at, token });
        } catch (error) {
          if (own) own.changed = true;
          return WorkbenchActions.saveFailed({ problem: storageProblem(error), token });
        }
      }),
    ),
  );
}
