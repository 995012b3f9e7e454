import { without, type Box } from '../geometry/box';
import { isOpaqueFill } from '../colour/fill';
import { isPicture, type Backdrop, type Graphic, type Layer, type PictureLayer } from '../graphic/graphic';
import { STRENGTHS, type ShapeLayer, type VeilLayer } from '../graphic/shape';
import { alongSide } from '../graphic/shape-geometry';
import { pictureBounds } from '../graphic/picture-geometry';

/** The picture layers that are to be seen. */
export function visiblePictures(layers: readonly Layer[]): PictureLayer[] {
  return layers.filter((l): l is PictureLayer => isPicture(l) && l.visible);
}

/**
 * The parts of a canvas within a box, canvas px, that neither the backdrop nor an opaque layer covers.
 * Strips thinner than 0.01 px count as met.
 */
export function uncoveredParts(
  layers: readonly Layer[],
  backdrop: Backdrop,
  canvas: Graphic['canvas'],
  within: Box,
): Box[] {
  if (isOpaqueFill(backdrop)) return [];
  let uncovered: Box[] = [within];
  for (const layer of layers) {
    if (!layer.visible) continue;
    const solid = solidBoxOf(layer, canvas);
    if (solid) uncovered = uncovered.flatMap((b) => without(b, solid)).filter((b) => b.width > 0.01 && b.height > 0.01);
  }
  return uncovered;
}

/** The box that a layer covers with nothing showing through, canvas px; null for none to speak of. */
export function solidBoxOf(layer: Layer, canvas: Graphic['canvas']): Box | null {
  if (layer.role === 'words') return null;
  return isPicture(layer) ? solidBox(layer, canvas) : solidSheet(layer, canvas);
}

/** The box that a shape or a veil covers with nothing showing through, canvas px; null for none to speak of. */
function solidSheet(layer: ShapeLayer | VeilLayer, canvas: Graphic['canvas']): Box | null {
  const whole = { x: 0, y: 0, ...canvas };
  if (layer.role === 'veil') return layer.form.kind === 'whole' && layer.strength === STRENGTHS - 1 ? whole : null;
  const { form, fill, corners, opacity, turn, place } = layer;
  const plain = form.kind === 'rectangle' && corners.kind === 'straight' && isOpaqueFill(fill) && opacity === 1;
  if (!plain || turn % 90 !== 0) return null;
  if (place.mode === 'box') return turn % 180 === 0 ? place.box : null;
  return place.mode === 'band' ? alongSide(place.side, place.size, canvas) : null;
}

/** The box that a picture covers with nothing showing through, canvas px; null for none to speak of. */
function solidBox(layer: PictureLayer, canvas: Graphic['canvas']): Box | null {
  const { opaque, cutout, opacity, corners, turn, fades, beyond, place } = layer;
  if (!opaque || cutout || opacity < 1 || corners.kind !== 'straight') return null;
  const whole = { x: 0, y: 0, ...canvas };
  const askew = turn % 90 !== 0;
  if (beyond && !askew) return whole;
  if (fades.length) return null;
  if (askew) return place.mode === 'cover' ? whole : null;
  return pictureBounds(layer, canvas);
}
