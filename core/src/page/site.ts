import '../zod-setup';
import * as z from 'zod';
import { SlotSet } from '../slot/set';
import { FileFormat, PageKind, Slot } from '../slot/slot';
import { PageColours } from './colours';
import { PageLook } from './look';

/** What the outside tells about a picture that was sent to it. */
export const SentPicture = z.object({
  id: z.string(),
  name: z.string(),
  address: z.string(),
  type: FileFormat,
  width: z.number(),
  height: z.number(),
  bytes: z.number(),
  /** ISO date and time. */
  sent: z.string(),
  alt: z.string(),
  slot: z.string(),
  /** The colours that its page is to wear while it shows it. */
  colours: PageColours.optional(),
  /** `state` names what it showed when it was sent (see `pictureState`); not known of what was sent before that was kept. */
  graphic: z.object({ id: z.string(), name: z.string(), state: z.string().optional() }),
});
export type SentPicture = z.infer<typeof SentPicture>;

/** A page of a site with the slots on it and what each shows now; `earlier` is latest first. */
export const SitePage = z.object({
  path: z.string(),
  address: z.string(),
  title: z.string(),
  kind: PageKind,
  /** The set its slots stand in. */
  set: SlotSet.nullable(),
  slots: z.array(
    z.object({
      slot: Slot,
      now: SentPicture.nullable(),
      /** What it shows side by side, in its order, where it shows several: `now` is the first. */
      row: z.array(SentPicture).default([]),
      /** Where nothing was ever sent: the address of the house's own picture. */
      first: z.string().nullable().default(null),
      earlier: z.array(SentPicture),
    }),
  ),
});
export type SitePage = z.infer<typeof SitePage>;

export const Site = z.object({
  name: z.string(),
  host: z.string(),
  look: PageLook,
  pages: z.array(SitePage),
  names: z.array(z.string()),
});
export type Site = z.infer<typeof Site>;

/** A picture on the site's shelf. */
export const ShelfPicture = z.object({
  file: z.string().regex(/^[a-z0-9-]+\.(jpg|png|svg|webp)$/),
  title: z.string(),
  width: z.number(),
  height: z.number(),
  bytes: z.number(),
  credit: z.string(),
  licence: z.string(),
  role: z.enum(['photo', 'cutout', 'logo']),
});
export type ShelfPicture = z.infer<typeof ShelfPicture>;

/** How the outside says no. */
export const Refusal = z.object({ code: z.string(), message: z.string(), next: z.string().optional() });
export type Refusal = z.infer<typeof Refusal>;
