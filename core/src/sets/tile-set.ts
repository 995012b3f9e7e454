import '../zod-setup';
import * as z from 'zod';
import { LayoutLook, PlacedPicture } from '../graphic/contents';
import { limits } from '../limits';
import { SlotRecord } from '../slot/slot';

const id = z.string().min(1).max(64);

/** Graphics of one slot that are made alike, each with a word and a photo of its own, in the order of the page. */
export const TileSet = z.object({
  version: z.literal(1),
  id,
  name: z.string().min(1).max(limits.name),
  created: z.string().max(100),
  slot: SlotRecord,
  /** The layout all of them follow, what it is made of, and what is the same on each. */
  layout: z.string().min(1).max(40),
  look: LayoutLook,
  logo: PlacedPicture.nullable(),
  /** The tiles' graphics. What each says and shows is in the graphic itself. */
  graphics: z.array(id).max(limits.tiles),
});
export type TileSet = z.infer<typeof TileSet>;

/** A stored set; null where it cannot be read. */
export function readTileSet(value: unknown): TileSet | null {
  return TileSet.safeParse(value).data ?? null;
}
