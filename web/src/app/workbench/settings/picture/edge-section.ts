import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { grown, isPicture, openSides, pictureGeometry, sideNames, type Fade, type SideName } from '@bright-slot/core';
import { NumberField } from '../../../ui/number-field';
import { PixelsService } from '../../../pixels/pixels.service';
import type { EdgeFacts } from '../../../pixels/messages';
import { JobStopped } from '../../../pixels/pixel-client';
import { PictureSection } from './section';
import { Trimming, USUAL_TOLERANCE } from './trimming.service';

const sideWords: Record<SideName, string> = { left: 'Left', top: 'Top', right: 'Right', bottom: 'Bottom' };

/** How a picture ends: fading into what lies behind it, running on in its own colours, its margins trimmed. */
@Component({
  selector: 'bs-edge-section',
  imports: [NumberField, MatMenu, MatMenuItem, MatMenuTrigger],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="line">
      <span class="label">Fade</span>
      <span class="group" role="group" aria-label="Fade a side">
        @for (side of sides; track side) {
          <button
            type="button"
            class="button small"
            [attr.aria-pressed]="!!sideFade(side)"
            [disabled]="locked()"
            (click)="toggleSide(side)"
          >
            {{ words[side] }}
          </button>
        }
        <button
          type="button"
          class="button small"
          [attr.aria-pressed]="!!line()"
          [disabled]="locked()"
          (click)="toggleLine()"
        >
          Along a line
        </button>
      </span>
      @for (side of sides; track side) {
        @if (sideFade(side); as f) {
          <bs-number
            class="wide"
            [label]="words[side]"
            [value]="f.length * lengthOf(side)"
            [min]="1"
            [max]="lengthOf(side)"
            unit="px"
            [disabled]="locked()"
            (changed)="setSide(side, $event / lengthOf(side))"
          />
        }
      }
      @if (line()) {
        <span class="note">Drag the two ends on the canvas.</span>
      }
    </div>
    <div class="line">
      <span class="label">Beside it</span>
      <span class="group" role="group" aria-label="Uncovered canvas">
        <button
          type="button"
          class="button small"
          [attr.aria-pressed]="!layer().beyond"
          [disabled]="locked()"
          (click)="set({ beyond: null }, 'edge')"
        >
          Nothing
        </button>
        <button
          type="button"
          class="button small"
          [attr.aria-pressed]="layer().beyond?.style === 'colour'"
          [disabled]="locked() || !canRunOn()"
          (click)="set({ beyond: { style: 'colour' } }, 'edge')"
        >
          Its edge’s colour
        </button>
        <button
          type="button"
          class="button small"
          [attr.aria-pressed]="layer().beyond?.style === 'gradient'"
          [disabled]="locked() || !canRunOn()"
          (click)="set({ beyond: { style: 'gradient' } }, 'edge')"
        >
          Its edge running on
        </button>
      </span>
      @if (edges().length) {
        <button type="button" class="button small" [matMenuTriggerFor]="ground">Backdrop from an edge</button>
        <mat-menu #ground="matMenu">
          @for (e of edges(); track e.side) {
            <button mat-menu-item type="button" (click)="backdrop(e)">
              <span class="swatch" [style.background]="e.colour" aria-hidden="true"></span>
              {{ words[e.side] }}, {{ e.colour }}
            </button>
          }
        </mat-menu>
      }
      @if (!canRunOn()) {
        <span class="note">Needs straight corners and no slant.</span>
      } @else if (seams()) {
        <span class="note" data-seams>Seam: {{ seams() }}</span>
      } @else if (!uncovered()) {
        <span class="note">The picture leaves no canvas uncovered.</span>
      }
    </div>
    <div class="line">
      <span class="label">Margins</span>
      <bs-number
        label="May differ by"
        class="wide"
        [value]="tolerance()"
        [min]="0"
        [max]="120"
        (changed)="tolerance.set($event)"
      />
      <bs-number
        label="Leave"
        [value]="breathing()"
        [min]="0"
        [max]="2000"
        unit="px"
        (changed)="breathing.set($event)"
      />
      <button type="button" class="button small" [disabled]="locked() || busy()" (click)="trim()">Trim</button>
      <span class="note" role="status">{{ told() }}</span>
    </div>
  `,
  styles: `
    @use 'picture';
    .swatch {
      display: inline-block;
      width: 16px;
      height: 16px;
      border: 1px solid var(--border);
      border-radius: 3px;
      vertical-align: -3px;
      margin-right: 6px;
    }
  `,
})
export class EdgeSection extends PictureSection {
  private readonly pixels = inject(PixelsService);
  private readonly trimming = inject(Trimming);
  protected readonly sides = sideNames;
  protected readonly words = sideWords;
  protected readonly tolerance = signal(USUAL_TOLERANCE);
  protected readonly breathing = signal(0);
  protected readonly edges = signal<readonly EdgeFacts[]>([]);
  protected readonly line = computed(() => this.layer().fades.find((f) => f.kind === 'line') ?? null);
  protected readonly canRunOn = computed(
    () => this.layer().turn % 90 === 0 && this.layer().corners.kind === 'straight',
  );
  /** Whether it leaves canvas uncovered, faded there or not. */
  protected readonly uncovered = computed(
    () =>
      openSides(grown(pictureGeometry(this.layer(), this.canvas()).shown, 0.5), { x: 0, y: 0, ...this.canvas() })
        .length > 0,
  );
  /** How well what runs on meets the picture, in words. */
  protected readonly seams = computed(() => {
    const style = this.layer().beyond?.style;
    if (!style) return '';
    return this.edges()
      .flatMap(({ side, seam }) =>
        seam
          ? [
              `${sideWords[side].toLowerCase()} ΔE ${seam[style].mean.toFixed(1)}, worst ${seam[style].worst.toFixed(1)}`,
            ]
          : [],
      )
      .join('; ');
  });

  constructor() {
    super();
    // The committed graphic: while something is dragged the edges are not looked at.
    effect((cleanUp) => {
      const graphic = this.workbench.graphic();
      const layer = graphic?.layers.find((l) => l.id === this.layer().id);
      if (!graphic || !layer || !isPicture(layer)) return;
      const stop = new AbortController();
      cleanUp(() => stop.abort());
      void untracked(async () => {
        try {
          this.edges.set(await this.pixels.edges(layer, graphic, stop.signal));
        } catch (error) {
          if (!(error instanceof JobStopped)) this.edges.set([]);
        }
      });
    });
  }

  protected sideFade(side: SideName): (Fade & { kind: 'side' }) | null {
    return this.layer().fades.find((f) => f.kind === 'side' && f.side === side) as (Fade & { kind: 'side' }) | null;
  }

  protected lengthOf(side: SideName): number {
    const { shown } = pictureGeometry(this.layer(), this.canvas());
    return side === 'left' || side === 'right' ? shown.width : shown.height;
  }

  private others(side: SideName): Fade[] {
    return this.layer().fades.filter((f) => f.kind !== 'side' || f.side !== side);
  }

  protected toggleSide(side: SideName): void {
    this.set(
      { fades: this.sideFade(side) ? this.others(side) : [...this.others(side), { kind: 'side', side, length: 0.35 }] },
      `fade at the ${side}`,
    );
  }

  protected setSide(side: SideName, length: number): void {
    this.set({ fades: [...this.others(side), { kind: 'side', side, length }] }, `fade at the ${side}`);
  }

  protected toggleLine(): void {
    const fades: Fade[] = this.layer().fades.filter((f) => f.kind !== 'line');
    if (!this.line()) fades.push({ kind: 'line', from: { x: 0.5, y: 0.5 }, to: { x: 0.95, y: 0.5 } });
    this.set({ fades }, 'fade along a line');
  }

  protected backdrop({ side, colour }: EdgeFacts): void {
    this.workbench.edit({
      type: 'set-backdrop',
      backdrop: { kind: 'colour', colour },
      name: `Backdrop from the ${side} edge of ${this.layer().name}: ${colour}`,
    });
  }

  protected trim(): Promise<void> {
    return this.during(() => this.trimming.trim(this.layer(), this.tolerance(), this.breathing()));
  }
}
