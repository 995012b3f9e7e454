import '../zod-setup';
import * as z from 'zod';
import { cutText } from '../text';

/** Most graphics of one collection, and most letters of its name. */
export const collectionLimits = { graphics: 20_000, name: 80, collections: 500 } as const;

/** Graphics that a person keeps together, whatever slots they are for; one may be in several. */
export const Collection = z.object({
  version: z.literal(1),
  id: z.string().min(1).max(64),
  name: z.string().min(1).max(collectionLimits.name),
  created: z.string().max(100),
  /** Ids, in the order in which they were put in, each once; what is deleted meanwhile is passed over. */
  graphics: z.array(z.string().min(1).max(64)).max(collectionLimits.graphics),
});
export type Collection = z.infer<typeof Collection>;

/** A name as a collection can have it, unlike those of others: what was typed, cut, with a number where it is taken. */
export function collectionName(typed: string, taken: readonly string[]): string {
  const plain = typed.toWellFormed().replace(/\s+/g, ' ').trim();
  const name = cutText(plain, collectionLimits.name - 5) || 'Collection';
  const known = new Set(taken.map((t) => t.toLowerCase()));
  if (!known.has(name.toLowerCase())) return name;
  for (let n = 2; ; n++) if (!known.has(`${name} ${n}`.toLowerCase())) return `${name} ${n}`;
}

/** A collection with a graphic put in or taken out; the same where that changes nothing, or it is full. */
export function withMember(collection: Collection, graphic: string, is: boolean): Collection {
  const { graphics } = collection;
  if (graphics.includes(graphic) === is) return collection;
  if (!is) return { ...collection, graphics: graphics.filter((g) => g !== graphic) };
  return graphics.length < collectionLimits.graphics ? { ...collection, graphics: [...graphics, graphic] } : collection;
}
