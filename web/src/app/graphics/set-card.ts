import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { fitWordOfAll, frameOf, seenInRow, sizeText, withoutSize, type TileSet } from '@bright-slot/core';
import { PageLikeness, Pages } from '../page/page-likeness';
import type { GraphicEntry } from '../storage/graphics-repository';
import { FileDrop } from '../ui/file-drop';
import { Icon } from '../ui/icon';
import { whenSeen } from '../ui/when-seen';
import { whenText } from '../ui/when';
import { PreviewService, type Preview } from '../document/preview.service';

/** How large a set's card is, and how much of its page shows above and below it, px. */
const WIDTH = 560;
const AROUND = 58;

/** A set of tiles as one card: its tiles side by side on their page, and how all of it fits. */
@Component({
  selector: 'bs-set-card',
  imports: [RouterLink, Icon, PageLikeness, MatMenu, MatMenuItem, MatMenuTrigger],
  changeDetection: ChangeDetectionStrategy.OnPush,
  hostDirectives: [FileDrop],
  host: { '[class.held]': 'drops.held()' },
  template: `
    <a
      class="window"
      [routerLink]="['/sets', set().id]"
      [attr.aria-label]="'Open the set ' + set().name"
      [style.height.px]="height()"
    >
      @if (page(); as likeness) {
        <bs-page-likeness
          [page]="likeness"
          (laid)="hole.set($event)"
          [style.width.px]="pageWidth()"
          [style.transform]="transform()"
        />
      }
    </a>
    <div class="words">
      <strong>{{ set().name }}</strong>
      <span class="fit quiet" [class.problem-text]="fit().includes('to fix')">{{ fit() }}</span>
      <button
        type="button"
        class="button icon small bare"
        [matMenuTriggerFor]="menu"
        [attr.aria-label]="'More for ' + set().name"
      >
        <bs-icon name="dots" />
      </button>
    </div>
    <p class="quiet small-text">
      A set of {{ entries().length }}, {{ called() }} {{ size() }}
      <span class="when">changed {{ when(changed()) }}</span>
    </p>
    <mat-menu #menu="matMenu">
      <button mat-menu-item type="button" (click)="picker.click()">New edition …</button>
      <button mat-menu-item type="button" (click)="deleted.emit()">Delete</button>
    </mat-menu>
    <input
      #picker
      type="file"
      multiple
      class="visually-hidden"
      accept="image/*"
      tabindex="-1"
      [attr.aria-label]="'Photos for a new edition of ' + set().name"
      (change)="give(picker.files); picker.value = ''"
    />
  `,
  styleUrl: './set-card.scss',
})
export class SetCard {
  readonly set = input.required<TileSet>();
  /** Its tiles, in their order. */
  readonly entries = input.required<readonly GraphicEntry[]>();
  readonly deleted = output();
  /** Photos for its next edition. */
  readonly given = output<readonly File[]>();
  private readonly previews = inject(PreviewService);
  private readonly pages = inject(Pages);
  protected readonly drops = inject(FileDrop);
  private readonly seen = whenSeen();
  protected readonly when = whenText;
  private readonly found = signal<ReadonlyMap<string, Preview>>(new Map());
  protected readonly hole = signal<{ left: number; top: number; width: number; height: number } | null>(null);
  protected readonly size = computed(() => sizeText(this.set().slot));
  protected readonly called = computed(() => withoutSize(this.set().slot.name));
  protected readonly changed = computed(() => Math.max(0, ...this.entries().map((e) => e.changed)));
  protected readonly fit = computed(() => fitWordOfAll(this.entries().map((e) => this.found().get(e.id)?.fit)));
  private readonly shown = computed(() => {
    const { rowShows } = this.set().slot;
    return this.entries().slice(0, rowShows > 1 ? seenInRow(this.entries().length, rowShows) : 12);
  });
  protected readonly page = computed(() => {
    const entries = this.shown();
    if (!entries.length) return null;
    return this.pages.together(
      entries.map((e) => {
        const url = this.found().get(e.id)?.url;
        return { slot: frameOf(e).slot, picture: url ? { url, alt: '' } : null };
      }),
    );
  });
  /** So wide that the row has room, px. */
  protected readonly pageWidth = computed(() => {
    const { shownWidth, rowShows } = this.set().slot;
    return Math.max(320, (shownWidth + 20) * Math.max(1, Math.min(rowShows, this.shown().length)) + 64);
  });
  private readonly scale = computed(() => (WIDTH - 2) / this.pageWidth());
  protected readonly height = computed(() => {
    const { width, height, shownWidth } = this.set().slot;
    return Math.round(((height * shownWidth) / width) * this.scale() + AROUND);
  });
  protected readonly transform = computed(() => {
    const top = Math.max(0, (this.hole()?.top ?? 0) * this.scale() - 26);
    return `translate(0px, ${-top}px) scale(${this.scale()})`;
  });

  constructor() {
    this.drops.files.subscribe(({ files }) => this.given.emit(files));
    effect((cleanUp) => {
      const entries = this.entries();
      if (!this.seen() || !this.previews.ready()) return;
      const stop = new AbortController();
      cleanUp(() => stop.abort());
      void this.look(entries, stop.signal);
    });
  }

  private async look(entries: readonly GraphicEntry[], stop: AbortSignal): Promise<void> {
    for (const entry of entries) {
      const preview = await this.previews
        .preview(entry, stop)
        .catch(() => ({ url: '', others: [], fit: 'cannot be painted' }));
      if (stop.aborted) return;
      this.found.update((f) => new Map(f).set(entry.id, preview));
    }
  }

  protected give(files: FileList | null): void {
    if (files?.length) this.given.emit([...files]);
  }
}
