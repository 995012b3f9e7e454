import { escapeHtml } from '../html';
import { filled, type PageLook } from '../look';

/** The places of a page's slots, as markup, for a kind of page to arrange. */
export interface Holes {
  readonly all: string;
  /** Those as wide as the window, and the others. */
  readonly wide: string;
  readonly narrow: string;
  /** Further items of the same row, drawn by the page: as many as it shows beside ours. */
  readonly row: string;
}

/** What a kind of page is made with: its words, escaped, and the parts that all pages of a site share. */
export interface Parts {
  /** The text of a name. */
  (name: string): string;
  /** A drawing of goods on a ground of one of six tints. */
  picture(what: number, tint: number): string;
  /** The head of a page, one of four things of the menu chosen; and its foot. */
  head(here?: number): string;
  readonly foot: string;
}

/** One kind of page: markup without scripts or inline styles, and the style only it needs. */
export interface Kind {
  readonly ground: string;
  /** What it says where a site does not say otherwise: `title` is the window's, `printed` what it prints over a picture. */
  readonly words: Readonly<Record<'title', string> & Partial<Record<string, string>>>;
  html(holes: Holes, t: Parts): string;
  readonly css: string;
}

/** The text of a page's kind as a site says it, plain. */
export function wordsOf(kind: Kind, own: Readonly<Record<string, string>> | undefined, look: PageLook) {
  return (name: string): string => filled(own?.[name] ?? kind.words[name] ?? '', look);
}

/** A drawing on a ground of one of six tints. */
export function picture({ goods }: PageLook, what: number, tint: number): string {
  return `<span class="drawn tint-${tint % 6}"><svg viewBox="0 0 60 56" aria-hidden="true"><path d="${goods[what % goods.length]!}"/></svg></span>`;
}

/** What the pages of a site have in common, as markup. */
export function partsOf(look: PageLook, words: (name: string) => string): Parts {
  const own = (text: string) => escapeHtml(filled(text, look));
  const business = own('{business}');
  const menu = (here?: number) =>
    `<nav class="menu">${look.menu.map((name, i) => `<span${i === here ? ' class="here"' : ''}>${own(name)}</span>`).join('')}</nav>`;
  const { where, open, write } = look.foot;
  return Object.assign((name: string) => escapeHtml(words(name)), {
    picture: (what: number, tint: number) => picture(look, what, tint),
    head: (here?: number) => `<header class="head"><span class="wordmark">${business}</span>${menu(here)}</header>`,
    foot: `<footer class="foot"><span><strong>${business}</strong>${own(where)}</span><span><strong>Open</strong>${own(open)}</span><span><strong>Write</strong>${own(write)}</span></footer>`,
  });
}
