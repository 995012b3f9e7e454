import {
  BACKUP_VERSION,
  BackupAsset,
  calledIn,
  entries,
  heldWithin,
  limits,
  nameFrom,
  type BackupGraphic,
  type Contents,
} from '@bright-slot/core';
import type * as z from 'zod';
import { database, type Database, type FontRecord } from '../database';
import { routineLists } from '../routine-lists';
import { Refused } from '../storage-problem';
import { fontUse, usesIn } from '../used';
import { HistoryStore } from '../history-store';
import { blobSink, makeZip } from './zip';

async function* each<T>(list: Iterable<T>): AsyncGenerator<T, void, void> {
  for (const item of list) yield await Promise.resolve(item);
}

/** What was packed, and what could not be, by name. */
export interface Packed {
  readonly blob: Blob;
  readonly left: readonly string[];
}

type Zip = ReturnType<typeof makeZip>;

/** Writes pictures and what is known of them; gives the names of those that cannot be read any more. */
async function packAssets(zip: Zip, hashes: readonly string[], db: Database, step: () => void): Promise<string[]> {
  const assets: BackupAsset[] = [];
  const left: string[] = [];
  for (const hash of hashes) {
    const asset = await db.assets.get(hash);
    step();
    if (!asset) continue;
    const { blob, silhouette, ...rest } = asset;
    // A small copy for lists can be made again.
    const facts = {
      ...rest,
      thumb: undefined,
      silhouette: silhouette && { ...silhouette, alpha: [...silhouette.alpha] },
    };
    const sound = heldWithin<BackupAsset>(BackupAsset, facts);
    try {
      if (!sound) throw new Error('Its record cannot be read.');
      // Read once before it is written: a file that is gone from the disk fails here and leaves nothing half written.
      await blob.slice(Math.max(0, blob.size - 1)).arrayBuffer();
      // Pictures are compressed already.
      await zip.blob(entries.asset(hash), blob, true);
      assets.push(sound.value);
    } catch {
      left.push(`the picture ${calledIn(rest, 'without a name')}`);
    }
  }
  await zip.lines(entries.assets, each(assets));
  return left;
}

/** Writes fonts that were brought; gives the names of those that cannot be read any more. */
async function packFonts(zip: Zip, records: readonly FontRecord[]): Promise<string[]> {
  const fonts: unknown[] = [];
  const left: string[] = [];
  for (const { blob, ...facts } of records)
    try {
      await zip.blob(entries.font(facts.hash), blob, false);
      fonts.push(facts);
    } catch {
      left.push(`the font ${calledIn(facts, 'without a name')}`);
    }
  await zip.lines(entries.fonts, each(fonts));
  return left;
}

async function packContents(zip: Zip, houseStyle: unknown): Promise<void> {
  const contents: z.infer<typeof Contents> = {
    format: 'bright-slot-backup',
    version: BACKUP_VERSION,
    saved: new Date().toISOString(),
    houseStyle,
  };
  await zip.text(entries.contents, JSON.stringify(contents));
}

/**
 * Some graphics as one bundle: each as it is now, without the steps that led there, with the pictures and fonts that it
 * uses and nothing else. Written as a backup is, so that “Bring back” takes it. Fails with a sentence where a graphic is gone.
 */
export async function packBundle(
  ids: readonly string[],
  progress: (done: number, of: number) => void,
  db = database(),
): Promise<Packed> {
  const sink = blobSink('application/zip');
  const zip = makeZip(sink.writable);
  const histories = new HistoryStore(db);
  const graphics: BackupGraphic[] = [];
  const uses = new Set<string>();
  for (const [i, id] of ids.entries()) {
    const record = await db.graphics.get(id);
    const step =
      record && record.deleted === undefined
        ? ((await histories.head(record)) ?? (await histories.step(record.head)))
        : null;
    if (!record || !step)
      throw new Refused({ code: 'gone', message: 'A graphic of the bundle is no longer stored in this browser.' });
    for (const what of usesIn(step.graphic)) uses.add(what);
    const entry = entries.steps(i);
    const { created, changed } = record;
    graphics.push({
      id,
      name: nameFrom(step.graphic.name, limits.name, 'A graphic'),
      entry,
      head: step.id,
      next: [],
      created,
      changed,
    });
    await zip.lines(entry, each([{ ...step, parent: null }]));
    progress(i + 1, ids.length + uses.size);
  }
  await zip.lines(entries.graphics, each(graphics));
  let done = ids.length;
  const hashes = (await db.assets.toCollection().primaryKeys()).filter((h) => uses.has(h));
  const left = await packAssets(zip, hashes, db, () => progress(++done, ids.length + hashes.length));
  const fonts = (await db.fonts.toArray()).filter((f) => uses.has(fontUse(f.family)));
  left.push(...(await packFonts(zip, fonts)));
  await packContents(zip, null);
  await zip.finish();
  return { blob: sink.blob(), left };
}

/**
 * Everything in this browser as one zip: documented JSON, and the pictures as they were brought in. Streamed: neither
 * steps nor pictures are ever held together. What cannot be read any more is left out and named.
 */
export async function pack(progress: (done: number, of: number) => void, db = database()): Promise<Packed> {
  const records = (await db.graphics.toArray()).filter((r) => r.deleted === undefined);
  const hashes = await db.assets.toCollection().primaryKeys();
  const sink = blobSink('application/zip');
  const zip = makeZip(sink.writable);
  const left: string[] = [];
  const all = records.length + hashes.length;
  let done = 0;

  const histories = new HistoryStore(db);
  const graphics: BackupGraphic[] = [];
  for (const [i, record] of records.entries()) {
    const { id, head, created, changed } = record;
    const entry = entries.steps(i);
    const step = (await histories.head(record)) ?? (await histories.step(head));
    const kept: { graphic?: { name?: unknown } } | undefined = step ?? (await db.heads.get(id))?.step;
    const name = kept?.graphic?.name;
    graphics.push({
      id,
      name: nameFrom(typeof name === 'string' ? name : '', limits.name, 'A graphic'),
      entry,
      head,
      next: [...(await histories.redo(id))],
      created,
      changed,
    });
    await zip.lines(entry, histories.wholes(id));
    progress(++done, all);
  }
  await zip.lines(entries.graphics, each(graphics));

  left.push(...(await packAssets(zip, hashes, db, () => progress(++done, all))));
  left.push(...(await packFonts(zip, await db.fonts.toArray())));
  const sent: unknown[] = [];
  for (const { blob, ...facts } of await db.sent.toArray())
    try {
      await zip.blob(entries.sentFile(facts.id), blob, true);
      sent.push(facts);
    } catch {
      left.push(`the file ${calledIn(facts, 'without a name')} that was sent`);
    }
  await zip.lines(entries.sent, each(sent));
  await zip.lines(entries.sets, each((await db.sets.toArray()) as unknown[]));
  await zip.lines(entries.collections, each((await db.collections.toArray()) as unknown[]));
  await zip.lines(entries.tileSets, each((await db.tileSets.toArray()) as unknown[]));
  await zip.lines(entries.editions, each((await db.editions.toArray()) as unknown[]));
  await zip.lines(entries.ownPages, each((await db.ownPages.toArray()) as unknown[]));
  await zip.lines(entries.sites, each((await db.sites.toArray()) as unknown[]));
  await zip.lines(entries.slots, each((await db.slots.toArray()) as unknown[]));
  for (const { entry, key } of routineLists) {
    const kept: unknown = (await db.settings.get(key))?.value;
    await zip.lines(entry, each(Array.isArray(kept) ? (kept as unknown[]) : []));
  }
  await packContents(zip, (await db.settings.get('house-style'))?.value ?? null);
  await zip.finish();
  return { blob: sink.blob(), left };
}
