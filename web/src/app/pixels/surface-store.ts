import { Injectable, OnDestroy, inject, signal } from '@angular/core';
import {
  isPlainLook,
  roughKey,
  type Box,
  type PaintContext,
  type PictureLayer,
  type SurfaceNeed,
  type Surfaces,
} from '@bright-slot/core';
import { PixelsService } from './pixels.service';
import { BitmapCache } from './bitmap-cache';
import { JobStopped } from './pixel-client';

/** Pixels of finished surfaces kept, so that undo and zoom find what they had. */
const BUDGET = 60e6;
/** Pixels of rough pictures kept. */
const ROUGH_BUDGET = 60e6;
/** After how long what could not be made is tried again, ms. */
const AGAIN = 5000;
/** Reductions of which the latest surface is remembered. */
const MOST_RECENT = 40;

/** Surfaces for the screen: exact ones as they are finished, rough ones meanwhile. */
@Injectable()
export class SurfaceStore implements Surfaces<CanvasImageSource>, OnDestroy {
  private readonly pixels = inject(PixelsService);
  private readonly done = new BitmapCache(BUDGET);
  /** The latest surface of each reduction, however it was finished. */
  private readonly latest = new Map<string, { key: string; place: Box }>();
  private readonly roughs = new BitmapCache(ROUGH_BUDGET);
  /** The latest rough picture of each file, in whatever look; and the files of which one is being made. */
  private readonly lastRough = new Map<string, string>();
  private readonly roughUnderWay = new Set<string>();
  private readonly underWay = new Map<string, AbortController>();
  private sheet: OffscreenCanvas | undefined;
  private gone = false;
  /** Grows when a surface arrives. */
  readonly arrived = signal(0);
  readonly problem = signal<string | null>(null);

  exact(need: SurfaceNeed): ImageBitmap | undefined {
    return this.done.get(need.key);
  }

  recent(need: SurfaceNeed): { image: ImageBitmap; place: Box } | undefined {
    const last = this.latest.get(need.base);
    const image = last && this.done.get(last.key);
    return image && { image, place: last.place };
  }

  ngOnDestroy(): void {
    for (const controller of this.underWay.values()) controller.abort();
    this.gone = true;
    this.done.clear();
    this.roughs.clear();
    this.latest.clear();
    this.lastRough.clear();
  }

  /** While a slider moves: makes what has only the rest to do after its reduction, one at a time for each. */
  wantQuick(needs: readonly SurfaceNeed[]): void {
    const quick = needs.filter((n) => this.latest.has(n.base));
    if (quick.length && !this.underWay.size) this.want(quick);
  }

  rough(need: SurfaceNeed): ImageBitmap | undefined {
    // While a look or a cut-out is being changed the one before is nearer the truth than none.
    const key = roughKey(need);
    return this.roughs.get(key) ?? this.roughs.get(this.lastRough.get(need.asset) ?? '') ?? this.brought(need, key);
  }

  /** That of a picture that was brought in just now: it is at hand, so that the first frame painted shows it. */
  private brought(need: SurfaceNeed, key: string): ImageBitmap | undefined {
    const rough = this.pixels.takeRough(need);
    if (rough) this.keepRough(need, key, rough);
    return rough;
  }

  private keepRough(need: SurfaceNeed, key: string, rough: ImageBitmap): void {
    this.roughs.set(key, rough);
    this.lastRough.set(need.asset, key);
  }

  /** A whole rough picture of a layer, in its look. */
  whole(layer: PictureLayer): ImageBitmap | undefined {
    const finish = { look: isPlainLook(layer.look) ? null : layer.look, tint: layer.tint } as SurfaceNeed['finish'];
    const { asset, cutout } = layer;
    return this.rough({ asset, cutout, finish } as SurfaceNeed);
  }

  scratch(width: number, height: number): { context: PaintContext<CanvasImageSource>; image: CanvasImageSource } {
    const sheet = (this.sheet ??= new OffscreenCanvas(width, height));
    if (sheet.width !== width) sheet.width = width;
    if (sheet.height !== height) sheet.height = height;
    const context = sheet.getContext('2d')!;
    context.reset();
    return { context, image: sheet };
  }

  /** Sees to it that a rough picture of each need is there; for first sight and dragging. */
  async wantRough(needs: readonly SurfaceNeed[]): Promise<void> {
    for (const need of needs) {
      const key = roughKey(need);
      // One at a time for each file: while a slider moves, its later ones are asked for when this one is there.
      if (this.roughs.has(key) || this.roughUnderWay.has(need.asset)) continue;
      this.roughUnderWay.add(need.asset);
      try {
        const rough = await this.pixels.rough(need);
        if (this.gone) return rough.close();
        this.keepRough(need, key, rough);
        this.roughUnderWay.delete(need.asset);
        this.arrived.update((n) => n + 1);
      } catch (error) {
        // What could not be made is not asked for again and again, but once more after a while.
        setTimeout(() => this.roughUnderWay.delete(need.asset), AGAIN);
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
      this.pixels.surface(need, controller.signal).then(
        (bitmap) => {
          this.underWay.delete(need.key);
          if (this.gone) return bitmap.close();
          this.done.set(need.key, bitmap);
          this.remember(need);
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

  private remember(need: SurfaceNeed): void {
    this.latest.delete(need.base);
    this.latest.set(need.base, { key: need.key, place: need.place });
    for (const base of this.latest.keys()) {
      if (this.latest.size <= MOST_RECENT) break;
      this.latest.delete(base);
    }
  }

  private fail(error: unknown): void {
    if (!(error instanceof JobStopped)) this.problem.set(error instanceof Error ? error.message : String(error));
  }
}
