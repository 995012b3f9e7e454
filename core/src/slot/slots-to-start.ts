import { LONGEST_SIDE, type Slot } from './slot';
import { bad, good, type Result } from '../problem';

const commonly = 'as commonly used; check with your site';

type Entry = Pick<Slot, 'id' | 'name' | 'group' | 'width' | 'height' | 'page'> & Partial<Slot>;

function entry(own: Entry): Slot {
  return {
    version: 1,
    shownWidth: own.width,
    density: 1,
    shape: 'rectangle',
    keepsTransparency: false,
    formats: ['jpeg', 'png', 'webp'],
    source: commonly,
    dated: '2026-11',
    ...own,
  };
}

/** The slots offered for a new graphic. Sizes: common practice, no source. */
export const slotsToStart: readonly Slot[] = [
  entry({ id: 'blog-header', name: 'Blog header', group: 'Headers', width: 940, height: 198, page: 'blog' }),
  entry({ id: 'slim-header', name: 'Slim header', group: 'Headers', width: 960, height: 100, page: 'shop' }),
  entry({ id: 'form-header', name: 'Form header', group: 'Headers', width: 1600, height: 400, page: 'form' }),
  entry({
    id: 'page-cover',
    name: 'Page cover',
    group: 'Covers and banners',
    width: 851,
    height: 315,
    page: 'community',
  }),
  entry({
    id: 'profile-banner',
    name: 'Profile banner',
    group: 'Covers and banners',
    width: 1584,
    height: 396,
    shownWidth: 792,
    page: 'profile',
  }),
  entry({
    id: 'chat-avatar',
    name: 'Round chat avatar',
    group: 'Tiles and avatars',
    width: 128,
    height: 128,
    shape: 'ellipse',
    page: 'chat',
  }),
  entry({
    id: 'logo',
    name: 'Logo, transparent',
    group: 'Logos',
    width: 512,
    height: 512,
    shownWidth: 256,
    keepsTransparency: true,
    page: 'about',
  }),
  entry({
    id: 'link-card',
    name: 'Link card',
    group: 'Cards',
    width: 1200,
    height: 630,
    shownWidth: 600,
    page: 'feed',
  }),
];

/**
 * A slot from a typed width and height in CSS px.
 * Fails with `slot-size` when a side is no number, not above 0, or beyond 8192 px.
 */
export function typedSlot(width: number, height: number): Result<Slot> {
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
  return good(
    entry({
      id: `own-${width}x${height}`,
      name: 'Own size',
      group: 'Own sizes',
      width,
      height,
      page: 'plain',
      source: 'typed by you',
    }),
  );
}
