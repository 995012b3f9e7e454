import { Injectable, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { bad, current, type Result } from '@bright-slot/core';
import { GraphicsRepository } from '../storage/graphics-repository';
import { GraphicLock } from './graphic-lock';
import { whenSaved } from './when-saved';
import { WorkbenchActions, workbenchFeature } from './workbench.store';

/** The way into a graphic and out of it, for the workbench and the export alike. */
@Injectable({ providedIn: 'root' })
export class OpenGraphic {
  private readonly store = inject(Store);
  private readonly repository = inject(GraphicsRepository);
  private readonly lock = inject(GraphicLock);
  private readonly history = this.store.selectSignal(workbenchFeature.selectHistory);

  async open(id: string): Promise<Result<null>> {
    const here = this.history();
    if (here && current(here).id !== id) this.store.dispatch(WorkbenchActions.closed());
    const keptHold = this.lock.writes(id);
    await this.lock.hold(id);
    // What is in hand is at least as new as what is stored, but only where no other tab could have written meanwhile.
    if (here && current(here).id === id && keptHold) return { ok: true, value: null };
    await whenSaved(this.store);
    try {
      const history = await this.repository.load(id);
      if (!history.ok) return history;
      this.store.dispatch(WorkbenchActions.opened({ history: history.value }));
      return { ok: true, value: null };
    } catch {
      return bad('storage', 'The browser’s storage could not be read. Reload the page; nothing was changed.');
    }
  }

  close(id: string): void {
    this.lock.leave(id);
  }
}
