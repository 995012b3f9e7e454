import { Injectable, computed, signal } from '@angular/core';
import { weightText } from '@bright-slot/core';

/** Below this the person is told before the disk is full, bytes. */
const LITTLE = 60e6;

/** How much room the browser gives, how much is used, and whether it promised to keep it. */
@Injectable({ providedIn: 'root' })
export class StorageHealth {
  private readonly estimate = signal<{ used: number; quota: number } | null>(null);
  readonly persistent = signal<boolean | null>(null);
  private asked = false;

  readonly text = computed(() => {
    const e = this.estimate();
    if (!e) return '';
    const kept =
      this.persistent() === true
        ? 'the browser has promised to keep it'
        : 'the browser may clear it when the disk runs low: “Save everything” now and then';
    return `${weightText(e.used)} of ${weightText(e.quota)} used in this browser; ${kept}.`;
  });
  readonly warning = computed(() => {
    const e = this.estimate();
    return e && e.quota - e.used < LITTLE
      ? `The browser has only ${weightText(Math.max(0, e.quota - e.used))} left for your graphics. Save everything as a zip, then free some space on this computer or delete graphics.`
      : '';
  });

  /** Looks again; cheap enough to be called after every larger write. */
  async look(): Promise<void> {
    if (!navigator.storage?.estimate) return;
    const { usage = 0, quota = 0 } = await navigator.storage.estimate();
    this.estimate.set({ used: usage, quota });
    this.persistent.set(await navigator.storage.persisted());
  }

  /** Asks the browser, once a visit, to keep what is stored even when the disk runs low. */
  async askToKeep(): Promise<void> {
    if (this.asked || !navigator.storage?.persist) return;
    this.asked = true;
    this.persistent.set((await navigator.storage.persisted()) || (await navigator.storage.persist()));
  }
}
