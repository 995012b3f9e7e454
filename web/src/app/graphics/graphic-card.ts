import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { frameOf, shotWidth, sizeText, type Collection } from '@bright-slot/core';
import { Icon } from '../ui/icon';
import { whenSeen } from '../ui/when-seen';
import { whenText } from '../ui/when';
import { PageLikeness, Pages } from '../page/page-likeness';
import type { GraphicEntry } from '../storage/graphics-repository';
import { SlotChanges } from '../document/slot-changes.service';
import { cardOf } from './card-size';
import { PreviewService, type Preview } from '../document/preview.service';

/** What a card that is dragged gives: its graphic's id. */
export const DRAGGED = 'application/x-bright-slot-graphic';

/** Put into a collection, or taken out. */
export interface Held {
  readonly collection: string;
  readonly is: boolean;
}

/** A graphic standing on its page, in the slot's true proportions. */
@Component({
  selector: 'bs-graphic-card',
  imports: [RouterLink, Icon, PageLikeness, MatMenu, MatMenuItem, MatMenuTrigger],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[style.width.px]': 'card().width' },
  template: `
    <a
      class="window"
      [routerLink]="['/graphics', entry().id]"
      [attr.aria-label]="'Open ' + entry().name"
      (dragstart)="drag($event)"
      [style.height.px]="card().height"
    >
      <bs-page-likeness
        [page]="page()"
        (laid)="hole.set($event)"
        [style.width.px]="pageWidth()"
        [style.transform]="pageTransform()"
      />
      @if (!preview()) {
        <span class="wait quiet small-text">Painting …</span>
      }
    </a>
    <div class="words">
      <strong>{{ entry().name }}</strong>
      <span class="fit quiet" [class.problem-text]="preview()?.fit?.includes('to fix')">{{ preview()?.fit }}</span>
      <button
        type="button"
        class="button icon small bare"
        [matMenuTriggerFor]="menu"
        [attr.aria-label]="'More for ' + entry().name"
      >
        <bs-icon name="dots" />
      </button>
    </div>
    <p class="quiet small-text known" [class.narrow]="card().width < 300">
      {{ slot().name }}, {{ size() }}
      @if (slotNow(); as changed) {
        · <strong>the slot is {{ sizeOf(changed.now) === size() ? 'changed' : sizeOf(changed.now) }} now</strong>
      }
      @if (live()) {
        · {{ live() }}
      }
      @if (madeFrom(); as m) {
        · <a [routerLink]="['/graphics']" [queryParams]="{ from: m.id }">made from {{ m.name }}</a>
      }
      @if (madeOfIt()) {
        · <a [routerLink]="['/graphics']" [queryParams]="{ from: entry().id }">{{ madeOfIt() }} made from it</a>
      }
      <span class="when">changed {{ when(entry().changed) }}</span>
    </p>
    <mat-menu #within="matMenu">
      @for (c of collections(); track c.id) {
        <button
          mat-menu-item
          type="button"
          role="menuitemcheckbox"
          [attr.aria-checked]="isIn(c)"
          (click)="held.emit({ collection: c.id, is: !isIn(c) })"
        >
          <bs-icon name="check" [style.visibility]="isIn(c) ? 'visible' : 'hidden'" />{{ c.name }}
        </button>
      }
      <button mat-menu-item type="button" (click)="gathered.emit()">In a new collection</button>
    </mat-menu>
    <mat-menu #menu="matMenu">
      @if (entry().frames.length > 1) {
        <a mat-menu-item [routerLink]="['/sets', entry().id]">Files and editions of the set</a>
      }
      <a mat-menu-item [routerLink]="['/graphics', entry().id, 'carry']">Carry over to other slots</a>
      <button mat-menu-item type="button" [matMenuTriggerFor]="within">Collections</button>
      <button mat-menu-item type="button" (click)="duplicated.emit()">Duplicate</button>
      <button mat-menu-item type="button" (click)="deleted.emit()">Delete</button>
    </mat-menu>
  `,
  styleUrl: './graphic-card.scss',
})
export class GraphicCard {
  readonly entry = input.required<GraphicEntry>();
  /** Where it is live and in which state; empty where it is not. */
  readonly live = input('');
  /** The graphic it was made from, and how many were made from it. */
  readonly madeFrom = input<GraphicEntry | null>(null);
  readonly madeOfIt = input(0);
  protected readonly when = whenText;
  protected readonly sizeOf = sizeText;
  private readonly followed = inject(SlotChanges);
  protected readonly slotNow = computed(() => this.followed.changed(this.entry()));
  readonly duplicated = output();
  readonly deleted = output();
  /** The person's collections; whether it is in one. */
  readonly collections = input<readonly Collection[]>([]);
  readonly held = output<Held>();
  /** It is to be in a new collection. */
  readonly gathered = output();
  protected isIn({ graphics }: Collection): boolean {
    return graphics.includes(this.entry().id);
  }
  private readonly previews = inject(PreviewService);
  protected readonly preview = signal<Preview | null>(null);
  private readonly seen = whenSeen();
  protected readonly slot = computed(() => frameOf(this.entry()).slot);
  protected readonly size = computed(() => sizeText(this.slot()));
  protected readonly card = computed(() => cardOf(this.entry().frames));
  protected readonly hole = signal<{ left: number; top: number; width: number; height: number } | null>(null);
  private readonly pages = inject(Pages);
  protected readonly page = computed(() => {
    const { frames } = this.entry();
    const preview = this.preview();
    const urls = preview ? [preview.url, ...preview.others] : [];
    if (frames.length > 1 && urls.length === frames.length)
      return this.pages.together(frames.map(({ slot }, i) => ({ slot, picture: { url: urls[i]!, alt: '' } })));
    return this.pages.of(this.slot(), preview ? { url: preview.url, alt: '' } : null);
  });
  /** A likeness is as narrow as the slot allows; a page of the person's own as wide as its screenshot. */
  protected readonly pageWidth = computed(() => {
    const { own } = this.page().content;
    return own ? shotWidth(own.shot) : this.card().pageWidth;
  });
  /** So that the slot is as large as on any card, whatever page it stands in. */
  private readonly scale = computed(() => {
    const likeness = (this.card().width - 2) / this.card().pageWidth;
    const { own } = this.page().content;
    if (!own) return likeness;
    return (likeness * this.slot().shownWidth * own.shot.density) / own.shot.box.width;
  });
  protected readonly pageTransform = computed(() => {
    const hole = this.hole();
    const top = Math.max(0, (hole?.top ?? 0) * this.scale() - 26);
    // A screenshot may be wider than the card: the slot stands in its middle.
    const middle = hole ? (hole.left + hole.width / 2) * this.scale() - (this.card().width - 2) / 2 : 0;
    const left = this.page().content.own ? middle : 0;
    return `translate(${-left}px, ${-top}px) scale(${this.scale()})`;
  });

  /** Dragged on a collection, it is put in. */
  protected drag(event: DragEvent): void {
    event.dataTransfer?.setData(DRAGGED, this.entry().id);
  }

  constructor() {
    effect((cleanUp) => {
      const entry = this.entry();
      if (!this.seen() || !this.previews.ready()) return;
      // Whoever goes on to a graphic has need of the workers for that.
      const stop = new AbortController();
      cleanUp(() => stop.abort());
      this.previews.preview(entry, stop.signal).then(
        (p) => {
          if (this.entry() === entry) this.preview.set(p);
        },
        () => {
          if (!stop.signal.aborted) this.preview.set({ url: '', others: [], fit: 'cannot be painted' });
        },
      );
    });
  }
}
