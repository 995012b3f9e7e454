import { ChangeDetectionStrategy, Component, DestroyRef, computed, effect, inject } from '@angular/core';
import type { Device, Shaper } from '@bright-slot/core';
import { Workbench } from '../../document/workbench';
import { PageWindow } from '../../page/page-window';
import { SurfaceStore } from '../../pixels/surface-store';
import { TypeService } from '../../type/type.service';
import { sameParts } from '../../ui/same-parts';
import { paintSmall } from '../layers/layer-picture';
import { PageViews } from './page-views';

/** How wide each page is drawn beside the fit report, CSS px. */
const WIDTHS: Record<Device, number> = { desktop: 132, tablet: 62, phone: 38 };
/** How long nothing may change before it is painted again, ms; and how wide, CSS px. */
const REST = 500;
const WIDE = 240;
/** How high at most. */
const HIGH = 84;

/** The page at three widths, small, in view while the work goes on. */
@Component({
  selector: 'bs-visitor-sees',
  imports: [PageWindow],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>A visitor sees</h3>
    @if (views.views().length) {
      <div class="three">
        @for (v of views.views(); track v.device) {
          <button type="button" [attr.aria-label]="'On the page: ' + v.name" (click)="show(v.device)">
            <bs-page-window
              [page]="v.page"
              [pageWidth]="v.pageWidth"
              [screenHeight]="v.screenHeight"
              [width]="widths[v.device]"
              [most]="high"
            />
          </button>
        }
      </div>
    }
  `,
  styles: `
    h3 {
      border-top: 1px solid var(--hairline);
      padding-top: 10px;
      color: var(--ink-soft);
      font-size: 13px;
      margin: 8px 0;
    }
    .three {
      display: flex;
      gap: 8px;
      align-items: flex-start;
    }
    button {
      border: 1px solid var(--border);
      border-radius: var(--corner);
      padding: 0;
      background: none;
      cursor: pointer;
      overflow: hidden;
    }
    button:focus-visible {
      outline: 2px solid var(--ink);
      outline-offset: 2px;
    }
  `,
})
export class VisitorSees {
  protected readonly views = inject(PageViews);
  protected readonly widths = WIDTHS;
  protected readonly high = HIGH;
  private readonly workbench = inject(Workbench);
  private readonly type = inject(TypeService);
  private readonly store = inject(SurfaceStore);
  /** What is to be seen of the graphic; a name or a description changes nothing. */
  private readonly seen = computed(
    () => {
      const g = this.workbench.graphic();
      const f = this.workbench.frame();
      return g && f && ([g.id, g.layers, g.backdrop, f.id, f.rect] as const);
    },
    { equal: sameParts },
  );

  constructor() {
    effect((onCleanup) => {
      const shaper = this.type.shaper();
      this.store.arrived();
      if (!this.seen() || !shaper) return;
      const later = setTimeout(() => this.paint(shaper), REST);
      onCleanup(() => clearTimeout(later));
    });
    inject(DestroyRef).onDestroy(() => this.views.showSmall(null));
  }

  /** Painted from rough pictures, which are at hand: it is seen at a tenth of its size. */
  private paint(shaper: Shaper): void {
    const graphic = this.workbench.graphic();
    const frame = this.workbench.frame();
    if (!graphic || !frame) return;
    const canvas = document.createElement('canvas');
    paintSmall(canvas, graphic, frame, WIDE, shaper, this.store);
    canvas.toBlob((blob) => this.views.showSmall(blob), 'image/webp', 0.8);
  }

  protected show(device: Device): void {
    this.views.alone.set(device);
    this.views.open.set(true);
  }
}
