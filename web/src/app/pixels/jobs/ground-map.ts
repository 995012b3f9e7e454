import { groundMap, mapScale, wholeCanvas, type Graphic, type GroundMap } from '@bright-slot/core';
import { render, type Vectors } from './render';
import type { Turn } from './turn';

/** What stands where on a graphic's canvas, from a small painting of it. */
export async function groundOf(graphic: Graphic, ground: string, vectors: Vectors, turn: Turn): Promise<GroundMap> {
  const made = new Map<string, ImageBitmap>();
  const pixelsOf = async (seen: Graphic) => {
    const { canvas } = await render(seen, wholeCanvas(graphic), mapScale(graphic.canvas), vectors, turn, {}, made);
    await turn.pass();
    return canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
  };
  const seen = await pixelsOf(graphic);
  const layers = graphic.layers.filter((l) => l.role === 'photo' && l.visible);
  if (!layers.length) return groundMap(seen, ground, null);
  const photos = await pixelsOf({ ...graphic, backdrop: { kind: 'colour', colour: '#808080' }, layers });
  return groundMap(seen, ground, photos);
}
