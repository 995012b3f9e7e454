import { lightness } from '../colour/contrast';
import type { Reading } from './legibility';

/** So many letters of a long text are looked at, in even steps. */
const MOST_LETTERS = 200;

const rank = (sorted: ArrayLike<number>, share: number) =>
  sorted[Math.max(0, Math.ceil(sorted.length * share) - 1)] ?? 0;

/**
 * How busy the ground of words is at their letters' own scale: for each letter the span in lightness (L* 0…100) from the
 * darkest tenth to the lightest tenth of what is seen within a stroke's width of it, smoothed at half a stroke; of all
 * letters the third quartile, so that a title that is half on a busy ground counts as busy. 0 is flat. Our own measure;
 * lightness as in CIE 15 (L* of 1976).
 */
export function busyness(letters: readonly Pick<Reading, 'ground'>[]): number {
  const step = Math.max(1, letters.length / MOST_LETTERS);
  const spans: number[] = [];
  for (let i = 0; i < letters.length; i += step) {
    const ground = Float32Array.from(letters[Math.floor(i)]!.ground).sort();
    if (ground.length) spans.push(lightness(rank(ground, 0.9)) - lightness(rank(ground, 0.1)));
  }
  return rank(
    spans.sort((a, b) => a - b),
    0.75,
  );
}
