import { intersection } from '../geometry/box';
import { isPicture, type Graphic, type Layer, type PictureLayer, type WordsLayer } from '../graphic/graphic';
import { layerBounds } from '../graphic/shape-geometry';
import { layoutOf } from '../words/layout';
import type { Shaper } from '../words/shaper';

/** What a layer is for in a graphic, by which it is composed anew. */
export const composeRoles = ['title', 'line', 'note', 'photo', 'subject', 'logo', 'ornament', 'band', 'veil'] as const;
export type ComposeRole = (typeof composeRoles)[number];

/** Which roles a layer can be given: what it is limits what it is for. */
export function rolesFor(layer: Layer): readonly ComposeRole[] {
  if (layer.role === 'words') return ['title', 'line', 'note'];
  if (layer.role === 'veil') return ['veil'];
  if (layer.role === 'shape') return ['band', 'ornament'];
  return ['photo', 'subject', 'logo', 'ornament'];
}

/** A picture takes this share of the canvas or more: it is the photo. Common practice, no source. */
const MOST_OF_IT = 0.45;
/** A shape runs along this share of a side or more: it is a band. Common practice, no source. */
const ALONG = 0.9;

/** The largest type of a block, canvas px. */
export const typeSize = (layer: WordsLayer, shaper: Shaper): number =>
  Math.max(0, ...layer.paragraphs.flatMap((p) => p.runs.map((r) => r.size))) * layoutOf(layer, shaper).by;

function pictureRole(layer: PictureLayer, graphic: Graphic, shaper: Shaper, logos: ReadonlySet<string>): ComposeRole {
  const { width, height } = graphic.canvas;
  const box = layerBounds(layer, graphic, shaper);
  const seen = intersection(box, { x: 0, y: 0, width, height });
  const share = seen ? (seen.width * seen.height) / (width * height) : 0;
  if (logos.has(layer.asset)) return 'logo';
  if (layer.role === 'photo') {
    if (layer.place.mode === 'cover' || (share >= MOST_OF_IT && !layer.cutout)) return 'photo';
    return 'subject';
  }
  // A logo is as it came: nothing was taken from it, and it is not most of the picture.
  if (layer.cutout?.kind === 'subject' || share >= MOST_OF_IT) return 'subject';
  return layer.tint ? 'ornament' : 'logo';
}

/**
 * What each layer is for, as far as it can be told from what it is: the largest words are the title, what covers the
 * canvas is the photo, what runs along a side a band. `logos`: hashes of the house's own. What is hidden has no role.
 */
export function proposedRoles(
  graphic: Graphic,
  shaper: Shaper,
  logos: ReadonlySet<string> = new Set(),
): Map<string, ComposeRole> {
  const roles = new Map<string, ComposeRole>();
  const seen = graphic.layers.filter((l) => l.visible);
  const words = seen.filter((l): l is WordsLayer => l.role === 'words');
  const noted = new Set(seen.flatMap((l) => (l.role === 'shape' && l.place.mode === 'around' ? [l.place.words] : [])));
  const plain = words.filter((w) => !noted.has(w.id) && !w.ground);
  const title = [...(plain.length ? plain : words)].sort((a, b) => typeSize(b, shaper) - typeSize(a, shaper))[0];
  for (const layer of seen) {
    if (layer.role === 'veil') roles.set(layer.id, 'veil');
    else if (layer.role === 'words')
      roles.set(layer.id, layer === title ? 'title' : noted.has(layer.id) || layer.ground ? 'note' : 'line');
    else if (isPicture(layer)) roles.set(layer.id, pictureRole(layer, graphic, shaper, logos));
    // A note's ground goes with its words; it is nothing by itself.
    else if (layer.place.mode !== 'around') {
      const box = layerBounds(layer, graphic, shaper);
      const { width, height } = graphic.canvas;
      const along = box.width >= ALONG * width || box.height >= ALONG * height;
      roles.set(
        layer.id,
        layer.place.mode === 'band' || (along && layer.form.kind === 'rectangle') ? 'band' : 'ornament',
      );
    }
  }
  // Several pictures may cover the canvas: the one in front is seen.
  const photos = seen.filter((l) => roles.get(l.id) === 'photo');
  for (const photo of photos.slice(0, -1)) if (isPicture(photo)) roles.set(photo.id, 'subject');
  return roles;
}
