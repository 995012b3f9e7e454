import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  codeKinds,
  densities,
  filePixels,
  isDrawn,
  nameAt,
  notesFor,
  pageCode,
  softAt,
  topDensity,
  withEnding,
  type CodeKind,
  type Density,
  type FileFormat,
} from '@bright-slot/core';
import { AllFiles, type Piece } from '../output/all-files';
import { FindFile } from '../pixels/find-file';
import { PixelsService } from '../pixels/pixels.service';
import { HouseStyleService } from '../storage/house-style.service';
import { ExportSession } from '../output/export-session';
import { Choice, type Option } from '../ui/choice';
import { panelStyles } from './panel-styles';

/** One of the files that leave for a page. */
interface Leaving {
  readonly name: string;
  readonly format: FileFormat;
  readonly density: Density;
  readonly quality: number;
  readonly chroma: '444' | '420';
}

const kindNames: Record<CodeKind, string> = { img: 'img', picture: 'picture', css: 'CSS' };

/** The densities a graphic leaves in, all in one go, and the code that has a page load the right one. */
@Component({
  selector: 'bs-page-code',
  imports: [Choice],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<h3>Densities</h3>
    <div class="ticks" role="group" aria-label="Densities">
      @for (d of densities; track d) {
        <label
          ><input type="checkbox" [checked]="wanted().includes(d)" [disabled]="d === only()" (change)="toggle(d)" />
          {{ d }}×</label
        >
      }
      <span class="quiet small-text">{{ sizes() }}</span>
    </div>
    @for (told of softHere(); track told) {
      <p class="small-text problem-text" role="status">{{ told }}</p>
    }
    <details>
      <summary>Code for the page</summary>
      <bs-choice label="Kind of code" [options]="kinds" [value]="kind()" (chosen)="kind.set($event)" />
      <textarea readonly spellcheck="false" aria-label="Code for the page" [rows]="rows()" [value]="code()"></textarea>
      <div class="row">
        <button type="button" class="button small" (click)="copy()">Copy the code</button>
        <span class="small-text quiet" role="status">{{ copied() }}</span>
      </div>
    </details>
    @if (files().length > 1) {
      <div class="row">
        @if (all.done() === null) {
          <button type="button" class="button" [disabled]="!out.ready()" (click)="zip()">
            Save {{ files().length }} files in one zip
          </button>
          @if (all.folders) {
            <button type="button" class="button" [disabled]="!out.ready()" (click)="folder()">
              {{ all.lastFolder() ? 'Into “' + all.lastFolder() + '”' : 'Into a folder …' }}
            </button>
            @if (all.lastFolder()) {
              <button type="button" class="button bare small" [disabled]="!out.ready()" (click)="folder(true)">
                Another folder …
              </button>
            }
          }
        } @else {
          <span class="small-text" role="status">{{ all.done() }} of {{ files().length }} made …</span>
          <button type="button" class="button" (click)="all.cancel()">Cancel</button>
        }
      </div>
      <p class="small-text" role="status">{{ all.said() }}</p>
      <p class="small-text problem-text" role="alert">{{ all.problem() }}</p>
    }`,
  styles: [
    panelStyles,
    `
      .ticks {
        display: flex;
        align-items: center;
        gap: 14px;
        font-size: 13px;
      }
      .ticks label {
        display: inline-flex;
        align-items: center;
        gap: 5px;
      }
      input {
        accent-color: var(--ink);
      }
      details {
        display: flex;
        flex-direction: column;
      }
      summary {
        cursor: pointer;
        font-size: 13px;
        font-weight: 600;
        padding: 4px 0;
      }
      textarea {
        display: block;
        width: 100%;
        box-sizing: border-box;
        margin: 6px 0;
        padding: 8px 9px;
        font:
          12px/1.45 'JetBrains Mono',
          monospace;
        color: var(--ink);
        background: var(--ground);
        border: 1px solid var(--border);
        border-radius: var(--corner);
        resize: vertical;
      }
      .row {
        display: flex;
        align-items: center;
        gap: 8px;
        flex-wrap: wrap;
      }
    `,
  ],
})
export class PageCodePanel {
  protected readonly out = inject(ExportSession);
  protected readonly all = inject(AllFiles);
  private readonly find = inject(FindFile);
  private readonly pixels = inject(PixelsService);
  private readonly house = inject(HouseStyleService);
  protected readonly densities = densities;
  protected readonly kind = signal<CodeKind>('img');
  protected readonly kinds: readonly Option<CodeKind>[] = codeKinds.map((id) => ({ id, name: kindNames[id] }));
  protected readonly copied = signal('');

  /** The densities it leaves in: the slot’s, until others are ticked. */
  protected readonly wanted = computed((): readonly Density[] => {
    const [frame, slot] = [this.out.frame(), this.out.slot()];
    if (!frame || !slot) return [];
    return [...(frame.export.densities ?? slot.densities)].sort((a, b) => a - b);
  });
  /** One has to be left. */
  protected readonly only = computed(() => (this.wanted().length === 1 ? this.wanted()[0] : null));
  protected readonly softHere = computed(() => {
    const [graphic, frame] = [this.out.graphic(), this.out.frame()];
    return graphic && frame ? this.wanted().flatMap((d) => softAt(graphic, frame, d) ?? []) : [];
  });
  protected readonly sizes = computed(() => {
    const slot = this.out.slot();
    return slot
      ? this.wanted()
          .map((d) => filePixels(slot, d))
          .map((s) => `${s.width} × ${s.height}`)
          .join(', ')
      : '';
  });

  /** What is loaded where a browser does not know the chosen format. */
  private readonly fallback = computed((): FileFormat | null => {
    const [slot, format] = [this.out.slot(), this.out.format()];
    const other: FileFormat = slot?.keepsTransparency ? 'png' : 'jpeg';
    return this.kind() === 'picture' && (format === 'webp' || format === 'avif') ? other : null;
  });

  protected readonly files = computed((): readonly Leaving[] => {
    const other = this.fallback();
    const chosen = this.out.choice();
    const second = other && this.out.files().find((f) => f.format === other);
    const ways = [
      chosen,
      ...(other ? [{ format: other, quality: second?.quality ?? 85, chroma: second?.chroma ?? '444' }] : []),
    ];
    return ways.flatMap(({ format, quality, chroma }) =>
      (isDrawn(format) ? [1 as const] : this.wanted()).map((density) => ({
        format,
        quality,
        chroma,
        density,
        name: nameAt(withEnding(this.out.name(), format), density),
      })),
    );
  });

  protected readonly code = computed(() => {
    const [slot, frame] = [this.out.slot(), this.out.frame()];
    if (!slot || !frame || !this.files().length) return '';
    const { width, height } = filePixels(slot, 1);
    const files = this.files().map((f) => ({
      address: f.name,
      format: f.format,
      density: f.density,
      width: filePixels(slot, f.density).width,
    }));
    const scales = slot.anyWidth || slot.phone.mode === 'scales' || slot.tablet.mode === 'scales';
    return pageCode(this.kind(), { files, width, height, alt: frame.export.alt, scales });
  });
  protected readonly rows = computed(() => Math.max(4, this.code().split('\n').length + 2));

  private readonly pieces = computed((): Piece[] => {
    const [graphic, frame] = [this.out.graphic(), this.out.frame()];
    if (!graphic || !frame) return [];
    const [itself, most] = [this.out.byItself(), this.out.most()];
    const notes = notesFor(this.house.style(), frame.export);
    return this.files().map(({ format, quality, chroma, density }) => ({
      graphic,
      frame,
      name: graphic.name,
      file: async (signal, by) => {
        // Chosen by itself, each density has the lightest of its own that looks the same.
        if (itself && density !== topDensity(frame.slot))
          return this.find.lightest({ graphic, frame, notes, density, ways: [{ format, chroma }], most }, signal, by);
        const choices = { format, quality, chroma, density, notes };
        return { format, blob: (await this.pixels.file(graphic, frame, choices, signal, by)).blob };
      },
    }));
  });

  protected toggle(density: Density): void {
    const now = this.wanted();
    const next = now.includes(density) ? now.filter((d) => d !== density) : [...now, density];
    const slot = this.out.slot()!;
    // What the slot wants anyway needs no saying.
    const same = next.length === slot.densities.length && next.every((d) => slot.densities.includes(d));
    this.out.setDensities(same ? undefined : next.sort((a, b) => a - b));
  }

  protected async copy(): Promise<void> {
    try {
      await navigator.clipboard.writeText(this.code());
      this.copied.set('It is in the clipboard.');
    } catch {
      this.copied.set('The browser did not let it be copied: select it and copy it yourself.');
    }
  }

  protected async zip(): Promise<void> {
    await this.out.leave(() =>
      this.all.zipAs(
        this.pieces(),
        this.files().map((f) => f.name),
        this.out.graphic()!.name,
      ),
    );
  }

  protected async folder(anew = false): Promise<void> {
    await this.out.leave(() =>
      this.all.folderAs(
        this.pieces(),
        this.files().map((f) => f.name),
        anew,
      ),
    );
  }
}
