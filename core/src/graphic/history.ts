import '../zod-setup';
import * as z from 'zod';
import { GRAPHIC_VERSION, Graphic } from './graphic';
import { applyEdit, type Change, type Edit } from './edit';

/** One node of the history: the graphic as it stood after an edit. */
export const Step = z.object({
  id: z.string().min(1).max(64),
  graphicId: z.string().min(1).max(64),
  parent: z.string().nullable(),
  name: z.string().max(200),
  merge: z.string().optional(),
  /** Milliseconds since 1970. */
  at: z.number(),
  graphic: Graphic,
});
export type Step = z.infer<typeof Step>;

/** Whether a stored step, as it was read, holds a graphic that a later version of this app wrote. */
export function isNewerStep(step: unknown): boolean {
  return isNewer((step as { graphic?: unknown } | null | undefined)?.graphic, GRAPHIC_VERSION);
}

/** Whether something that was read says it is of a later version than `most`. */
export function isNewer(value: unknown, most: number): boolean {
  return typeof value === 'object' && value !== null && 'version' in value && Number(value.version) > most;
}

/** A tree of snapshots; `next` remembers, for each step, the child that redo goes to. */
export interface History {
  readonly steps: Readonly<Record<string, Step>>;
  readonly head: string;
  readonly next: Readonly<Record<string, string>>;
}

/** How long after a step an edit with the same key still joins it, in ms. */
export const MERGE_WITHIN = 4000;

/** A history of one step: the graphic as it was made. */
export function startHistory(graphic: Graphic, id: string, at: number, name = 'Made'): History {
  return { steps: { [id]: { id, graphicId: graphic.id, parent: null, name, at, graphic } }, head: id, next: {} };
}

/** Rebuilds a history from stored steps; the latest child of each is where redo leads unless `next` says otherwise. */
export function historyFrom(
  steps: readonly Step[],
  head: string,
  next: Readonly<Record<string, string>>,
): History | null {
  const byId = Object.fromEntries(steps.map((s) => [s.id, s]));
  if (!byId[head]) return null;
  const latest: Record<string, string> = {};
  for (const s of [...steps].sort((a, b) => a.at - b.at)) if (s.parent) latest[s.parent] = s.id;
  for (const [parent, child] of Object.entries(next)) if (byId[child]?.parent === parent) latest[parent] = child;
  return { steps: byId, head, next: latest };
}

export const current = (h: History): Graphic => h.steps[h.head]!.graphic;
export const canUndo = (h: History): boolean => h.steps[h.head]!.parent !== null;
export const canRedo = (h: History): boolean => h.next[h.head] !== undefined;

/**
 * Commits an edit as a new step (or joins it to the head, see `Edit.merge`).
 * An edit that changes nothing gives the same history.
 */
export function commit(h: History, edit: Edit, id: string, at: number): History {
  const head = h.steps[h.head]!;
  const graphic = applyEdit(head.graphic, edit);
  if (graphic === head.graphic) return h;
  const joins =
    edit.merge !== undefined &&
    edit.merge === head.merge &&
    head.parent !== null &&
    at - head.at <= MERGE_WITHIN &&
    !canRedo(h);
  const step: Step = joins
    ? { ...head, graphic, at }
    : {
        id,
        graphicId: head.graphicId,
        parent: head.id,
        name: edit.name,
        at,
        graphic,
        ...(edit.merge === undefined ? {} : { merge: edit.merge }),
      };
  return {
    steps: { ...h.steps, [step.id]: step },
    head: step.id,
    next: joins ? h.next : { ...h.next, [head.id]: step.id },
  };
}

/**
 * Brings the head's graphic up to date with what follows from it (a veil's least strength, what a field says): no step
 * of its own, since nobody took it. The same history where nothing changes.
 */
export function amend(h: History, change: Change): History {
  const head = h.steps[h.head]!;
  const graphic = applyEdit(head.graphic, change);
  return graphic === head.graphic ? h : { ...h, steps: { ...h.steps, [head.id]: { ...head, graphic } } };
}

/** One step back; the same history at its beginning. */
export function undo(h: History): History {
  const { parent } = h.steps[h.head]!;
  return parent === null ? h : { ...h, head: parent, next: { ...h.next, [parent]: h.head } };
}

/** One step forward along the branch last walked; the same history at its end. */
export function redo(h: History): History {
  const child = h.next[h.head];
  return child === undefined ? h : { ...h, head: child };
}

/** Goes to any step; redo from its ancestors then leads back to it. */
export function goTo(h: History, id: string): History {
  if (!h.steps[id] || id === h.head) return h;
  const next = { ...h.next };
  for (let s = h.steps[id]; s.parent !== null; s = h.steps[s.parent]!) next[s.parent] = s.id;
  return { ...h, head: id, next };
}

/** The steps in a row: from the beginning through the head to the end of its branch. */
export function line(h: History): Step[] {
  const back: Step[] = [];
  for (let s: Step | undefined = h.steps[h.head]; s; s = s.parent === null ? undefined : h.steps[s.parent])
    back.unshift(s);
  for (let child = h.next[h.head]; child !== undefined; child = h.next[child]) back.push(h.steps[child]!);
  return back;
}
