import { contrastNeeded, contrastOfLuminance, luminance } from '../colour/contrast';
import { encoded, linearOf } from '../colour/srgb';
import type { Layer, WordsLayer } from '../graphic/graphic';
import { STRENGTHS, type VeilLayer } from '../graphic/shape';
import type { LetterGround } from './legibility';

/** How far a new veil behind words goes beyond them, and over how long it fades, canvas px. */
const GROW = 16;
const SOFT = 24;

/** What is seen of a grey ground (luminance) through a veil of a colour at a share of its strength: mixed as encoded, as browsers do. */
const through = (ground: number, veil: number, share: number) =>
  linearOf[Math.round(255 * encoded(ground) * (1 - share) + veil * share)]!;

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
  const id = `veil-${layer.id}`.slice(0, 64);
  // Read by a line or through something: there a veil's share cannot be told without painting it.
  if (!letters.length || letters.some((l) => l.line || l.over) || layers.some((l) => l.id === id)) return null;
  // Of letters of one kind the darkest and the lightest that any stands on: there may be thousands.
  const kinds = new Map<string, { ink: number; needed: number; ends: [number, number] }>();
  for (const { colour, size, weight, ground } of letters) {
    const key = `${colour}|${size}|${weight}`;
    const ends = [ground[0]!, ground.at(-1)!] as const;
    const known = kinds.get(key);
    if (known) known.ends = [Math.min(known.ends[0], ends[0]), Math.max(known.ends[1], ends[1])];
    else kinds.set(key, { ink: luminance(colour), needed: contrastNeeded(size * shownScale, weight), ends: [...ends] });
  }
  const passes = (veil: number, share: number) =>
    [...kinds.values()].every(({ ink, needed, ends }) => {
      const seen = ends.map((g) => through(g, veil, share));
      const between = ink >= Math.min(...seen) && ink <= Math.max(...seen);
      return !between && seen.every((g) => contrastOfLuminance(ink, g) >= needed);
    });
  const found = ['#000000', '#ffffff'].flatMap((colour) => {
    const veil = colour === '#000000' ? 0 : 255;
    for (let s = 8; s < STRENGTHS; s += 4) if (passes(veil, s / (STRENGTHS - 1))) return [{ colour, strength: s }];
    return [];
  });
  const least = found.sort((a, b) => a.strength - b.strength)[0];
  if (!least) return null;
  return {
    id,
    name: 'Veil',
    visible: true,
    locked: false,
    role: 'veil',
    form: { kind: 'behind', grow: GROW, soft: SOFT },
    ...least,
    words: [layer.id],
    justEnough: true,
  };
}
