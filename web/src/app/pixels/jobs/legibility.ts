import {
  allLetters,
  calmPlace,
  faintestLetter,
  judgingScale,
  outlinedWords,
  readEveryState,
  readWords,
  roomIn,
  smallestScale,
  switchedDarkening,
  type Frame,
  type Graphic,
  type Legibility,
  type LetterGround,
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
  const shownScale = smallestScale(frame.slot);
  const reader = await readerFor(graphic, frame, vectors, turn);
  const other = switchedDarkening(reader.slot);
  const faint = (letters: readonly LetterGround[]) => {
    const worst = faintestLetter({ letters }, shownScale);
    return worst !== null && worst.contrast < worst.needed;
  };
  const found: Legibility[] = [];
  for (const layer of graphic.layers) {
    if (layer.role !== 'words' || !layer.visible || (only && !only.has(layer.id))) continue;
    const letters = await readWords(graphic, layer, reader);
    const switched = other && (await readWords(graphic, layer, { ...reader, slot: other }));
    await turn.pass();
    const own: Legibility = { layer: layer.id, letters, ...(switched ? { switched } : {}) };
    if (only || !faint(allLetters(own))) {
      found.push(own);
      continue;
    }
    const covered = graphic.layers.at(-1) !== layer;
    const front = covered && atFront(graphic, layer);
    const clear = front && !faint(await readEveryState(front, layer, reader));
    const calm = await calmPlaceOf(graphic, layer, frame, reader, shownScale);
    await turn.pass();
    const outlined = await outlinedWords(graphic, layer, reader, shownScale);
    await turn.pass();
    found.push({ ...own, atFront: clear, ...(calm ? { calm } : {}), ...(outlined ? { outlined } : {}) });
  }
  return found;
}

/** Where near it a layer's words stand out, within the frame's room, clear of zones and of other words and logos. */
async function calmPlaceOf(graphic: Graphic, layer: WordsLayer, frame: Frame, reader: Reader, shownScale: number) {
  const room = roomIn(frame, layer, graphic.layers, graphic.canvas, reader.shaper, new Map());
  return calmPlace(graphic, layer, reader, { within: room.within, taken: [...room.zones, ...room.others] }, shownScale);
}

/** A graphic with a layer over all others. */
const atFront = (graphic: Graphic, layer: WordsLayer): Graphic => ({
  ...graphic,
  layers: [...graphic.layers.filter((l) => l !== layer), layer],
});
