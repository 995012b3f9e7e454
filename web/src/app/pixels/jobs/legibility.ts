import {
  allLetters,
  calmPlace,
  faintestLetter,
  freed,
  isLong,
  judgingScale,
  largeSize,
  outlinedWords,
  passingColours,
  readEveryState,
  readWords,
  roomIn,
  scaledWords,
  smallestScale,
  switchedDarkening,
  withLayer,
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
    const colours = passingColours(layer.paragraphs[0]!.runs[0]!.colour, allLetters(own), shownScale);
    await turn.pass();
    const covered = graphic.layers.at(-1) !== layer;
    const front = covered && atFront(graphic, layer);
    const clear = front && !faint(await readEveryState(front, layer, reader));
    const calm = await calmPlaceOf(graphic, layer, frame, reader, shownScale);
    await turn.pass();
    const larger = await largerWords(graphic, layer, frame, reader, shownScale, allLetters(own));
    await turn.pass();
    const outlined = await outlinedWords(graphic, layer, reader, shownScale);
    await turn.pass();
    found.push({
      ...own,
      colours,
      atFront: clear,
      ...(calm ? { calm } : {}),
      ...(larger ? { larger } : {}),
      ...(outlined ? { outlined } : {}),
    });
  }
  return found;
}

/** Where near it a layer's words stand out, within the frame's room, clear of zones and of other words and logos. */
async function calmPlaceOf(graphic: Graphic, layer: WordsLayer, frame: Frame, reader: Reader, shownScale: number) {
  const room = roomIn(frame, layer, graphic.layers, graphic.canvas, reader.shaper, new Map());
  return calmPlace(graphic, layer, reader, { within: room.within, taken: [...room.zones, ...room.others] }, shownScale);
}

/** Much larger than they are words are another design. */
const MOST_LARGER = 1.6;

/**
 * Words that miss what small type needs and have what large type does, made large: moved as far as that takes, and read
 * again where they stand then. Null where they have no room, or are too faint for large type too.
 */
async function largerWords(
  graphic: Graphic,
  layer: WordsLayer,
  frame: Frame,
  reader: Reader,
  shownScale: number,
  letters: readonly LetterGround[],
): Promise<Legibility['larger'] | null> {
  if (layer.locked || layer.sizing.kind === 'fill' || isLong(layer)) return null;
  const by = letters.reduce((most, letter) => {
    const { contrast, needed } = faintestLetter({ letters: [letter] }, shownScale)!;
    return contrast < needed ? Math.max(most, largeSize(letter.weight) / (letter.size * shownScale)) : most;
  }, 1);
  if (by <= 1 || by > MOST_LARGER) return null;
  // Sizes come in tenths of a px: rounded up, so that it is large.
  const larger = scaledWords(layer, by * 1.004);
  const others = graphic.layers.map((l) => (l.id === layer.id ? larger : l));
  const room = roomIn(frame, larger, others, graphic.canvas, reader.shaper, new Map());
  const placed = freed(larger, room, graphic.canvas, reader.shaper, new Map());
  if (placed?.scale !== 1) return null;
  const read = await readEveryState(withLayer(graphic, placed.layer), placed.layer, reader);
  const worst = faintestLetter({ letters: read }, shownScale);
  if (!worst || worst.contrast < worst.needed) return null;
  const sizes = placed.layer.paragraphs.flatMap((p) => p.runs.map((r) => r.size));
  return { layer: placed.layer, size: Math.max(...sizes), contrast: worst.contrast };
}

/** A graphic with a layer over all others. */
const atFront = (graphic: Graphic, layer: WordsLayer): Graphic => ({
  ...graphic,
  layers: [...graphic.layers.filter((l) => l !== layer), layer],
});
