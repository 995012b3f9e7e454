import '../zod-setup';
import * as z from 'zod';
import type { Slot } from '../slot/slot';
import type { SentFile } from './sent-file';

/** A file that a place shows together with others: at random, by its share, or in a row, as an item of its own. */
export const Member = z.object({
  /** The sent file's id. */
  file: z.string().min(1).max(64),
  /** Which item of a menu or row carries it; empty where that is not said. */
  label: z.string().max(60),
  /** How often it is shown, against the others. */
  share: z.number().int().min(0).max(100),
});
export type Member = z.infer<typeof Member>;

/** Whether a place shows several files: at random, or side by side. */
export const holdsSeveral = (slot: Pick<Slot, 'oneOfSeveral' | 'rowShows'>): 'random' | 'row' | null =>
  slot.oneOfSeveral ? 'random' : slot.rowShows > 1 ? 'row' : null;

/** How often each is shown, as shares of 1; all alike where none has any. */
export function sharesOf(members: readonly Pick<Member, 'share'>[]): number[] {
  const total = members.reduce((sum, m) => sum + m.share, 0);
  return members.map((m) => (total > 0 ? m.share / total : 1 / members.length));
}

/** Which member a number from 0 up to 1 falls to; -1 where there are none. */
export function memberAt(members: readonly Pick<Member, 'share'>[], chance: number): number {
  let left = chance;
  const shares = sharesOf(members);
  for (const [i, share] of shares.entries()) {
    left -= share;
    if (left < 0) return i;
  }
  // What is left of rounding falls to the last that is shown at all.
  return shares.findLastIndex((s) => s > 0);
}

/** Members whose files are still known, in their order. */
export function membersWith(
  members: readonly Member[],
  files: readonly SentFile[],
): { readonly member: Member; readonly file: SentFile }[] {
  const byId = new Map(files.map((f) => [f.id, f]));
  return members.flatMap((member) => {
    const file = byId.get(member.file);
    return file ? [{ member, file }] : [];
  });
}

/** What is said before another is added to a row that is full; empty where there is room. */
export function rowFullText(slot: Pick<Slot, 'name' | 'oneOfSeveral' | 'rowShows'>, there: number): string {
  if (holdsSeveral(slot) !== 'row' || there < slot.rowShows) return '';
  return `“${slot.name}” shows ${slot.rowShows}, and ${there} are there: this one would not be seen. Take one out on Sites first, or let it come before another.`;
}

/** A list with one of its items moved by so many places, kept within it. */
export function movedBy<T>(list: readonly T[], at: number, by: number): T[] {
  const next = [...list];
  const [item] = next.splice(at, 1);
  if (item !== undefined) next.splice(Math.max(0, Math.min(next.length, at + by)), 0, item);
  return next;
}
