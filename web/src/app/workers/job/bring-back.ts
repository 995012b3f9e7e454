import {
  Step,
  asNewGraphic,
  bad,
  createUnpacker,
  fontKind,
  good,
  identify,
  plainHouseStyle,
  readBackup,
  readSlots,
  slotsToAdd,
  type BackupContent,
  type Result,
  type Slot,
} from '@bright-slot/core';
import { database, type Database } from '../../storage/database';
import { storageProblem } from '../../storage/graphics-repository';
import { mimeOf } from '../../storage/mime';
import { sha256 } from '../../storage/hash';
import type { BroughtBack } from '../archive-messages';

/** Whether a graphic stands here with every step the zip has of it. */
async function isHere(db: Database, { record, steps }: BackupContent['graphics'][number]): Promise<boolean> {
  const here = await db.graphics.get(record.id);
  if (!here || here.deleted !== undefined || here.head !== record.head) return false;
  const stored = await db.steps.bulkGet(steps.map((s) => s.id));
  return stored.every((s, i) => {
    // Parsed like the other, so that their keys stand in the same order.
    const own = Step.safeParse(s);
    return own.success && JSON.stringify(own.data.graphic) === JSON.stringify(steps[i]!.graphic);
  });
}

/** Ids for a copy, the same each time for the same content, so that a second bringing back finds the first one's. */
async function idsFor(graphic: BackupContent['graphics'][number]): Promise<() => string> {
  const digest = await sha256(new TextEncoder().encode(JSON.stringify(graphic)));
  let n = 0;
  return () => `${digest.slice(0, 32)}-${n++}`;
}

/**
 * Brings a backup's graphics and pictures back, in one transaction. Nothing here is overwritten: what is
 * here already is left, what differs comes in beside it under a new id.
 */
export async function bringBack(
  file: Blob,
  progress: (done: number, of: number) => void,
): Promise<Result<BroughtBack>> {
  const unpacker = createUnpacker();
  const PIECE = 4 * 2 ** 20;
  for (let at = 0; at === 0 || at < file.size; at += PIECE) {
    const piece = new Uint8Array(await file.slice(at, at + PIECE).arrayBuffer());
    const taken = unpacker.push(piece, at + PIECE >= file.size);
    if (!taken.ok) return taken;
    progress(Math.min(at + PIECE, file.size), file.size * 2);
  }
  const files = unpacker.finish();
  if (!files.ok) return files;
  const content = readBackup(files.value);
  if (!content.ok) return content;
  const { assets, graphics, backup, fonts } = content.value;
  const db = database();
  for (const [i, { facts, bytes }] of assets.entries()) {
    const told = identify(bytes, facts.name);
    const sound =
      told.ok && told.value.type === facts.type && (await sha256(bytes as Uint8Array<ArrayBuffer>)) === facts.hash;
    if (!sound) return bad('damaged', `The picture “${facts.name}” in the zip is damaged; nothing was brought in.`);
    progress(assets.length + i + 1, assets.length * 2);
  }
  for (const { facts, bytes } of fonts)
    if (fontKind(bytes) !== 'opentype' || (await sha256(bytes as Uint8Array<ArrayBuffer>)) !== facts.hash)
      return bad('damaged', `The font “${facts.family}” in the zip is damaged; nothing was brought in.`);
  const fresh: BackupContent['graphics'][number][] = [];
  for (const graphic of graphics) {
    if (await isHere(db, graphic)) continue;
    const clash = await db.graphics.get(graphic.record.id);
    const others = clash === undefined ? await db.steps.bulkGet(graphic.steps.map((s) => s.id)) : [];
    if (clash === undefined && others.every((s) => s === undefined)) {
      fresh.push(graphic);
      continue;
    }
    const copy = asNewGraphic(graphic, await idsFor(graphic), (name) => `${name.slice(0, 104)}, brought back`);
    const before = await db.graphics.get(copy.record.id);
    if (before === undefined) fresh.push(copy);
    // One that was brought back once and deleted since is wanted again, under ids of its own.
    else if (before.deleted !== undefined)
      fresh.push(
        asNewGraphic(
          graphic,
          () => crypto.randomUUID(),
          (name) => `${name.slice(0, 104)}, brought back`,
        ),
      );
  }
  const slots = readSlots(backup.slots);
  // The same entry gets the same id each time, so that a second bringing back adds no second copy.
  const slotIds = new Map<Slot, string>();
  for (const slot of slots)
    slotIds.set(slot, (await sha256(new TextEncoder().encode(JSON.stringify(slot)))).slice(0, 32));
  const tables = [db.graphics, db.steps, db.assets, db.settings, db.slots, db.fonts];
  try {
    const pictures = await db.transaction('rw', tables, async () => {
      const known = new Set(await db.assets.toCollection().primaryKeys());
      const missing = assets.filter((a) => !known.has(a.facts.hash));
      await db.assets.bulkAdd(
        missing.map(({ facts, bytes }) => ({
          ...facts,
          silhouette: facts.silhouette && { ...facts.silhouette, alpha: Uint8Array.from(facts.silhouette.alpha) },
          blob: new Blob([bytes as Uint8Array<ArrayBuffer>], { type: mimeOf(facts.type) }),
        })),
      );
      const fontsHere = new Set(await db.fonts.toCollection().primaryKeys());
      await db.fonts.bulkAdd(
        fonts
          .filter((f) => !fontsHere.has(f.facts.hash))
          .map(({ facts, bytes }) => ({ ...facts, blob: new Blob([bytes as Uint8Array<ArrayBuffer>]) })),
      );
      await db.steps.bulkAdd(fresh.flatMap((g) => [...g.steps]));
      await db.graphics.bulkAdd(fresh.map((g) => g.record));
      const book = readSlots(await db.slots.toArray());
      await db.slots.bulkPut(slotsToAdd(book, slots, (s) => slotIds.get(s)!));
      // A house style that someone set here stays.
      const style = await db.settings.get('house-style');
      if (backup.houseStyle && JSON.stringify(style?.value ?? plainHouseStyle) === JSON.stringify(plainHouseStyle))
        await db.settings.put({ key: 'house-style', value: backup.houseStyle });
      return missing.length;
    });
    return good({ graphics: fresh.length, same: graphics.length - fresh.length, pictures });
  } catch (error) {
    return { ok: false, problem: storageProblem(error) };
  }
}
