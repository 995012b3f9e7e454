import { groundMap, mapScale, wholeCanvas, type Graphic, type GroundMap } from '@bright-slot/core';
import { render, type Vectors } from './render';

/** What stands where on a graphic's canvas, from a small painting of it; null when stopped. */
export async function groundOf(
  graphic: Graphic,
  ground: string,
  vectors: Vectors,
  stopped: () => boolean,
): Promise<GroundMap | null> {
  const made = new Map<string, ImageBitmap>();
  const pixelsOf = async (seen: Graphic) => {
    const done = await render(seen, wholeCanvas(graphic), mapScale(graphic.canvas), vectors, stopped, {}, made);
    if (!done || stopped()) return null;
    const { canvas } = done;
    return canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
  };
  const seen = await pixelsOf(graphic);
  if (!seen) return null;
  const layers = graphic.layers.filter((l) => l.role === 'photo' && l.visible);
  if (!layers.length) return groundMap(seen, ground, null);
  const photos = await pixelsOf({ ...graphic, backdrop: { kind: 'colour', colour: '#808080' }, layers });
  return photos && groundMap(seen, ground, photos);
}
