import '../zod-setup';
import * as z from 'zod';
import { PageColours } from '../page/colours';
import { FileFormat } from '../slot/slot';
import { AssetHash } from '../values';

/** What became of a file: `waiting` is in the queue (or was, when the page went), `down` was taken away there. */
export const sentStates = ['waiting', 'sent', 'failed', 'down'] as const;

/** What a visitor was found to be shown in a place, and when. */
export const liveWords = [
  'as-sent',
  're-encoded',
  'cut',
  'resized',
  'darkened',
  'changed',
  'other',
  'gone',
  'cached',
  'silent',
] as const;
export const Live = z.object({
  word: z.enum(liveWords),
  /** The sentence that says it. */
  said: z.string().max(400),
  /** ISO date and time. */
  at: z.string().max(40),
});
export type Live = z.infer<typeof Live>;

/** A file that was sent to a site, or was found there before; its bytes are kept beside it. */
export const SentFile = z.object({
  version: z.literal(1),
  id: z.string().min(1).max(64),
  site: z.string().min(1).max(64),
  slot: z.string().min(1).max(80),
  name: z.string().min(1).max(200),
  /** Where visitors find it; empty until that is known. */
  address: z.string().max(2000),
  state: z.enum(sentStates),
  /** Whether it is what its place shows, as far as we know. */
  shown: z.boolean(),
  /** When it was put there, ISO; of what was found there, when it was fetched. */
  at: z.string().max(40),
  type: FileFormat,
  width: z.number().positive(),
  height: z.number().positive(),
  bytes: z.number().int().nonnegative(),
  sha256: AssetHash,
  alt: z.string().max(500),
  colours: PageColours.nullable(),
  /** The graphic it was made from; null for what was there before. */
  graphic: z.object({ id: z.string().max(64), name: z.string().max(120), state: z.string().max(60) }).nullable(),
  /** The file whose place it took under the same name. */
  over: z.string().max(64).nullable(),
  live: Live.nullable(),
  /** Why it did not get there. */
  problem: z.string().max(400).nullable(),
});
export type SentFile = z.infer<typeof SentFile>;

/** What a slot shows as far as is known, and what it showed before, latest first. */
export function shownIn(slot: string, files: readonly SentFile[]): { now: SentFile | null; earlier: SentFile[] } {
  const own = files
    .filter((f) => f.slot === slot && (f.state === 'sent' || f.state === 'down'))
    .sort((a, b) => b.at.localeCompare(a.at));
  const now = own.find((f) => f.shown && f.state === 'sent') ?? null;
  return { now, earlier: own.filter((f) => f !== now) };
}

/** How long is waited before the nth further try (from 0), ms: doubled each time, to a minute (exponential backoff). */
export const waitBefore = (tries: number): number => Math.min(60_000, 1000 * 2 ** tries);

/** Problems that go by themselves, so that it is worth trying again. */
export const passes = (code: string): boolean => ['unreachable', 'cut-off', 'slow', 'busy'].includes(code);
