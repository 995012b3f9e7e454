import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  Injectable,
  effect,
  inject,
  input,
  output,
} from '@angular/core';
import {
  escapeHtml,
  renderPage,
  shotWidth,
  windowWidth,
  type Device,
  type PageColours,
  type PageContent,
  type PageKind,
  type PageLook,
  type Slot,
} from '@bright-slot/core';
import { OwnPages } from '../storage/own-pages.service';
import { Sites } from '../storage/sites.service';
import { SlotBook } from '../storage/slot-book.service';

export interface Likeness {
  readonly kind: PageKind;
  readonly content: PageContent;
  readonly look: PageLook;
}

/** Pages of slots: each in the look of its site, alone or in its set. */
@Injectable({ providedIn: 'root' })
export class Pages {
  private readonly sites = inject(Sites);
  private readonly book = inject(SlotBook);
  private readonly own = inject(OwnPages);

  /** A slot's page on a device, with what the slot shows there: the person's own page where a screenshot of it is kept. */
  of(
    slot: Slot,
    picture: { url: string; alt: string } | null = null,
    device: Device = 'desktop',
    /** Colours that are tried: a screenshot cannot wear them, so that the likeness is shown. */
    tried?: PageColours,
  ): Likeness {
    const own = tried ? null : this.own.shown(slot.id, device);
    const set = own ? null : this.book.setWith(slot.id);
    const colours = tried ?? this.own.of(slot.id)?.colours ?? this.sites.standardOf(slot);
    return {
      kind: slot.page,
      content: { slots: [{ slot, picture }], set, own, colours },
      look: this.sites.lookOf(slot),
    };
  }

  /** The page of several slots that stand on it together, each with what it shows: in their set, or side by side. */
  together(slots: readonly { readonly slot: Slot; readonly picture: { url: string; alt: string } | null }[]): Likeness {
    const { slot } = slots[0]!;
    const { kind, content, look } = this.of(slot);
    // A screenshot has one place only.
    const set = this.book.setWith(slot.id);
    return { kind, content: { ...content, own: null, set, slots }, look };
  }

  /** How wide a slot's page is on a device, CSS px: as wide as its screenshot, where there is one. */
  width(slot: Slot, device: Device, tried?: PageColours): number {
    const own = tried ? null : this.own.shown(slot.id, device);
    return own ? shotWidth(own.shot) : windowWidth(slot, device);
  }
}

const EMPTY = '.page .slot.empty{outline:3px dashed #8a8271;outline-offset:-3px}';

const MARKED =
  '.page .place{outline:3px solid #f2b01e;outline-offset:0;box-shadow:0 0 0 5px #1f2a30}.page .place>.slot.empty{background:#fdefcf;outline:0}';

/** A page at its own size in a shadow tree, so that its style and ours do not mix. Decorative: hidden from readers. */
@Component({
  selector: 'bs-page-likeness',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { 'aria-hidden': 'true', inert: '' },
  template: '',
  styles: ':host { display: block; transform-origin: 0 0; pointer-events: none; }',
})
export class PageLikeness {
  readonly page = input.required<Likeness>();
  /** Draws an outline where a slot shows nothing, which a visitor would not see. */
  readonly showEmpty = input(false);
  /** Lights the slots, so that they are told from the page. */
  readonly marked = input(false);
  /** Where each slot lies on the page, in the page's CSS px, once it is laid out. */
  readonly laid = output<{ left: number; top: number; width: number; height: number }>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  constructor() {
    const root = this.host.nativeElement.attachShadow({ mode: 'open' });
    const sheet = new CSSStyleSheet();
    root.adoptedStyleSheets = [sheet];
    let last = '';
    effect(() => {
      const { kind, content, look } = this.page();
      const { html, css } = renderPage(kind, content, look);
      // Another picture in the same page takes the place of the last: nothing is laid out anew for it.
      const url = content.slots.length === 1 ? content.slots[0]!.picture?.url : undefined;
      const page = url ? html.replace(escapeHtml(url), '') + css : html + css;
      const image = root.querySelector<HTMLImageElement>('.slot img');
      if (page === last) {
        if (image && url && image.src !== url) image.src = url;
        return;
      }
      last = page;
      sheet.replaceSync(`${css}\n${this.showEmpty() ? EMPTY : ''}\n${this.marked() ? MARKED : ''}`);
      // Our own markup, every text in it escaped by core.
      root.innerHTML = html;
      // A page that is wider or narrower lays its slots out anew.
      const hole = root.querySelector<HTMLElement>('.slot');
      resized.disconnect();
      resized.observe(this.host.nativeElement);
      if (hole) resized.observe(hole);
    });
    const resized = new ResizeObserver(() => this.tell(root));
    inject(DestroyRef).onDestroy(() => resized.disconnect());
  }

  private tell(root: ShadowRoot): void {
    const hole = root.querySelector<HTMLElement>('.slot');
    if (!hole) return;
    let left = 0;
    let top = 0;
    for (
      let e: HTMLElement | null = hole;
      e && e !== this.host.nativeElement;
      e = e.offsetParent as HTMLElement | null
    ) {
      left += e.offsetLeft;
      top += e.offsetTop;
    }
    const at = { left, top, width: hole.offsetWidth, height: hole.offsetHeight };
    if (JSON.stringify(at) === this.told) return;
    this.told = JSON.stringify(at);
    this.laid.emit(at);
  }

  private told = '';
}
