import type * as z from 'zod';

/** What of a table can be read; what cannot (damaged, or of a newer version) stays as it is. */
export function readable<T>(stored: readonly unknown[], schema: z.ZodType<T>): T[] {
  return stored.flatMap((s) => {
    const read = schema.safeParse(s);
    return read.success ? [read.data] : [];
  });
}
