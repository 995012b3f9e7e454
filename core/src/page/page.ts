import { placesOf, setSize, type SetPlace, type SlotSet } from '../slot/set';
import { TABLET_MOST } from '../slot/shown';
import type { PageKind, Slot } from '../slot/slot';
import { lookWith, slotWith, type PageColours } from './colours';
import { escapeHtml } from './html';
import { baseCss } from './kinds/base';
import { partsOf, wordsOf, type Parts } from './kinds/kind';
import { kinds } from './kinds/kinds';
import { neutralLook, type PageLook } from './look';
import { lookCss } from './look-css';
import { shotPage, type ShownShot } from './own-page';
import { slotCss } from './slot-css';

/** A picture as a page shows it; sizes are the file's px. */
export interface PagePicture {
  readonly url: string;
  readonly alt: string;
}

export interface PageContent {
  /** The slots on this page, and what each shows; null leaves the slot's ground bare. */
  readonly slots: readonly { readonly slot: Slot; readonly picture: PagePicture | null }[];
  /**
   * The set they stand in. As many slots as it has places stand in these, in their order; else each of a mosaic's cells
   * is among the slots, and the other places of a strip or row are drawn.
   */
  readonly set?: SlotSet | null;
  /** A screenshot that the page is drawn from, with the first of the slots in it. */
  readonly own?: ShownShot | null;
  /** Other colours than its look and its slots have. */
  readonly colours?: PageColours | null;
}

export interface RenderedPage {
  readonly title: string;
  /** Markup of the body, without scripts or inline styles. */
  readonly html: string;
  readonly css: string;
}

/** Rows are drawn no longer than this. */
const MOST_IN_ROW = 12;
/** Of a set no more places are drawn. */
const MOST_IN_SET = 60;

function placeOf(slot: Slot, picture: PagePicture | null, printed: string, own = ''): string {
  const over = slot.covered
    .map((zone, i) => {
      const text = zone.kind === 'title' ? `<b>${escapeHtml(printed || zone.what)}</b>` : '';
      return `<div class="over over-${zone.kind} over-${i}">${text}</div>`;
    })
    .join('');
  return `<div class="place${own}" data-slot="${escapeHtml(slot.id)}"><figure class="slot${picture ? '' : ' empty'}" data-slot="${escapeHtml(slot.id)}">${
    picture ? `<img src="${escapeHtml(picture.url)}" alt="${escapeHtml(picture.alt)}">` : ''
  }</figure>${over}</div>`;
}

/** A place of the slot's kind that is not ours to fill. */
const otherPlace = (slot: Slot, i: number, parts: Parts, own = '') =>
  `<div class="place${own}" data-slot="${escapeHtml(slot.id)}"><figure class="slot other">${parts.picture(i + 1, i + 1)}</figure></div>`;

/** The other places of a slot's row, filled with drawings. */
function rowOf(slot: Slot | undefined, parts: Parts, given: number): string {
  const count = Math.min(MOST_IN_ROW, slot?.rowShows ?? 1) - Math.max(1, given);
  return Array.from({ length: Math.max(0, count) }, (_, i) => otherPlace(slot!, i, parts)).join('');
}

const n = (value: number) => `${Math.round(value * 1e4) / 1e4}`;

/** Cells of a mosaic as shares of it, so that it stays one where the page is narrower. */
function mosaicCss(places: readonly SetPlace[]): string {
  const { width, height } = setSize(places);
  const share = (value: number, of: number) => `${n((value / of) * 100)}%`;
  const cells = places.map(
    ({ box }, i) =>
      `.page .set .at-${i}{left:${share(box.x, width)};top:${share(box.y, height)};width:${share(box.width, width)};height:${share(box.height, height)}}`,
  );
  return `.page .set{position:relative;width:${n(width)}px;max-width:100%;aspect-ratio:${n(width)}/${n(height)};margin:6px 0 14px}
.page .set>.place{position:absolute;aspect-ratio:auto;max-width:none}
${cells.join('\n')}`;
}

/** Equal places side by side, which a narrower page sets in more lines. */
function rowCss(columns: number, across: number, down: number): string {
  return `.page .set{display:grid;grid-template-columns:repeat(${columns},max-content);column-gap:${n(across)}px;row-gap:${n(down)}px;padding:6px 6px 14px;margin:0 -6px;overflow:hidden}
@container (max-width:${TABLET_MOST}px){.page .set{display:flex;flex-wrap:wrap;row-gap:${n(Math.max(across, down))}px}}`;
}

/** A set at its own figures: its slots with what they show, the other places drawn. */
function arranged({ slots, set }: PageContent, printed: string, parts: Parts): { html: string; css: string } | null {
  const first = slots[0]?.slot;
  if (!set || !first) return null;
  const places = placesOf(set, first).slice(0, MOST_IN_SET);
  if (!places.length) return null;
  const bySlot = new Map(slots.map((s) => [s.slot.id, s]));
  const all = slots.length === places.length && places.every((p, i) => p.slot === slots[i]!.slot.id);
  const html = places.map(({ slot }, i) => {
    const own = all ? slots[i] : set.kind === 'mosaic' || i === 0 ? bySlot.get(slot) : undefined;
    const at = ` at-${i}`;
    return own ? placeOf(own.slot, own.picture, printed, at) : otherPlace(first, i, parts, at);
  });
  const css =
    set.kind === 'mosaic'
      ? mosaicCss(places)
      : set.kind === 'strip'
        ? rowCss(set.count, set.gap, 0)
        : rowCss(set.columns, set.gap.across, set.gap.down);
  return { html: `<div class="set">${html.join('')}</div>`, css };
}

/**
 * A slot's page as HTML and CSS, from data: the same on the site, On the page
 * and in miniatures; how wide it is decides between desktop, tablet and phone.
 * What it says, in which type and colours, is `look`'s. All text and addresses are escaped; lengths in CSS px.
 */
export function renderPage(which: PageKind, given: PageContent, ownLook: PageLook = neutralLook): RenderedPage {
  const { colours } = given;
  const look = colours ? lookWith(ownLook, colours) : ownLook;
  const content: PageContent = colours
    ? { ...given, slots: given.slots.map((s) => ({ ...s, slot: slotWith(s.slot, colours) })) }
    : given;
  const kind = kinds[which];
  const words = wordsOf(kind, look.words[which], look);
  const [first] = content.slots;
  if (content.own && first) {
    const own = shotPage(content.own, first.slot, placeOf(first.slot, first.picture, ''));
    return {
      title: words('title'),
      html: `<div class="page-frame"><div class="page page-own">${own.html}</div></div>`,
      css: `${lookCss(look)}\n${baseCss}\n.page-own{--ground:${first.slot.ground}}\n${slotCss(first.slot)}\n${own.css}`,
    };
  }
  const parts = partsOf(look, words);
  const set = arranged(content, words('printed'), parts);
  const holes = content.slots.map(({ slot, picture }) => ({
    wide: slot.anyWidth,
    html: placeOf(slot, picture, words('printed')),
  }));
  const join = (list: typeof holes) => list.map((h) => h.html).join('');
  const body = kind.html(
    {
      all: set?.html ?? join(holes),
      wide: join(holes.filter((h) => h.wide)),
      narrow: join(holes.filter((h) => !h.wide)),
      row: set ? '' : rowOf(content.slots[0]?.slot, parts, content.slots.length),
    },
    parts,
  );
  const ground = content.slots[0]?.slot.ground ?? kind.ground;
  return {
    title: words('title'),
    html: `<div class="page-frame"><div class="page page-${which}">${body}</div></div>`,
    css: `${lookCss(look)}\n${baseCss}\n.page-${which}{--ground:${ground}}\n${kind.css}\n${content.slots.map(({ slot }) => slotCss(slot)).join('\n')}\n${set?.css ?? ''}`,
  };
}

/** What a page of a kind prints around its slots in a look: its name, titles and headings, as plain text. */
export function printedOn(which: PageKind, look: PageLook = neutralLook): readonly string[] {
  const kind = kinds[which];
  const words = wordsOf(kind, look.words[which], look);
  // The title is the window's, not the page's.
  const names = Object.keys({ ...kind.words, ...look.words[which] }).filter((name) => name !== 'title');
  return [...new Set([look.business, ...names.map(words)])].filter(Boolean);
}
