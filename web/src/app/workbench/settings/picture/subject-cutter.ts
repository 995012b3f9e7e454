import {
  ChangeDetectionStrategy,
  Component,
  OnDestroy,
  OnInit,
  effect,
  inject,
  output,
  signal,
  untracked,
} from '@angular/core';
import { isPicture, type Box } from '@bright-slot/core';
import { NumberField } from '../../../ui/number-field';
import { SliderField } from '../../../ui/slider-field';
import { SubjectService } from '../../../media/subject.service';
import { GraphicsRepository } from '../../../storage/graphics-repository';
import { PictureSection } from './section';
import { SubjectHints } from '../../stage/subject-hints';

/** A rough box around a subject of which the middle is known, in shares of the picture. */
function aroundSubject(s: Box): Box {
  const x = Math.max(0.01, s.x - s.width / 2);
  const y = Math.max(0.01, s.y - s.height / 2);
  return { x, y, width: Math.min(0.99, s.x + s.width * 1.5) - x, height: Math.min(0.99, s.y + s.height * 1.5) - y };
}

/** Cutting the subject out of a photograph: a rough box, then strokes where it went wrong. */
@Component({
  selector: 'bs-subject-cutter',
  imports: [NumberField, SliderField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="line">
      <span class="group" role="group" aria-label="Mark on the canvas">
        @for (t of tools; track t.id) {
          <button type="button" class="button small" [attr.aria-pressed]="hints.tool() === t.id" (click)="mark(t.id)">
            {{ t.name }}
          </button>
        }
      </span>
      @if (hints.tool() === 'box') {
        @for (side of sides; track side.key) {
          <bs-number
            [label]="side.name"
            [value]="hints.box()?.[side.key] ?? 0"
            [min]="side.key === 'width' || side.key === 'height' ? 4 : 0"
            unit="px"
            (changed)="setBox(side.key, $event)"
          />
        }
      } @else {
        <bs-number
          label="Brush"
          [value]="hints.width()"
          [min]="1"
          [max]="2000"
          unit="px"
          (changed)="hints.width.set($event)"
        />
        <button type="button" class="button small" [disabled]="!hints.strokes().length" (click)="forget()">
          Take back the last stroke
        </button>
      }
    </div>
    <div class="line">
      @if (layer().cutout; as c) {
        <bs-slider
          class="slide"
          label="Softer edge"
          [value]="c.soft"
          [min]="0"
          [max]="8"
          [step]="0.5"
          unit="px"
          (changed)="soften($event)"
        />
      }
      @if (busy()) {
        <span class="note" role="status">Looking for the subject … the first time its library is fetched, 11 MB.</span>
        <button type="button" class="button small" (click)="stop()">Cancel</button>
      } @else {
        <button type="button" class="button small main" (click)="cut()">Cut it out</button>
        <button type="button" class="button small" (click)="end()">Done</button>
        <span class="note" role="status">{{
          problem() || 'Draw a box around the subject, then mark what was taken wrongly. Each mark cuts anew.'
        }}</span>
      }
    </div>
  `,
  styles: `
    @use 'picture';
    :host {
      display: block;
      margin-top: 8px;
    }
    .slide {
      width: 300px;
    }
    bs-number {
      width: 128px;
    }
  `,
})
export class SubjectCutter extends PictureSection implements OnInit, OnDestroy {
  readonly done = output();
  protected readonly hints = inject(SubjectHints);
  private readonly subjects = inject(SubjectService);
  private readonly repository = inject(GraphicsRepository);
  protected readonly tools = [
    { id: 'box' as const, name: 'A box around it' },
    { id: 'keep' as const, name: 'This stays' },
    { id: 'drop' as const, name: 'This goes' },
  ];
  protected readonly sides: readonly { key: keyof Box; name: string }[] = [
    { key: 'x', name: 'Left' },
    { key: 'y', name: 'Top' },
    { key: 'width', name: 'Width' },
    { key: 'height', name: 'Height' },
  ];
  protected readonly problem = signal('');
  private running: AbortController | undefined;

  constructor() {
    super();
    effect(() => {
      if (this.hints.marked() > 0) untracked(() => void this.cut());
    });
  }

  ngOnInit(): void {
    const { id, natural, cutout, asset } = this.layer();
    const long = Math.max(natural.width, natural.height);
    this.hints.marked.set(0);
    if (cutout?.kind === 'subject') {
      this.hints.begin(id, cutout.box, cutout.strokes, long);
      return;
    }
    const middle = { x: 0.2, y: 0.2, width: 0.6, height: 0.6 };
    const own = (s: Box) => ({
      x: Math.round(s.x * natural.width),
      y: Math.round(s.y * natural.height),
      width: Math.round(s.width * natural.width),
      height: Math.round(s.height * natural.height),
    });
    this.hints.begin(id, own(middle), [], long);
    void this.repository.asset(asset).then((a) => {
      // The subject's own middle is known; its whole is about twice as large.
      if (a?.subject && this.hints.layer() === id) this.hints.box.set(own(aroundSubject(a.subject)));
    });
  }

  ngOnDestroy(): void {
    this.stop();
    this.hints.end();
  }

  /** Takes up a tool; marking that was done with goes on. */
  protected mark(tool: 'box' | 'keep' | 'drop'): void {
    this.hints.tool.set(tool);
    this.hints.layer.set(this.layer().id);
  }

  protected setBox(side: keyof Box, to: number): void {
    const box = this.hints.box();
    if (box) this.hints.box.set({ ...box, [side]: to });
  }

  protected forget(): void {
    this.hints.strokes.update((s) => s.slice(0, -1));
    void this.cut();
  }

  protected soften(soft: number): void {
    const { cutout } = this.layer();
    if (cutout) this.set({ cutout: { ...cutout, soft } }, 'softness');
  }

  protected stop(): void {
    this.running?.abort();
    this.running = undefined;
  }

  protected end(): void {
    this.hints.end();
    this.done.emit();
  }

  protected async cut(): Promise<void> {
    const box = this.hints.box();
    const layer = this.layer();
    if (!box || layer.locked) return;
    this.stop();
    const running = (this.running = new AbortController());
    this.busy.set(true);
    this.problem.set('');
    try {
      const hint = { box, strokes: this.hints.strokes(), soft: layer.cutout?.soft ?? 0 };
      const cutout = await this.subjects.find(layer, hint, running.signal);
      // The layer may have been changed meanwhile; only its cut-out is this one's to set.
      const now = this.workbench.graphic()?.layers.find((l) => l.id === layer.id);
      if (now && isPicture(now) && !running.signal.aborted)
        this.workbench.change({ ...now, cutout }, `Subject of ${layer.name} cut out`, `subject:${layer.id}`);
    } catch (error) {
      if (!running.signal.aborted) this.problem.set(error instanceof Error ? error.message : String(error));
    } finally {
      if (this.running === running || !this.running) this.busy.set(false);
    }
  }
}
