import { DestroyRef, Injectable, inject, signal } from '@angular/core';
import { clamp, type Graphic } from '@bright-slot/core';
import { Composing } from '../document/composing.service';
import { JobStopped } from '../pixels/pixel-client';

/** A graphic as it would be in a layout, and its picture: an address of this page, null until it is painted. */
export interface LayoutTry {
  readonly key: string;
  readonly name: string;
  readonly graphic: Graphic;
  readonly url: string | null;
}
export type ToTry = Omit<LayoutTry, 'url'>;

/** How long what is put in rests before it is composed anew, ms. */
const REST = 200;
/** A veil that is read on is often about so strong, of 255. */
const LIKELY = 160;
/** Two workers look at them: one finds veils, the other paints. */
const AT_ONCE = 2;

/** Pictures of what a graphic would be in each layout; made anew when what is put in changes, the last kept until then. */
@Injectable()
export class LayoutTries {
  private readonly composing = inject(Composing);
  /** Null until they were first composed. */
  readonly tries = signal<readonly LayoutTry[] | null>(null);
  readonly busy = signal(true);
  readonly problem = signal('');
  private stop = new AbortController();
  private readonly urls = new Set<string>();

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.stop.abort();
      for (const url of this.urls) URL.revokeObjectURL(url);
    });
  }

  /** Composes anew, and paints each `width` CSS px wide; what was asked before is given up. Done when all are painted. */
  show(compose: (stop: AbortSignal) => Promise<readonly ToTry[]>, width: number): Promise<void> {
    this.stop.abort();
    const { signal: stop } = (this.stop = new AbortController());
    this.busy.set(true);
    return new Promise((done) => {
      const timer = setTimeout(() => void this.run(compose, width, stop).then(done), this.tries() ? REST : 0);
      stop.addEventListener('abort', () => {
        clearTimeout(timer);
        done();
      });
    });
  }

  /** Gives up what is being looked at. */
  pause(): void {
    this.stop.abort();
  }

  private async run(
    compose: (stop: AbortSignal) => Promise<readonly ToTry[]>,
    width: number,
    stop: AbortSignal,
  ): Promise<void> {
    try {
      const found = await compose(stop);
      if (stop.aborted) return;
      const before = new Map(this.tries()?.map((t) => [t.key, t.url]));
      this.tries.set(found.map((t) => ({ ...t, url: before.get(t.key) ?? null })));
      this.problem.set('');
      // All are to be seen soon; how strong a veil has to be is found after.
      await each(found, stop, (t) => this.paint(t, guessed(t.graphic), width, stop));
      await each(found.filter(isVeiled), stop, async (t) => {
        const { graphic } = await this.composing.veiled({ graphic: t.graphic }, false, stop);
        await this.paint(t, graphic, width, stop);
      });
      if (!stop.aborted) this.busy.set(false);
    } catch (error) {
      if (error instanceof JobStopped || stop.aborted) return;
      this.busy.set(false);
      this.problem.set(error instanceof Error ? error.message : String(error));
      this.tries.update((t) => t ?? []);
    }
  }

  private async paint(t: ToTry, graphic: Graphic, width: number, stop: AbortSignal): Promise<void> {
    const wide = Math.round(clamp(width * devicePixelRatio, 64, Math.max(64, 2 * t.graphic.canvas.width)));
    const blob = await this.composing.miniature({ graphic }, wide, stop);
    if (stop.aborted) return;
    const url = URL.createObjectURL(blob);
    this.urls.add(url);
    this.tries.update((all) => all?.map((x) => (x.key === t.key ? { ...t, graphic, url } : x)) ?? null);
    for (const old of this.urls)
      if (!this.tries()?.some((x) => x.url === old)) {
        this.urls.delete(old);
        URL.revokeObjectURL(old);
      }
  }
}

const isVeiled = ({ graphic }: ToTry) => graphic.layers.some((l) => l.role === 'veil' && l.justEnough);

/** A graphic with its veils about as strong as they are likely to be. */
function guessed(graphic: Graphic): Graphic {
  const layers = graphic.layers.map((l) => (l.role === 'veil' && l.justEnough ? { ...l, strength: LIKELY } : l));
  return { ...graphic, layers };
}

/** Does something with each, a few at once. */
async function each(all: readonly ToTry[], stop: AbortSignal, act: (t: ToTry) => Promise<void>): Promise<void> {
  const waiting = [...all];
  const next = async (): Promise<void> => {
    for (let t = waiting.shift(); t && !stop.aborted; t = waiting.shift()) await act(t);
  };
  await Promise.all(Array.from({ length: AT_ONCE }, next));
}
