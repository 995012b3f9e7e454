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
  templateUrl: './edge-section.html',
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
