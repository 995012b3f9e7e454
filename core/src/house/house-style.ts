import '../zod-setup';
import * as z from 'zod';
import { DEFAULT_PATTERN } from '../export/name';
import { Colour } from '../graphic/graphic';

/** What a business's graphics have in common. */
export const HouseStyle = z.object({
  version: z.literal(1),
  /** Written into files' metadata; nothing is written when empty. */
  copyright: z.string().max(200),
  /** See `fileName`. */
  namePattern: z.string().min(1).max(120),
  colours: z.array(Colour).max(24),
});
export type HouseStyle = z.infer<typeof HouseStyle>;

/** The style before anyone has set one: no copyright, the usual name pattern, a few colours to hand. */
export const plainHouseStyle: HouseStyle = {
  version: 1,
  copyright: '',
  namePattern: DEFAULT_PATTERN,
  colours: ['#ffffff', '#f4e7cb', '#1f2a30', '#a4512f', '#5a7a6b'],
};

const PARTS = ['graphic', 'slot', 'date', 'letter'];

/** What is wrong with a name pattern, as a sentence; null for a good one. */
export function patternProblem(pattern: string): string | null {
  if (!pattern.trim()) return 'A name needs something in it.';
  const unknown = [...pattern.matchAll(/\{([^}]*)\}?/g)].find(
    ([whole, part]) => !whole.endsWith('}') || !PARTS.includes(part!),
  );
  if (unknown) return `${unknown[0]} is no part of a name: {graphic}, {slot}, {date} and {letter} are.`;
  if (!/\{(graphic|slot|date)\}|[a-z0-9]/i.test(pattern.replace('{letter}', '')))
    return 'A letter alone is too little for a name.';
  return null;
}
