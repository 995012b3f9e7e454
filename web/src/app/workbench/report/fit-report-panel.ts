import { ChangeDetectionStrategy, Component, ElementRef, computed, inject, signal } from '@angular/core';
import { cutText, limits, type Finding, type Fix } from '@bright-slot/core';
import { Workbench } from '../../document/workbench';
import { FitReportService } from '../../document/fit-report.service';
import { VisitorSees } from '../page/visitor-sees';
import { ReportPicture } from './report-picture';

/** What stands between the graphic and its slot, numbered and pinned to its place. */
@Component({
  selector: 'bs-fit-report',
  imports: [ReportPicture, VisitorSees],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './fit-report-panel.html',
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
    .link {
      display: block;
      border: 0;
      background: none;
      padding: 4px 0 0;
      font: inherit;
      font-size: 13px;
      color: var(--ink-soft);
      text-decoration: underline;
      text-underline-offset: 3px;
      cursor: pointer;
    }
    .leave {
      display: flex;
      gap: 6px;
      margin-top: 6px;
    }
    .leave input {
      flex: 1;
      min-width: 0;
    }
    li .leave .button {
      margin: 0;
    }
    .left {
      list-style: none;
      padding: 0;
    }
    .left li span {
      display: block;
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

  /** The finding that is about to be left: it is asked why. */
  protected readonly leaving = signal<string | null>(null);
  protected readonly mostReason = limits.reason;
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  protected askWhy(finding: Finding): void {
    this.leaving.set(finding.id);
    setTimeout(() => this.host.nativeElement.querySelector<HTMLInputElement>('.leave input')?.focus());
  }

  protected leave(finding: Finding, typed: string): void {
    const frame = this.frame();
    const reason = cutText(typed.toWellFormed().trim(), limits.reason);
    if (!frame || !reason) return;
    this.leaving.set(null);
    this.workbench.edit({
      type: 'leave-finding',
      name: `Left: ${finding.title}`,
      frame: frame.id,
      left: { finding: finding.id, reason, figures: [...(finding.figures ?? [])] },
    });
  }

  protected takeUp(finding: Finding): void {
    const frame = this.frame();
    if (frame)
      this.workbench.edit({
        type: 'take-up-finding',
        name: `Taken up again: ${finding.title}`,
        frame: frame.id,
        finding: finding.id,
      });
  }
}
