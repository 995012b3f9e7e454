import {
  layoutOf,
  luminanceField,
  mainFrame,
  paintLetter,
  sampleGround,
  topDensity,
  type Graphic,
  type Legibility,
  type Rasterise,
} from '@bright-slot/core';
import { render } from './render';
import { shaperFor } from './type';

/** What each visible words layer stands on, at the file's own pixels; null when stopped. */
export async function legibility(
  graphic: Graphic,
  ground: string,
  vectors: Parameters<typeof render>[2],
  stopped: () => boolean,
): Promise<Legibility[] | null> {
  const frame = mainFrame(graphic);
  const shaper = await shaperFor(graphic);
  const found: Legibility[] = [];
  let mask: OffscreenCanvasRenderingContext2D | undefined;
  for (const layer of graphic.layers) {
    if (layer.role !== 'words' || !layer.visible) continue;
    const below = await render(graphic, topDensity(frame.slot), vectors, stopped, { below: layer.id });
    if (!below || stopped()) return null;
    const { canvas, plan } = below;
    const pixels = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    const rasterise: Rasterise = (item, box) => {
      mask ??= new OffscreenCanvas(box.width, box.height).getContext('2d', { willReadFrequently: true })!;
      mask.canvas.width = box.width;
      mask.canvas.height = box.height;
      const { scale, origin } = plan;
      mask.setTransform(scale, 0, 0, scale, -origin.x * scale - box.x, -origin.y * scale - box.y);
      paintLetter(item, mask);
      const { data } = mask.getImageData(0, 0, box.width, box.height);
      return Uint8Array.from({ length: box.width * box.height }, (_, i) => data[i * 4 + 3]!);
    };
    found.push(
      sampleGround(
        layer.id,
        layoutOf(layer, shaper),
        luminanceField(pixels, ground),
        plan.scale,
        plan.origin,
        rasterise,
      ),
    );
  }
  return found;
}
