import type { Finding } from './rule';

/** What of a finding is told of several. */
export type Told = Pick<Finding, 'id' | 'group' | 'title'>;

/** What one rule found in several that are judged together. */
export interface Shared {
  readonly group: Finding['group'];
  /** What is said of the first. */
  readonly title: string;
  /** Whether just that is said of all. */
  readonly same: boolean;
  /** In which it was found, counted from 0. */
  readonly at: readonly number[];
}

/** What was found in several, each rule told once: what is to be fixed first, of that what is found most often. */
export function foundInSeveral(found: readonly (readonly Told[])[]): Shared[] {
  const by = new Map<string, Shared>();
  for (const [at, findings] of found.entries())
    for (const { id, group, title } of findings) {
      const rule = `${group} ${id.split(':')[0]}`;
      const known = by.get(rule) ?? { group, title, same: true, at: [] };
      by.set(rule, {
        ...known,
        same: known.same && known.title === title,
        at: known.at.includes(at) ? known.at : [...known.at, at],
      });
    }
  const rank = ({ group }: Shared) => (group === 'before' ? 0 : 1);
  return [...by.values()].sort((a, b) => rank(a) - rank(b) || b.at.length - a.at.length);
}

/** More numbers than these are not told one by one. */
const MOST_PARTS = 4;

/** It in a line, with the places it was found in of so many: “All: …”, “2 to 4: …”, “1, 3 and 7: …, and the like”. */
export function sharedText({ title, same, at }: Shared, of: number): string {
  const what = same ? title : `${title}, and the like`;
  if (of === 1) return what;
  return `${at.length === of ? 'All' : placesText(at)}: ${what}`;
}

function placesText(at: readonly number[]): string {
  const parts: string[] = [];
  for (let i = 0; i < at.length; i++) {
    const from = i;
    while (at[i + 1] === at[i]! + 1) i++;
    // Two beside each other are told as two.
    if (i === from + 1) parts.push(`${at[from]! + 1}`, `${at[i]! + 1}`);
    else parts.push(i === from ? `${at[i]! + 1}` : `${at[from]! + 1} to ${at[i]! + 1}`);
  }
  if (parts.length > MOST_PARTS) return `${at.length} of them, ${parts[0]} first`;
  return parts.length > 1 ? `${parts.slice(0, -1).join(', ')} and ${parts.at(-1)}` : parts[0]!;
}
