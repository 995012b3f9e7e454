import '../zod-setup';
import * as z from 'zod';
import { readGraphic } from '../graphic/check';
import type { PlacedPicture } from '../graphic/contents';
import { GraphicRecord, isPicture, type Graphic, type PictureLayer } from '../graphic/graphic';
import { swapped } from '../graphic/swap';
import { limits } from '../limits';
import { textOf } from '../words/words';
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

/** The photos of a graphic that a next edition takes others for: each once, in the order they stand in, back to front. */
export function photosIn({ layers }: Graphic): PictureLayer[] {
  const found = new Map<string, PictureLayer>();
  for (const layer of layers)
    if (isPicture(layer) && layer.role === 'photo' && layer.visible && !found.has(layer.asset))
      found.set(layer.asset, layer);
  return [...found.values()];
}

/** A graphic with other photos in the place of its own, in their order; those that no other is given for stay. */
export function withPhotos(graphic: Graphic, photos: readonly PlacedPicture[]): Graphic {
  const by = new Map(photosIn(graphic).map((l, i) => [l.asset, photos[i]]));
  const layers = graphic.layers.map((layer) => {
    const next = isPicture(layer) && layer.role === 'photo' ? by.get(layer.asset) : undefined;
    return next && next.asset !== (layer as PictureLayer).asset
      ? swapped(layer as PictureLayer, next, graphic.canvas)
      : layer;
  });
  return { ...graphic, layers };
}

/** What is otherwise in a graphic than in another making of it. */
export interface EditionChange {
  /** By layer: what it said or showed, and says or shows. */
  readonly what: 'words' | 'photo' | 'other';
  readonly before: string;
  readonly after: string;
}

/** What changed from one making of a graphic to the next, as it is told: words, photos, and that something else did. */
export function editionChanges(before: Graphic, after: Graphic): EditionChange[] {
  const was = new Map(before.layers.map((l) => [l.id, l]));
  const told: EditionChange[] = [];
  let other = before.layers.some((l) => !after.layers.some((a) => a.id === l.id));
  for (const layer of after.layers) {
    const old = was.get(layer.id);
    if (old === layer) continue;
    if (layer.role === 'words' && old?.role === 'words' && textOf(old) !== textOf(layer))
      told.push({ what: 'words', before: textOf(old), after: textOf(layer) });
    else if (isPicture(layer) && old && isPicture(old) && old.asset !== layer.asset)
      told.push({ what: 'photo', before: old.name, after: layer.name });
    else if (JSON.stringify(old) !== JSON.stringify(layer)) other = true;
  }
  if (other && !told.length) told.push({ what: 'other', before: '', after: '' });
  return told;
}
