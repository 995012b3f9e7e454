import { Zip, ZipDeflate, ZipPassThrough } from 'fflate';
import {
  BACKUP_VERSION,
  CONTENTS,
  HouseStyle,
  assetEntry,
  fontEntry,
  graphicEntry,
  pictureTypes,
  type Backup,
  type PictureType,
} from '@bright-slot/core';
import { database } from '../../storage/database';

/** Everything in this browser as one zip: documented JSON, and the pictures as they were brought in. */
export async function pack(progress: (done: number, of: number) => void): Promise<Blob> {
  const db = database();
  const records = (await db.graphics.toArray()).filter((r) => r.deleted === undefined);
  const hashes = await db.assets.toCollection().primaryKeys();
  const houseStyle = HouseStyle.safeParse((await db.settings.get('house-style'))?.value);
  const pieces: BlobPart[] = [];
  let failed: Error | null = null;
  const zip = new Zip((error, data) => {
    if (error) failed = error;
    else pieces.push(data);
  });
  const json = (name: string, value: unknown) => {
    const entry = new ZipDeflate(name, { level: 6 });
    zip.add(entry);
    entry.push(new TextEncoder().encode(JSON.stringify(value)), true);
  };
  const all = records.length + hashes.length;
  let done = 0;
  for (const { id } of records) {
    json(graphicEntry(id), await db.steps.where('graphicId').equals(id).toArray());
    progress(++done, all);
  }
  const assets: Backup['assets'] = [];
  for (const hash of hashes) {
    const asset = await db.assets.get(hash);
    if (!asset) continue;
    const { blob, silhouette, ...rest } = asset;
    // A small copy for lists can be made again.
    const facts = { ...rest, thumb: undefined };
    const type = pictureTypes.find((t) => t === facts.type) as PictureType;
    assets.push({ ...facts, type, silhouette: silhouette && { ...silhouette, alpha: [...silhouette.alpha] } });
    // Pictures are compressed already.
    const entry = new ZipPassThrough(assetEntry(hash));
    zip.add(entry);
    entry.push(new Uint8Array(await blob.arrayBuffer()), true);
    progress(++done, all);
  }
  const fonts: Backup['fonts'] = [];
  for (const { blob, ...facts } of await db.fonts.toArray()) {
    fonts.push(facts);
    const entry = new ZipDeflate(fontEntry(facts.hash), { level: 6 });
    zip.add(entry);
    entry.push(new Uint8Array(await blob.arrayBuffer()), true);
  }
  const backup: Backup = {
    format: 'bright-slot-backup',
    version: BACKUP_VERSION,
    saved: new Date().toISOString(),
    graphics: records.map(({ id, head, next, created, changed }) => ({ id, head, next, created, changed })),
    assets,
    houseStyle: houseStyle.success ? houseStyle.data : null,
    slots: await db.slots.toArray(),
    fonts,
  };
  json(CONTENTS, backup);
  zip.end();
  if (failed) throw failed as Error;
  return new Blob(pieces, { type: 'application/zip' });
}
