import { contrastNeeded, contrastOfLuminance, luminance } from '../colour/contrast';
import { encoded, linearOf } from '../colour/srgb';
import type { Layer, WordsLayer } from '../graphic/graphic';
import { STRENGTHS, type VeilLayer } from '../graphic/shape';
import { busyness } from './busyness';
import type { LetterGround } from './legibility';

/** How far a new veil behind words goes beyond them, and over how long it fades, canvas px. */
const GROW = 16;
const SOFT = 24;

/** What is seen of a grey ground (luminance) through a veil of a colour at a share of its strength: mixed as encoded, as browsers do. */
const through = (ground: number, veil: number, share: number) =>
  linearOf[Math.round(255 * encoded(ground) * (1 - share) + veil * share)]!;

/** A layer's veil where none lies behind it already: soft, a little larger than its words. */
function veilOf(
  layer: WordsLayer,
  layers: readonly Layer[],
  own: Pick<VeilLayer, 'colour' | 'strength' | 'justEnough'>,
) {
  const id = `veil-${layer.id}`.slice(0, 64);
  if (layers.some((l) => l.id === id)) return null;
  const veil: VeilLayer = {
    id,
    name: 'Veil',
    visible: true,
    locked: false,
    role: 'veil',
    form: { kind: 'behind', grow: GROW, soft: SOFT },
    words: [layer.id],
    ...own,
  };
  return veil;
}

/** The least strength of black or white at which something holds of what is seen through it; null where none does. */
function leastShare(passes: (veil: number, share: number) => boolean): { colour: string; strength: number } | null {
  const found = ['#000000', '#ffffff'].flatMap((colour) => {
    const veil = colour === '#000000' ? 0 : 255;
    for (let s = 8; s < STRENGTHS; s += 4) if (passes(veil, s / (STRENGTHS - 1))) return [{ colour, strength: s }];
    return [];
  });
  return found.sort((a, b) => a.strength - b.strength)[0] ?? null;
}

/** Whether letters of one kind stand out whatever of their grounds they stand on, from the darkest to the lightest. */
function standsOut(letters: readonly LetterGround[], shownScale: number) {
  // Of letters of one kind the darkest and the lightest that any stands on: there may be thousands.
  const kinds = new Map<string, { ink: number; needed: number; ends: [number, number] }>();
  for (const { colour, size, weight, ground } of letters) {
    const key = `${colour}|${size}|${weight}`;
    const ends = [ground[0]!, ground.at(-1)!] as const;
    const known = kinds.get(key);
    if (known) known.ends = [Math.min(known.ends[0], ends[0]), Math.max(known.ends[1], ends[1])];
    else kinds.set(key, { ink: luminance(colour), needed: contrastNeeded(size * shownScale, weight), ends: [...ends] });
  }
  return (veil: number, share: number) =>
    [...kinds.values()].every(({ ink, needed, ends }) => {
      const seen = ends.map((g) => through(g, veil, share));
      const between = ink >= Math.min(...seen) && ink <= Math.max(...seen);
      return !between && seen.every((g) => contrastOfLuminance(ink, g) >= needed);
    });
}

/** Whether letters are read as they are: by a line, or through something, a veil's share cannot be told without painting it. */
const plainly = (letters: readonly LetterGround[]) => letters.length > 0 && !letters.some((l) => l.line || l.over);

/**
 * A veil behind words with which they are about readable, its strength to be kept at just enough; null where no strength
 * of black or white will do, or where one lies behind them already. Worked out from the lightness of what the letters
 * stand on (`leastVeil` finds it exactly). `shownScale`: CSS px on the page per canvas px.
 */
export function veilBehind(
  layer: WordsLayer,
  layers: readonly Layer[],
  letters: readonly LetterGround[],
  shownScale: number,
): VeilLayer | null {
  if (!plainly(letters)) return null;
  const least = leastShare(standsOut(letters, shownScale));
  return least && veilOf(layer, layers, { ...least, justEnough: true });
}

/**
 * A veil behind words with which the ground around their letters is no busier than `most` (see `busyness`), and the words
 * stand out; null where no strength of black or white will do, or one lies behind them already.
 */
export function calmingVeil(
  layer: WordsLayer,
  layers: readonly Layer[],
  letters: readonly LetterGround[],
  shownScale: number,
  most: number,
): VeilLayer | null {
  if (!plainly(letters)) return null;
  const readable = standsOut(letters, shownScale);
  const calm = (veil: number, share: number) =>
    // A tenth less, since the ground is taken for grey here.
    busyness(letters.map(({ ground }) => ({ ground: ground.map((g) => through(g, veil, share)) }))) <= most * 0.9;
  const least = leastShare((veil, share) => readable(veil, share) && calm(veil, share));
  return least && veilOf(layer, layers, { ...least, justEnough: false });
}
