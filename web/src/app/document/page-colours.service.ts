import { Injectable, computed, effect, inject, linkedSignal } from '@angular/core';
import { coloursOf, isOpaqueFill, palettesFor, slotWith, type PageColours, type Slot } from '@bright-slot/core';
import { OwnPages } from '../storage/own-pages.service';
import { Sites } from '../storage/sites.service';
import { SlotBook } from '../storage/slot-book.service';
import { ColourSuggestions } from './colour-suggestions.service';
import { Workbench } from './workbench';

/** The colours of the page of the frame in hand: tried against the graphic, and kept with the page. */
@Injectable({ providedIn: 'root' })
export class PageColoursService {
  private readonly workbench = inject(Workbench);
  private readonly pages = inject(OwnPages);
  private readonly sites = inject(Sites);
  private readonly book = inject(SlotBook);
  private readonly suggestions = inject(ColourSuggestions);
  private readonly slot = computed(() => this.workbench.frame()?.slot ?? null);
  /** What is tried is tried for one graphic. */
  private readonly page = computed(() => `${this.workbench.graphic()?.id} ${this.slot()?.id}`);
  /** Whether somebody is about to try some. */
  readonly open = linkedSignal<string, boolean>({ source: this.page, computation: () => false });
  readonly tried = linkedSignal<string, PageColours | null>({ source: this.page, computation: () => null });

  /** As the page is now: kept with it, or as its site has it. */
  readonly now = computed<PageColours | null>(() => {
    const slot = this.slot();
    return slot && (this.pages.of(slot.id)?.colours ?? coloursOf(slot, this.sites.lookOf(slot)));
  });
  readonly kept = computed(() => this.pages.of(this.slot()?.id ?? '')?.colours ?? null);

  /** Made of what is to be seen: of the pictures, else of the backdrop and the words. */
  readonly palettes = computed(() => {
    const graphic = this.workbench.graphic();
    const slot = this.slot();
    // All at once: what is about to be pressed does not change its place.
    if (!graphic || !slot || !this.suggestions.looked()) return [];
    const { backdrop, layers } = graphic;
    const own = [
      ...(backdrop.kind === 'colour' && isOpaqueFill(backdrop) ? [backdrop.colour] : []),
      ...layers.flatMap((l) =>
        l.role === 'words' && l.visible ? l.paragraphs.flatMap((p) => p.runs.map((r) => r.colour)) : [],
      ),
    ];
    return palettesFor([...new Set([...this.suggestions.ofPictures(), ...own])], slot.border !== null);
  });

  constructor() {
    effect(() => {
      if (this.open()) this.suggestions.wanted.set(true);
    });
  }

  close(): void {
    this.tried.set(null);
    this.open.set(false);
  }

  /**
   * Keeps what is tried with the page (null: as the site has it). The slot's ground and border go along, in the book and
   * in the graphic: the fit report judges by them. Gives a way back.
   */
  async keep(colours: PageColours | null): Promise<() => Promise<void>> {
    const [slot, frame] = [this.slot(), this.workbench.frame()];
    if (!slot || !frame) return () => Promise.resolve();
    const was = this.pages.of(slot.id)?.was ?? null;
    const own = { ground: slot.ground, border: slot.border };
    const before = await this.pages.keepColours(slot.id, colours, colours ? (was ?? own) : null);
    const entry = this.book.byId().get(slot.id);
    const changed = (s: Slot): Slot => (colours ? slotWith(s, colours) : { ...s, ...was });
    const edits = colours !== null || was !== null;
    if (edits) {
      if (entry) await this.book.put(changed(entry));
      const name = `The page’s ground ${changed(slot).ground}`;
      this.workbench.edit({ type: 'adapt-to-slot', frame: frame.id, slot: changed(slot), name });
    }
    this.tried.set(null);
    return async () => {
      await this.pages.restore(slot.id, before);
      if (!edits) return;
      if (entry) await this.book.put(entry);
      this.workbench.undo();
    };
  }
}
