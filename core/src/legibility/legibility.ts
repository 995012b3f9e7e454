import { clamp } from '../geometry/clamp';
import { enclosing, grown, intersection, outward, scaled, type Box, type Point, type Size } from '../geometry/box';
import { turnedBounds } from '../geometry/turn';
import { contrastNeeded, contrastOfLuminance, luminance } from '../colour/contrast';
import { squaredDistances } from '../pixels/distance';
import { luminanceField, smoothed, type Field } from '../pixels/luminance';
import { channelsOf, linearOf } from '../colour/srgb';
import type { WordsLayer } from '../graphic/graphic';
import { itemInk, type WordsLayout } from '../words/layout';
import type { Over, Seen } from './seen';
import { strokeWidth } from '../words/stroke';

/** One way in which a letter is read: an ink, and what it stands against. */
export interface Reading {
  /** What is named; what is seen of it is told by `over`. */
  readonly colour: string;
  /** Luminances of the ground around it, as seen: ascending where what lies over it is the same all over. */
  readonly ground: Float32Array;
  /**
   * What is seen of the ink: red, green and blue that are added (encoded sRGB, 0…255) and the share of the ink itself
   * (0…1); four numbers for all of the ground, or four for each of its places. Null where the ink is seen as it is.
   */
  readonly over: Float32Array | null;
}

/** One letter and the ground it stands on. */
export interface LetterGround extends Reading {
  readonly letter: string;
  /** Which of the layout's items it is. */
  readonly index: number;
  /** The upright box around it as it stands, canvas px. */
  readonly box: Box;
  /** Canvas px, and CSS weight. */
  readonly size: number;
  readonly weight: number;
  /** How many pixels were sampled. */
  readonly samples: number;
  /** Read by the line around it instead. */
  readonly line?: Reading;
}

/** What one words layer stands on, letter by letter. */
export interface Legibility {
  readonly layer: string;
  readonly letters: readonly LetterGround[];
  /** With the page's darkening the other way: off where it is on, on where it is off. Only of pages where it can be switched. */
  readonly switched?: readonly LetterGround[];
  /** Of words that are too faint: the nearest shade of their first colour that stands out, or which ink would. */
  readonly colours?: {
    readonly shade: string | null;
    readonly ink: { readonly name: string; readonly hex: string } | null;
  };
  /** Set where it is too faint, and would stand out if nothing lay over it. */
  readonly atFront?: boolean;
  /** Set where it is too faint, and stands out at a place nearby: the move there (canvas px), and the contrast at its faintest letter. */
  readonly calm?: { readonly by: Point; readonly contrast: number };
  /** Set where it is too faint as small as it is, and large type of it stands out: the layer then, its size (canvas px), and the contrast. */
  readonly larger?: { readonly layer: WordsLayer; readonly size: number; readonly contrast: number };
  /** Set where it is too faint, and stands out with a line around its letters: that line, and the contrast then. */
  readonly outlined?: {
    readonly outline: { readonly width: number; readonly colour: string };
    readonly contrast: number;
  };
}

/** All that is seen of a layer's letters, in every state of the page. */
export const allLetters = ({ letters, switched }: Pick<Legibility, 'letters' | 'switched'>): readonly LetterGround[] =>
  switched ? [...letters, ...switched] : letters;

/**
 * Coverage 0…255 of an item of a layout alone as it stands in the file, turned, within a box of whole device px, row by
 * row; with a line around it of so many canvas px.
 */
export type Rasterise = (item: WordsLayout['items'][number], box: Box, line: number) => Uint8Array | Uint8ClampedArray;

/** How a layout stands in device px: `scale` is device px per canvas px, `origin` the frame's corner, canvas px. */
export interface Standing {
  readonly size: Size;
  readonly scale: number;
  readonly origin: Point;
  /** All of it turned clockwise about a point, canvas px. */
  readonly turn: { readonly degrees: number; readonly about: Point } | null;
}

/** So many luminances speak for a letter's ground, … */
export const MOST_QUANTILES = 256;
/** … and so many in a block of very many letters: every letter is looked at, each in fewer places. */
const FEW_QUANTILES = 64;
const MANY_LETTERS = 1500;
/** So many places are kept where what lies over a letter differs from place to place. */
const MOST_PLACES = 1024;
/** From here on a pixel counts as the letter's own. */
const INK = 96;
/** Strokes of so many device px and more are taken for full ink. */
const FULL = 0.9;

function quantiles(values: Float32Array, most: number): Float32Array {
  values.sort();
  if (values.length <= most) return values;
  return Float32Array.from({ length: most }, (_, i) => values[Math.round((i / (most - 1)) * (values.length - 1))]!);
}

const median = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

/** Where the letters of one layout look for their ground: made once, asked for any ground. */
export interface GroundSampler {
  /** The part of the canvas that is looked at, whole device px. */
  readonly region: Box;
  /** What each letter stands on; `seen` holds the region alone. */
  sample(seen: Seen): LetterGround[];
}

/** How letters are looked at: as they are, or by the line around them (canvas px); `ring` (device px) holds the look near. */
export interface Manner {
  readonly ring?: number;
  readonly line?: { readonly width: number; readonly colour: string };
}

/**
 * Finds where the ground of each letter of a layout is to be looked for. Our own method, no standard: for each letter,
 * the ground that is to be seen within one stroke's width of its outline as it stands on the canvas, smoothed at half a
 * stroke (σ). A letter wholly off the canvas is left out; null where all are. Letters with an outline stand on that
 * (`ring`), and not on what lies beyond it; read by their outline (`line`) they stand on what lies beyond it.
 * Strokes thinner than a device px are seen by the share of it they cover.
 */
export function groundSampler(
  layout: WordsLayout,
  { size, scale, origin, turn }: Standing,
  rasterise: Rasterise,
  { ring = Infinity, line }: Manner = {},
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
    const known = widths.get(kindOf(item));
    if (known) known.push(thick);
    else widths.set(kindOf(item), [thick]);
  }
  const thickness = new Map([...widths].map(([kind, all]) => [kind, median(all) * scale]));
  const strokeOf = (kind: string) => Math.max(1, Math.min(ring, thickness.get(kind)!));
  const shown = (thick: number) => (thick >= FULL ? 1 : thick);
  const inkShare = (kind: string) => shown(line ? line.width * scale : thickness.get(kind)!);
  const most = layout.items.length > MANY_LETTERS ? FEW_QUANTILES : MOST_QUANTILES;
  // What any letter covers is no ground for its neighbours; how much of each pixel ink covers weighs what lies over it.
  const inked = new Uint8Array(size.width * size.height);
  const letters = layout.items.flatMap((item, index) => {
    const ink = itemInk(item);
    if (!ink) return [];
    const kind = kindOf(item);
    const stroke = strokeOf(kind);
    const about = turn && { x: (turn.about.x - origin.x) * scale, y: (turn.about.y - origin.y) * scale };
    const upright = scaled({ ...ink, x: ink.x - origin.x, y: ink.y - origin.y }, scale);
    const device = turn && about ? turnedBounds(upright, turn.degrees, about) : upright;
    const box = outward(grown(device, Math.ceil(stroke + (line?.width ?? 0) * scale) + 1));
    const visible = intersection(box, canvas);
    if (!visible) return [];
    const coverage = rasterise(item, box, line?.width ?? 0);
    const solid = new Uint8Array(coverage.length);
    for (let i = 0; i < solid.length; i++) solid[i] = coverage[i]! >= INK ? 1 : 0;
    for (let y = visible.y; y < visible.y + visible.height; y++)
      for (let x = visible.x; x < visible.x + visible.width; x++) {
        const c = coverage[(y - box.y) * box.width + (x - box.x)]!;
        const at = y * size.width + x;
        if (c > inked[at]!) inked[at] = c;
      }
    return [{ item, index, ink, box, visible, solid, kind, stroke }];
  });

  // Only the part of the ground that the letters and the smoothing reach.
  const reach = Math.ceil(1.5 * Math.max(0, ...letters.map((l) => l.stroke))) + 1;
  const all = enclosing(letters.map((l) => l.visible));
  const region = all && intersection(canvas, grown(all, reach));
  if (!region) return null;
  const placed = letters.flatMap(({ item, index, ink, box, visible, solid, kind, stroke }) => {
    const distances = squaredDistances(solid, box.width, box.height);
    const places: number[] = [];
    for (let y = visible.y; y < visible.y + visible.height; y++)
      for (let x = visible.x; x < visible.x + visible.width; x++)
        if (!inked[y * size.width + x] && distances[(y - box.y) * box.width + (x - box.x)]! <= stroke * stroke)
          places.push((y - region.y) * region.width + (x - region.x));
    return places.length ? [{ item, index, ink, kind, places: Uint32Array.from(places) }] : [];
  });
  const weights = new Float32Array(region.width * region.height);
  for (let y = 0, i = 0; y < region.height; y++)
    for (let x = 0; x < region.width; x++, i++) weights[i] = inked[(region.y + y) * size.width + region.x + x]! / 255;
  const field = (data: Float32Array): Field => ({ width: region.width, height: region.height, data });

  // What lies over the letters is the same for every ground that is tried below them.
  const known = new WeakMap<Over, Map<string, Float32Array[]>>();
  const coversOf = (over: Over | null, kinds: readonly string[]): ReadonlyMap<string, Float32Array[] | null> => {
    if (!over) return new Map(kinds.map((kind) => [kind, null]));
    let covers = known.get(over);
    if (!covers) {
      covers = new Map(kinds.map((kind) => [kind, overNear(over, field(weights), strokeOf(kind) / 2)]));
      known.set(over, covers);
    }
    return covers;
  };

  return {
    region,
    sample({ pixels, over }) {
      const near = luminanceField(pixels, '#000000');
      const kinds = [...new Set(placed.map((p) => p.kind))];
      const grounds = new Map(kinds.map((kind) => [kind, smoothed(near, strokeOf(kind) / 2).data]));
      const covers = coversOf(over, kinds);
      return placed.map(({ item, index, ink, kind, places }) => {
        const ground = grounds.get(kind)!;
        const seenOver = overAt(covers.get(kind)!, places, inkShare(kind), pixels);
        const reading =
          seenOver && seenOver.length > 4
            ? everyPlace(ground, places, seenOver)
            : {
                ground: quantiles(
                  Float32Array.from(places, (at) => ground[at]!),
                  most,
                ),
                over: seenOver,
              };
        return {
          letter: item.text,
          index,
          box: turn ? turnedBounds(ink, turn.degrees, turn.about) : ink,
          colour: line?.colour ?? item.colour,
          size: item.size,
          weight: item.weight,
          ...reading,
          samples: places.length,
        };
      });
    },
  };
}

/** What lies over the ink nearest to each place: an average weighed by ink and nearness. Red, green, blue, share. */
function overNear({ planes }: Over, weights: Field, sigma: number): Float32Array[] {
  const { width, height } = weights;
  const weight = smoothed(weights, sigma).data;
  return planes.map((plane) => {
    const weighed = new Float32Array(plane.length);
    for (let i = 0; i < plane.length; i++) weighed[i] = plane[i]! * weights.data[i]!;
    const sum = smoothed({ width, height, data: weighed }, sigma).data;
    const near = new Float32Array(plane.length);
    for (let i = 0; i < plane.length; i++) near[i] = weight[i]! > 1e-5 ? sum[i]! / weight[i]! : plane[i]!;
    return near;
  });
}

/** Differences in what lies over a letter that are no more than rounding: of a channel of 255, of a share. */
const SAME = 1.5;
const SAME_SHARE = 0.01;

/** What is seen of a letter's ink at its places; null where that is the ink itself, four numbers where it is one all over. */
function overAt(planes: readonly Float32Array[] | null, places: Uint32Array, ink: number, seen: Seen['pixels']) {
  if (!planes && ink === 1) return null;
  const at = (place: number): [number, number, number, number] => {
    const [r, g, b, share] = planes ? planes.map((p) => p[place]!) : [0, 0, 0, 1];
    const through = (added: number, c: number) => ink * added + (1 - ink) * seen.data[place * 4 + c]!;
    return [through(r!, 0), through(g!, 1), through(b!, 2), ink * share!];
  };
  const all = new Float32Array(places.length * 4);
  places.forEach((place, i) => all.set(at(place), i * 4));
  const ends = [0, 1, 2, 3].map((c) => {
    let [low, high, sum] = [Infinity, -Infinity, 0];
    for (let i = c; i < all.length; i += 4) {
      low = Math.min(low, all[i]!);
      high = Math.max(high, all[i]!);
      sum += all[i]!;
    }
    return { low, high, mean: sum / places.length };
  });
  if (ends.some(({ low, high }, c) => high - low > (c < 3 ? SAME : SAME_SHARE))) return all;
  if (ends[3]!.low > 1 - SAME_SHARE && ends.every((e, c) => c === 3 || e.high < SAME)) return null;
  return Float32Array.from(ends, (e) => e.mean);
}

/** A letter's ground place by place, of very many some in even steps. */
function everyPlace(ground: Float32Array, places: Uint32Array, over: Float32Array): Pick<Reading, 'ground' | 'over'> {
  const count = Math.min(places.length, MOST_PLACES);
  const picked = Uint32Array.from({ length: count }, (_, i) => Math.floor((i * places.length) / count));
  return {
    ground: Float32Array.from(picked, (i) => ground[places[i]!]!),
    over: Float32Array.from({ length: count * 4 }, (_, k) => over[picked[k >> 2]! * 4 + (k & 3)]!),
  };
}

/** Letters with both ways of reading them, where there are two: by themselves, and by the line around them. */
export function bothReadings(
  own: readonly LetterGround[],
  line: readonly LetterGround[] | null,
): readonly LetterGround[] {
  if (!line) return own;
  const by = new Map(own.map((l) => [l.index, l]));
  const lined = new Set(line.map((l) => l.index));
  return line
    .map(({ colour, ground, over, ...rest }) => {
      const letter = by.get(rest.index);
      // Where no ground is to be seen between a letter and its line, the line alone is read.
      return letter ? { ...letter, line: { colour, ground, over } } : { ...rest, colour, ground, over };
    })
    .concat(own.filter((l) => !lined.has(l.index)));
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

const known = new Map<string, { luminance: number; channels: readonly number[] }>();
/** A colour's luminance and channels, kept: letters ask for the same few. */
function inkOf(colour: string) {
  let ink = known.get(colour);
  if (!ink) {
    if (known.size > 2000) known.clear();
    known.set(colour, (ink = { luminance: luminance(colour), channels: channelsOf(colour) }));
  }
  return ink;
}

/** The contrast of a colour with a letter's ground, as seen through what lies over it: the 5th percentile, nearest rank. */
export function readingContrast({ ground, over }: Pick<Reading, 'ground' | 'over'>, colour: string): number {
  const ink = inkOf(colour);
  if (!over) return letterContrast({ ground }, ink.luminance);
  const linear = (at: number, c: number) => {
    const encoded = over[at + c]! + over[at + 3]! * ink.channels[c]!;
    return linearOf[clamp(Math.round(encoded), 0, 255)]!;
  };
  const seenAt = (at: number) => 0.2126 * linear(at, 0) + 0.7152 * linear(at, 1) + 0.0722 * linear(at, 2);
  if (over.length === 4) return letterContrast({ ground }, seenAt(0));
  const contrasts = Float64Array.from(ground, (g, i) => contrastOfLuminance(seenAt(i * 4), g)).sort();
  return contrasts[Math.max(1, Math.ceil(contrasts.length * 0.05)) - 1]!;
}

/** The contrast of a reading in its own colour, kept: it is asked at every scale, and of an outline with every colour. */
const kept = new WeakMap<Reading, number>();
function ownContrast(reading: Reading): number {
  let contrast = kept.get(reading);
  if (contrast === undefined) kept.set(reading, (contrast = readingContrast(reading, reading.colour)));
  return contrast;
}

/** A letter's contrast in the way of reading it that stands out most; in another colour than its own where one is given. */
export function contrastOfLetter(letter: LetterGround, colour = letter.colour): number {
  const own = colour === letter.colour ? ownContrast(letter) : readingContrast(letter, colour);
  return letter.line ? Math.max(own, ownContrast(letter.line)) : own;
}

export interface Faintest {
  readonly letter: LetterGround;
  readonly contrast: number;
  readonly needed: number;
}

/**
 * The letter that falls furthest short of what WCAG 2.2, 1.4.3 asks of its size as shown (`shownScale`: CSS px on the
 * page per canvas px). `ink` judges another colour instead of each letter's own. Null where nothing was sampled.
 */
export function faintestLetter(
  { letters }: Pick<Legibility, 'letters'>,
  shownScale: number,
  ink?: string,
): Faintest | null {
  let worst: Faintest | null = null;
  for (const letter of letters) {
    const contrast = contrastOfLetter(letter, ink);
    const needed = contrastNeeded(letter.size * shownScale, letter.weight);
    if (!worst || contrast / needed < worst.contrast / worst.needed) worst = { letter, contrast, needed };
  }
  return worst;
}
