import * as z from 'zod';

/** What is asked of a drawing: to be made harmless, or for its outline. */
export const DrawingTask = z.object({
  kind: z.enum(['clean', 'outline']),
  file: z.instanceof(Blob),
  /** What a person is told it is called. */
  called: z.string(),
});
export type DrawingTask = z.infer<typeof DrawingTask>;

const problem = z.object({ code: z.string(), message: z.string() });

export const DrawingReply = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('clean'), svg: z.string(), width: z.number().positive(), height: z.number().positive() }),
  z.object({
    kind: z.literal('outline'),
    form: z.object({ kind: z.literal('path'), data: z.string(), width: z.number(), height: z.number() }),
  }),
  z.object({ kind: z.literal('problem'), problem }),
]);
export type DrawingReply = z.infer<typeof DrawingReply>;
