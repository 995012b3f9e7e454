import type { Database } from './database';

const FONT = 'font/';

/** What a step, or anything else that is stored, uses: hashes of pictures, and fonts by their families. */
export function usesIn(value: unknown): Set<string> {
  const found = new Set<string>();
  JSON.stringify(value, (key, v: unknown) => {
    if (typeof v !== 'string') return v;
    if (key === 'family') found.add(FONT + v);
    for (const [hash] of v.length < 64 ? [] : v.matchAll(/[0-9a-f]{64}/g)) found.add(hash);
    return undefined;
  });
  return found;
}

/**
 * What is used: by any step of any graphic, also by one that cannot be read here, and beside graphics, as the house
 * style's logos, screenshots of pages and what is just being brought back are. To be called in a transaction over uses,
 * settings and pages.
 */
export async function allUsed({ uses, settings, ownPages }: Database): Promise<{
  readonly hash: (hash: string) => boolean;
  readonly family: (family: string) => boolean;
}> {
  const used = new Set((await uses.orderBy('what').uniqueKeys()) as string[]);
  await settings.each((setting) => {
    for (const what of usesIn(setting)) used.add(what);
  });
  await ownPages.each((page) => {
    for (const what of usesIn(page)) used.add(what);
  });
  return { hash: (hash) => used.has(hash), family: (family) => used.has(FONT + family) };
}
