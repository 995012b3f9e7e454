import {
  allLetters,
  faintestLetter,
  leastVeil,
  marginAt,
  smallestScale,
  switchedDarkening,
  veiledWords,
  waysOf,
  withLayer,
  type Frame,
  type Graphic,
  type LeastVeil,
  type Reader,
  type Readings,
  type VeilLayer,
  type VeiledWords,
} from '@bright-slot/core';
import { legibility, readerFor } from './legibility';
import type { Vectors } from './render';
import { Stopped, type Turn } from './turn';

/** Another ink or another veil with which some strength passes, where the chosen ones have none. */
export interface Offer {
  readonly kind: 'ink' | 'veil';
  readonly colour: string;
  readonly strength: number;
}

export interface FoundStrength extends LeastVeil {
  /** Whether there were words to find it for. */
  readonly words: number;
  readonly offers: readonly Offer[];
}

/** A words layer, and all ways in which it can be read. */
interface WordsRead {
  readonly id: string;
  readonly readings: Readings;
}

const readingsOf = (words: readonly WordsRead[]) => words.map((w) => w.readings);

/** Looks at a veil's words at none and at all of its strength: all ways in which each can be read. */
async function lookAt(graphic: Graphic, veil: VeilLayer, reader: Reader): Promise<WordsRead[]> {
  const all: WordsRead[] = [];
  for (const layer of veiledWords(veil, graphic.layers)) {
    const none = await waysOf(withLayer(graphic, { ...veil, strength: 0 }), layer, reader);
    const whole = await waysOf(withLayer(graphic, { ...veil, strength: 255 }), layer, reader, none);
    // A veil below the words changes nothing of what lies over them.
    const at = (id: string) => graphic.layers.findIndex((l) => l.id === id);
    const below = at(veil.id) < at(layer.id);
    const readings = none.flatMap((way, i): VeiledWords[] => {
      const other = whole[i];
      if (!way || !other) return [];
      const full = below ? { ...other.seen, over: way.seen.over } : other.seen;
      return [{ sampler: way.sampler, bare: way.seen, full }];
    });
    if (readings.length) all.push({ id: layer.id, readings });
  }
  return all;
}

const INKS = ['#ffffff', '#000000'];

/** How many strengths around the one that was worked out are painted to see what the fit report makes of them. */
const TRIES = 10;
/** Words whose margin is larger are not near their limit: a step changes it by less. */
const NEAR = 1.12;

/**
 * The least strength that the fit report itself passes, near one that was worked out: what is painted is rounded to
 * 8 bits at each sheet, which moves the limit by a step or two. Null where none near it passes.
 */
async function settle(
  graphic: Graphic,
  veil: VeilLayer,
  from: number,
  frame: Frame,
  vectors: Vectors,
  turn: Turn,
  words: ReadonlySet<string>,
): Promise<number | null> {
  const shownScale = smallestScale(frame.slot);
  const passes = async (strength: number): Promise<boolean> => {
    const found = await legibility(withLayer(graphic, { ...veil, strength }), frame, vectors, turn, words);
    return found.every((l) => {
      const worst = faintestLetter({ letters: allLetters(l) }, shownScale);
      return !worst || worst.contrast >= worst.needed;
    });
  };
  let strength = from;
  let good = await passes(strength);
  const down = good;
  for (let i = 0; i < TRIES; i++) {
    const next = down ? strength - 1 : strength + 1;
    if (down ? !good || next < 0 : good || next > 255) break;
    const there = await passes(next);
    // Downwards the last that passes is wanted, upwards the first.
    if (down && !there) break;
    strength = next;
    good = there;
  }
  return good ? strength : null;
}

/** The least strength of a veil with which its words stand out, and what else would do where none does. */
export async function strengthFor(
  graphic: Graphic,
  frame: Frame,
  veilId: string,
  vectors: Vectors,
  turn: Turn,
): Promise<FoundStrength> {
  const veil = graphic.layers.find((l): l is VeilLayer => l.id === veilId && l.role === 'veil');
  // It was taken away since it was asked about.
  if (!veil) throw new Stopped();
  const shownScale = smallestScale(frame.slot);
  const reader = await readerFor(graphic, frame, vectors, turn);
  // With the page's darkening on and off, where it can be switched: it has to do for both.
  const other = switchedDarkening(reader.slot);
  const readers = other ? [reader, { ...reader, slot: other }] : [reader];
  const inEveryState = async (veil: VeilLayer) => {
    const all: WordsRead[] = [];
    for (const own of readers) all.push(...(await lookAt(graphic, veil, own)));
    return all;
  };
  const words = await inEveryState(veil);
  await turn.pass();
  let found = leastVeil(readingsOf(words), shownScale);
  if (found.strength !== null) {
    // Only words near their limit there are looked at again.
    const { strength } = found;
    const near = new Set(words.filter((w) => marginAt(w.readings, shownScale, strength) < NEAR).map((w) => w.id));
    const settled = await settle(graphic, veil, strength, frame, vectors, turn, near);
    found = { ...found, strength: settled };
  }
  const offers: Offer[] = [];
  if (found.strength === null) {
    for (const colour of INKS) {
      const inked = readingsOf(words).map(([own, ...line]) => [{ ...own!, ink: colour }, ...line]);
      const { strength } = leastVeil(inked, shownScale);
      if (strength !== null) offers.push({ kind: 'ink', colour, strength });
      await turn.pass();
    }
    for (const colour of INKS.filter((c) => c !== veil.colour)) {
      const there = await inEveryState({ ...veil, colour });
      await turn.pass();
      const { strength } = leastVeil(readingsOf(there), shownScale);
      if (strength !== null) offers.push({ kind: 'veil', colour, strength });
    }
  }
  return { ...found, words: new Set(words.map((w) => w.id)).size, offers };
}
