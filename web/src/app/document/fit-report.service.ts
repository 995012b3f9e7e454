import { Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import {
  createReporter,
  faintestLetter,
  frameOf,
  type FitReport,
  type Frame,
  type Graphic,
  type Legibility,
} from '@bright-slot/core';
import { AssetFactsService } from '../media/asset-facts.service';
import { PixelsService } from '../pixels/pixels.service';
import { TypeService } from '../type/type.service';
import { Workbench } from './workbench';
import { JobStopped } from '../pixels/pixel-client';

/** How long nothing may change before the pixels are looked at again, in ms. */
const REST = 60;

/** What the look of the words and what is behind them depends on. */
const seen = (g: Graphic, f: Frame) => [g.id, g.layers, g.backdrop, g.canvas, f.id, f.rect, f.slot] as const;

/** The fit report of the graphic at work, kept live. */
@Injectable({ providedIn: 'root' })
export class FitReportService {
  private readonly workbench = inject(Workbench);
  private readonly type = inject(TypeService);
  private readonly pixels = inject(PixelsService);
  private readonly assets = inject(AssetFactsService);
  private readonly judge = createReporter();
  private readonly legibility = signal<{ of: string; frame: string; found: readonly Legibility[] } | null>(null);
  /** Why the words could not be judged, if they could not. */
  readonly problem = signal<string | null>(null);
  /** Whether the pixels have been looked at since the last change. */
  readonly settled = signal(false);
  private readonly subject = computed(
    () => {
      const g = this.workbench.working();
      return g && seen(g, this.frameIn(g));
    },
    { equal: (a, b) => a === b || (!!a && !!b && a.every((v, i) => v === b[i])) },
  );

  readonly report = computed<FitReport | null>(() => {
    const graphic = this.workbench.working();
    const shaper = this.type.shaper();
    if (!graphic || !shaper) return null;
    const frame = this.frameIn(graphic);
    const legibility = this.legibility();
    return this.judge({
      graphic,
      frame,
      shaper,
      assets: this.assets.facts(),
      legibility: legibility?.of === graphic.id && legibility.frame === frame.id ? legibility.found : undefined,
    });
  });

  /** The frame in hand, as it is in a state of the graphic. */
  private frameIn(graphic: Graphic): Frame {
    return frameOf(graphic, this.workbench.frame()?.id);
  }

  constructor() {
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

  /** How words, in a colour or in their own, stand out from what lies behind them: at their faintest letter; null where nothing was seen yet. */
  contrastOf(layer: string, colour?: string): { contrast: number; needed: number } | null {
    const graphic = this.workbench.graphic();
    const legibility = this.legibility();
    const own = legibility?.of === graphic?.id ? legibility?.found.find((l) => l.layer === layer) : undefined;
    if (!graphic || !own) return null;
    const { slot } = this.frameIn(graphic);
    return faintestLetter(own, slot.shownWidth / slot.width, colour);
  }

  private async look(graphic: Graphic, stop: AbortSignal): Promise<void> {
    const frame = this.frameIn(graphic);
    try {
      await this.assets.ensure(graphic);
      const found = await this.pixels.legibility(graphic, frame, stop);
      if (stop.aborted) return;
      this.legibility.set({ of: graphic.id, frame: frame.id, found });
      this.problem.set(null);
      this.settled.set(true);
    } catch (error) {
      if (error instanceof JobStopped || stop.aborted) return;
      this.problem.set('How readable the words are could not be judged. Try again after the next change.');
    }
  }
}
