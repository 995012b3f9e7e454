import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import { hasQuality, pictureFormats, weightText, type Next, type Trial } from '@bright-slot/core';
import {
  Chart,
  LineController,
  LineElement,
  LinearScale,
  LogarithmicScale,
  PointElement,
  Tooltip,
  type ChartDataset,
} from 'chart.js';

Chart.register(LineController, LineElement, LinearScale, LogarithmicScale, PointElement, Tooltip);

/** A file at its place on the curve; null on the line of the limit. */
interface Point {
  readonly x: number;
  readonly y: number;
  readonly trial: Trial | null;
}

/** A way’s colour and the form of its points, so that they are told apart without colours too. */
const looks: Record<
  string,
  { colour: string; form: 'circle' | 'rect' | 'triangle' | 'rectRot' | 'star'; dash: number[] }
> = {
  'jpeg-444': { colour: '#1f6f5c', form: 'circle', dash: [] },
  'jpeg-420': { colour: '#1f6f5c', form: 'triangle', dash: [5, 4] },
  'webp-444': { colour: '#8a4b14', form: 'rect', dash: [] },
  'avif-444': { colour: '#4a4a8f', form: 'rectRot', dash: [] },
  'png-444': { colour: '#1f2a30', form: 'star', dash: [] },
};

const wayName = (t: { format: Trial['format']; chroma: Trial['chroma'] }) =>
  t.format === 'jpeg' ? `JPEG ${t.chroma === '444' ? '4:4:4' : '4:2:0'}` : pictureFormats[t.format].name;

/** What files weigh at each quality that was tried, the one that leaves ringed; those that can be told from the canvas are hollow. */
@Component({
  selector: 'bs-weight-curve',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<div class="chart">
      <canvas #canvas role="img" [attr.aria-label]="said()"></canvas>
    </div>
    <p class="small-text quiet">
      @for (w of ways(); track w.name) {
        <span class="key"><i [style.border-color]="w.colour" [class.dashed]="w.dashed"></i>{{ w.name }}</span>
      }
      <span>hollow: can be told from the canvas</span>
    </p>`,
  styles: `
    :host {
      display: block;
    }
    .chart {
      position: relative;
      height: 168px;
    }
    p {
      margin: 4px 0 0;
      display: flex;
      flex-wrap: wrap;
      gap: 4px 14px;
    }
    .key {
      display: inline-flex;
      align-items: center;
      gap: 6px;
    }
    .key i {
      width: 18px;
      border-top: 2px solid;
    }
    .key i.dashed {
      border-top-style: dashed;
    }
  `,
})
export class WeightCurve {
  readonly trials = input.required<readonly Trial[]>();
  readonly choice = input.required<Next>();
  /** Most bytes the file may have. */
  readonly most = input<number | null>(null);
  /** The file whose point was pressed. */
  readonly taken = output<Trial>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private chart: Chart<'line', Point[]> | null = null;

  private readonly lines = computed(() => {
    const lines = new Map<string, Trial[]>();
    for (const t of this.trials()) {
      if (!hasQuality(t.format)) continue;
      const key = `${t.format}-${t.chroma}`;
      lines.set(key, [...(lines.get(key) ?? []), t]);
    }
    return [...lines].map(([key, trials]) => ({ key, trials: trials.sort((a, b) => a.quality - b.quality) }));
  });
  protected readonly ways = computed(() =>
    this.lines().map(({ key, trials }) => ({
      name: wayName(trials[0]!),
      colour: looks[key]!.colour,
      dashed: looks[key]!.dash.length > 0,
    })),
  );
  protected readonly said = computed(() => {
    const each = this.lines().map(
      ({ trials }) =>
        `${wayName(trials[0]!)}: ${trials
          .map((t) => `${weightText(t.bytes)} at ${t.quality}${t.difference.seen ? ', seen' : ''}`)
          .join('; ')}`,
    );
    return `Weight against quality. ${each.join('. ')}`;
  });

  private isChosen(t: Trial): boolean {
    const c = this.choice();
    return t.format === c.format && t.chroma === c.chroma && t.quality === c.quality;
  }

  constructor() {
    afterNextRender(() => this.draw());
    effect(() => {
      this.lines();
      this.choice();
      this.most();
      this.draw();
    });
    inject(DestroyRef).onDestroy(() => this.chart?.destroy());
  }

  private draw(): void {
    const canvas = this.canvas().nativeElement;
    if (!canvas.isConnected) return;
    const style = getComputedStyle(canvas);
    const ink = style.getPropertyValue('--ink').trim() || '#1f2a30';
    const soft = style.getPropertyValue('--ink-soft').trim() || '#55616a';
    const datasets = this.lines().map(({ key, trials }): ChartDataset<'line', Point[]> => {
      const { colour, form, dash } = looks[key]!;
      return {
        label: wayName(trials[0]!),
        data: trials.map((trial) => ({ x: trial.quality, y: trial.bytes / 1000, trial })),
        borderColor: colour,
        borderWidth: 1.5,
        borderDash: dash,
        pointStyle: form,
        pointRadius: trials.map((t) => (this.isChosen(t) ? 7 : 4)),
        pointHoverRadius: 7,
        pointBorderWidth: trials.map((t) => (this.isChosen(t) ? 3 : 1.5)),
        pointBorderColor: trials.map((t) => (this.isChosen(t) ? ink : colour)),
        pointBackgroundColor: trials.map((t) => (this.isChosen(t) ? '#f2b01e' : t.difference.seen ? '#fff' : colour)),
      };
    });
    const most = this.most();
    if (most !== null)
      datasets.push({
        label: `At most ${weightText(most)}`,
        data: [30, 100].map((x) => ({ x, y: most / 1000, trial: null })),
        borderColor: '#b3261e',
        borderWidth: 1,
        borderDash: [2, 3],
        pointRadius: 0,
      });
    if (this.chart) {
      this.chart.data.datasets = datasets;
      this.chart.update('none');
      return;
    }
    this.chart = new Chart<'line', Point[]>(canvas, {
      type: 'line',
      data: { datasets },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        events: ['mousemove', 'mouseout', 'click'],
        onClick: (_, [hit]) => {
          const at = hit && this.chart!.data.datasets[hit.datasetIndex]!.data[hit.index];
          if (at?.trial) this.taken.emit(at.trial);
        },
        plugins: {
          tooltip: {
            callbacks: {
              title: () => '',
              label: ({ raw }) => {
                const { trial } = raw as { trial: Trial | null };
                return trial
                  ? `${wayName(trial)}, quality ${trial.quality}: ${weightText(trial.bytes)}${trial.difference.seen ? ', can be seen' : ', looks the same'}`
                  : '';
              },
            },
          },
        },
        scales: {
          x: {
            type: 'linear',
            min: 36,
            max: 100,
            title: { display: true, text: 'Quality', color: soft },
            ticks: { color: soft },
            grid: { display: false },
          },
          y: {
            type: 'logarithmic',
            title: { display: true, text: 'kB', color: soft },
            ticks: { color: soft, maxTicksLimit: 6 },
            grid: { color: '#e6e0d4' },
          },
        },
      },
    });
  }
}
