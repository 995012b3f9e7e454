import { enclosing, grown, intersection, outward, scaled, type Box, type Size } from '../geometry/box';
import { contrastNeeded, contrastOfLuminance, luminance } from '../colour/contrast';
import { squaredDistances } from '../pixels/distance';
import { part, smoothed, type Field } from '../pixels/luminance';
import { itemInk, type WordsLayout } from './layout';
import { strokeWidth } from './stroke';

/** One letter and the ground it stands on. */
export interface LetterGround {
  readonly letter: string;
  /** Where it is, canvas px. */
  readonly box: Box;
  readonly colour: string;
  /** Canvas px, and CSS weight. */
  readonly size: number;
  readonly weight: number;
  /** Luminances of the ground around it, ascending; all of them, or evenly spaced quantiles where there are more than 256. */
  readonly ground: Float32Array;
  /** How many pixels were sampled. */
  readonly samples: number;
}

/** What one words layer stands on, letter by letter. */
export interface Legibility {
  readonly layer: string;
  readonly letters: readonly LetterGround[];
}

/** Coverage 0…255 of an item of a layout alone, within a box of whole device px, row by row. */
export type Rasterise = (item: WordsLayout['items'][number], box: Box) => Uint8Array | Uint8ClampedArray;

/** So many luminances speak for a letter's ground. */
export const MOST_QUANTILES = 256;
/** So many letters of a block are looked at. */
const MOST_LETTERS = 1500;
/** From here on a pixel counts as the letter's own. */
const INK = 96;

function quantiles(values: Float32Array): Float32Array {
  values.sort();
  if (values.length <= MOST_QUANTILES) return values;
  return Float32Array.from(
    { length: MOST_QUANTILES },
    (_, i) => values[Math.round((i / (MOST_QUANTILES - 1)) * (values.length - 1))]!,
  );
}

const median = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

/** Where the letters of one layout look for their ground: made once, asked for any ground. */
export interface GroundSampler {
  /** The part of the canvas that is looked at, whole device px. */
  readonly region: Box;
  /** What each letter stands on; `near` holds luminances of the region alone. */
  sample(near: Field): LetterGround[];
}

/**
 * Finds where the ground of each letter of a layout is to be looked for. Our own method, no standard:
 * for each letter, the ground that is to be seen within one stroke's width of its outline,
 * smoothed at half a stroke (σ). `size` is the canvas's, device px; `scale` is device px per canvas px, `origin` the
 * frame's corner in canvas px. A letter wholly off the canvas is left out; null where all are. `ring` (device px)
 * holds the look to what is so near: letters with an outline stand on that, and not on what lies beyond it.
 */
export function groundSampler(
  layout: WordsLayout,
  size: Size,
  scale: number,
  origin: { x: number; y: number },
  rasterise: Rasterise,
  ring = Infinity,
): GroundSampler | null {
  const canvas: Box = { x: 0, y: 0, width: size.width, height: size.height };
  const kindOf = (i: { size: number; weight: number }) => `${i.size}|${i.weight}`;
  const widths = new Map<string, number[]>();
  for (const item of layout.items) {
    // Core cannot measure the browser's own fonts: common practice, no source.
    const thick =
      item.kind === 'outline'
        ? strokeWidth(item.outline) * item.scale
        : item.size * (item.weight >= 600 ? 0.14 : 0.085);
    widths.set(kindOf(item), [...(widths.get(kindOf(item)) ?? []), thick]);
  }
  const strokes = new Map([...widths].map(([kind, all]) => [kind, Math.max(1, Math.min(ring, median(all) * scale))]));
  // What any letter covers is no ground for its neighbours.
  const inked = new Uint8Array(size.width * size.height);
  // Of very many letters some speak for all.
  const every = Math.max(1, Math.ceil(layout.items.length / MOST_LETTERS));
  const letters = layout.items.flatMap((item, i) => {
    const ink = i % every === 0 ? itemInk(item) : null;
    if (!ink) return [];
    const device = scaled({ ...ink, x: ink.x - origin.x, y: ink.y - origin.y }, scale);
    const stroke = strokes.get(kindOf(item))!;
    const pad = Math.ceil(stroke) + 1;
    const box = outward({
      x: device.x - pad,
      y: device.y - pad,
      width: device.width + 2 * pad,
      height: device.height + 2 * pad,
    });
    const visible = intersection(box, canvas);
    if (!visible) return [];
    const coverage = rasterise(item, box);
    const solid = Uint8Array.from(coverage, (c) => Number(c >= INK));
    for (let y = visible.y; y < visible.y + visible.height; y++)
      for (let x = visible.x; x < visible.x + visible.width; x++)
        if (coverage[(y - box.y) * box.width + (x - box.x)]! > 0) inked[y * size.width + x] = 1;
    return [{ item, ink, box, visible, solid, stroke }];
  });

  // Only the part of the ground that the letters and the smoothing reach.
  const reach = Math.ceil(1.5 * Math.max(0, ...strokes.values())) + 1;
  const all = enclosing(letters.map((l) => l.visible));
  const region = all && intersection(canvas, grown(all, reach));
  if (!region) return null;
  const placed = letters.flatMap(({ item, ink, box, visible, solid, stroke }) => {
    const distances = squaredDistances(solid, box.width, box.height);
    const places: number[] = [];
    for (let y = visible.y; y < visible.y + visible.height; y++)
      for (let x = visible.x; x < visible.x + visible.width; x++)
        if (!inked[y * size.width + x] && distances[(y - box.y) * box.width + (x - box.x)]! <= stroke * stroke)
          places.push((y - region.y) * region.width + (x - region.x));
    return places.length ? [{ item, ink, places: Uint32Array.from(places) }] : [];
  });
  return {
    region,
    sample(near) {
      const grounds = new Map([...strokes].map(([kind, stroke]) => [kind, smoothed(near, stroke / 2)]));
      return placed.map(({ item, ink, places }) => {
        const { data } = grounds.get(kindOf(item))!;
        return {
          letter: item.text,
          box: ink,
          colour: item.colour,
          size: item.size,
          weight: item.weight,
          ground: quantiles(Float32Array.from(places, (at) => data[at]!)),
          samples: places.length,
        };
      });
    },
  };
}

/**
 * Samples the ground that each letter of a layout stands on (see `groundSampler`). `ground` holds luminances of what
 * lies below the words, in device px.
 */
export function sampleGround(
  layer: string,
  layout: WordsLayout,
  ground: Field,
  scale: number,
  origin: { x: number; y: number },
  rasterise: Rasterise,
  ring = Infinity,
): Legibility {
  const sampler = groundSampler(layout, ground, scale, origin, rasterise, ring);
  return { layer, letters: sampler ? sampler.sample(part(ground, sampler.region)) : [] };
}

/**
 * The 5th percentile of the contrasts of an ink (luminance 0…1) with a letter's ground, which ascends; nearest rank.
 * Contrast falls towards the ink's own luminance and rises beyond it, so the least contrasts lie together there.
 */
export function letterContrast({ ground }: Pick<LetterGround, 'ground'>, ink: number): number {
  let after = 0;
  for (let to = ground.length; after < to;) {
    const middle = (after + to) >> 1;
    if (ground[middle]! < ink) after = middle + 1;
    else to = middle;
  }
  let before = after - 1;
  const contrastAt = (i: number) => (i >= 0 && i < ground.length ? contrastOfLuminance(ink, ground[i]!) : Infinity);
  for (let rank = Math.max(1, Math.ceil(ground.length * 0.05)); ; rank--) {
    const [below, above] = [contrastAt(before), contrastAt(after)];
    if (rank === 1) return Math.min(below, above);
    if (below < above) before--;
    else after++;
  }
}

export interface Faintest {
  readonly letter: LetterGround;
  readonly contrast: number;
  readonly needed: number;
}

/**
 * The letter that falls furthest short of what WCAG 2.2, 1.4.3 asks of its size as shown
 * (`shownScale`: CSS px on the page per canvas px). `ink` judges another colour's luminance
 * instead of each letter's own. Null where nothing was sampled.
 */
export function faintestLetter(legibility: Legibility, shownScale: number, ink?: number): Faintest | null {
  let worst: Faintest | null = null;
  const inks = new Map<string, number>();
  for (const letter of legibility.letters) {
    let own = ink ?? inks.get(letter.colour);
    if (own === undefined) inks.set(letter.colour, (own = luminance(letter.colour)));
    const contrast = letterContrast(letter, own);
    const needed = contrastNeeded(letter.size * shownScale, letter.weight);
    if (!worst || contrast / needed < worst.contrast / worst.needed) worst = { letter, contrast, needed };
  }
  return worst;
}
