import { Injectable, computed, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import * as z from 'zod';
import { GraphicsRepository } from '../storage/graphics-repository';
import { WorkbenchActions } from './workbench.store';
import { whenSaved } from './when-saved';

/** What tabs say to each other about a graphic. */
const Word = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('changed'), graphic: z.string() }),
  z.object({ kind: z.literal('give-over'), graphic: z.string() }),
]);
type Word = z.infer<typeof Word>;

/** How long a tab that should give over may take before it is taken for dead, ms. */
const PATIENCE = 3000;

/**
 * One writer a graphic: the tab that holds its lock writes, any other reads what is written there,
 * or takes over, after the writer has saved what it had in hand.
 */
@Injectable({ providedIn: 'root' })
export class GraphicLock {
  private readonly store = inject(Store);
  private readonly repository = inject(GraphicsRepository);
  private readonly channel = new BroadcastChannel('bright-slot');
  private readonly state = signal<{ graphic: string; writes: boolean } | null>(null);
  private release: (() => void) | undefined;
  private leaving: ReturnType<typeof setTimeout> | undefined;

  /** Whether this tab only reads the graphic that is open. */
  readonly reading = computed(() => this.state()?.writes === false);

  /** Whether this tab has been the writer of a graphic without a break. */
  writes(graphic: string): boolean {
    const now = this.state();
    return now?.graphic === graphic && now.writes;
  }

  constructor() {
    this.channel.addEventListener('message', (event: MessageEvent<unknown>) => {
      const word = Word.safeParse(event.data);
      if (!word.success || word.data.graphic !== this.state()?.graphic) return;
      if (word.data.kind === 'changed' && this.reading()) void this.reload();
      if (word.data.kind === 'give-over' && !this.reading()) void this.giveOver();
    });
  }

  /** Opens a graphic for writing where no other tab does, for reading otherwise. */
  async hold(graphic: string): Promise<void> {
    clearTimeout(this.leaving);
    if (this.state()?.graphic === graphic) return;
    this.letGo();
    await this.request(graphic, { ifAvailable: true });
  }

  /** Lets a graphic go unless another place of the app holds it at once. */
  leave(graphic: string): void {
    clearTimeout(this.leaving);
    this.leaving = setTimeout(() => {
      if (this.state()?.graphic === graphic) this.letGo();
    }, 400);
  }

  /** Makes this tab the writer: the other one saves and reads from then on. */
  async takeOver(): Promise<void> {
    const now = this.state();
    if (!now || now.writes) return;
    this.say({ kind: 'give-over', graphic: now.graphic });
    const waited = new AbortController();
    const timer = setTimeout(() => waited.abort(), PATIENCE);
    try {
      await this.request(now.graphic, { signal: waited.signal });
    } catch {
      await this.request(now.graphic, { steal: true });
    }
    clearTimeout(timer);
    await this.reload();
  }

  /** Tells other tabs that what they read has changed. */
  changed(): void {
    const now = this.state();
    if (now?.writes) this.say({ kind: 'changed', graphic: now.graphic });
  }

  private say(word: Word): void {
    this.channel.postMessage(word);
  }

  private request(graphic: string, options: LockOptions): Promise<void> {
    return new Promise<void>((settled, failed) => {
      navigator.locks
        .request(`graphic:${graphic}`, options, (lock) => {
          this.state.set({ graphic, writes: lock !== null });
          settled();
          return lock === null ? undefined : new Promise<void>((done) => (this.release = done));
        })
        .catch((error: unknown) => {
          // Another tab took the lock without asking: it took this one for dead.
          if (this.state()?.graphic === graphic && this.state()?.writes) this.state.set({ graphic, writes: false });
          failed(error instanceof Error ? error : new Error(String(error)));
        });
    });
  }

  private async giveOver(): Promise<void> {
    const now = this.state();
    if (!now) return;
    this.state.set({ ...now, writes: false });
    await whenSaved(this.store);
    this.release?.();
    this.release = undefined;
  }

  private letGo(): void {
    this.state.set(null);
    const release = this.release;
    this.release = undefined;
    if (release) void whenSaved(this.store).then(release);
  }

  private async reload(): Promise<void> {
    const now = this.state();
    if (!now) return;
    const history = await this.repository.load(now.graphic);
    if (history.ok) this.store.dispatch(WorkbenchActions.opened({ history: history.value }));
  }
}
