import '../zod-setup';
import * as z from 'zod';
import { PageLook } from '../page/look';
import { PageColours } from '../page/colours';
import { formatNamed, type FileFormat } from '../formats/registry';
import { PageKind, type Slot } from '../slot/slot';
import { Member } from './members';
import { WayIn, wayCan } from './way-in';

export const SITE_VERSION = 2;

const id = z.string().min(1).max(80);

/** Colours and type of pages under a name of their own. */
export const NamedSettings = z.object({ name: z.string().min(1).max(60), colours: PageColours });
export type NamedSettings = z.infer<typeof NamedSettings>;

const Record2 = z.object({
  version: z.literal(SITE_VERSION),
  id: z.string().min(1).max(64),
  name: z.string().min(1).max(120),
  /** Its host, as slots name it. */
  address: z.string().min(1).max(300),
  way: WayIn,
  look: PageLook,
  pages: z.array(z.object({ path: z.string().max(200), kind: PageKind, slots: z.array(id).max(50) })).max(200),
  /** By slot: the one file name that its page holds on to; the others are given a new name each time. */
  holds: z.record(id, z.string().min(1).max(200)).default({}),
  /** By slot: the files that its page shows several of, in their order. */
  members: z.record(id, z.array(Member).max(200)).default({}),
  /** Page settings kept under names, and which of them every page has that has none of its own. */
  settings: z.array(NamedSettings).max(50).default([]),
  standard: z.string().max(60).nullable().default(null),
  /** In which order the site's own form asks for page settings. */
  order: z.array(z.string().max(20)).max(10).default([]),
});

/** Version 1 knew a connector instead of a way in. */
const upToDate = (stored: unknown): unknown => {
  const v1 = z.looseObject({ version: z.literal(1), connector: z.object({ kind: z.string() }) }).safeParse(stored);
  if (!v1.success) return stored;
  const { connector, ...own } = v1.data;
  const way =
    connector.kind === 'stand-in' ? { kind: 'stand-in' } : { kind: 'by-hand', visitors: '', ownNetwork: false };
  return { ...own, version: SITE_VERSION, way };
};

/** A site of the person's, as it is kept here: which pages it has, what they look like, and how it is reached. */
export const SiteRecord = z.preprocess(upToDate, Record2);
export type SiteRecord = z.infer<typeof Record2>;

/** The site that a slot stands on: the one whose pages have it, else the one it names; null where there is none. */
export function siteOf(slot: Pick<Slot, 'id' | 'site'>, sites: readonly SiteRecord[]): SiteRecord | null {
  const has = (s: SiteRecord) => s.pages.some((p) => p.slots.includes(slot.id));
  // A place of the demo's that a site of one's own has too is one's own.
  const own = [...sites].sort((a, b) => Number(a.way.kind === 'stand-in') - Number(b.way.kind === 'stand-in'));
  return own.find(has) ?? own.find((s) => slot.site !== '' && s.address === slot.site) ?? null;
}

/** The name that a place on a site holds on to; null where each file has a name of its own. */
export const heldName = ({ way, holds }: Pick<SiteRecord, 'way' | 'holds'>, slot: string): string | null =>
  wayCan(way).replace || way.kind === 'by-hand' ? (holds[slot] ?? null) : null;

/** What a held name says that its files are, where the slot takes it; null where any of its formats will do. */
export function heldFormat(
  slot: Pick<Slot, 'id' | 'site' | 'formats'>,
  sites: readonly SiteRecord[],
): FileFormat | null {
  const site = siteOf(slot, sites);
  const held = site && site.way.kind !== 'stand-in' ? heldName(site, slot.id) : null;
  const format = held === null ? null : formatNamed(held);
  return format !== null && slot.formats.includes(format) ? format : null;
}

/** A site's pages with the slots that are still in the book; slots that only name the site have a page each. */
export function pagesOf(site: SiteRecord, book: readonly Slot[]): { path: string; title: string; slots: Slot[] }[] {
  const byId = new Map(book.map((s) => [s.id, s]));
  const listed = new Set(site.pages.flatMap((p) => p.slots));
  const pages = site.pages.map(({ path, slots }) => ({
    path,
    title: path === '/' || path === '' ? 'Front page' : path.replace(/^\/+|\/+$/g, ''),
    slots: slots.flatMap((s) => byId.get(s) ?? []),
  }));
  const others = book.filter((s) => s.site === site.address && !listed.has(s.id));
  return [...pages, ...others.map((s) => ({ path: '', title: s.name, slots: [s] }))];
}
