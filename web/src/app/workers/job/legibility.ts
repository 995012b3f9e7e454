import {
  faintestLetter,
  layoutOf,
  luminanceField,
  mainFrame,
  middleOf,
  paintLetter,
  sampleGround,
  judgingScale,
  wordsExtent,
  type Graphic,
  type Legibility,
  type Plan,
  type Rasterise,
  type WordsLayer,
  type WordsLayout,
} from '@bright-slot/core';
import { render } from './render';
import { shaperFor } from './type';

/** What lies under words, as the words see it: turned back where they are turned. */
export function upright(
  canvas: OffscreenCanvas,
  layer: WordsLayer,
  layout: WordsLayout,
  scale: number,
  origin: { x: number; y: number },
): ImageData {
  if (layer.turn === 0) return canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
  const context = new OffscreenCanvas(canvas.width, canvas.height).getContext('2d', { willReadFrequently: true })!;
  const middle = middleOf(wordsExtent(layer, layout));
  const [x, y] = [(middle.x - origin.x) * scale, (middle.y - origin.y) * scale];
  context.translate(x, y);
  context.rotate((-layer.turn * Math.PI) / 180);
  context.drawImage(canvas, -x, -y);
  return context.getImageData(0, 0, canvas.width, canvas.height);
}

/** Draws single letters as they stand in a plan, to tell their pixels. */
export function rasteriser({ scale, origin }: Plan): Rasterise {
  let mask: OffscreenCanvasRenderingContext2D | undefined;
  return (item, box) => {
    mask ??= new OffscreenCanvas(box.width, box.height).getContext('2d', { willReadFrequently: true })!;
    mask.canvas.width = box.width;
    mask.canvas.height = box.height;
    mask.setTransform(scale, 0, 0, scale, -origin.x * scale - box.x, -origin.y * scale - box.y);
    paintLetter(item, mask);
    const { data } = mask.getImageData(0, 0, box.width, box.height);
    return Uint8Array.from({ length: box.width * box.height }, (_, i) => data[i * 4 + 3]!);
  };
}

/** What each visible words layer stands on, at the file's own pixels; null when stopped. */
export async function legibility(
  graphic: Graphic,
  ground: string,
  vectors: Parameters<typeof render>[2],
  stopped: () => boolean,
  /** Only these layers; all where none are named. */
  only?: ReadonlySet<string>,
): Promise<Legibility[] | null> {
  const frame = mainFrame(graphic);
  const shaper = await shaperFor(graphic);
  const found: Legibility[] = [];
  const made = new Map<string, ImageBitmap>();
  const sampled = async (layer: WordsLayer, outlined: boolean): Promise<Legibility | null> => {
    // Without its outline the layer is judged by what lies beyond: then the outline is what is read.
    const seen = outlined
      ? graphic
      : { ...graphic, layers: graphic.layers.map((l) => (l === layer ? bare(layer) : l)) };
    const below = await render(
      seen,
      judgingScale(frame.slot),
      vectors,
      stopped,
      { below: layer.id, withGround: true },
      made,
    );
    if (!below || stopped()) return null;
    const { canvas, plan } = below;
    const layout = layoutOf(layer, shaper);
    const pixels = upright(canvas, layer, layout, plan.scale, plan.origin);
    const rasterise = rasteriser(plan);
    const ring = outlined && layer.outline ? layer.outline.width * plan.scale : undefined;
    const field = luminanceField(pixels, ground);
    return sampleGround(layer.id, layout, field, plan.scale, plan.origin, rasterise, ring);
  };
  const shownScale = frame.slot.shownWidth / frame.slot.width;
  for (const layer of graphic.layers) {
    if (layer.role !== 'words' || !layer.visible || (only && !only.has(layer.id))) continue;
    let own = await sampled(layer, true);
    if (layer.outline) {
      const beyond = await sampled(layer, false);
      const { colour } = layer.outline;
      const read = beyond && { ...beyond, letters: beyond.letters.map((l) => ({ ...l, colour })) };
      const worst = read && faintestLetter(read, shownScale);
      // Words with an outline are read by their letters or by it, whichever stands out.
      if (worst && worst.contrast >= worst.needed) own = read;
    }
    if (!own) return null;
    found.push(own);
  }
  return found;
}

/** Words without the line around them. */
export const bare = (layer: WordsLayer): WordsLayer => ({ ...layer, outline: null });
