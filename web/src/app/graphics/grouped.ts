import { frameOf, slotGroups, type Slot } from '@bright-slot/core';
import type { GraphicEntry } from '../storage/graphics-repository';

/** Made once: ten thousand names are put in order by it. */
export const byName = new Intl.Collator('en', { numeric: true });

/** Whether all words of a query are in a name, a slot's name or size, or what else is said. */
export function finder(query: string): (name: string, slot: Slot, said: string) => boolean {
  const words = query.toLowerCase().replace(/×/g, 'x').split(/\s+/).filter(Boolean);
  return (name, slot, said) => {
    const text = `${name} ${slot.name} ${slot.width}x${slot.height} ${said}`.toLowerCase();
    return words.every((w) => text.includes(w));
  };
}

/** Graphics that are found by all words of a query (their names, their slots' names and sizes, the collections they are in), under their slots' kinds. */
export function groupedBySlot(
  entries: readonly GraphicEntry[],
  query: string,
  sort: 'latest' | 'name',
  holding: ReadonlyMap<string, readonly string[]> = new Map(),
): { readonly name: string; readonly entries: readonly GraphicEntry[] }[] {
  const has = finder(query);
  const found = entries.filter((entry) => {
    const { slot } = frameOf(entry);
    const held = holding.get(entry.id)?.join(' ') ?? '';
    return has(entry.name, slot, held);
  });
  if (sort === 'name') found.sort((a, b) => byName.compare(a.name, b.name));
  return slotGroups
    .map((name) => ({ name, entries: found.filter((e) => frameOf(e).slot.group === name) }))
    .filter((g) => g.entries.length > 0);
}
