import type { Box } from '../geometry/box';
import { STRENGTHS } from '../graphic/shape';
import { luminanceField, type Field } from '../pixels/luminance';
import type { Pixels } from '../pixels/reduce';
import { faintestLetter, letterContrast, MOST_QUANTILES, type GroundSampler, type LetterGround } from './legibility';
import { contrastNeeded, luminance } from '../colour/contrast';

/**
 * One way in which words can be read over a veil. `bare` and `full` are what lies behind their letters in the region of
 * the sampler, seen over the page's ground (so opaque; encoded sRGB), with the veil at no strength and at all of it.
 * `ink` reads another colour than the letters' own.
 */
export interface VeiledWords {
  readonly sampler: GroundSampler;
  readonly bare: Pixels;
  readonly full: Pixels;
  readonly ink?: string;
}

/** Words as alternatives: they stand out when one of them does (letters, or the outline around them). */
export type Readings = readonly VeiledWords[];

/** What was found: the strength (0…255); null where none passes, then `best` is where the least is wanting. */
export interface JustEnough {
  readonly strength: number | null;
  /** The best margin there is (contrast over what is needed; 1 and more passes), and its strength. */
  readonly best: { readonly strength: number; readonly margin: number };
}

/** Every so many steps the ground is looked at whole; between them its luminance runs nearly straight. */
const STRIDE = 15;

/** Pixels over a page's ground, opaque. Encoded sRGB; Compositing and Blending 1, section 5.1. */
export function overGround(pixels: Pixels, ground: readonly [number, number, number], box: Box): Pixels {
  const data = new Uint8ClampedArray(box.width * box.height * 4);
  for (let y = 0, i = 0; y < box.height; y++)
    for (let x = 0, p = ((box.y + y) * pixels.width + box.x) * 4; x < box.width; x++, i += 4, p += 4) {
      const a = pixels.data[p + 3]! / 255;
      for (let c = 0; c < 3; c++) data[i + c] = pixels.data[p + c]! * a + ground[c]! * (1 - a);
      data[i + 3] = 255;
    }
  return { data, width: box.width, height: box.height };
}

/**
 * The ground with a veil at a strength: whatever lies over the veil, each channel runs straight from bare to full,
 * since source-over is linear in what lies below (Compositing and Blending 1, section 5.1).
 */
export function veiled(bare: Pixels, full: Pixels, strength: number): Pixels {
  const data = new Uint8ClampedArray(bare.data.length);
  const share = strength / (STRENGTHS - 1);
  for (let i = 0; i < data.length; i++) data[i] = bare.data[i]! + (full.data[i]! - bare.data[i]!) * share;
  return { data, width: bare.width, height: bare.height };
}

const fieldAt = ({ bare, full }: VeiledWords, strength: number): Field =>
  luminanceField(veiled(bare, full, strength), '#000000');

/** By how much words stand out at a strength (0…255): their faintest letter's contrast over what it needs, as the fit report judges. */
export function marginAt(readings: Readings, shownScale: number, strength: number): number {
  return Math.max(
    ...readings.map((words) => {
      const letters = words.sampler.sample(fieldAt(words, strength));
      const worst = faintestLetter({ layer: '', letters }, shownScale, words.ink ? luminance(words.ink) : undefined);
      return worst ? worst.contrast / worst.needed : Infinity;
    }),
  );
}

/** Margins at all strengths, nearly: each letter's ground between the strengths that were looked at is drawn straight. */
function estimated(words: VeiledWords, shownScale: number): Float64Array {
  const nodes: LetterGround[][] = [];
  for (let s = 0; s < STRENGTHS; s += STRIDE) nodes.push(words.sampler.sample(fieldAt(words, s)));
  const inks = new Map<string, number>();
  const inkOf = (colour: string) => {
    const known = inks.get(colour) ?? luminance(colour);
    inks.set(colour, known);
    return known;
  };
  const between = new Float32Array(MOST_QUANTILES);
  return Float64Array.from({ length: STRENGTHS }, (_, s) => {
    const node = Math.min(nodes.length - 2, Math.floor(s / STRIDE));
    const t = (s - node * STRIDE) / STRIDE;
    let margin = Infinity;
    nodes[node]!.forEach((letter, i) => {
      const after = nodes[node + 1]![i]!.ground;
      const ground = between.subarray(0, letter.ground.length);
      for (let k = 0; k < ground.length; k++) {
        const g = letter.ground[k]!;
        ground[k] = g + (after[k]! - g) * t;
      }
      const needed = contrastNeeded(letter.size * shownScale, letter.weight);
      margin = Math.min(margin, letterContrast({ ground }, inkOf(words.ink ?? letter.colour)) / needed);
    });
    return margin;
  });
}

/** So near to passing that an estimate is not believed. */
const DOUBT = 0.04;

/**
 * The least strength of a veil with which all of these words stand out (WCAG 2.2, 1.4.3, as the fit report judges
 * them). Contrast is not monotone in strength: on its way from light to dark a ground passes through the ink's own
 * lightness. So all 256 strengths are scanned, by estimate, and what is found is judged itself, with the strengths
 * around it. `shownScale`: CSS px on the page per canvas px.
 */
export function justEnough(words: readonly Readings[], shownScale: number): JustEnough {
  const estimates = words.map((readings) => readings.map((r) => estimated(r, shownScale)));
  const guess = (s: number) => Math.min(Infinity, ...estimates.map((e) => Math.max(...e.map((m) => m[s]!))));
  const known = new Map<number, number>();
  const exact = (s: number) => {
    let margin = known.get(s);
    if (margin === undefined) {
      margin = Math.min(Infinity, ...words.map((readings) => marginAt(readings, shownScale, s)));
      known.set(s, margin);
    }
    return margin;
  };
  for (let s = 0; s < STRENGTHS; s++) {
    const m = guess(s);
    if (m < 1 - DOUBT) continue;
    if (exact(s) >= 1) return { strength: s, best: { strength: s, margin: exact(s) } };
  }
  let best = 0;
  for (let s = 1; s < STRENGTHS; s++) if ((known.get(s) ?? guess(s)) > (known.get(best) ?? guess(best))) best = s;
  return { strength: null, best: { strength: best, margin: exact(best) } };
}
