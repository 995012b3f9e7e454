import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { readFile, rename, writeFile, mkdir } from 'node:fs/promises';
import writeFileAtomic from 'write-file-atomic';
import * as z from 'zod';
import { PageColours, SentPicture, endingFor } from '@bright-slot/core';

const StoredPicture = SentPicture.omit({ address: true });
export type StoredPicture = z.infer<typeof StoredPicture>;

const SiteData = z.object({
  version: z.literal(1),
  pictures: z.array(StoredPicture),
  /** Slot id → the picture it shows, or null. */
  shows: z.record(z.string(), z.string().nullable()),
  /** Slot id → the pictures it shows side by side, where it shows several; the first of them is what it `shows`. */
  rows: z.record(z.string(), z.array(z.string())).default({}),
  /** A page's path → the colours it was told to have. */
  settings: z.record(z.string(), PageColours).default({}),
});
type SiteData = z.infer<typeof SiteData>;

export interface SiteStore {
  readonly pictures: () => readonly StoredPicture[];
  readonly shown: (slot: string) => StoredPicture | null;
  /** Whether nothing was ever shown in a slot or taken down from it. */
  readonly untouched: (slot: string) => boolean;
  readonly earlier: (slot: string) => readonly StoredPicture[];
  /** Keeps a picture; null where its name is taken, or is being taken at this moment. */
  readonly add: (facts: Omit<StoredPicture, 'id' | 'sent'>, bytes: Uint8Array) => Promise<StoredPicture | null>;
  readonly show: (slot: string, id: string | null) => Promise<void>;
  /** The pictures of a slot that shows several side by side, in their order; one or none for any other. */
  readonly row: (slot: string) => readonly StoredPicture[];
  readonly showRow: (slot: string, ids: readonly string[]) => Promise<void>;
  readonly settings: (path: string) => PageColours | null;
  /** Tells a page which colours to have; null for its own. */
  readonly set: (path: string, colours: PageColours | null) => Promise<void>;
  readonly fileOf: (picture: StoredPicture) => string;
}

/** The stand-in's memory: a JSON file, and pictures under names of the server's own making. */
export async function openSiteStore(folder: string): Promise<SiteStore> {
  const index = `${folder}/site.json`;
  await mkdir(`${folder}/pictures`, { recursive: true });
  let data: SiteData = { version: 1, pictures: [], shows: {}, rows: {}, settings: {} };
  if (existsSync(index)) {
    try {
      data = SiteData.parse(JSON.parse(await readFile(index, 'utf8')));
    } catch {
      // A damaged index is set aside, never overwritten.
      await rename(index, `${index}.unreadable-${Date.now()}`);
    }
  }
  /** Names of pictures that are being written. */
  const coming = new Set<string>();
  let writing: Promise<void> = Promise.resolve();
  const save = () => {
    writing = writing
      .catch(() => undefined)
      .then(async () => {
        await writeFileAtomic(index, JSON.stringify(data, null, 2));
      });
    return writing;
  };
  const byId = (id: string | null | undefined) => data.pictures.find((p) => p.id === id) ?? null;
  const fileOf = (p: StoredPicture) => `${folder}/pictures/${p.id}.${endingFor(p.type)}`;
  return {
    pictures: () => data.pictures,
    shown: (slot) => byId(data.shows[slot]),
    untouched: (slot) => data.shows[slot] === undefined,
    earlier: (slot) =>
      data.pictures
        .filter((p) => p.slot === slot && p.id !== data.shows[slot] && !data.rows[slot]?.includes(p.id))
        .sort((a, b) => b.sent.localeCompare(a.sent)),
    async add(facts, bytes) {
      if (coming.has(facts.name) || data.pictures.some((p) => p.name === facts.name)) return null;
      const picture = { ...facts, id: randomUUID(), sent: new Date().toISOString() };
      coming.add(facts.name);
      try {
        await writeFile(fileOf(picture), bytes, { flag: 'wx' });
        data = { ...data, pictures: [...data.pictures, picture] };
        await save();
      } finally {
        coming.delete(facts.name);
      }
      return picture;
    },
    async show(slot, id) {
      const others = Object.entries(data.rows).filter(([s]) => s !== slot);
      data = { ...data, shows: { ...data.shows, [slot]: id }, rows: Object.fromEntries(others) };
      await save();
    },
    row(slot) {
      const shown = byId(data.shows[slot]);
      const row = (data.rows[slot] ?? []).flatMap((id) => byId(id) ?? []);
      return row.length ? row : shown ? [shown] : [];
    },
    async showRow(slot, ids) {
      const first = ids[0] ?? null;
      data = { ...data, shows: { ...data.shows, [slot]: first }, rows: { ...data.rows, [slot]: [...ids] } };
      await save();
    },
    settings: (path) => data.settings[path] ?? null,
    async set(path, colours) {
      const others = Object.entries(data.settings).filter(([p]) => p !== path);
      data = { ...data, settings: Object.fromEntries(colours ? [...others, [path, colours]] : others) };
      await save();
    },
    fileOf,
  };
}
