import type { Watermark } from '../export/watermark';
import { newGraphic, type Graphic, type PictureLayer, type WordsLayer } from '../graphic/graphic';
import { plainAppearance } from '../pixels/appearance';
import type { ShapeLayer, VeilLayer } from '../graphic/shape';
import type { Edit } from '../graphic/edit';
import { commit, type History } from '../graphic/history';
import { potterySlots } from '../../../demo/src/slots';
import { slotsToStart } from '../slot/slots-to-start';
import { plainBlock } from '../words/words';
import { plainWordsAppearance } from '../words/appearance';

/** The slots that ship, and those of the demo's site. */
export const everySlot = [...potterySlots, ...slotsToStart];

export function slotOf(id: string) {
  return everySlot.find((s) => s.id === id)!;
}

export function blank(slot = 'blog-header'): Graphic {
  return newGraphic({ id: 'g', name: 'Test', created: '2026-11-24T00:00:00Z', slot: slotOf(slot) });
}

export function photo(own: Partial<PictureLayer> = {}): PictureLayer {
  return {
    id: 'p',
    name: 'Shelf',
    visible: true,
    locked: false,
    role: 'photo',
    asset: 'a'.repeat(64),
    natural: { width: 3500, height: 2332 },
    opaque: true,
    vector: false,
    place: { mode: 'cover', focus: { x: 0.5, y: 0.5 }, zoom: 1 },
    crop: null,
    ...plainAppearance,
    ...own,
  };
}

export function words(
  text: string,
  own: Partial<WordsLayer> = {},
  run: Partial<WordsLayer['paragraphs'][0]['runs'][0]> = {},
): WordsLayer {
  return {
    id: 'w',
    name: 'Title',
    visible: true,
    locked: false,
    role: 'words',
    lineSpacing: 1.2,
    place: { x: 470, y: 60 },
    ...plainBlock,
    ...plainWordsAppearance,
    paragraphs: text.split('\n').map((line) => ({
      align: 'centre' as const,
      runs: [
        {
          text: line,
          size: 52,
          colour: '#ffffff',
          tracking: 0,
          case: 'typed' as const,
          face: { family: 'Bricolage Grotesque', weight: 700, italic: false },
          ...run,
        },
      ],
    })),
    ...own,
  };
}

export function withLayers(graphic: Graphic, ...layers: Graphic['layers']): Graphic {
  return { ...graphic, layers };
}

/** Small repeatable random numbers 0…1 (mulberry32). */
export function random(seed: number): () => number {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

export function veil(own: Partial<VeilLayer> = {}): VeilLayer {
  return {
    id: 'v',
    name: 'Veil',
    visible: true,
    locked: false,
    role: 'veil',
    form: { kind: 'whole' },
    colour: '#000000',
    strength: 100,
    words: [],
    justEnough: false,
    ...own,
  };
}

export function shape(own: Partial<ShapeLayer> = {}): ShapeLayer {
  return {
    id: 's',
    name: 'Rectangle',
    visible: true,
    locked: false,
    role: 'shape',
    form: { kind: 'rectangle' },
    place: { mode: 'box', box: { x: 100, y: 40, width: 200, height: 100 } },
    fill: { kind: 'colour', colour: '#f2b01e' },
    border: null,
    corners: { kind: 'straight' },
    shadow: null,
    opacity: 1,
    turn: 0,
    ...own,
  };
}

/** The history after an edit that can be committed. */
export function committed(h: History, edit: Edit, id: string, at: number): History {
  const done = commit(h, edit, id, at);
  if (!done.ok) throw new Error(done.problem.message);
  return done.value.history;
}

/** A watermark of words that stands once, where there is room. */
export const watermark: Watermark = {
  mark: { kind: 'words', text: 'Ottermill', face: { family: 'Public Sans', weight: 600, italic: false } },
  place: 'room',
  size: 0.2,
  strength: 0.6,
  repeated: false,
};
