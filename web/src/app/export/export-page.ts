import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { MatSlider, MatSliderThumb } from '@angular/material/slider';
import { RouterLink } from '@angular/router';
import {
  fileDifferenceText,
  hasQuality,
  isDrawn,
  pictureFormats,
  secondsOnSlowLine,
  sizeText,
  weightText,
  type Chroma,
} from '@bright-slot/core';
import { SaveState } from '../shell/save-state';
import { GraphicLock } from '../document/graphic-lock';
import { Workbench } from '../document/workbench';
import { Choice, type Option } from '../ui/choice';
import { OpenGraphic } from '../document/open-graphic';
import { AllFiles, piecesOf } from '../output/all-files';
import { ExportSession, type MadeFile } from '../output/export-session';
import { FileTrials } from '../output/file-trials';
import { SentNote } from '../output/sent-note';
import { Loupes } from './loupes';
import { OtherProgramsPanel } from './other-programs-panel';
import { PageCodePanel } from './page-code';
import { RoutinesHere } from './routines-here';
import { SplitView } from './split-view';
import { WatermarkHere } from './watermark-here';
import { WeightCurve } from './weight-curve';
import { numberOf, tickedOf, valueOf } from '../ui/event-value';

/** How the file is seen. */
type View = 'file' | 'split' | 'whole';

/** How a graphic leaves: formats, quality, name and description, and where it goes. */
@Component({
  selector: 'bs-export-page',
  imports: [
    Choice,
    Loupes,
    OtherProgramsPanel,
    PageCodePanel,
    RoutinesHere,
    SplitView,
    WatermarkHere,
    WeightCurve,
    RouterLink,
    SaveState,
    SentNote,
    MatSlider,
    MatSliderThumb,
  ],
  providers: [AllFiles, ExportSession, FileTrials],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './export-page.html',
  styleUrl: './export-page.scss',
})
export class ExportPage {
  protected readonly numberOf = numberOf;
  protected readonly valueOf = valueOf;
  protected readonly tickedOf = tickedOf;
  protected readonly all = inject(AllFiles);
  /** Whether the page shows what came last first. */
  protected readonly latestFirst = signal(false);
  protected readonly names = computed(() => {
    const graphic = this.out.graphic();
    return graphic ? this.all.names(piecesOf(graphic), this.latestFirst()) : [];
  });
  protected readonly piecesOf = piecesOf;
  readonly id = input.required<string>();
  private readonly opener = inject(OpenGraphic);
  protected readonly lock = inject(GraphicLock);
  protected readonly out = inject(ExportSession);
  protected readonly problem = signal('');
  protected readonly workbench = inject(Workbench);
  /** The frames that can leave, by their places. */
  protected readonly frames = computed<readonly Option<string>[]>(() =>
    (this.out.graphic()?.frames ?? []).map(({ id, slot }, i) => ({ id, name: `${i + 1} · ${sizeText(slot)}` })),
  );
  protected readonly formats = pictureFormats;
  protected readonly hasQuality = hasQuality;
  protected readonly weight = weightText;
  /** The file at one of its px a px of the screen, beside the canvas, or all of it in the room there is. */
  protected readonly view = signal<View>('file');
  protected readonly views: readonly Option<View>[] = [
    { id: 'file', name: 'At 100 %' },
    { id: 'split', name: 'Beside the canvas' },
    { id: 'whole', name: 'All of it' },
  ];
  protected readonly chromas: readonly Option<Chroma>[] = [
    { id: '444', name: 'Each pixel' },
    { id: '420', name: '2 × 2 pixels' },
  ];
  /** How a file differs, in few words. */
  protected seenText({ format, difference }: MadeFile): string {
    if (this.formats[format].written === 'lossless') return 'identical to the canvas';
    if (!difference) return '';
    const seen = difference.seen ? 'can be seen' : 'looks the same';
    return `${seen}, ${isDrawn(format) ? 'sharp at every size' : `SSIM ${difference.ssim.toFixed(4)}`}`;
  }
  protected readonly differenceText = fileDifferenceText;
  /** Whether it is said how a difference is decided. */
  protected readonly how = signal(false);
  protected readonly seconds = (bytes: number) => secondsOnSlowLine(bytes).toFixed(1);
  protected readonly pixel = 1 / (devicePixelRatio || 1);

  constructor() {
    effect(() => {
      const id = this.id();
      void untracked(() => this.open(id));
    });
    inject(DestroyRef).onDestroy(() => {
      this.all.cancel();
      this.opener.close(this.id());
    });
  }

  /** A limit as it was typed; nothing is the slot’s own. */
  protected setMost(typed: string): void {
    const kB = Number(typed);
    this.out.setMost(typed.trim() && kB > 0 ? kB * 1000 : null);
  }

  /** Px an inch as they were typed; nothing says none. */
  protected setPpi(typed: string): void {
    const ppi = Number(typed);
    this.out.setPpi(typed.trim() && ppi > 0 ? ppi : null);
  }

  private async open(id: string): Promise<void> {
    const opened = await this.opener.open(id);
    if (!opened.ok && opened.problem.code !== 'superseded') this.problem.set(opened.problem.message);
    await this.out.begin(id, 'all');
  }
}
