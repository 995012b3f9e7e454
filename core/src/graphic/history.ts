import '../zod-setup';
import * as z from 'zod';
import { bad, good, type Result } from '../problem';
import { cutText, nameFrom } from '../text';
import { checkGraphic, heldWithin, readGraphic } from './check';
import { applyEdit, type Change, type Edit } from './edit';
import { GRAPHIC_VERSION, Graphic, GraphicRecord } from './graphic';
import { migrateGraphic } from './migrate';
import { limits } from '../limits';

/** What every step has, however it is stored. */
export const stepOwn = {
  id: z.string().min(1).max(64),
  graphicId: z.string().min(1).max(64),
  parent: z.string().nullable(),
  name: z.string().max(limits.step),
  merge: z.string().max(300).optional(),
  /** Milliseconds since 1970. */
  at: z.number(),
  /** What its state is called, where it is a version to come back to. */
  called: z.string().min(1).max(limits.name).optional(),
};

/** One node of the history: the graphic as it stood after an edit. */
export const Step = z.object({ ...stepOwn, graphic: Graphic });
export type Step = z.infer<typeof Step>;

/** A step whose graphic is of this version already. */
export const StepNow = z.object({ ...stepOwn, graphic: GraphicRecord });

/** Whether a stored step, as it was read, holds a graphic, or a patch of one, that a later version of this app wrote. */
export function isNewerStep(step: unknown): boolean {
  const graphic = (step as { graphic?: unknown } | null | undefined)?.graphic;
  return isNewer(graphic === undefined ? step : graphic, GRAPHIC_VERSION);
}

/** Whether something that was read says it is of a later version than `most`. */
export function isNewer(value: unknown, most: number): boolean {
  if (typeof value !== 'object' || value === null || !('version' in value)) return false;
  const { version } = value;
  return (typeof version === 'number' || typeof version === 'string') && Number(version) > most;
}

/** A tree of snapshots; `next` remembers, for each step, the child that redo goes to. By id, which may be any text. */
export interface History {
  readonly steps: ReadonlyMap<string, Step>;
  readonly head: string;
  readonly next: ReadonlyMap<string, string>;
}

/** How long after a step an edit with the same key still joins it, in ms. */
export const MERGE_WITHIN = 4000;

/** A history of one step: the graphic as it was made. */
export function startHistory(graphic: Graphic, id: string, at: number, name = 'Made'): History {
  const step = { id, graphicId: graphic.id, parent: null, name: cutText(name, limits.step, true), at, graphic };
  return { steps: new Map([[id, step]]), head: id, next: new Map() };
}

/** A stored step as it is read: of any version, what is beyond a limit held within it. Null where it cannot be read. */
export function readStep(record: unknown): Step | null {
  if (typeof record !== 'object' || record === null || !('graphic' in record)) return null;
  if (known.has(record)) return record as Step;
  const step = readAny(record);
  if (step) known.add(step);
  return step;
}

/** Steps that were read are not read again. */
const known = new WeakSet<object>();
const StepOwn = z.object(stepOwn);

function readAny(record: { readonly graphic: unknown }): Step | null {
  if (isNewerStep(record)) return null;
  const own = StepOwn.safeParse(record);
  const graphic = own.success ? readGraphic(record.graphic) : null;
  if (own.success && graphic) return { ...own.data, graphic };
  const now = { ...record, graphic: migrateGraphic(record.graphic) };
  return heldWithin(StepNow, now)?.value ?? null;
}

/** Steps that were read, each once, in a tree: every parent among them, none its own ancestor. */
export interface ReadSteps {
  readonly steps: readonly Step[];
  /** How many could not be read, and were passed over. */
  readonly passed: number;
}

/**
 * Reads one graphic's stored steps. What cannot be read is passed over: what came after it follows what came before
 * it. Repeated ids, parents that are missing and rings are mended; a step of another graphic is none of these.
 */
export function readSteps(records: readonly unknown[], graphicId: string): ReadSteps {
  const steps = new Map<string, Step>();
  /** For what is passed over, the step it followed. */
  const before = new Map<string, string | null>();
  for (const record of records) {
    const step = readStep(record);
    if (step && step.graphicId === graphicId && !steps.has(step.id))
      steps.set(
        step.id,
        step.graphic.id === graphicId ? step : { ...step, graphic: { ...step.graphic, id: graphicId } },
      );
    else if (!step) {
      const { id, parent } = (record ?? {}) as { id?: unknown; parent?: unknown };
      if (typeof id === 'string') before.set(id, typeof parent === 'string' ? parent : null);
    }
  }
  const parents = mendedParents(steps.values(), before);
  const tree = [...steps.values()].map((s) => {
    const parent = parents.get(s.id) ?? null;
    return parent === s.parent ? s : { ...s, parent };
  });
  return { steps: tree, passed: records.length - steps.size };
}

/**
 * For each step the one it follows, so that all of them make a tree. `passed`: for steps that are not among them, the
 * one each followed. A parent that is nowhere is none, a ring is cut where it is come upon.
 */
export function mendedParents(
  steps: Iterable<{ readonly id: string; readonly parent: string | null }>,
  passed: ReadonlyMap<string, string | null>,
): Map<string, string | null> {
  const own = new Map<string, string | null>();
  for (const { id, parent } of steps) own.set(id, parent);
  const parents = new Map<string, string | null>();
  for (const [id, parent] of own) {
    let at = parent;
    const seen = new Set<string>();
    while (at !== null && !own.has(at)) {
      const further: string | null = seen.has(at) ? null : (passed.get(at) ?? null);
      seen.add(at);
      at = further;
    }
    parents.set(id, at);
  }
  // What was seen to lead to a root is not walked again.
  const rooted = new Set<string>();
  for (const id of parents.keys()) {
    const walked = new Set<string>();
    for (let at: string | null = id; at !== null && !rooted.has(at); at = parents.get(at) ?? null) {
      walked.add(at);
      const parent = parents.get(at) ?? null;
      if (parent !== null && walked.has(parent)) parents.set(at, null);
    }
    for (const w of walked) rooted.add(w);
  }
  return parents;
}

/** The pairs of a record that was stored or sent, whatever they are called. */
export function pairsOf(next: unknown): [string, string][] {
  if (typeof next !== 'object' || next === null) return [];
  return Object.entries(next).filter((pair): pair is [string, string] => typeof pair[1] === 'string');
}

/**
 * Builds a history from steps in a tree (see `readSteps`); the latest child of each is where redo leads unless `next`
 * says otherwise. A head that is not among them: the latest step is. Null where there are none.
 */
export function historyFrom(steps: readonly Step[], head: string, next: ReadonlyMap<string, string>): History | null {
  const byId = new Map(steps.map((s) => [s.id, s]));
  const inTime = [...steps].sort((a, b) => a.at - b.at);
  const last = inTime.at(-1);
  if (!last) return null;
  const latest = new Map<string, string>();
  for (const s of inTime) if (s.parent !== null) latest.set(s.parent, s.id);
  for (const [parent, child] of next) if (byId.get(child)?.parent === parent) latest.set(parent, child);
  return { steps: byId, head: byId.has(head) ? head : last.id, next: latest };
}

/**
 * A history of which the head was read first, once the steps before and beside it are read too (see `readSteps`). What
 * is in hand is newer than what was read; which step follows which was mended in what was read.
 */
export function withEarlier(h: History, read: readonly Step[]): History {
  const steps = new Map(read.map((s) => [s.id, s]));
  for (const own of h.steps.values()) {
    const parent = steps.get(own.id)?.parent;
    steps.set(own.id, parent === undefined || parent === own.parent ? own : { ...own, parent });
  }
  return historyFrom([...steps.values()], h.head, h.next)!;
}

/** The step that is shown. */
export const headOf = (h: History): Step => h.steps.get(h.head)!;
export const current = (h: History): Graphic => headOf(h).graphic;
/** Whether there is a step before; it may not be read yet. */
export const canUndo = (h: History): boolean => headOf(h).parent !== null;
export const canRedo = (h: History): boolean => h.next.has(h.head);

const withStep = (h: History, step: Step): ReadonlyMap<string, Step> => new Map(h.steps).set(step.id, step);

/** A history after a change, and in words what of the change had to be left out. */
export interface Committed {
  readonly history: History;
  readonly told: readonly string[];
}

/**
 * Commits an edit as a new step (or joins it to the head, see `Edit.merge`). What changes is held within its limits;
 * fails where it could not be opened again (see `checkGraphic`). An edit that changes nothing gives the same history.
 */
export function commit(h: History, edit: Edit, id: string, at: number): Result<Committed> {
  const head = headOf(h);
  const applied = applyEdit(head.graphic, edit);
  if (applied === head.graphic) return good({ history: h, told: [] });
  const checked = checkGraphic(applied);
  if (!checked.ok) return checked;
  const { value: graphic, told } = checked.value;
  if (!id || h.steps.has(id)) return bad('step', 'That change could not be kept. Try it again.');
  const joins =
    edit.merge !== undefined &&
    edit.merge === head.merge &&
    head.parent !== null &&
    // A version stays as it was.
    head.called === undefined &&
    at - head.at <= MERGE_WITHIN &&
    !canRedo(h);
  const step: Step = joins
    ? { ...head, graphic, at }
    : {
        id,
        graphicId: head.graphicId,
        parent: head.id,
        name: cutText(edit.name.toWellFormed(), limits.step, true),
        at,
        graphic,
        ...(edit.merge === undefined ? {} : { merge: cutText(edit.merge, 300) }),
      };
  return good({
    history: {
      steps: withStep(h, step),
      head: step.id,
      next: joins ? h.next : new Map(h.next).set(head.id, step.id),
    },
    told,
  });
}

/**
 * Brings the head's graphic up to date with what follows from it (a veil's least strength, what a field says): no step
 * of its own, since nobody took it. The same history where nothing changes, or where it could not be opened again.
 */
export function amend(h: History, change: Change): History {
  const head = headOf(h);
  const applied = applyEdit(head.graphic, change);
  if (applied === head.graphic) return h;
  const checked = checkGraphic(applied);
  return checked.ok ? { ...h, steps: withStep(h, { ...head, graphic: checked.value.value }) } : h;
}

/** One step back; the same history at its beginning. */
export function undo(h: History): History {
  const { parent } = headOf(h);
  return parent === null || !h.steps.has(parent)
    ? h
    : { ...h, head: parent, next: new Map(h.next).set(parent, h.head) };
}

/** One step forward along the branch last walked; the same history at its end. */
export function redo(h: History): History {
  const child = h.next.get(h.head);
  return child === undefined || !h.steps.has(child) ? h : { ...h, head: child };
}

/** Goes to any step; redo from its ancestors then leads back to it. */
export function goTo(h: History, id: string): History {
  if (!h.steps.has(id) || id === h.head) return h;
  const next = new Map(h.next);
  for (let s = h.steps.get(id); s && s.parent !== null; s = h.steps.get(s.parent)) next.set(s.parent, s.id);
  return { ...h, head: id, next };
}

/** A step named as a version to come back to; no longer one where the name is empty. The same history where it has that name. */
export function called(h: History, id: string, name: string): History {
  const step = h.steps.get(id);
  const text = nameFrom(name, limits.name, '');
  if (!step || (step.called ?? '') === text) return h;
  const next = { ...step };
  delete next.called;
  return { ...h, steps: withStep(h, text ? { ...next, called: text } : next) };
}

/** The versions of a graphic, the latest first. */
export const versionsOf = (h: History): Step[] =>
  [...h.steps.values()].filter((s) => s.called !== undefined).sort((a, b) => b.at - a.at);

/** The steps in a row, as far as they are read: from the beginning through the head to the end of its branch. */
export function line(h: History): Step[] {
  const back: Step[] = [];
  for (let s: Step | undefined = headOf(h); s; s = s.parent === null ? undefined : h.steps.get(s.parent)) back.push(s);
  back.reverse();
  const follows = (s: Step) => h.steps.get(h.next.get(s.id) ?? '');
  for (let s = follows(headOf(h)); s; s = follows(s)) back.push(s);
  return back;
}
