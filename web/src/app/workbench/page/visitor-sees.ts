import { ChangeDetectionStrategy, Component, DestroyRef, inject } from '@angular/core';
import type { Device } from '@bright-slot/core';
import { PageWindow } from '../../page/page-window';
import { PageViews } from './page-views';

/** How wide each page is drawn beside the fit report, CSS px. */
const WIDTHS: Record<Device, number> = { desktop: 132, tablet: 62, phone: 38 };
/** How high at most. */
const HIGH = 84;

/** The page at three widths, small, in view while the work goes on. */
@Component({
  selector: 'bs-visitor-sees',
  imports: [PageWindow],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>A visitor sees</h3>
    @if (views.page(); as page) {
      <div class="three">
        @for (v of views.views(); track v.device) {
          <button type="button" [attr.aria-label]="'On the page: ' + v.name" (click)="show(v.device)">
            <bs-page-window
              [page]="page"
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

  constructor() {
    this.views.picture.watch(inject(DestroyRef));
  }

  protected show(device: Device): void {
    this.views.alone.set(device);
    this.views.open.set(true);
  }
}
