import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  Injector,
  type Signal,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  untracked,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import {
  contentLetters,
  layouts,
  saysNothing,
  sizeText,
  typedSlot,
  wanting,
  type Need,
  type PicturePlace,
  type Slot,
  type WordsPlace,
} from '@bright-slot/core';
import { MakeGraphic } from '../document/make-graphic';
import { LayoutTiles, tileSize } from '../layouts/layout-tiles';
import { LayoutTries } from '../layouts/layout-tries';
import type { ShelfItem } from '../media/shelf/shelf.service';
import { HouseStyleService } from '../storage/house-style.service';
import { SlotBook } from '../storage/slot-book.service';
import { storageProblem } from '../storage/storage-problem';
import { FileDrop } from '../ui/file-drop';
import { Icon } from '../ui/icon';
import { valueOf } from '../ui/event-value';
import { OwnTries } from './own-tries';
import { PictureChoice } from './picture-choice';
import { StartSession } from './start-session';

const needNames: Readonly<Record<Need, string>> = {
  photo: 'a photo',
  cutout: 'a cut-out',
  logo: 'a logo',
  title: 'a title',
};

/** How a new graphic starts: bare, or in a layout, each shown with what will be in it. */
@Component({
  selector: 'bs-start-page',
  imports: [Icon, LayoutTiles, PictureChoice, RouterLink],
  providers: [StartSession, LayoutTries, OwnTries],
  hostDirectives: [FileDrop],
  host: { '[class.dropping]': 'drops.held()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './start-page.html',
  styleUrl: './start-page.scss',
})
export class StartPage {
  /** From the address: a slot of the book, or a size that was typed. */
  readonly slot = input<string>();
  readonly size = input<string>();
  protected readonly valueOf = valueOf;
  protected readonly sizeText = sizeText;
  protected readonly most = contentLetters;
  protected readonly start = inject(StartSession);
  protected readonly tries = inject(LayoutTries);
  protected readonly own = inject(OwnTries);
  protected readonly house = inject(HouseStyleService);
  private readonly book = inject(SlotBook);
  private readonly maker = inject(MakeGraphic);
  protected readonly drops = inject(FileDrop);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);
  protected readonly fields: readonly { readonly place: WordsPlace; readonly name: string }[] = [
    { place: 'title', name: 'Title' },
    { place: 'line', name: 'Line' },
    { place: 'note', name: 'Note' },
  ];

  private readonly asked = computed<Slot | null | undefined>(() => {
    const begun = this.maker.toStart();
    const [id, size] = [this.slot(), this.size()];
    if (begun && (begun.id === id || `${begun.width}x${begun.height}` === size)) return begun;
    const sides = size?.split('x').map(Number);
    const typed = sides && typedSlot(sides[0] ?? NaN, sides[1] ?? NaN);
    if (typed) return typed.ok ? typed.value : null;
    const all = this.book.slots();
    return all === null ? undefined : (all.find((s) => s.id === id) ?? null);
  });
  /** Whether the address names no slot there is. */
  protected readonly lost = computed(() => this.asked() === null);
  protected readonly photos = computed(() => this.start.items().filter((i) => !i.transparent && !i.sheet));
  protected readonly cutouts = computed(() => {
    const logos = this.house.style().logos;
    return this.start.items().filter((i) => (i.transparent && !i.vector) || (i.sheet && !logos.includes(i.hash ?? '')));
  });
  protected readonly logos = computed(() => {
    const logos = this.house.style().logos;
    return this.start.items().filter((i: ShelfItem) => (i.hash && logos.includes(i.hash)) || i.vector || i.sheet);
  });
  protected readonly choices: readonly {
    readonly place: PicturePlace;
    readonly name: string;
    readonly items: Signal<readonly ShelfItem[]>;
  }[] = [
    { place: 'photo', name: 'Photo', items: this.photos },
    { place: 'cutout', name: 'Cut-out', items: this.cutouts },
    { place: 'logo', name: 'Logo', items: this.logos },
  ];
  protected readonly colours = computed(() => this.house.style().colours);
  protected readonly leading = computed(() => this.start.look().leading);
  protected readonly tile = computed(() => {
    const slot = this.start.slot();
    return slot ? tileSize(slot) : { width: 0, height: 0 };
  });
  /** Why there are no words in layouts, where there are none. */
  protected readonly wordless = computed(() => {
    const slot = this.start.slot();
    if (!slot || !saysNothing(slot)) return '';
    return slot.covered.some((z) => z.kind === 'title')
      ? 'The page prints its own title over this slot: layouts leave the words out.'
      : 'This slot is shown too small for words: layouts leave them out.';
  });
  /** What more there would be, and with what. */
  protected readonly more = computed(() => {
    const contents = this.start.contents();
    const missing = layouts.flatMap((l) => wanting(l, contents));
    return [...new Set(missing)].map((need) => {
      const n = missing.filter((m) => m === need).length;
      return `${n} more ${n === 1 ? 'takes' : 'take'} ${needNames[need]}`;
    });
  });

  constructor() {
    this.drops.files.subscribe(({ files }) => void this.start.bringIn(files));
    effect(() => {
      const slot = this.asked();
      if (slot)
        untracked(() => {
          if (this.start.slot()?.id !== slot.id) void this.begin(slot);
        });
    });
    effect(() => {
      if (!this.start.ready()) return;
      this.start.contents();
      this.start.look();
      untracked(() => void this.showAll());
    });
  }

  /** Who knows what they want goes on by Enter. */
  private async begin(slot: Slot): Promise<void> {
    afterNextRender(() => this.host.nativeElement.querySelector<HTMLElement>('.bare-canvas')?.focus(), {
      injector: this.injector,
    });
    try {
      await this.start.open(slot);
    } catch (error) {
      // A bare canvas can be started nevertheless.
      this.start.problem.set(storageProblem(error).message);
    }
  }

  private shown = 0;
  /** The layouts first: the same workers look at one's own graphics. */
  private async showAll(): Promise<void> {
    const { width } = this.tile();
    const now = ++this.shown;
    this.own.pause();
    await this.tries.show((stop) => this.start.layouts(stop), width);
    if (now === this.shown) await this.own.show((stop) => this.start.ownAsLayouts(stop), width);
  }
}
