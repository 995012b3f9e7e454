import { DestroyRef, Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import { paint, plan, surfacesOf, wholeCanvas, type PlanOptions } from '@bright-slot/core';
import { Workbench } from '../../document/workbench';
import { SurfaceStore } from '../../pixels/surface-store';
import { TypeService } from '../../type/type.service';
import { sameParts } from '../../ui/same-parts';
import { SamplingService } from '../../ui/sampling.service';
import { Viewport } from './viewport';

/** How long nothing may change before exact surfaces are made, in ms. */
const REST = 70;
/** That a picture is not sharp yet is told after so long, ms. */
const TELL_AFTER = 500;

/** Keeps the stage's canvas painted: once a frame at most, roughly while something moves, exactly at rest. */
@Injectable()
export class PaintLoop {
  private readonly workbench = inject(Workbench);
  private readonly store = inject(SurfaceStore);
  private readonly type = inject(TypeService);
  private readonly viewport = inject(Viewport);
  private readonly sampling = inject(SamplingService);
  private readonly element = signal<HTMLCanvasElement | null>(null);
  /** All on screen is from the originals, at the pixels of the screen. */
  readonly exact = signal(false);
  /** That it is not takes long enough to be told. */
  readonly preparing = signal(false);

  /** The pixels a colour is being taken from: all that is seen, or one layer alone. */
  readonly sampled = computed<ImageData | null>(() => {
    const under = this.sampling.under();
    const canvas = this.element();
    if (!under || !canvas) return null;
    if (under.from === 'seen') return canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    const p = this.planned({ only: this.workbench.selectedId() ?? '' });
    if (!p) return null;
    const context = new OffscreenCanvas(p.width, p.height).getContext('2d', { willReadFrequently: true })!;
    paint(p, this.store, context);
    return context.getImageData(0, 0, p.width, p.height);
  });

  constructor() {
    let asked = 0;
    let resting: ReturnType<typeof setTimeout> | undefined;
    // What was painted last, and since when: a surface that arrives disturbs no rest.
    let [last, since]: [readonly unknown[] | null, number] = [null, 0];
    inject(DestroyRef).onDestroy(() => {
      cancelAnimationFrame(asked);
      clearTimeout(resting);
    });
    effect((cleanUp) => {
      if (this.exact() || this.workbench.draft()) return this.preparing.set(false);
      const told = setTimeout(() => this.preparing.set(true), TELL_AFTER);
      cleanUp(() => clearTimeout(told));
    });
    effect(() => {
      // What painting depends on; where the canvas lies on the stage is none of it.
      const { zoom, dpr, roomSize } = this.viewport;
      const now = [this.workbench.shown(), this.type.shaper(), zoom(), dpr(), roomSize().width > 0] as const;
      this.store.arrived();
      const canvas = this.element();
      cancelAnimationFrame(asked);
      if (!canvas) return;
      asked = requestAnimationFrame(() =>
        untracked(() => {
          clearTimeout(resting);
          if (!sameParts(last, now)) [last, since] = [now, performance.now()];
          const make = this.paintNow(canvas);
          if (make) resting = setTimeout(make, since + REST - performance.now());
        }),
      );
    });
  }

  /** The canvas to be kept painted. */
  begin(canvas: HTMLCanvasElement): void {
    this.element.set(canvas);
  }

  private planned(options: PlanOptions = {}) {
    const graphic = this.workbench.shown();
    const shaper = this.type.shaper();
    if (!graphic || !shaper) return null;
    return plan(graphic, wholeCanvas(graphic), this.viewport.zoom() * this.viewport.dpr(), shaper, options);
  }

  /** Paints with what there is; gives what is to be done at rest, where something is wanting. */
  private paintNow(canvas: HTMLCanvasElement): (() => void) | null {
    const p = this.viewport.roomSize().width ? this.planned() : null;
    if (!p) return null;
    if (canvas.width !== p.width) canvas.width = p.width;
    if (canvas.height !== p.height) canvas.height = p.height;
    const wanting = paint(p, this.store, canvas.getContext('2d')!);
    void this.store.wantRough(surfacesOf(p));
    this.exact.set(wanting.length === 0);
    if (wanting.length === 0) return null;
    if (this.workbench.draft() || this.workbench.preview()) {
      this.store.wantQuick(wanting);
      return null;
    }
    return () => this.store.want(wanting);
  }
}
