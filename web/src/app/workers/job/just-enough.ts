import {
  channelsOf,
  faintestLetter,
  groundSampler,
  justEnough,
  layoutOf,
  mainFrame,
  marginAt,
  overGround,
  judgingScale,
  veiledWords,
  type Graphic,
  type JustEnough,
  type Readings,
  type Shaper,
  type VeilLayer,
  type VeiledWords,
  type WordsLayer,
} from '@bright-slot/core';
import { bare, legibility, rasteriser, upright } from './legibility';
import { render } from './render';
import { shaperFor } from './type';

/** Another ink or another veil with which some strength passes, where the chosen ones have none. */
export interface Offer {
  readonly kind: 'ink' | 'veil';
  readonly colour: string;
  readonly strength: number;
}

export interface FoundStrength extends JustEnough {
  /** Whether there were words to find it for. */
  readonly words: number;
  readonly offers: readonly Offer[];
}

type Vectors = Parameters<typeof render>[2];

const withLayer = (graphic: Graphic, layer: Graphic['layers'][number]): Graphic => ({
  ...graphic,
  layers: graphic.layers.map((l) => (l.id === layer.id ? layer : l)),
});

/** A words layer, and all ways in which it can be read. */
interface WordsRead {
  readonly id: string;
  readonly readings: Readings;
}

const readingsOf = (words: readonly WordsRead[]) => words.map((w) => w.readings);

/** Looks at the ground of a veil's words at none and at all of its strength, at the file's own pixels. */
class Look {
  private readonly made = new Map<string, ImageBitmap>();
  private readonly ground: readonly [number, number, number];

  constructor(
    private readonly graphic: Graphic,
    private readonly shaper: Shaper,
    ground: string,
    private readonly vectors: Vectors,
    private readonly stopped: () => boolean,
  ) {
    this.ground = channelsOf(ground);
  }

  private async ways(veil: VeilLayer, layer: WordsLayer, outlined: boolean): Promise<VeiledWords | null | 'stopped'> {
    const frame = mainFrame(this.graphic);
    const shown = outlined ? layer : bare(layer);
    const layout = layoutOf(layer, this.shaper);
    const pixels: ImageData[] = [];
    let sampler: ReturnType<typeof groundSampler> = null;
    for (const strength of [0, 255]) {
      const seen = withLayer(withLayer(this.graphic, { ...veil, strength }), shown);
      const options = { below: layer.id, withGround: true };
      const below = await render(seen, judgingScale(frame.slot), this.vectors, this.stopped, options, this.made);
      if (!below || this.stopped()) return 'stopped';
      const { canvas, plan } = below;
      pixels.push(upright(canvas, layer, layout, plan.scale, plan.origin));
      const ring = outlined && layer.outline ? layer.outline.width * plan.scale : undefined;
      sampler ??= groundSampler(layout, canvas, plan.scale, plan.origin, rasteriser(plan), ring);
    }
    if (!sampler) return null;
    const [none, all] = pixels.map((p) => overGround(p, this.ground, sampler.region));
    const ink = !outlined && layer.outline ? { ink: layer.outline.colour } : {};
    return { sampler, bare: none!, full: all!, ...ink };
  }

  /** All ways in which each of a veil's words can be read; null when stopped. */
  async at(veil: VeilLayer): Promise<WordsRead[] | null> {
    const all: WordsRead[] = [];
    for (const layer of veiledWords(veil, this.graphic.layers)) {
      const readings: VeiledWords[] = [];
      for (const outlined of layer.outline ? [true, false] : [true]) {
        const way = await this.ways(veil, layer, outlined);
        if (way === 'stopped') return null;
        if (way) readings.push(way);
      }
      if (readings.length) all.push({ id: layer.id, readings });
    }
    return all;
  }
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
  shownScale: number,
  ground: string,
  vectors: Vectors,
  stopped: () => boolean,
  words: ReadonlySet<string>,
): Promise<number | null | 'stopped'> {
  const passes = async (strength: number): Promise<boolean | 'stopped'> => {
    const found = await legibility(withLayer(graphic, { ...veil, strength }), ground, vectors, stopped, words);
    if (!found) return 'stopped';
    return found.every((l) => {
      const worst = faintestLetter(l, shownScale);
      return !worst || worst.contrast >= worst.needed;
    });
  };
  let strength = from;
  let good = await passes(strength);
  const down = good === true;
  for (let i = 0; i < TRIES; i++) {
    if (good === 'stopped') return good;
    const next = down ? strength - 1 : strength + 1;
    if (down ? !good || next < 0 : good || next > 255) break;
    const there = await passes(next);
    if (there === 'stopped') return there;
    // Downwards the last that passes is wanted, upwards the first.
    if (down && !there) break;
    strength = next;
    good = there;
  }
  return good === true ? strength : null;
}

/** The least strength of a veil with which its words stand out, and what else would do where none does; null when stopped. */
export async function strengthFor(
  graphic: Graphic,
  veilId: string,
  ground: string,
  vectors: Vectors,
  stopped: () => boolean,
): Promise<FoundStrength | null> {
  const shaper = await shaperFor(graphic);
  const veil = graphic.layers.find((l): l is VeilLayer => l.id === veilId && l.role === 'veil');
  if (!veil) return null;
  const { slot } = mainFrame(graphic);
  const shownScale = slot.shownWidth / slot.width;
  const look = new Look(graphic, shaper, ground, vectors, stopped);
  const words = await look.at(veil);
  if (!words || stopped()) return null;
  let found = justEnough(readingsOf(words), shownScale);
  if (found.strength !== null) {
    // Only words near their limit there are looked at again.
    const { strength } = found;
    const near = new Set(words.filter((w) => marginAt(w.readings, shownScale, strength) < NEAR).map((w) => w.id));
    const settled = await settle(graphic, veil, strength, shownScale, ground, vectors, stopped, near);
    if (settled === 'stopped') return null;
    found = { ...found, strength: settled };
  }
  const offers: Offer[] = [];
  if (found.strength === null) {
    for (const colour of INKS) {
      const inked = readingsOf(words).map((r) => r.map((w) => ({ ...w, ink: colour })));
      const { strength } = justEnough(inked, shownScale);
      if (strength !== null) offers.push({ kind: 'ink', colour, strength });
      if (stopped()) return null;
    }
    for (const colour of INKS.filter((c) => c !== veil.colour)) {
      const other = await look.at({ ...veil, colour });
      if (!other || stopped()) return null;
      const { strength } = justEnough(readingsOf(other), shownScale);
      if (strength !== null) offers.push({ kind: 'veil', colour, strength });
    }
  }
  return { ...found, words: words.length, offers };
}
