import '../zod-setup';
import * as z from 'zod';
import { GRAPHIC_VERSION } from './graphic';
import { Patch, patchBetween, patched } from './json-patch';
import { stepOwn, type Step } from './history';

/** How many patches stand on one another at most, and how many times the length of the whole they may make. */
const MOST_PATCHES = 200;
const MOST_WEIGHT = 3;

/** A step as it is stored where the one before it is stored too: what changed from there to here. */
export const PatchStep = z.object({
  ...stepOwn,
  parent: z.string(),
  /** The version of both graphics. */
  version: z.number(),
  patch: Patch,
  /** How many patches lie between this and the last whole step, this one included, and their letters as JSON. */
  depth: z.number(),
  weight: z.number(),
});
export type PatchStep = z.infer<typeof PatchStep>;

/** A step as it is stored: whole, or as a patch of the one before. */
export type StoredStep = Step | PatchStep;

/** A graphic exactly as it is stored, and how far it is from the last step that is whole. */
export interface Stored {
  readonly graphic: Step['graphic'];
  readonly depth: number;
  readonly weight: number;
}

/** A step made ready for storing, and what the next one can be a patch of. */
export interface Packed {
  readonly record: StoredStep;
  readonly stored: Stored;
}

/**
 * A step as it is to be stored: a patch of `before`, the graphic of its parent exactly as that is stored; whole where
 * there is none, where too many patches would stand on one another, and where a patch would save nothing.
 */
export function packStep(step: Step, before: Stored | undefined): Packed {
  const whole = { record: step, stored: { graphic: step.graphic, depth: 0, weight: 0 } };
  if (!before || step.parent === null || before.depth >= MOST_PATCHES) return whole;
  if ((before.graphic.version as number) !== GRAPHIC_VERSION) return whole;
  const patch = patchBetween(before.graphic, step.graphic);
  if (!patch) return whole;
  const letters = JSON.stringify(patch).length;
  const most = JSON.stringify(step.graphic).length;
  const weight = before.weight + letters;
  if (letters > most / 2 || weight > MOST_WEIGHT * most) return whole;
  const { graphic, ...own } = step;
  const depth = before.depth + 1;
  return {
    record: { ...own, parent: step.parent, version: GRAPHIC_VERSION, patch, depth, weight },
    stored: { graphic, depth, weight },
  };
}

/** Whether a stored record says that it is a patch. */
export const isPatch = (record: unknown): boolean =>
  typeof record === 'object' && record !== null && 'patch' in record && !('graphic' in record);

const idsOf = (record: unknown): { id?: unknown; parent?: unknown } => record ?? {};

/**
 * One graphic's stored records in an order in which `Unpacking` can make them whole: each patch after the step it
 * stands on, with what stands on that in one run. Of whole steps `id` and `parent` are enough.
 */
export function* inOrder<T>(records: readonly T[]): Generator<T> {
  const ids = new Set(records.map((r) => idsOf(r).id));
  const onTop = new Map<unknown, T[]>();
  const open: T[] = [];
  for (const record of [...records].reverse()) {
    const { parent } = idsOf(record);
    if (!isPatch(record) || !ids.has(parent)) open.push(record);
    else if (onTop.has(parent)) onTop.get(parent)!.push(record);
    else onTop.set(parent, [record]);
  }
  const given = new Set<T>();
  while (open.length) {
    const record = open.pop()!;
    if (given.has(record)) continue;
    given.add(record);
    yield record;
    open.push(...(onTop.get(idsOf(record).id) ?? []));
  }
  // Patches in a ring stand on nothing.
  for (const record of records) if (!given.has(record)) yield record;
}

/** Makes stored records whole, one after another as `inOrder` gives them; holds no more than one run of patches. */
export class Unpacking {
  private readonly run: { readonly id: unknown; readonly graphic: unknown }[] = [];

  /** The step made whole; as it is stored, without a graphic, where what it stands on is missing or is another. */
  whole(record: unknown): unknown {
    const { id, parent } = idsOf(record);
    if (!isPatch(record)) {
      this.run.splice(0, Infinity, { id, graphic: (record as { graphic?: unknown } | null)?.graphic });
      return record;
    }
    while (this.run.length && this.run.at(-1)!.id !== parent) this.run.pop();
    const step = unpackStep(record, this.run.at(-1)?.graphic);
    if (step !== record) this.run.push({ id, graphic: (step as { graphic: unknown }).graphic });
    return step;
  }
}

/** A patch made whole with its parent's graphic as that is stored; as it came where that cannot be. */
export function unpackStep(record: unknown, parent: unknown): unknown {
  const read = PatchStep.safeParse(record);
  if (!read.success || typeof parent !== 'object' || parent === null) return record;
  const { id, graphicId, parent: of, name, merge, at, called, patch, version } = read.data;
  if ((parent as { version?: unknown }).version !== version) return record;
  const graphic = patched(parent, patch);
  if (graphic === null) return record;
  return {
    id,
    graphicId,
    parent: of,
    name,
    ...(merge === undefined ? {} : { merge }),
    at,
    ...(called === undefined ? {} : { called }),
    graphic,
  };
}
