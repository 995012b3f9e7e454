import { Injectable, computed, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { Subject } from 'rxjs';
import * as z from 'zod';
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
  private readonly channel = new BroadcastChannel('bright-slot');
  private readonly state = signal<{ graphic: string; writes: boolean } | null>(null);
  /** The graphic that is to be held: a lock that is granted for another comes too late. */
  private wanted: string | null = null;
  /** The request for it that is under way. */
  private asking: Promise<void> | null = null;
  private release: (() => void) | undefined;
  private leaving: ReturnType<typeof setTimeout> | undefined;
  /** The graphic that has to be read anew: it was changed elsewhere, or this tab is its writer from now on. */
  readonly stale = new Subject<string>();
  /** The graphic that was let go. */
  readonly left = new Subject<string>();

  /** Whether this tab only reads the graphic that is open. */
  readonly reading = computed(() => this.state()?.writes === false);

  /** Whether this tab has been the writer of a graphic without a break. */
  writes(graphic: string | undefined): boolean {
    const now = this.state();
    return graphic !== undefined && now?.graphic === graphic && now.writes;
  }

  constructor() {
    this.channel.addEventListener('message', (event: MessageEvent<unknown>) => {
      const word = Word.safeParse(event.data);
      if (!word.success || word.data.graphic !== this.state()?.graphic) return;
      if (word.data.kind === 'changed' && this.reading()) this.stale.next(word.data.graphic);
      if (word.data.kind === 'give-over' && !this.reading()) void this.giveOver();
    });
  }

  /** Opens a graphic for writing where no other tab does, for reading otherwise. */
  async hold(graphic: string): Promise<void> {
    clearTimeout(this.leaving);
    // Two places of the app may ask for the same one at once: a second request would find it taken by the first.
    if (this.asking && this.wanted === graphic) return this.asking;
    if (this.state()?.graphic === graphic) return;
    this.letGo();
    this.wanted = graphic;
    const asking = this.request(graphic, { ifAvailable: true });
    this.asking = asking;
    await asking;
    if (this.asking === asking) this.asking = null;
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
      if (this.wanted === now.graphic) await this.request(now.graphic, { steal: true });
    }
    clearTimeout(timer);
    if (this.writes(now.graphic)) this.stale.next(now.graphic);
  }

  /** Tells other tabs that what they read has changed. */
  changed(graphic: string): void {
    this.say({ kind: 'changed', graphic });
  }

  private say(word: Word): void {
    this.channel.postMessage(word);
  }

  private request(graphic: string, options: LockOptions): Promise<void> {
    return new Promise<void>((settled, failed) => {
      navigator.locks
        .request(`graphic:${graphic}`, options, (lock) => {
          settled();
          // Granted late, when something else is open: let go at once.
          if (this.wanted !== graphic) return undefined;
          this.state.set({ graphic, writes: lock !== null });
          return lock === null ? undefined : new Promise<void>((done) => (this.release = done));
        })
        .catch((error: unknown) => {
          // Another tab took the lock without asking: it took this one for dead.
          if (this.writes(graphic)) this.state.set({ graphic, writes: false });
          failed(error instanceof Error ? error : new Error(String(error)));
        });
    });
  }

  private async giveOver(): Promise<void> {
    const now = this.state();
    if (!now) return;
    this.state.set({ ...now, writes: false });
    const release = this.release;
    this.release = undefined;
    await whenSaved(this.store);
    release?.();
  }

  private letGo(): void {
    const now = this.state();
    this.wanted = null;
    this.state.set(null);
    const release = this.release;
    this.release = undefined;
    if (now) this.left.next(now.graphic);
    if (release) void whenSaved(this.store).then(release);
  }
}
