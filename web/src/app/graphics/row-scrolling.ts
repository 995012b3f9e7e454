import {
  VIRTUAL_SCROLL_STRATEGY,
  type CdkVirtualScrollViewport,
  type VirtualScrollStrategy,
} from '@angular/cdk/scrolling';
import { Directive, effect, forwardRef, input } from '@angular/core';
import { rowAt } from './card-rows';
import { Observable, Subject, distinctUntilChanged } from 'rxjs';

/** So much above and below the window is there already, px: little at first, so that what is seen is there soon, then so much more a frame. */
const AROUND = { first: 100, more: 400, most: 2500 };

/** Shows of rows of known heights those that are near the window: as many graphics as there are, a few dozen in the page. */
export class RowScrolling implements VirtualScrollStrategy {
  private readonly index = new Subject<number>();
  readonly scrolledIndexChange: Observable<number> = this.index.pipe(distinctUntilChanged());
  private viewport: CdkVirtualScrollViewport | null = null;
  /** Where each row begins, and where the last ends, px. */
  private starts: readonly number[] = [0];
  private around = AROUND.first;
  private widening = 0;

  attach(viewport: CdkVirtualScrollViewport): void {
    this.viewport = viewport;
    this.lay();
  }

  detach(): void {
    this.index.complete();
    this.viewport = null;
    cancelAnimationFrame(this.widening);
  }

  /** Rows of other heights. */
  setHeights(heights: readonly number[]): void {
    const starts = [0];
    for (const height of heights) starts.push(starts.at(-1)! + height);
    this.starts = starts;
    this.lay();
  }

  onContentScrolled(): void {
    this.show();
  }

  onDataLengthChanged(): void {
    this.lay();
  }

  onContentRendered(): void {
    // What is shown depends on heights alone.
  }

  onRenderedOffsetChanged(): void {
    // The same.
  }

  scrollToIndex(index: number, behavior: ScrollBehavior): void {
    this.viewport?.scrollToOffset(this.starts[index] ?? 0, behavior);
  }

  private lay(): void {
    this.viewport?.setTotalContentSize(this.starts.at(-1)!);
    this.show();
  }

  private show(): void {
    const { viewport, starts } = this;
    if (!viewport) return;
    const top = Math.max(0, viewport.measureScrollOffset());
    const bottom = top + viewport.getViewportSize();
    const start = Math.max(0, rowAt(starts, top - this.around));
    const end = Math.min(starts.length - 1, rowAt(starts, bottom + this.around) + 1);
    viewport.setRenderedRange({ start, end: Math.max(start, end) });
    viewport.setRenderedContentOffset(starts[start] ?? 0);
    this.index.next(rowAt(starts, top));
    if (this.around < AROUND.most && starts.length > 1) this.widen();
  }

  private widen(): void {
    cancelAnimationFrame(this.widening);
    this.widening = requestAnimationFrame(() => {
      this.around = Math.min(AROUND.most, this.around + AROUND.more);
      this.show();
    });
  }
}

/** A viewport that shows rows of known heights. */
@Directive({
  selector: '[bsRows]',
  providers: [
    { provide: VIRTUAL_SCROLL_STRATEGY, useFactory: (rows: Rows) => rows.scrolling, deps: [forwardRef(() => Rows)] },
  ],
})
export class Rows {
  readonly rows = input.required<readonly { readonly height: number }[]>();
  readonly scrolling = new RowScrolling();

  constructor() {
    effect(() => this.scrolling.setHeights(this.rows().map((r) => r.height)));
  }
}
