import type { PageKind } from '../../slot/slot';
import type { Kind } from './kind';
import { chat, classPage, community, feed, form, profile } from './people';
import { about, blog, landing, plain } from './reading';
import { checkout, menuRow, mosaic, shop, strip } from './selling';

/** All kinds of pages. */
export const kinds: Record<PageKind, Kind> = {
  blog,
  shop,
  checkout,
  form,
  class: classPage,
  landing,
  menu: menuRow,
  mosaic,
  strip,
  community,
  profile,
  chat,
  about,
  feed,
  plain,
};
