import '../zod-setup';
import * as z from 'zod';
import { bad, good, type Result } from '../problem';
import { cutText } from '../text';
import { limits } from '../limits';
import { AssetHash } from '../values';
import { isNewer, isNewerStep, mendedParents, pairsOf, readStep, type Step } from '../graphic/history';
import { BroughtFont } from '../words/brought-font';
import { SILHOUETTE_SIDE } from '../pixels/silhouette';
import { pictureTypes } from '../formats/registry';

/** Version 1 held every list in `bright-slot.json` and each graphic's steps as one array. */
export const BACKUP_VERSION = 2;

/** The entries of the zip. Lists are lines of JSON, so that neither side has to hold them whole. */
export const entries = {
  contents: 'bright-slot.json',
  graphics: 'graphics.ndjson',
  assets: 'assets.ndjson',
  slots: 'slots.ndjson',
  fonts: 'fonts.ndjson',
  sites: 'sites.ndjson',
  sets: 'sets.ndjson',
  collections: 'collections.ndjson',
  /** Sets of tiles, and editions of sets and graphics that were put aside. */
  tileSets: 'tile-sets.ndjson',
  editions: 'editions.ndjson',
  ownPages: 'own-pages.ndjson',
  /** Named choices for exporting, and named steps. */
  exportRoutines: 'export-routines.ndjson',
  routines: 'routines.ndjson',
  /** Files that were sent to sites; what signs in there is in no backup. */
  sent: 'sent.ndjson',
  /** The steps of the graphic that stands in line `at` (from 0) of the list. */
  steps: (at: number) => `graphics/${String(at + 1).padStart(6, '0')}.ndjson`,
  asset: (hash: string) => `assets/${hash}`,
  font: (hash: string) => `fonts/${hash}`,
  sentFile: (id: string) => `sent/${id}`,
} as const;

/** A graphic's place in its own history, and the entry with its steps. */
export const BackupGraphic = z.object({
  id: z.string().min(1).max(64),
  name: z.string().max(limits.name).default('A graphic'),
  entry: z.string().max(200),
  head: z.string().min(1).max(64),
  /** For each step the child redo goes to, as pairs: ids may be called anything. */
  next: z.array(z.tuple([z.string(), z.string()])),
  created: z.string().max(100),
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
    .refine((s) => s.alpha.length === s.width * s.height)
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

/** `bright-slot.json`: what the zip is, and the house style. Documented in docs/backup.md. */
export const Contents = z.object({
  format: z.literal('bright-slot-backup'),
  version: z.literal(BACKUP_VERSION),
  /** ISO date and time. */
  saved: z.string(),
  /** Read on its own, so that one that cannot be read costs nothing else. */
  houseStyle: z.unknown(),
});

/** Version 1's list: the same, and all lists in it. Each part is read on its own. */
const ContentsOfOld = z.object({
  format: z.literal('bright-slot-backup'),
  version: z.literal(1),
  saved: z.string(),
  houseStyle: z.unknown(),
  graphics: z.array(z.unknown()).max(100_000),
  assets: z.array(z.unknown()).max(100_000),
  slots: z.array(z.unknown()).max(100_000).default([]),
  fonts: z.array(z.unknown()).max(10_000).default([]),
});

/** What a backup says it holds; the lists of version 2 stand in entries of their own. */
export interface BackupHead {
  readonly houseStyle: unknown;
  /** The lists, for a file of version 1. */
  readonly old: null | {
    readonly graphics: readonly unknown[];
    readonly assets: readonly unknown[];
    readonly slots: readonly unknown[];
    readonly fonts: readonly unknown[];
  };
}

/** Reads `bright-slot.json`. Fails with `not-a-backup`, `newer` or `damaged`. */
export function readContents(text: string | null): Result<BackupHead> {
  const notOne = bad('not-a-backup', 'That zip was not made by “Save everything”: what it holds is not listed in it.');
  if (text === null) return notOne;
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return notOne;
  }
  if (isNewer(raw, BACKUP_VERSION))
    return bad(
      'newer',
      'That was saved by a newer Bright Slot. Bring it back there, or update this one; nothing was brought in.',
    );
  const now = Contents.safeParse(raw);
  if (now.success) return good({ houseStyle: now.data.houseStyle, old: null });
  const old = ContentsOfOld.safeParse(raw);
  if (!old.success) return bad('damaged', 'The list of what the zip holds is damaged; nothing was brought in.');
  return good({ houseStyle: old.data.houseStyle, old: old.data });
}

/** A graphic's line in the list, of either version; null where it cannot be read. */
export function readGraphicLine(value: unknown): BackupGraphic | null {
  const old = value as { id?: unknown; next?: unknown; entry?: unknown } | null | undefined;
  const now =
    typeof old === 'object' && old !== null && !Array.isArray(old.next)
      ? { entry: typeof old.id === 'string' ? `graphics/${old.id}.json` : '', ...old, next: pairsOf(old.next) }
      : value;
  const read = BackupGraphic.safeParse(now);
  return read.success ? read.data : null;
}

/** What a person is told something in the zip is called. */
export function calledIn(value: unknown, otherwise: string): string {
  const v = value as { name?: unknown; family?: unknown; graphic?: { name?: unknown } } | null | undefined;
  const name = v?.name ?? v?.family ?? v?.graphic?.name;
  return typeof name === 'string' && name.trim() ? `“${cutText(name.trim(), 60, true)}”` : otherwise;
}

/** What was found out about a graphic's steps without keeping them: enough to bring them in, one by one, afterwards. */
export interface StepsPlan {
  /** The ids of steps that can be read, and the parent each is to have. */
  readonly parents: ReadonlyMap<string, string | null>;
  readonly head: string;
  readonly next: readonly (readonly [string, string])[];
  /** How many cannot be read, and are left out. */
  readonly passed: number;
  /** The graphic's name at its head. */
  readonly name: string;
}

/**
 * Looks through a graphic's steps as they come, holding none of them. Fails with `newer` where a later version wrote
 * any, and with `damaged` where none can be read.
 */
export async function planSteps(values: AsyncIterable<unknown>, record: BackupGraphic): Promise<Result<StepsPlan>> {
  const nodes = new Map<string, { id: string; parent: string | null; at: number; name: string }>();
  const passedOver = new Map<string, string | null>();
  let passed = 0;
  for await (const value of values) {
    if (isNewerStep(value)) return bad('newer', 'saved by a newer Bright Slot');
    const step = readStep(value);
    if (step && step.graphicId === record.id && !nodes.has(step.id))
      nodes.set(step.id, { id: step.id, parent: step.parent, at: step.at, name: step.graphic.name });
    else {
      passed++;
      const { id, parent } = (value ?? {}) as { id?: unknown; parent?: unknown };
      if (!step && typeof id === 'string') passedOver.set(id, typeof parent === 'string' ? parent : null);
    }
  }
  let head = nodes.get(record.head);
  for (const n of nodes.values()) if (!nodes.has(record.head) && (!head || n.at >= head.at)) head = n;
  if (!head) return bad('damaged', 'damaged');
  const parents = mendedParents(nodes.values(), passedOver);
  return good({
    parents,
    head: head.id,
    next: record.next.filter(([parent, child]) => parents.get(child) === parent),
    passed,
    name: head.name,
  });
}

/** A step as the plan has it: under its own ids or new ones, its parent mended; null for one that is left out. */
export function plannedStep(
  value: unknown,
  plan: StepsPlan,
  as: { readonly graphicId: string; readonly idOf: (old: string) => string; readonly rename: (name: string) => string },
): Step | null {
  const step = readStep(value);
  if (!step || !plan.parents.has(step.id)) return null;
  const parent = plan.parents.get(step.id) ?? null;
  return {
    ...step,
    id: as.idOf(step.id),
    parent: parent === null ? null : as.idOf(parent),
    graphicId: as.graphicId,
    graphic: {
      ...step.graphic,
      id: as.graphicId,
      name: cutText(as.rename(step.graphic.name), limits.name),
    },
  };
}

/** A font's line; null where it cannot be read. */
export function readFontLine(value: unknown): BroughtFont | null {
  const read = BroughtFont.safeParse(value);
  return read.success ? read.data : null;
}
