import type { PageKind, Slot } from '../slot/slot';
import { pageCss } from './page-css';
import { escapeHtml, pageBody } from './page-body';

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

/** What the page's own ground is behind each slot, for what shows through transparency. */
export const pageGround: Record<PageKind, string> = {
  blog: '#fbf8f2',
  shop: '#fbf8f2',
  form: '#eef1ee',
  community: '#ffffff',
  profile: '#ffffff',
  chat: '#f3f1ec',
  about: '#e9e2d3',
  feed: '#ffffff',
  plain: '#ffffff',
};

/**
 * A slot's page as HTML and CSS, from data: the same on the site, On the page
 * and in miniatures. All text and addresses are escaped; lengths in CSS px.
 */
export function renderPage(kind: PageKind, content: PageContent): RenderedPage {
  const holes = content.slots.map(({ slot, picture }) => ({
    id: slot.id,
    html: `<figure class="slot${picture ? '' : ' empty'}" data-slot="${escapeHtml(slot.id)}">${
      picture ? `<img src="${escapeHtml(picture.url)}" alt="${escapeHtml(picture.alt)}">` : ''
    }</figure>`,
  }));
  const body = pageBody(kind, holes);
  const slotCss = content.slots
    .map(
      ({ slot }) =>
        `.slot[data-slot="${slot.id}"]{width:${slot.shownWidth}px;aspect-ratio:${slot.width}/${slot.height}${
          slot.shape === 'ellipse' ? ';border-radius:50%' : ''
        }}`,
    )
    .join('\n');
  return {
    title: body.title,
    html: `<div class="page page-${kind}">${body.html}</div>`,
    css: `${pageCss}\n.page-${kind}{--ground:${pageGround[kind]}}\n${slotCss}`,
  };
}
