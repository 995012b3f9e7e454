import { Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import {
  allLetters,
  createReporter,
  faintestLetter,
  frameOf,
  smallestScale,
  type FileWeights,
  type FitReport,
  type Frame,
  type Graphic,
  type Legibility,
} from '@bright-slot/core';
import { ReportContexts } from './report-context.service';
import { Workbench } from './workbench';
import { JobStopped } from '../pixels/pixel-client';
import { sameParts } from '../ui/same-parts';

/** How long nothing may change before the pixels are looked at again, in ms. */
const REST = 60;

/** How long nothing may change before what can wait is looked at, ms. */
const CALM = 900;

/** A draft is judged so often at most, ms: sixty times a second nobody reads. */
const DRAFTS = 100;

/** What the look of the words and what is behind them depends on. */
const seen = (g: Graphic, f: Frame) => [g.id, g.layers, g.backdrop, g.canvas, f.id, f.rect, f.slot] as const;
type Seen = ReturnType<typeof seen>;

/** What the file depends on. */
const made = (g: Graphic, f: Frame) => {
  const { format, quality, chroma, own, mostBytes, watermark } = f.export;
  return [...seen(g, f), format, quality, chroma, own, mostBytes, watermark] as const;
};

/** The fit report of the graphic at work, kept live. */
@Injectable({ providedIn: 'root' })
export class FitReportService {
  private readonly workbench = inject(Workbench);
  private readonly contexts = inject(ReportContexts);
  private readonly judge = createReporter();
  /** What was found out last, and of what. */
  private readonly legibility = signal<{ of: Seen; found: readonly Legibility[] } | null>(null);
  private readonly weights = signal<{ of: ReturnType<typeof made>; found: FileWeights | null } | null>(null);
  /** Why the words could not be judged, if they could not. */
  readonly problem = signal<string | null>(null);
  /** Whether the pixels have been looked at since the last change. */
  readonly settled = signal(false);
  private readonly subject = computed(
    () => {
      const g = this.workbench.working();
      return g && seen(g, this.frameIn(g));
    },
    { equal: sameParts },
  );
  private readonly file = computed(
    () => {
      const g = this.workbench.graphic();
      return g && made(g, this.frameIn(g));
    },
    { equal: sameParts },
  );
  /** The graphic as it is judged: at once when something was done, a few times a second while it is being done. */
  private readonly judged = signal<Graphic | null>(null);

  readonly report = computed<FitReport | null>(() => {
    const graphic = this.judged();
    if (!graphic || graphic.id !== this.workbench.graphic()?.id) return null;
    const frame = this.frameIn(graphic);
    const legibility = this.legibility();
    // What was found of another state is no fact of this one.
    const fresh = legibility !== null && sameParts(legibility.of, seen(graphic, frame));
    const weights = this.weights();
    const context = this.contexts.now(graphic, frame, {
      legibility: fresh ? legibility.found : undefined,
      weights: weights && sameParts(weights.of, made(graphic, frame)) ? weights.found : undefined,
    });
    return context && this.judge(context);
  });

  /** The frame in hand, as it is in a state of the graphic. */
  private frameIn(graphic: Graphic): Frame {
    return frameOf(graphic, this.workbench.frame()?.id);
  }

  constructor() {
    let last = 0;
    effect((onCleanup) => {
      const graphic = this.workbench.working();
      const take = () => {
        last = performance.now();
        this.judged.set(graphic);
      };
      const wait = this.workbench.draft() ? last + DRAFTS - performance.now() : 0;
      if (wait <= 0) return untracked(take);
      const later = setTimeout(take, wait);
      onCleanup(() => clearTimeout(later));
    });
    effect((onCleanup) => {
      const graphic = this.file() && untracked(() => this.workbench.graphic());
      if (!graphic) return;
      const stop = new AbortController();
      const resting = setTimeout(() => void this.lookSlowly(graphic, stop.signal), CALM);
      onCleanup(() => {
        clearTimeout(resting);
        stop.abort();
      });
    });
    effect((onCleanup) => {
      if (!this.subject()) return;
      const graphic = untracked(() => this.workbench.working()!);
      const stop = new AbortController();
      untracked(() => this.settled.set(false));
      const resting = setTimeout(() => void this.look(graphic, stop.signal), REST);
      onCleanup(() => {
        clearTimeout(resting);
        stop.abort();
      });
    });
  }

  private async lookSlowly(graphic: Graphic, stop: AbortSignal): Promise<void> {
    const frame = this.frameIn(graphic);
    try {
      const found = await this.contexts.slowly(graphic, frame, stop);
      if (!stop.aborted) this.weights.set({ of: made(graphic, frame), found });
    } catch (error) {
      // What cannot be found out is not judged; a file that cannot be made is told where it is made.
      if (!(error instanceof JobStopped)) console.warn(error);
    }
  }

  /** How words, in a colour or in their own, stand out from what lies behind them: at their faintest letter; null where nothing was seen yet. */
  contrastOf(layer: string, colour?: string): { contrast: number; needed: number } | null {
    const graphic = this.workbench.graphic();
    const legibility = this.legibility();
    const own = legibility?.of[0] === graphic?.id ? legibility?.found.find((l) => l.layer === layer) : undefined;
    if (!graphic || !own) return null;
    return faintestLetter({ letters: allLetters(own) }, smallestScale(this.frameIn(graphic).slot), colour);
  }

  private async look(graphic: Graphic, stop: AbortSignal): Promise<void> {
    const frame = this.frameIn(graphic);
    try {
      const found = await this.contexts.legibility(graphic, frame, stop);
      if (stop.aborted) return;
      this.legibility.set({ of: seen(graphic, frame), found });
      this.problem.set(null);
      this.settled.set(true);
    } catch (error) {
      if (error instanceof JobStopped || stop.aborted) return;
      this.problem.set('How readable the words are could not be judged. Try again after the next change.');
    }
  }
}
