import type { Database } from './database';

/** A font of a family, as what is used is told. */
export const fontUse = (family: string): string => `font/${family}`;

/** What a step, or anything else that is stored, uses: hashes of pictures, and fonts by their families. */
export function usesIn(value: unknown): Set<string> {
  const found = new Set<string>();
  JSON.stringify(value, (key, v: unknown) => {
    if (typeof v !== 'string') return v;
    if (key === 'family') found.add(fontUse(v));
    for (const [hash] of v.length < 64 ? [] : v.matchAll(/[0-9a-f]{64}/g)) found.add(hash);
    return undefined;
  });
  return found;
}

/** Under which what a set of tiles, and what a kept edition uses, stands beside the graphics'. */
export const setUses = (id: string): string => `tiles/${id}`;
export const editionUses = (id: string): string => `edition/${id}`;

/** Notes what a record beside the graphics uses, so that it is not swept. Call it in a transaction over uses. */
export async function putUses({ uses }: Database, owner: string, record: unknown): Promise<void> {
  await uses.bulkPut([...usesIn(record)].map((what) => ({ graphicId: owner, what })));
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
  return { hash: (hash) => used.has(hash), family: (family) => used.has(fontUse(family)) };
}
