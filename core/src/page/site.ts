import '../zod-setup';
import * as z from 'zod';
import { FileFormat, PageKind } from '../slot/slot';

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
  slots: z.array(
    z.object({
      id: z.string(),
      now: SentPicture.nullable(),
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

/** The pages of the demo's site, and the slots each carries. */
export const demoPages: readonly { path: string; kind: PageKind; slots: readonly string[] }[] = [
  { path: '/welcome', kind: 'landing', slots: ['landing-header'] },
  { path: '/blog', kind: 'blog', slots: ['blog-header'] },
  { path: '/shop', kind: 'shop', slots: ['slim-header'] },
  { path: '/make', kind: 'menu', slots: ['menu-tile'] },
  { path: '/window', kind: 'mosaic', slots: ['mosaic-wide', 'mosaic-tall', 'mosaic-upper', 'mosaic-lower'] },
  { path: '/kiln', kind: 'strip', slots: ['strip-square'] },
  { path: '/pay', kind: 'checkout', slots: ['checkout-header'] },
  { path: '/classes', kind: 'form', slots: ['form-header'] },
  { path: '/tuesday', kind: 'class', slots: ['class-header'] },
  { path: '/neighbours', kind: 'community', slots: ['page-cover'] },
  { path: '/wren', kind: 'profile', slots: ['profile-banner'] },
  { path: '/chat', kind: 'chat', slots: ['chat-avatar'] },
  { path: '/about', kind: 'about', slots: ['site-header', 'logo'] },
  { path: '/shared', kind: 'feed', slots: ['link-card'] },
];
