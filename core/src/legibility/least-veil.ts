import { STRENGTHS } from '../graphic/shape';
import { contrastNeeded } from '../colour/contrast';
import { bothReadings, faintestLetter, readingContrast, type GroundSampler, type LetterGround } from './legibility';
import type { Over, Seen } from './seen';

/**
 * One way in which words can be read over a veil. `bare` and `full` are what is seen in the region of the sampler, with
 * the veil at no strength and at all of it. `ink` reads another colour than the letters' own.
 */
export interface VeiledWords {
  readonly sampler: GroundSampler;
  readonly bare: Seen;
  readonly full: Seen;
  readonly ink?: string;
}

/** The ways of reading a layer's words: by the letters, and by the line around them where there is one. */
export type Readings = readonly VeiledWords[];

/** What was found: the strength (0…255); null where none passes, then `best` is where the least is wanting. */
export interface LeastVeil {
  readonly strength: number | null;
  /** The best margin there is (contrast over what is needed; 1 and more passes), and its strength. */
  readonly best: { readonly strength: number; readonly margin: number };
}

/** Every so many steps the ground is looked at whole; between them its luminance runs nearly straight. */
const STRIDE = 15;

const between = (from: number, to: number, share: number) => from + (to - from) * share;

/**
 * What is seen with a veil at a strength: whatever lies over the veil, each channel runs straight from bare to full,
 * since source-over is linear in what lies below (Compositing and Blending 1, section 5.1); so does what lies over words.
 */
export function veiled(bare: Seen, full: Seen, strength: number): Seen {
  const share = strength / (STRENGTHS - 1);
  const { width, height } = bare.pixels;
  const [low, high] = [bare.pixels.data, full.pixels.data];
  const data = new Uint8ClampedArray(low.length);
  for (let i = 0; i < data.length; i++) data[i] = between(low[i]!, high[i]!, share);
  const pixels = { data, width, height };
  if (bare.over === full.over || (!bare.over && !full.over)) return { pixels, over: bare.over };
  const planes = [0, 1, 2, 3].map((c) => {
    const nothing = c === 3 ? 1 : 0;
    const [from, to] = [bare.over?.planes[c], full.over?.planes[c]];
    const plane = new Float32Array(width * height);
    for (let i = 0; i < plane.length; i++) plane[i] = between(from ? from[i]! : nothing, to ? to[i]! : nothing, share);
    return plane;
  });
  return { pixels, over: { planes: planes as unknown as Over['planes'] } };
}

const lettersAt = (readings: Readings, strength: number): readonly LetterGround[] => {
  const [own, line] = readings.map(({ sampler, bare, full, ink }) => {
    const letters = sampler.sample(veiled(bare, full, strength));
    return ink ? letters.map((l) => ({ ...l, colour: ink })) : letters;
  });
  return bothReadings(own!, line ?? null);
};

/** By how much words stand out at a strength (0…255): their faintest letter's contrast over what it needs, as the fit report judges. */
export function marginAt(readings: Readings, shownScale: number, strength: number): number {
  const worst = faintestLetter({ letters: lettersAt(readings, strength) }, shownScale);
  return worst ? worst.contrast / worst.needed : Infinity;
}

/** A letter's ground between two strengths that were looked at, drawn straight. */
function midway(here: LetterGround, there: LetterGround, t: number): LetterGround {
  const mixed = (a: Float32Array, b: Float32Array) =>
    a.length === b.length ? Float32Array.from(a, (v, i) => between(v, b[i]!, t)) : t < 0.5 ? a : b;
  const over = here.over && there.over ? mixed(here.over, there.over) : t < 0.5 ? here.over : there.over;
  return { ...here, ground: mixed(here.ground, there.ground), over };
}

/** Margins at all strengths, nearly: each letter's ground between the strengths that were looked at is drawn straight. */
function estimated(readings: Readings, shownScale: number): Float64Array {
  const nodes: (readonly LetterGround[])[] = [];
  for (let s = 0; s < STRENGTHS; s += STRIDE) nodes.push(lettersAt(readings, s));
  return Float64Array.from({ length: STRENGTHS }, (_, s) => {
    const node = Math.min(nodes.length - 2, Math.floor(s / STRIDE));
    const t = (s - node * STRIDE) / STRIDE;
    let margin = Infinity;
    nodes[node]!.forEach((letter, i) => {
      const after = nodes[node + 1]![i]!;
      // Where an estimate of places and quantiles would be mixed, the nearer look stands.
      const comparable = letter.ground.length === after.ground.length && !letter.over === !after.over;
      const at = comparable ? midway(letter, after, t) : t < 0.5 ? letter : after;
      const line =
        at.line && after.line && at.line.ground.length === after.line.ground.length
          ? midway({ ...at, ...at.line }, { ...after, ...after.line }, t)
          : at.line;
      const own = readingContrast(at, at.colour);
      const contrast = line ? Math.max(own, readingContrast(line, line.colour)) : own;
      margin = Math.min(margin, contrast / contrastNeeded(letter.size * shownScale, letter.weight));
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
export function leastVeil(words: readonly Readings[], shownScale: number): LeastVeil {
  const estimates = words.map((readings) => estimated(readings, shownScale));
  const guess = (s: number) => Math.min(Infinity, ...estimates.map((e) => e[s]!));
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
