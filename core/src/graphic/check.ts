import type * as z from 'zod';
import { bad, good, type Result } from '../problem';
import { Slot } from '../slot/slot';
import { cutText } from '../text';
import { Backdrop, Follows, GraphicRecord, Layer, type Graphic } from './graphic';
import { Frame } from './frame';
import { migrateGraphic } from './migrate';
import { limits } from '../limits';

/** A value as its schema allows it, and in words what of it had to be left out. */
export interface Held<T> {
  readonly value: T;
  readonly told: readonly string[];
}

type Path = readonly PropertyKey[];

/** A copy of a value with what stands at a path changed. */
function changedAt(value: unknown, path: Path, change: (old: unknown) => unknown): unknown {
  const [key, ...rest] = path;
  if (key === undefined) return change(value);
  if (typeof value !== 'object' || value === null) return value;
  const inner = changedAt((value as Record<PropertyKey, unknown>)[key], rest, change);
  if (Array.isArray(value)) return value.map((item: unknown, i) => (i === key ? inner : item));
  return { ...value, [key]: inner };
}

function toldOf(path: Path, most: number): string | null {
  const key = path.at(-1);
  const figure = most.toLocaleString('en-GB');
  if (key === 'name' || key === 'altFor') return null;
  if (key === 'text') return `One block of words holds ${figure} letters; what came after them was left out.`;
  if (key === 'paragraphs') return `One block of words holds ${figure} lines; those after them were left out.`;
  return `Only ${figure} of its ${String(key)} can be kept; what came after was left out.`;
}

/** One finding of the schema made good: a number held, a text or a list cut. Null where that cannot be. */
function mended(value: unknown, issue: z.core.$ZodIssue): Held<unknown> | null {
  if (issue.code !== 'too_big' && issue.code !== 'too_small') return null;
  const { path, origin } = issue;
  const set = (to: (old: unknown) => unknown, told: string | null = null) => ({
    value: changedAt(value, path, to),
    told: told ? [told] : [],
  });
  if (issue.code === 'too_small')
    // A length of nothing becomes a hair.
    return origin === 'number' ? set(() => (issue.inclusive ? Number(issue.minimum) : 0.01)) : null;
  const most = Number(issue.maximum);
  if (origin === 'number') return set(() => most);
  if (origin === 'string') return set((old) => cutText(String(old), most), toldOf(path, most));
  // Layers are what was made: none is left out unasked.
  if (origin === 'array' && path.at(-1) !== 'layers')
    return set((old) => (old as unknown[]).slice(0, most), toldOf(path, most));
  return null;
}

/**
 * A value held within its schema's own limits: numbers at their ends, texts and lists cut. Null where something else
 * is wrong with it (a figure that is none, a part of another shape). The value itself comes back where it is sound.
 */
export function heldWithin<T>(schema: z.ZodType<T>, value: unknown): Held<T> | null {
  let now = value;
  const told: string[] = [];
  for (let tries = 0; tries < 4; tries++) {
    const read = schema.safeParse(now);
    if (read.success) return { value: (now === value ? value : read.data) as T, told };
    for (const issue of read.error.issues) {
      const next = mended(now, issue);
      if (!next) return null;
      now = next.value;
      told.push(...next.told);
    }
  }
  return null;
}

/** A graphic but for its parts, which are read and checked one by one. */
const Rest = GraphicRecord.omit({ layers: true, backdrop: true, frames: true, follows: true });

/** What was found sound once is not looked at again: layers are shared between a graphic's steps. */
const sound = new WeakSet<object>();

function held<T extends object>(schema: z.ZodType<T>, value: T, told: string[]): T | null {
  if (sound.has(value)) return value;
  const found = heldWithin(schema, value);
  if (!found) return null;
  told.push(...found.told);
  sound.add(found.value);
  return found.value;
}

/**
 * A graphic as it may be written: what is new in it is held within its limits, and said where something is left out.
 * Fails with `unsound` or `too-many` where it cannot be. Checking costs what changed, not what there is.
 */
export function checkGraphic(graphic: Graphic): Result<Held<Graphic>> {
  if (sound.has(graphic)) return good({ value: graphic, told: [] });
  if (graphic.layers.length > limits.layers)
    return bad(
      'too-many',
      `A graphic holds ${limits.layers} layers, and this would be ${graphic.layers.length}. Take some away first.`,
    );
  const told: string[] = [];
  const unsound = bad(
    'unsound',
    'That change holds something that could not be opened again, so it was not made. Everything stays as it was.',
  );
  const layers: Layer[] = [];
  for (const layer of graphic.layers) {
    const own = held(Layer, layer, told);
    if (!own) return unsound;
    layers.push(own);
  }
  const backdrop = held(Backdrop, graphic.backdrop, told);
  const frames = graphic.frames.map((f) => held(Frame, f, told));
  const follows = graphic.follows && held(Follows, graphic.follows, told);
  const rest = heldWithin(Rest, graphic);
  if (follows === null || !backdrop || !rest || !frames.length || frames.some((f) => f === null)) return unsound;
  const same =
    layers.every((l, i) => l === graphic.layers[i]) &&
    backdrop === graphic.backdrop &&
    follows === graphic.follows &&
    frames.every((f, i) => f === graphic.frames[i]) &&
    rest.value === (graphic as unknown);
  const value = same
    ? graphic
    : {
        ...graphic,
        ...rest.value,
        layers,
        backdrop,
        frames: frames as Frame[],
        ...(follows ? { follows } : {}),
      };
  sound.add(value);
  return good({ value, told: [...new Set(told)] });
}

/** Parts of graphics that were read, by what they were read from: what did not change is shared between steps. */
const reading = <T extends object>(read: (value: object) => T | null) => {
  const known = new WeakMap<object, T>();
  return (value: unknown): T | null => {
    if (typeof value !== 'object' || value === null) return null;
    const before = known.get(value);
    if (before) return before;
    const found = read(value);
    if (!found) return null;
    known.set(value, found);
    sound.add(found);
    return found;
  };
};
const bySchema =
  <T>(schema: z.ZodType<T>) =>
  (value: unknown): T | null =>
    schema.safeParse(value).data ?? null;
const readLayer = reading<Layer>(bySchema(Layer));
const readBackdrop = reading<Graphic['backdrop']>(bySchema(Backdrop));
/** Slots that were read, by their text: graphics hold a few slots many times over. */
const slots = new Map<string, Slot>();
const MOST_SLOTS = 500;
function readSlot(value: unknown): Slot | null {
  const text = JSON.stringify(value) as string | undefined;
  const before = text === undefined ? undefined : slots.get(text);
  if (before) return before;
  const read = Slot.safeParse(value);
  if (!read.success || text === undefined) return null;
  if (slots.size >= MOST_SLOTS) slots.clear();
  slots.set(text, read.data);
  return read.data;
}
const FrameBesideSlot = Frame.omit({ slot: true });
const readFrame = reading<Frame>((value) => {
  const read = FrameBesideSlot.safeParse(value);
  const slot = readSlot((value as { slot?: unknown }).slot);
  if (!read.success || !slot) return null;
  const { id, rect, ...rest } = read.data;
  return { id, rect, slot, ...rest };
});
const readFollows = reading<Follows>(bySchema(Follows));

/** Frames, of which there is one at least; null where any cannot be read. */
function readFrames(value: unknown): Frame[] | null {
  const frames = Array.isArray(value) ? value.map(readFrame) : [];
  return frames.length && !frames.includes(null) ? (frames as Frame[]) : null;
}

/**
 * A stored graphic as `Graphic` reads it, of any earlier version; null where it cannot be. Reading costs what was not
 * read before, and what two graphics share is shared by what is read of them.
 */
export function readGraphic(value: unknown): Graphic | null {
  const now = migrateGraphic(value) as Record<'layers' | 'backdrop' | 'frames' | 'follows', unknown> | null | undefined;
  const rest = Rest.safeParse(now);
  if (!rest.success || !Array.isArray(now?.layers) || now.layers.length > limits.layers) return null;
  const layers = now.layers.map(readLayer);
  const frames = readFrames(now.frames);
  const backdrop = readBackdrop(now.backdrop);
  const follows = now.follows === undefined ? undefined : readFollows(now.follows);
  if (!backdrop || !frames || follows === null || layers.includes(null)) return null;
  return { ...rest.data, layers: layers as Layer[], backdrop, frames, ...(follows ? { follows } : {}) };
}

/** What lists show of a graphic. */
export type Listed = Pick<Graphic, 'name' | 'frames' | 'madeFrom'>;

const ListedParts = GraphicRecord.pick({ version: true, name: true, madeFrom: true });

/** What lists show, read from what was kept of a graphic of this version; null where it cannot be. */
export function readListed(value: unknown): Listed | null {
  const read = ListedParts.safeParse(value);
  const frames = readFrames((value as { frames?: unknown } | null | undefined)?.frames);
  if (!read.success || !frames) return null;
  const { name, madeFrom } = read.data;
  return { name, frames, ...(madeFrom === undefined ? {} : { madeFrom }) };
}
