import { Injectable, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { bad, current, type History, type Result } from '@bright-slot/core';
import { PixelsService } from '../pixels/pixels.service';
import { GraphicsRepository } from '../storage/graphics-repository';
import { GraphicLock } from './graphic-lock';
import { LastWordsService } from './last-words.service';
import { whenSaved } from './when-saved';
import { WorkbenchActions, workbenchFeature } from './workbench.store';

/** How long what was kept for a graphic stays when it was closed, ms. */
const FORGET = 3000;

/**
 * The way into a graphic and out of it, for the workbench and the export alike. What is open is one session: its lock,
 * its history, its token, without which nothing is written. Letting go of it drops all of it.
 */
@Injectable({ providedIn: 'root' })
export class OpenGraphic {
  private readonly store = inject(Store);
  private readonly repository = inject(GraphicsRepository);
  private readonly lock = inject(GraphicLock);
  private readonly pixels = inject(PixelsService);
  private readonly lastWords = inject(LastWordsService);
  private readonly history = this.store.selectSignal(workbenchFeature.selectHistory);
  private readonly token = this.store.selectSignal(workbenchFeature.selectToken);
  private readonly problem = this.store.selectSignal(workbenchFeature.selectProblem);
  /** Counts what was asked for: an answer that comes after the next question is not for it. */
  private turn = 0;

  constructor() {
    this.lock.stale.subscribe((id) => {
      const here = this.history();
      if (here && current(here).id === id) void this.read(id);
    });
    this.lock.left.subscribe((id) => {
      const here = this.history();
      if (here && current(here).id === id) this.store.dispatch(WorkbenchActions.closed());
      // What was kept for it goes a moment later, unless another is opened at once.
      setTimeout(() => {
        if (!this.history()) this.pixels.forget();
      }, FORGET);
    });
  }

  /** Opens a graphic. `superseded` where another was asked for meanwhile. */
  async open(id: string): Promise<Result<null>> {
    const turn = ++this.turn;
    const here = this.history();
    if (here && current(here).id !== id) this.store.dispatch(WorkbenchActions.closed());
    const keptHold = this.lock.writes(id) && this.token() !== null;
    await this.lock.hold(id);
    if (turn !== this.turn) return superseded;
    // What is in hand is at least as new as what is stored, but only where no other tab could have written meanwhile.
    if (here && current(here).id === id && keptHold && this.problem()?.code !== 'elsewhere')
      return { ok: true, value: null };
    return this.read(id);
  }

  private async read(id: string): Promise<Result<null>> {
    const turn = ++this.turn;
    await whenSaved(this.store);
    await this.lastWords.written;
    if (turn !== this.turn) return superseded;
    try {
      const opened = await this.repository.open(id, this.lock.writes(id) ? crypto.randomUUID() : null);
      if (turn !== this.turn) return superseded;
      if (!opened.ok) return opened;
      // The lock may have gone to another tab while it was read.
      const writer = this.lock.writes(id) ? opened.value.writer : null;
      const { history, told, partly } = opened.value;
      this.store.dispatch(WorkbenchActions.opened({ history, writer, told, partly }));
      if (partly) void this.readEarlier(id, history);
      return { ok: true, value: null };
    } catch {
      return bad('storage', 'The browser’s storage could not be read. Reload the page; nothing was changed.');
    }
  }

  /** The head is on screen; what is undone to comes after it. */
  private async readEarlier(id: string, of: History): Promise<void> {
    const read = await this.repository.earlier(id).catch(() => null);
    const steps = read?.ok ? read.value.steps : [];
    const why = read?.ok ? read.value.told : (read?.problem.message ?? '');
    const told = steps.length
      ? why
      : `The steps before this one could not be read, so undo goes back to here and no further. ${why}`.trim();
    this.store.dispatch(WorkbenchActions.earlierRead({ of, steps, told }));
  }

  close(id: string): void {
    this.lock.leave(id);
  }
}

const superseded = bad('superseded', '');
