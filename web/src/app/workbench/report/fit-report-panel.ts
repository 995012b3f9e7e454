import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { type Finding, type Fix } from '@bright-slot/core';
import { Workbench } from '../../document/workbench';
import { FitReportService } from '../../document/fit-report.service';
import { ReportPicture } from './report-picture';

/** What stands between the graphic and its slot, numbered and pinned to its place. */
@Component({
  selector: 'bs-fit-report',
  imports: [ReportPicture],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="Fit report" [attr.data-settled]="settled()">
      <h2 class="panel-title">Fit report</h2>
      @if (report(); as r) {
        <div
          class="outline"
          [class.round]="round()"
          [style.aspect-ratio]="ratio()"
          [style.max-width]="'min(100%, ' + 130 * ratio() + 'px)'"
          aria-hidden="true"
        >
          <bs-report-picture />
          @for (p of pins(); track p.finding.id) {
            <i
              class="spot"
              [style.left.%]="p.left"
              [style.top.%]="p.top"
              [style.width.%]="p.width"
              [style.height.%]="p.height"
            ></i>
            <b class="pin" [class.hollow]="p.finding.group === 'time'" [style.left.%]="p.left" [style.top.%]="p.top">{{
              p.number
            }}</b>
          }
        </div>
        <div aria-live="polite">
          @for (group of groups(); track group.title) {
            <h3>{{ group.title }}</h3>
            <ol>
              @for (f of group.findings; track f.finding.id) {
                <li>
                  <b class="pin" [class.hollow]="f.finding.group === 'time'">{{ f.number }}</b>
                  <div>
                    <button type="button" class="title" (click)="show(f.finding)">{{ f.finding.title }}</button>
                    <p class="quiet small-text">{{ f.finding.detail }}</p>
                    @for (fix of f.finding.fixes; track fix.label) {
                      <button
                        type="button"
                        class="button small"
                        (mouseenter)="preview(fix)"
                        (mouseleave)="preview(null)"
                        (focus)="preview(fix)"
                        (blur)="preview(null)"
                        (click)="take(fix)"
                      >
                        {{ fix.label }}
                      </button>
                    }
                  </div>
                </li>
              }
            </ol>
          }
          @if (problem()) {
            <p class="small-text problem-text" role="alert">{{ problem() }}</p>
          } @else if (r.waiting) {
            <p class="quiet small-text">Looking at the words …</p>
          } @else if (r.findings.length === 0) {
            <p class="fits">It fits its slot.</p>
          }
        </div>
        <button type="button" class="passed quiet" [attr.aria-expanded]="open()" (click)="open.set(!open())">
          {{ r.passed.length }} {{ r.findings.length ? 'more ' : '' }}checked, nothing found {{ open() ? '▾' : '▸' }}
        </button>
        @if (open()) {
          <ul class="small-text quiet">
            @for (p of r.passed; track p) {
              <li>{{ p }}</li>
            }
          </ul>
        }
      } @else {
        <p class="quiet" role="status">Looking at it …</p>
      }
    </section>
  `,
  styles: `
    section {
      padding: 16px 18px;
    }
    .outline {
      position: relative;
      border: 1px solid var(--ink);
      background: var(--ground);
      margin: 12px 0 16px;
      max-height: 130px;
    }
    .outline.round {
      border-radius: 50%;
    }
    .spot {
      position: absolute;
      border: 1px dashed var(--ink);
      max-width: 100%;
    }
    .pin {
      display: inline-flex;
      align-items: center;
      justify-content: center;
      width: 20px;
      height: 20px;
      border-radius: 50% 50% 50% 0;
      background: var(--ink);
      color: #fff;
      font:
        600 11px/1 'Public Sans Variable',
        sans-serif;
      flex: none;
      border: 1.5px solid var(--ink);
    }
    .pin.hollow {
      background: var(--surface);
      color: var(--ink);
    }
    .outline .pin {
      position: absolute;
      transform: translate(-6px, -12px);
    }
    h3 {
      border-top: 1px solid var(--hairline);
      padding-top: 10px;
      color: var(--ink-soft);
      font-size: 13px;
    }
    ol {
      list-style: none;
      padding: 0;
      margin: 6px 0 12px;
    }
    ol li {
      display: flex;
      gap: 10px;
      padding: 6px 0;
    }
    .title {
      border: 0;
      background: none;
      padding: 0;
      font:
        600 13.5px/1.35 'Public Sans Variable',
        sans-serif;
      color: var(--ink);
      text-align: left;
      cursor: pointer;
    }
    li .button {
      margin: 6px 6px 0 0;
      white-space: normal;
      height: auto;
      min-height: 27px;
      padding-block: 5px;
      line-height: 1.3;
      text-align: left;
    }
    .fits {
      font-weight: 600;
      padding-bottom: 10px;
    }
    .passed {
      border: 0;
      background: none;
      font: inherit;
      font-size: 13px;
      padding: 4px 0;
      cursor: pointer;
    }
    ul {
      margin: 4px 0 0;
      padding-left: 18px;
    }
  `,
})
export class FitReportPanel {
  private readonly workbench = inject(Workbench);
  private readonly fit = inject(FitReportService);
  protected readonly report = this.fit.report;
  protected readonly problem = this.fit.problem;
  protected readonly settled = this.fit.settled;
  protected readonly open = signal(false);
  private readonly frame = this.workbench.frame;
  protected readonly ratio = computed(() => (this.frame() ? this.frame()!.rect.width / this.frame()!.rect.height : 1));
  protected readonly round = computed(() => this.frame()?.slot.shape.kind === 'ellipse');
  private readonly numbered = computed(() =>
    (this.report()?.findings ?? []).map((finding, i) => ({ finding, number: i + 1 })),
  );
  protected readonly groups = computed(() =>
    (
      [
        ['Before it goes up', 'before'],
        ['If you have time', 'time'],
      ] as const
    )
      .map(([title, group]) => ({ title, findings: this.numbered().filter((f) => f.finding.group === group) }))
      .filter((g) => g.findings.length),
  );

  protected readonly pins = computed(() => {
    const rect = this.frame()?.rect;
    if (!rect) return [];
    const share = (n: number, of: number) => Math.min(100, Math.max(0, (n / of) * 100));
    return this.numbered().flatMap(({ finding, number }) => {
      const at = finding.at;
      if (!at) return [];
      const left = share(at.x - rect.x, rect.width);
      const top = share(at.y - rect.y, rect.height);
      return [
        {
          finding,
          number,
          left,
          top,
          width: share(at.x - rect.x + at.width, rect.width) - left,
          height: share(at.y - rect.y + at.height, rect.height) - top,
        },
      ];
    });
  });

  protected show(finding: Finding): void {
    if (finding.layer) this.workbench.select(finding.layer);
  }

  protected preview(fix: Fix | null): void {
    this.workbench.preview.set(fix?.edit ?? null);
  }

  protected take(fix: Fix): void {
    this.workbench.edit(fix.edit);
  }
}
