import * as z from 'zod';

/**
 * What was not on disk yet when the page went: kept where writing takes no waiting (a transaction of the database that
 * still has to read cannot end once its page is gone), and written properly at the next start.
 */
const KEY = 'bright-slot-last-words';

const LastWords = z.object({
  graphicId: z.string(),
  token: z.string(),
  head: z.string(),
  next: z.array(z.tuple([z.string(), z.string()])),
  /** As they were to be written. */
  steps: z.array(z.unknown()).max(1000),
  at: z.number(),
});
export type LastWords = z.infer<typeof LastWords>;

const keyOf = (token: string) => `${KEY}/${token}`;

/** Keeps what a session has not written; false where there is no room for it. */
export function keepLastWords(words: LastWords, storage: Storage = localStorage): boolean {
  try {
    storage.setItem(keyOf(words.token), JSON.stringify(words));
    return true;
  } catch {
    return false;
  }
}

/** Takes out all that was kept. What cannot be read is gone with it. */
export function takeLastWords(storage: Storage = localStorage): LastWords[] {
  const keys = Array.from({ length: storage.length }, (_, i) => storage.key(i)).filter((k) => k?.startsWith(`${KEY}/`));
  return keys.flatMap((key) => {
    try {
      const read = LastWords.safeParse(JSON.parse(storage.getItem(key!) ?? ''));
      return read.success ? [read.data] : [];
    } catch {
      return [];
    } finally {
      storage.removeItem(key!);
    }
  });
}
