import { LONGEST_SIDE, plainSlot, type ShownAt, type Slot, type SlotGroup } from './slot';
import { bad, good, type Result } from '../problem';

type Entry = Pick<Slot, 'id' | 'name' | 'group' | 'width' | 'height'> & Partial<Slot>;

/** A whole slot from what is known of it. */
export function slotFrom(own: Entry): Slot {
  return {
    ...plainSlot,
    densities: [...plainSlot.densities],
    covered: [],
    formats: [...plainSlot.formats],
    shownWidth: own.width,
    source: 'typed by you',
    dated: '2026-11',
    ...own,
  };
}

/** Entries of one origin; what is not said is as `plainSlot` has it. */
export const entriesOf =
  (origin: Pick<Slot, 'site' | 'source'>) =>
  (id: string, name: string, group: SlotGroup, width: number, height: number, own: Partial<Slot> = {}): Slot =>
    slotFrom({ ...origin, id, name, group, width, height, ...own });
const common = entriesOf({ site: '', source: 'as commonly used; check with your site' });

const paper = '#fbf8f2';
const dark = '#2f2a26';
/** As wide as the page and so high; of one size whatever the page's. CSS px. */
export const shownHigh = (height: number): ShownAt => ({ mode: 'height', height });
export const shownSized = (width: number, height = width): ShownAt => ({ mode: 'size', width, height });

/** What the slot book holds at first: sizes in common use, under neutral names. Common practice, no source. */
export const slotsToStart: readonly Slot[] = [
  common('common-blog-940x198', 'Blog header 940 × 198', 'Headers', 940, 198, {
    page: 'blog',
    ground: paper,
    oneOfSeveral: true,
  }),
  common('common-blog-940x175', 'Blog header 940 × 175', 'Headers', 940, 175, {
    page: 'blog',
    ground: paper,
    oneOfSeveral: true,
  }),
  common('common-blog-960x100', 'Blog header 960 × 100', 'Headers', 960, 100, {
    page: 'blog',
    ground: paper,
    oneOfSeveral: true,
  }),
  common('common-blog-1000x288', 'Blog header 1000 × 288', 'Headers', 1000, 288, {
    page: 'blog',
    ground: paper,
    oneOfSeveral: true,
  }),
  common('common-cover-851x315', 'Page cover 851 × 315', 'Covers and banners', 851, 315, {
    page: 'community',
    covered: [{ what: 'Portrait', kind: 'portrait', x: 24, y: 205, width: 160, height: 160 }],
    safe: { kind: 'insets', top: 24, right: 90, bottom: 24, left: 90 },
    phone: shownHigh(208),
  }),
  common('common-banner-1584x396', 'Profile banner 1584 × 396', 'Covers and banners', 1584, 396, {
    shownWidth: 792,
    page: 'profile',
    covered: [{ what: 'Portrait', kind: 'portrait', x: 48, y: 236, width: 304, height: 304 }],
    fit: 'asks-crop',
    mostBytes: 8_000_000,
  }),
  common('common-avatar-128', 'Round avatar 128', 'Tiles and avatars', 128, 128, {
    densities: [1, 2],
    shape: { kind: 'ellipse' },
    page: 'chat',
    ground: '#f3f1ec',
    tablet: shownSized(128),
    phone: shownSized(64),
  }),
  common('common-form-1600x400', 'Form header 1600 × 400', 'Headers', 1600, 400, {
    page: 'form',
    ground: '#eef1ee',
  }),
  common('common-class-1600x400', 'Class header 1600 × 400', 'Headers', 1600, 400, {
    shownWidth: 1200,
    page: 'class',
    shape: { kind: 'rounded', radius: 12 },
    darkening: { kind: 'foot', strength: 0.6, switchable: false, on: true },
    covered: [{ what: 'The page’s title', kind: 'title', x: 40, y: 270, width: 760, height: 100 }],
    phone: shownHigh(110),
  }),
  common('common-landing-1600x600', 'Landing header 1600 × 600', 'Headers', 1600, 600, {
    page: 'landing',
    ground: dark,
    anyWidth: true,
    darkening: { kind: 'all', strength: 0.4, switchable: true, on: true },
    covered: [{ what: 'The page’s title', kind: 'title', x: 400, y: 200, width: 800, height: 200 }],
    tablet: shownHigh(420),
    phone: shownHigh(380),
  }),
  common('common-checkout-750x90', 'Checkout header 750 × 90', 'Headers', 750, 90, {
    page: 'checkout',
    source: 'from memory; check with your payment page',
    wants: 'address',
    border: { width: 1, colour: '#cfc6b4' },
    ground: '#f4f1ea',
    fit: 'top-left',
  }),
  common('common-tile-320x200', 'Menu tile 320 × 200', 'Tiles and avatars', 320, 200, {
    shownWidth: 160,
    page: 'menu',
    rowShows: 7,
    tablet: shownSized(160, 100),
    phone: shownSized(160, 100),
  }),
  common('common-mosaic-1050x600', 'Mosaic 1050 × 600', 'Mosaics and strips', 1050, 600, {
    page: 'mosaic',
    source: 'as commonly used, gaps of 15; check with your site',
  }),
  common('common-square-134', 'Strip square 134', 'Mosaics and strips', 134, 134, {
    page: 'strip',
    rowShows: 5,
    source: 'as commonly used, five in a row; check with your site',
    tablet: shownSized(134),
    phone: shownSized(134),
  }),
  common('common-site-150', 'Site header, 150 high', 'Headers', 1280, 150, {
    anyWidth: true,
    page: 'about',
    ground: '#e9e2d3',
    fit: 'fits-within',
    keepsTransparency: true,
    formats: ['png'],
    tablet: shownHigh(150),
    phone: shownHigh(150),
  }),
  common('common-logo-512', 'Logo 512 × 512', 'Logos', 512, 512, {
    shownWidth: 256,
    keepsTransparency: true,
    formats: ['png', 'webp'],
    page: 'about',
    ground: '#e9e2d3',
    fit: 'fits-within',
    least: { width: 256, height: 256 },
    tablet: shownSized(256),
    phone: shownSized(180),
  }),
  common('common-card-1200x630', 'Link card 1200 × 630', 'Cards', 1200, 630, {
    shownWidth: 600,
    page: 'feed',
    least: { width: 600, height: 315 },
    mostBytes: 5_000_000,
  }),
  common('common-picture-640x480', 'Article picture 640 × 480', 'Cards', 640, 480, {
    densities: [1, 2],
    page: 'blog',
    ground: paper,
  }),
];

/**
 * A slot from a width and a height in CSS px.
 * Fails with `slot-size` when a side is no number, not above 0, or beyond 8192 px.
 */
export function typedSlot(width: number, height: number, own: Partial<Slot> = {}): Result<Slot> {
  for (const [name, value] of [
    ['width', width],
    ['height', height],
  ] as const) {
    if (!Number.isFinite(value) || value <= 0)
      return bad('slot-size', `The ${name} has to be a number of pixels above 0.`);
    if (value > LONGEST_SIDE)
      return bad(
        'slot-size',
        `The ${name} can be ${LONGEST_SIDE} px at most; browsers cannot paint larger pictures reliably.`,
      );
  }
  return good(slotFrom({ id: `own-${width}x${height}`, name: 'Own size', group: 'Own sizes', width, height, ...own }));
}
