import '../zod-setup';
import * as z from 'zod';
import { AssetHash } from '../graphic/values';
import { historyFrom, isNewer, isNewerStep, Step } from '../graphic/history';
import { HouseStyle } from '../house/house-style';
import { BroughtFont } from '../words/brought-font';
import { SILHOUETTE_SIDE } from '../pixels/silhouette';
import { bad, good, type Result } from '../problem';
import { pictureTypes } from './identify';

export const BACKUP_VERSION = 1;
/** The file in the zip that says what else is in it. */
export const CONTENTS = 'bright-slot.json';

const id = z.string().regex(/^[A-Za-z0-9_-]{1,64}$/);

/** A graphic's place in its own history; its steps stand in `graphics/<id>.json`. */
export const BackupGraphic = z.object({
  id,
  head: z.string().min(1).max(64),
  next: z.record(z.string(), z.string()),
  created: z.string(),
  changed: z.number(),
});
export type BackupGraphic = z.infer<typeof BackupGraphic>;

/** A picture; its bytes, as they were brought in, stand in `assets/<hash>`. */
export const BackupAsset = z.object({
  hash: AssetHash,
  type: z.enum(pictureTypes),
  width: z.number().positive(),
  height: z.number().positive(),
  opaque: z.boolean(),
  /** Alpha 0…255 as plain numbers; see `Silhouette`. */
  silhouette: z
    .object({
      width: z.number().int().min(1).max(SILHOUETTE_SIDE),
      height: z.number().int().min(1).max(SILHOUETTE_SIDE),
      alpha: z.array(z.number().int().min(0).max(255)).max(SILHOUETTE_SIDE ** 2),
    })
    .nullable(),
  flatBorder: z.boolean().optional(),
  focus: z.object({ x: z.number(), y: z.number() }).optional(),
  subject: z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() }).optional(),
  licence: z.string().max(300).optional(),
  showCredit: z.boolean().optional(),
  mask: z.boolean().optional(),
  name: z.string().max(300),
  added: z.number(),
  credit: z.string().max(300),
});
export type BackupAsset = z.infer<typeof BackupAsset>;

/** `bright-slot.json`: what “Save everything” keeps. Documented in docs/backup.md. */
export const Backup = z.object({
  format: z.literal('bright-slot-backup'),
  version: z.literal(BACKUP_VERSION),
  /** ISO date and time. */
  saved: z.string(),
  graphics: z.array(BackupGraphic).max(20_000),
  assets: z.array(BackupAsset).max(50_000),
  houseStyle: HouseStyle.nullable(),
  /** The book of slots; each is read on its own, so that one that cannot be read costs no others. */
  slots: z.array(z.unknown()).max(5000).default([]),
  /** Fonts that were brought; the bytes of each stand in `fonts/<hash>`. */
  fonts: z.array(BroughtFont).max(1000).default([]),
});
export type Backup = z.infer<typeof Backup>;

export const graphicEntry = (graphicId: string) => `graphics/${graphicId}.json`;
export const assetEntry = (hash: string) => `assets/${hash}`;
export const fontEntry = (hash: string) => `fonts/${hash}`;

export interface BackupContent {
  readonly backup: Backup;
  readonly graphics: readonly { readonly record: BackupGraphic; readonly steps: readonly Step[] }[];
  readonly assets: readonly { readonly facts: BackupAsset; readonly bytes: Uint8Array }[];
  readonly fonts: readonly { readonly facts: BroughtFont; readonly bytes: Uint8Array }[];
}

function parseJson(bytes: Uint8Array | undefined): unknown {
  if (!bytes) return undefined;
  try {
    return JSON.parse(new TextDecoder().decode(bytes));
  } catch {
    return undefined;
  }
}

/**
 * Checks what was unpacked from a backup, all of it, before any of it is used. Bytes still have to be
 * compared with their hashes. Fails with `not-a-backup`, `newer`, `incomplete` or `damaged`.
 */
export function readBackup(files: ReadonlyMap<string, Uint8Array>): Result<BackupContent> {
  const raw = parseJson(files.get(CONTENTS));
  if (raw === undefined)
    return bad('not-a-backup', 'That zip was not made by “Save everything”: what it holds is not listed in it.');
  const newerText =
    'That was saved by a newer Bright Slot. Bring it back there, or update this one; nothing was brought in.';
  if (isNewer(raw, BACKUP_VERSION)) return bad('newer', newerText);
  const backup = Backup.safeParse(raw);
  if (!backup.success) return bad('damaged', 'The list of what the zip holds is damaged; nothing was brought in.');
  const graphics: { record: BackupGraphic; steps: Step[] }[] = [];
  for (const record of backup.data.graphics) {
    const stored = parseJson(files.get(graphicEntry(record.id)));
    if (!Array.isArray(stored))
      return bad('incomplete', `A graphic that is listed is missing from the zip or damaged; nothing was brought in.`);
    if (stored.some(isNewerStep)) return bad('newer', newerText);
    const steps = z.array(Step).safeParse(stored);
    const sound = steps.success && steps.data.every((s) => s.graphicId === record.id && s.graphic.id === record.id);
    if (!sound || !historyFrom(steps.data, record.head, record.next))
      return bad('damaged', 'A graphic in the zip is damaged; nothing was brought in.');
    graphics.push({ record, steps: steps.data });
  }
  const assets: { facts: BackupAsset; bytes: Uint8Array }[] = [];
  for (const facts of backup.data.assets) {
    const bytes = files.get(assetEntry(facts.hash));
    if (!bytes)
      return bad('incomplete', `The picture “${facts.name}” is missing from the zip; nothing was brought in.`);
    assets.push({ facts, bytes });
  }
  const fonts: { facts: BroughtFont; bytes: Uint8Array }[] = [];
  for (const facts of backup.data.fonts) {
    const bytes = files.get(fontEntry(facts.hash));
    if (!bytes) return bad('incomplete', `The font “${facts.family}” is missing from the zip; nothing was brought in.`);
    fonts.push({ facts, bytes });
  }
  return good({ backup: backup.data, graphics, assets, fonts });
}

/** A graphic with all its steps under new ids, so that it can stand beside the one it came from. */
export function asNewGraphic(
  { record, steps }: BackupContent['graphics'][number],
  newId: () => string,
  rename: (name: string) => string,
): BackupContent['graphics'][number] {
  const graphicId = newId();
  const ids = new Map(steps.map((s) => [s.id, newId()]));
  const renamed = (old: string) => ids.get(old) ?? old;
  return {
    record: {
      ...record,
      id: graphicId,
      head: renamed(record.head),
      next: Object.fromEntries(Object.entries(record.next).map(([a, b]) => [renamed(a), renamed(b)])),
    },
    steps: steps.map((s) => ({
      ...s,
      id: renamed(s.id),
      parent: s.parent === null ? null : renamed(s.parent),
      graphicId,
      graphic: { ...s.graphic, id: graphicId, name: rename(s.graphic.name).slice(0, 120) },
    })),
  };
}
