import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  computed,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { PageLikeness, type Likeness } from './page-likeness';

/** Where a slot lies on its page, CSS px of the page. */
export interface Hole {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** A window on a page at a width of its own, drawn small: its first screen, or all of it to be scrolled. */
@Component({
  selector: 'bs-page-window',
  imports: [PageLikeness],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[style.width.px]': 'width()', '[style.height.px]': 'height()', '[class.whole]': 'whole()' },
  template: `
    <div class="sheet" [style.height.px]="whole() ? pageHeight() * scale() : null">
      <bs-page-likeness
        #likeness
        [page]="page()"
        [style.width.px]="pageWidth()"
        [style.min-height.px]="screenHeight()"
        [style.transform]="'scale(' + scale() + ')'"
        (laid)="laid.emit($event)"
      />
    </div>
    @if (!whole() && pageHeight() > screenHeight() + 1) {
      <span class="edge"></span>
    }
  `,
  styles: `
    :host {
      display: block;
      position: relative;
      overflow: hidden;
      text-align: start;
      background: var(--surface);
      border-radius: var(--corner);
    }
    :host(.whole) {
      overflow-y: auto;
    }
    .sheet {
      overflow: hidden;
    }
    /* A page fills its first screen with its own ground. */
    bs-page-likeness {
      display: grid;
    }
    .edge {
      position: absolute;
      inset: auto 0 0;
      border-bottom: 1px dashed var(--border);
    }
  `,
})
export class PageWindow {
  readonly page = input.required<Likeness>();
  /** How wide the page's window is, and how high its first screen, CSS px of the page. */
  readonly pageWidth = input.required<number>();
  readonly screenHeight = input.required<number>();
  /** How wide it is drawn, and how high at most, CSS px. */
  readonly width = input.required<number>();
  readonly most = input(Infinity);
  readonly whole = input(false);
  readonly laid = output<Hole>();
  private readonly likeness = viewChild.required('likeness', { read: ElementRef<HTMLElement> });
  readonly scale = computed(() => this.width() / this.pageWidth());
  protected readonly pageHeight = signal(0);
  protected readonly height = computed(() =>
    Math.min(this.most(), (this.whole() ? Math.max(this.pageHeight(), 1) : this.screenHeight()) * this.scale()),
  );

  constructor() {
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      const element = this.likeness().nativeElement as HTMLElement;
      const observer = new ResizeObserver(() => this.pageHeight.set(element.offsetHeight));
      observer.observe(element);
      destroyed.onDestroy(() => observer.disconnect());
    });
  }
}
