import '../zod-setup';
import * as z from 'zod';
import { readGraphic } from '../graphic/check';
import { GraphicRecord, type Graphic } from '../graphic/graphic';
import { limits } from '../limits';
import { TileSet } from './tile-set';

const id = z.string().min(1).max(64);

/** One making of a set, or of a graphic, kept whole: what it held when the next was begun. */
export const Edition = z.object({
  version: z.literal(1),
  id,
  /** The set, or the graphic, it is an edition of. */
  of: id,
  name: z.string().min(1).max(limits.name),
  /** When it was put aside, ISO 8601. */
  until: z.string().max(100),
  /** The set itself; null for an edition of one graphic. */
  set: TileSet.nullable(),
  graphics: z.array(GraphicRecord).max(limits.tiles),
});
export type Edition = z.infer<typeof Edition>;

/** A stored edition, its graphics brought up to date; null where any of it cannot be read. */
export function readEdition(value: unknown): Edition | null {
  const raw = value as { graphics?: unknown } | null | undefined;
  if (!Array.isArray(raw?.graphics)) return null;
  const graphics = raw.graphics.map(readGraphic);
  if (graphics.includes(null)) return null;
  const rest = Edition.omit({ graphics: true }).safeParse(value);
  return rest.success ? { ...rest.data, graphics: graphics as Graphic[] } : null;
}
