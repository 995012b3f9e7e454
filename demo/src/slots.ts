import { entriesOf, plainSlot, shownHigh, shownSized, type Slot, type SlotSet } from '@bright-slot/core';

const pottery = entriesOf({ site: 'ottermill.example', source: 'the handbook of ottermill.example' });

const linen = '#fbf8f2';
const kiln = '#2f2a26';

/** The slots of the invented pottery's site; a graphic made for one can be sent there. */
export const potterySlots: readonly Slot[] = [
  pottery('blog-header', 'Blog header', 'Headers', 940, 198, {
    page: 'blog',
    ground: linen,
  }),
  pottery('slim-header', 'Slim header', 'Headers', 960, 100, {
    page: 'shop',
    ground: linen,
  }),
  pottery('form-header', 'Form header', 'Headers', 1600, 400, {
    page: 'form',
    ground: '#eef1ee',
  }),
  pottery('class-header', 'Class header', 'Headers', 1120, 280, {
    densities: [1, 2],
    page: 'class',
    ground: '#ffffff',
    shape: { kind: 'rounded', radius: 12 },
    darkening: { kind: 'foot', strength: 0.62, switchable: false, on: true },
    covered: [{ what: 'The class’s name', kind: 'title', x: 28, y: 188, width: 560, height: 72 }],
    phone: shownHigh(150),
  }),
  pottery('landing-header', 'Landing header', 'Headers', 1600, 520, {
    anyWidth: true,
    page: 'landing',
    ground: kiln,
    darkening: { kind: 'all', strength: 0.42, switchable: true, on: true },
    covered: [{ what: 'The page’s title', kind: 'title', x: 420, y: 170, width: 760, height: 180 }],
    tablet: shownHigh(420),
    phone: shownHigh(400),
  }),
  pottery('checkout-header', 'Checkout header', 'Headers', 750, 90, {
    page: 'checkout',
    wants: 'address',
    border: { width: 1, colour: '#cfc6b4' },
    ground: '#f4f1ea',
    fit: 'top-left',
    mostBytes: 200_000,
  }),
  pottery('page-cover', 'Page cover', 'Covers and banners', 851, 315, {
    page: 'community',
    covered: [{ what: 'Portrait', kind: 'portrait', x: 24, y: 235, width: 140, height: 140 }],
    safe: { kind: 'insets', top: 24, right: 90, bottom: 24, left: 90 },
    phone: shownHigh(208),
  }),
  pottery('profile-banner', 'Profile banner', 'Covers and banners', 1584, 396, {
    shownWidth: 792,
    page: 'profile',
    covered: [{ what: 'Portrait', kind: 'portrait', x: 48, y: 260, width: 272, height: 272 }],
    fit: 'asks-crop',
  }),
  pottery('chat-avatar', 'Round chat avatar', 'Tiles and avatars', 128, 128, {
    shape: { kind: 'ellipse' },
    page: 'chat',
    ground: '#f3f1ec',
    tablet: shownSized(128),
    phone: shownSized(64),
  }),
  pottery('menu-tile', 'Menu tile', 'Tiles and avatars', 320, 200, {
    shownWidth: 160,
    page: 'menu',
    ground: linen,
    rowShows: 7,
    shape: { kind: 'rounded', radius: 12 },
    tablet: shownSized(160, 100),
    phone: shownSized(160, 100),
  }),
  pottery('mosaic-wide', 'Mosaic, wide cell', 'Mosaics and strips', 517.5, 600, {
    densities: [1, 2],
    page: 'mosaic',
    ground: linen,
  }),
  pottery('mosaic-tall', 'Mosaic, tall cell', 'Mosaics and strips', 251.25, 600, {
    densities: [1, 2],
    page: 'mosaic',
    ground: linen,
  }),
  pottery('mosaic-upper', 'Mosaic, upper small cell', 'Mosaics and strips', 251.25, 292.5, {
    densities: [1, 2],
    page: 'mosaic',
    ground: linen,
  }),
  pottery('mosaic-lower', 'Mosaic, lower small cell', 'Mosaics and strips', 251.25, 292.5, {
    densities: [1, 2],
    page: 'mosaic',
    ground: linen,
  }),
  pottery('strip-square', 'Strip square', 'Mosaics and strips', 134, 134, {
    page: 'strip',
    ground: linen,
    rowShows: 5,
    tablet: shownSized(134),
    phone: shownSized(134),
  }),
  pottery('logo', 'Logo, transparent', 'Logos', 512, 512, {
    shownWidth: 256,
    keepsTransparency: true,
    formats: [...plainSlot.formats, 'svg'],
    page: 'about',
    ground: '#e9e2d3',
    fit: 'fits-within',
    tablet: shownSized(256),
    phone: shownSized(180),
  }),
  pottery('site-header', 'Site header, any width', 'Headers', 1280, 150, {
    anyWidth: true,
    page: 'about',
    ground: '#e9e2d3',
    fit: 'fits-within',
    keepsTransparency: true,
    formats: ['png'],
    tablet: shownHigh(150),
    phone: shownHigh(150),
  }),
  pottery('link-card', 'Link card', 'Cards', 1200, 630, {
    shownWidth: 600,
    page: 'feed',
    mostBytes: 5_000_000,
  }),
];

const whole = { version: 1, site: 'ottermill.example', source: 'the handbook of ottermill.example' } as const;

/** Which of them stand together. */
export const potterySets: readonly SlotSet[] = [
  {
    ...whole,
    id: 'window',
    name: 'The window',
    kind: 'mosaic',
    width: 1050,
    height: 600,
    gap: { across: 15, down: 15 },
    columns: 4,
    rows: 2,
    cells: [
      { slot: 'mosaic-wide', columns: 2, rows: 2 },
      { slot: 'mosaic-tall', columns: 1, rows: 2 },
      { slot: 'mosaic-upper', columns: 1, rows: 1 },
      { slot: 'mosaic-lower', columns: 1, rows: 1 },
    ],
  },
  { ...whole, id: 'five', name: 'From the kiln', kind: 'strip', slot: 'strip-square', count: 5, gap: 20, behind: 'skips' },
  {
    ...whole,
    id: 'menu',
    name: 'What we make',
    kind: 'row',
    slot: 'menu-tile',
    columns: 7,
    rows: 1,
    gap: { across: 20, down: 0 },
  },
];
