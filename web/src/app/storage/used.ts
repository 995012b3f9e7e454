import type { Database } from './database';

/**
 * What is used: every hash that stands in a step of any graphic, also in one that cannot be read here, and beside
 * graphics, as the house style's logos and what is just being brought back do; and those of `families` that words are set in. To be called in a transaction
 * over steps and settings.
 */
export async function usedIn(
  { steps, settings }: Database,
  families: readonly string[] = [],
): Promise<{ hashes: ReadonlySet<string>; families: ReadonlySet<string> }> {
  const hashes = new Set<string>();
  const set = new Set<string>();
  const look = (value: unknown) => {
    const text = JSON.stringify(value) ?? '';
    for (const [hash] of text.matchAll(/[0-9a-f]{64}/g)) hashes.add(hash);
    for (const family of families) if (text.includes(`"family":${JSON.stringify(family)}`)) set.add(family);
  };
  await steps.each((step: unknown) => look(step));
  await settings.each(({ value }) => look(value));
  return { hashes, families: set };
}
