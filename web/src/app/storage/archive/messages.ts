import * as z from 'zod';

export const ArchiveTask = z.discriminatedUnion('kind', [
  /** Everything in this browser, as one zip. */
  z.object({ kind: z.literal('pack') }),
  /** Some graphics, as they are now, with what they use. */
  z.object({ kind: z.literal('bundle'), graphics: z.array(z.string()).min(1).max(100_000) }),
  /** What a zip holds, brought back beside what is here. */
  z.object({ kind: z.literal('bring-back'), file: z.instanceof(Blob) }),
]);
export type ArchiveTask = z.infer<typeof ArchiveTask>;

/** What was brought back: new graphics, ones that stood here just the same, pictures that were missing; and what was left out. */
export const BroughtBack = z.object({
  graphics: z.number(),
  same: z.number(),
  pictures: z.number(),
  left: z.array(z.string()),
});
export type BroughtBack = z.infer<typeof BroughtBack>;

export const ArchiveReply = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('progress'), done: z.number(), of: z.number() }),
  z.object({ kind: z.literal('packed'), blob: z.instanceof(Blob), left: z.array(z.string()) }),
  z.object({ kind: z.literal('brought'), summary: BroughtBack }),
  z.object({ kind: z.literal('problem'), message: z.string() }),
]);
export type ArchiveReply = z.infer<typeof ArchiveReply>;
