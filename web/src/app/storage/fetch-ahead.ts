import { Injectable } from '@angular/core';
import * as z from 'zod';
import { AHEAD } from './own-file';

/** How long the app is left alone after its start, ms. */
const AFTER = 3000;

const Files = z.object({
  /** Says which build these are of. */
  build: z.string(),
  /** Code: its names carry a digest, so that the browser's own cache gives it without asking. */
  code: z.array(z.string()),
  /** The rest: codecs and type. */
  files: z.array(z.string()),
});

const idle = () =>
  new Promise<void>((done) => {
    if ('requestIdleCallback' in window) requestIdleCallback(() => done(), { timeout: 2000 });
    else setTimeout(done, 200);
  });

/** How long it keeps still while something is being prepared, ms. */
const STILL = 500;

/** Until nothing is to be done: the page may be idle while somebody waits for what the workers prepare. */
async function rest(busy: () => boolean): Promise<void> {
  await idle();
  while (busy()) {
    await new Promise((done) => setTimeout(done, STILL));
    await idle();
  }
}

/**
 * Fetches, when nothing else is to be done, the code and files that are only needed later: what needs no server then
 * works without it.
 */
@Injectable({ providedIn: 'root' })
export class FetchAhead {
  /** `busy`: whether something is being prepared that goes first. */
  begin(busy: () => boolean): void {
    // Who saves data is not made to fetch what may never be used.
    if ((navigator as { connection?: { saveData?: boolean } }).connection?.saveData) return;
    setTimeout(() => void this.fetchAll(busy).catch(() => undefined), AFTER);
  }

  private async fetchAll(busy: () => boolean): Promise<void> {
    const list = Files.parse(await (await fetch('/ahead.json')).json());
    for (const path of list.code) {
      await rest(busy);
      await (await fetch(path)).arrayBuffer();
    }
    if (!('caches' in window)) return;
    const kept = await caches.open(AHEAD);
    const build = await kept.match('/ahead-build');
    if (build && (await build.text()) === list.build) return;
    for (const path of list.files) {
      await rest(busy);
      await kept.add(path);
    }
    await kept.put('/ahead-build', new Response(list.build));
  }
}
