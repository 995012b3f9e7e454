/** The places of a page's slots, as markup, for a kind of page to arrange. */
export interface Holes {
  readonly all: string;
  /** Those as wide as the window, and the others. */
  readonly wide: string;
  readonly narrow: string;
  readonly count: number;
  /** Further items of the same row, drawn by the page: as many as it shows beside ours. */
  readonly row: string;
}

/** One kind of page of the invented pottery: markup without scripts or inline styles, and the style only it needs. */
export interface Kind {
  readonly title: string;
  readonly ground: string;
  /** What the page prints over a picture where a slot says it prints a title. */
  readonly printed?: string;
  html(holes: Holes): string;
  readonly css: string;
}

/** Drawings that stand for goods where no picture of ours does. */
const drawn = {
  jug: 'M20 14c-2 6-6 9-6 18 0 10 5 16 16 16s16-6 16-16c0-9-4-12-6-18l4-4H17z M44 20c8-2 12 4 10 10-1 5-5 7-9 7',
  bowl: 'M8 22h44c0 14-8 20-14 22v4H22v-4C16 42 8 36 8 22z',
  mug: 'M14 14h28v26c0 6-4 9-8 9H22c-4 0-8-3-8-9z M42 20h6c4 0 6 3 6 7s-2 8-7 8h-5',
  bottle: 'M25 6h10v12c0 4 8 8 8 20 0 8-5 12-13 12s-13-4-13-12c0-12 8-16 8-20z',
  plate: 'M4 30c0-5 12-8 26-8s26 3 26 8-12 9-26 9S4 35 4 30z M16 30c0-2 6-4 14-4s14 2 14 4-6 4-14 4-14-2-14-4z',
  lidded: 'M27 12a3 3 0 1 1 6 0l1 3c10 1 15 5 15 9H11c0-4 5-8 15-9z M12 27h36c1 14-6 22-18 22S11 41 12 27z',
} as const;
export type Drawn = keyof typeof drawn;
export const drawnNames = Object.keys(drawn) as Drawn[];

/** A drawing on a ground of one of six clays. */
export function picture(what: Drawn, clay: number): string {
  return `<span class="drawn clay-${clay % 6}"><svg viewBox="0 0 60 56" aria-hidden="true"><path d="${drawn[what]}"/></svg></span>`;
}

export const menu = (here = '') =>
  `<nav class="menu">${['Shop', 'Classes', 'Journal', 'Find us']
    .map((name) => `<span${name === here ? ' class="here"' : ''}>${name}</span>`)
    .join('')}</nav>`;
export const head = (here = '') =>
  `<header class="head"><span class="wordmark">Ottermill Pottery</span>${menu(here)}</header>`;
export const foot =
  '<footer class="foot"><span><strong>Ottermill Pottery</strong>Mill Lane, by the ford</span><span><strong>Open</strong>Wednesday to Saturday, 10 to 5</span><span><strong>Write</strong>wheel@ottermill.example</span></footer>';
