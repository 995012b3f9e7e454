import {
  faintestLetter,
  judgingScale,
  readWords,
  type Frame,
  type Graphic,
  type Legibility,
  type MakeLetterSheet,
  type PaintForJudging,
  type Reader,
  type WordsLayer,
} from '@bright-slot/core';
import { render, type Vectors } from './render';
import type { Turn } from './turn';
import { shaperFor } from './type';

/** Somebody who paints graphics and letters for judging, at the file's own pixels. */
export async function readerFor(graphic: Graphic, frame: Frame, vectors: Vectors, turn: Turn): Promise<Reader> {
  const { slot } = frame;
  const made = new Map<string, ImageBitmap>();
  const paint: PaintForJudging = async (seen, options) => {
    const { canvas, plan } = await render(seen, frame, judgingScale(slot), vectors, turn, options, made);
    await turn.pass();
    return { pixels: canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height), plan };
  };
  return { shaper: await shaperFor(graphic), slot, ground: slot.ground, paint, sheet: letterSheets() };
}

/** One canvas for the letters, one after another; it only grows, since a canvas of another size is made anew. */
function letterSheets(): MakeLetterSheet {
  let context: OffscreenCanvasRenderingContext2D | undefined;
  return (width, height) => {
    context ??= new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
    const { canvas } = context;
    if (canvas.width < width || canvas.height < height) {
      canvas.width = Math.max(canvas.width, width);
      canvas.height = Math.max(canvas.height, height);
    } else {
      context.resetTransform();
      context.clearRect(0, 0, width, height);
    }
    return {
      context: context,
      coverage() {
        const { data } = context!.getImageData(0, 0, width, height);
        const alpha = new Uint8Array(width * height);
        for (let i = 0, k = 3; i < alpha.length; i++, k += 4) alpha[i] = data[k]!;
        return alpha;
      },
    };
  };
}

/** How each visible words layer is read, at the file's own pixels. */
export async function legibility(
  graphic: Graphic,
  frame: Frame,
  vectors: Vectors,
  turn: Turn,
  /** Only these layers; all where none are named. */
  only?: ReadonlySet<string>,
): Promise<Legibility[]> {
  const { slot } = frame;
  const shownScale = slot.shownWidth / slot.width;
  const reader = await readerFor(graphic, frame, vectors, turn);
  const found: Legibility[] = [];
  for (const layer of graphic.layers) {
    if (layer.role !== 'words' || !layer.visible || (only && !only.has(layer.id))) continue;
    const letters = await readWords(graphic, layer, reader);
    await turn.pass();
    const own: Legibility = { layer: layer.id, letters };
    const faint = (l: Pick<Legibility, 'letters'>) => {
      const worst = faintestLetter(l, shownScale);
      return worst !== null && worst.contrast < worst.needed;
    };
    if (!only && faint(own) && graphic.layers.at(-1) !== layer) {
      const front = await readWords(atFront(graphic, layer), layer, reader);
      found.push({ ...own, atFront: !faint({ letters: front }) });
    } else found.push(own);
  }
  return found;
}

/** A graphic with a layer over all others. */
const atFront = (graphic: Graphic, layer: WordsLayer): Graphic => ({
  ...graphic,
  layers: [...graphic.layers.filter((l) => l !== layer), layer],
});
