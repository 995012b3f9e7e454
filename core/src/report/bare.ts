import { without, type Box } from '../geometry/box';
import type { Backdrop, Graphic, Layer, PictureLayer } from '../graphic/graphic';
import { pictureGeometry } from '../graphic/picture-geometry';

/** The picture layers that are to be seen. */
export function visiblePictures(layers: readonly Layer[]): PictureLayer[] {
  return layers.filter((l): l is PictureLayer => l.role !== 'words' && l.visible);
}

/**
 * The parts of a canvas, canvas px, that neither the backdrop nor an opaque picture covers.
 * Strips thinner than 0.01 px count as met.
 */
export function bareParts(layers: readonly Layer[], backdrop: Backdrop, canvas: Graphic['canvas']): Box[] {
  if (backdrop.kind === 'colour') return [];
  let bare: Box[] = [{ x: 0, y: 0, ...canvas }];
  for (const layer of visiblePictures(layers).filter((p) => p.opaque)) {
    const { shown } = pictureGeometry(layer, canvas);
    bare = bare.flatMap((b) => without(b, shown)).filter((b) => b.width > 0.01 && b.height > 0.01);
  }
  return bare;
}
