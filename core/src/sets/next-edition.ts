import type { PlacedPicture } from '../graphic/contents';
import { isPicture, type Graphic, type PictureLayer } from '../graphic/graphic';
import { swapped } from '../graphic/swap';
import { textOf } from '../words/words';

/** The photos of a graphic that a next edition takes others for: each once, in the order they stand in, back to front. */
export function photosIn({ layers }: Graphic): PictureLayer[] {
  const found = new Map<string, PictureLayer>();
  for (const layer of layers)
    if (isPicture(layer) && layer.role === 'photo' && layer.visible && !found.has(layer.asset))
      found.set(layer.asset, layer);
  return [...found.values()];
}

/** A graphic with other photos in the place of its own, in their order; those for which there is none, or null, stay. */
export function withPhotos(graphic: Graphic, photos: readonly (PlacedPicture | null)[]): Graphic {
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
