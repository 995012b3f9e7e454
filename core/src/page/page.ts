import type { PageKind, Slot } from '../slot/slot';
import { escapeHtml } from './html';
import { baseCss } from './kinds/base';
import { partsOf, wordsOf, type Parts } from './kinds/kind';
import { kinds } from './kinds/kinds';
import { neutralLook, type PageLook } from './look';
import { lookCss } from './look-css';
import { slotCss } from './slot-css';

/** A picture as a page shows it; sizes are the file's px. */
export interface PagePicture {
  readonly url: string;
  readonly alt: string;
}

export interface PageContent {
  /** The slots on this page, and what each shows; null leaves the slot's ground bare. */
  readonly slots: readonly { readonly slot: Slot; readonly picture: PagePicture | null }[];
}

export interface RenderedPage {
  readonly title: string;
  /** Markup of the body, without scripts or inline styles. */
  readonly html: string;
  readonly css: string;
}

/** Widths of the window that stand for three kinds of device, CSS px: common practice, no source. */
export const deviceWidths = { desktop: 1280, tablet: 768, phone: 390 } as const;
export type Device = keyof typeof deviceWidths;

/** Rows are drawn no longer than this. */
const MOST_IN_ROW = 12;

function placeOf(slot: Slot, picture: PagePicture | null, printed: string): string {
  const over = slot.covered
    .map((zone, i) => {
      const text = zone.kind === 'title' ? `<b>${escapeHtml(printed || zone.what)}</b>` : '';
      return `<div class="over over-${zone.kind} over-${i}">${text}</div>`;
    })
    .join('');
  return `<div class="place" data-slot="${escapeHtml(slot.id)}"><figure class="slot${picture ? '' : ' empty'}" data-slot="${escapeHtml(slot.id)}">${
    picture ? `<img src="${escapeHtml(picture.url)}" alt="${escapeHtml(picture.alt)}">` : ''
  }</figure>${over}</div>`;
}

/** The other places of a slot's row, filled with drawings. */
function rowOf(slot: Slot | undefined, parts: Parts): string {
  const count = Math.min(MOST_IN_ROW, slot?.rowShows ?? 1) - 1;
  return Array.from(
    { length: Math.max(0, count) },
    (_, i) =>
      `<div class="place" data-slot="${escapeHtml(slot!.id)}"><figure class="slot other">${parts.picture(i + 1, i + 1)}</figure></div>`,
  ).join('');
}

/**
 * A slot's page as HTML and CSS, from data: the same on the site, On the page
 * and in miniatures; how wide it is decides between desktop, tablet and phone.
 * What it says, in which type and colours, is `look`'s. All text and addresses are escaped; lengths in CSS px.
 */
export function renderPage(which: PageKind, content: PageContent, look: PageLook = neutralLook): RenderedPage {
  const kind = kinds[which];
  const words = wordsOf(kind, look.words[which], look);
  const parts = partsOf(look, words);
  const holes = content.slots.map(({ slot, picture }) => ({
    wide: slot.anyWidth,
    html: placeOf(slot, picture, words('printed')),
  }));
  const join = (list: typeof holes) => list.map((h) => h.html).join('');
  const body = kind.html(
    {
      all: join(holes),
      wide: join(holes.filter((h) => h.wide)),
      narrow: join(holes.filter((h) => !h.wide)),
      count: holes.length,
      row: rowOf(content.slots[0]?.slot, parts),
    },
    parts,
  );
  const ground = content.slots[0]?.slot.ground ?? kind.ground;
  return {
    title: words('title'),
    html: `<div class="page-frame"><div class="page page-${which}">${body}</div></div>`,
    css: `${lookCss(look)}\n${baseCss}\n.page-${which}{--ground:${ground}}\n${kind.css}\n${content.slots.map(({ slot }) => slotCss(slot)).join('\n')}`,
  };
}
