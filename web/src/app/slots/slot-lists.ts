import { fileFormats, pictureFormats, fitText, pageFits, pageKinds, slotGroups, type Slot } from '@bright-slot/core';

const kindNames: Record<Slot['page'], string> = {
  blog: 'a blog',
  shop: 'a shop',
  checkout: 'a payment page',
  form: 'a form',
  class: 'a class',
  landing: 'a landing page',
  menu: 'a menu row',
  mosaic: 'a mosaic',
  strip: 'a strip',
  community: 'a community page',
  profile: 'a profile',
  chat: 'a chat',
  about: 'about the business',
  feed: 'a feed of links',
  plain: 'not known',
};

/** What can be chosen of a slot, and what it is called. */
export const slotLists = {
  groups: slotGroups.map((id) => ({ id, name: id })),
  fits: pageFits.map((id) => ({ id, name: fitText(id) })),
  kinds: pageKinds.map((id) => ({ id, name: kindNames[id] })),
  formats: fileFormats.map((id) => ({ id, name: pictureFormats[id].name })),
  densities: ([1, 2, 3] as const).map((id) => ({ id, name: `${id}×` })),
  zoneKinds: [
    { id: 'portrait', name: 'a portrait' },
    { id: 'title', name: 'a title' },
    { id: 'button', name: 'a button' },
    { id: 'block', name: 'something else' },
  ] as const,
  shapes: [
    { id: 'rectangle', name: 'straight' },
    { id: 'rounded', name: 'rounded' },
    { id: 'ellipse', name: 'round' },
  ] as const,
  safeKinds: [
    { id: 'all', name: 'all of it' },
    { id: 'insets', name: 'within insets' },
    { id: 'boxes', name: 'a box' },
  ] as const,
  darkenings: [
    { id: 'none', name: 'no' },
    { id: 'all', name: 'all over' },
    { id: 'foot', name: 'towards the foot' },
  ] as const,
  wantedWays: [
    { id: 'upload', name: 'an upload' },
    { id: 'address', name: 'an address' },
  ] as const,
  nameRules: [
    { id: 'web', name: 'a to z, digits, hyphens' },
    { id: 'any', name: 'any' },
  ] as const,
  shownModes: [
    { id: 'scales', name: 'in proportion' },
    { id: 'height', name: 'full width' },
    { id: 'size', name: 'own size' },
    { id: 'hidden', name: 'not shown' },
  ] as const,
  insets: [
    { key: 'top', name: 'Top' },
    { key: 'right', name: 'Right' },
    { key: 'bottom', name: 'Foot' },
    { key: 'left', name: 'Left' },
  ] as const,
  limits: [
    { key: 'least', name: 'Smallest file taken, px' },
    { key: 'most', name: 'Largest file taken, px' },
  ] as const,
  widths: [
    { key: 'tablet', name: 'On a tablet' },
    { key: 'phone', name: 'On a phone' },
  ] as const,
} as const;
