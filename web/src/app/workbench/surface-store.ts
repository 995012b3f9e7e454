import { Injectable, inject, signal } from '@angular/core';
import type { SurfaceNeed, Surfaces } from '@bright-slot/core';
import { PixelsService, ROUGH_SIDE } from '../shared/pixels.service';
import { vectorSurface } from '../shared/vectors';
import { BitmapCache } from '../workers/bitmap-cache';
import { JobStopped } from '../workers/pixel-client';

/** Pixels of finished surfaces kept, so that undo and zoom find what they had. */
const BUDGET = 60e6;

/** Surfaces for the screen: exact ones as they are finished, rough ones meanwhile. */
@Injectable()
export class SurfaceStore implements Surfaces<CanvasImageSource> {
  private readonly pixels = inject(PixelsService);
  private readonly done = new BitmapCache(BUDGET);
  private readonly roughs = new Map<string, ImageBitmap | null>();
  private readonly underWay = new Map<string, AbortController>();
  /** Grows when a surface arrives. */
  readonly arrived = signal(0);
  readonly problem = signal<string | null>(null);

  exact(need: SurfaceNeed): ImageBitmap | undefined {
    return this.done.get(need.key);
  }

  rough(asset: string): ImageBitmap | undefined {
    return this.roughs.get(asset) ?? undefined;
  }

  /** Sees to it that a rough picture of each need is there; for first sight. */
  async wantRough(needs: readonly SurfaceNeed[]): Promise<void> {
    for (const { asset, vector, natural } of needs) {
      if (this.roughs.has(asset)) continue;
      this.roughs.set(asset, null);
      const whole = { x: 0, y: 0, width: natural.width, height: natural.height };
      const by = vector ? Math.min(4, ROUGH_SIDE / Math.max(natural.width, natural.height)) : 1;
      const big = { x: 0, y: 0, width: Math.ceil(whole.width * by), height: Math.ceil(whole.height * by) };
      try {
        this.roughs.set(
          asset,
          vector
            ? await vectorSurface({ key: '', asset, natural, opaque: false, vector, image: big, shown: big, out: big })
            : await this.pixels.rough(asset),
        );
        this.arrived.update((n) => n + 1);
      } catch (error) {
        this.fail(error);
      }
    }
  }

  /** Starts making what is wanted and not there; calls off what no one wants any more. */
  want(needs: readonly SurfaceNeed[]): void {
    const keys = new Set(needs.map((n) => n.key));
    for (const [key, controller] of this.underWay)
      if (!keys.has(key)) {
        controller.abort();
        this.underWay.delete(key);
      }
    for (const need of needs) {
      if (this.done.has(need.key) || this.underWay.has(need.key)) continue;
      const controller = new AbortController();
      this.underWay.set(need.key, controller);
      const made = need.vector
        ? vectorSurface(need)
        : this.pixels.sight.run({ kind: 'surface', need: { ...need } }, controller.signal);
      made.then(
        (bitmap) => {
          this.underWay.delete(need.key);
          this.done.set(need.key, bitmap);
          this.problem.set(null);
          this.arrived.update((n) => n + 1);
        },
        (error: unknown) => {
          if (this.underWay.get(need.key) === controller) this.underWay.delete(need.key);
          this.fail(error);
        },
      );
    }
  }

  private fail(error: unknown): void {
    if (!(error instanceof JobStopped)) this.problem.set(error instanceof Error ? error.message : String(error));
  }
}
