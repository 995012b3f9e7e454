import { contrastNeeded } from '../colour/contrast';
import { nearestShade } from '../colour/shade';
import { contrastOfLetter, type Legibility, type LetterGround } from './legibility';

const inks = [
  { name: 'white', hex: '#ffffff' },
  { name: 'black', hex: '#000000' },
] as const;

/** So many letters are asked first: the ones that failed last. */
const TIGHTEST = 6;

/**
 * The shade nearest to a colour with which all letters stand out (see `nearestShade`), and where none does the first of
 * white and black that does; null for none. `shownScale`: CSS px on the page per canvas px.
 */
export function passingColours(
  own: string,
  letters: readonly LetterGround[],
  shownScale: number,
): NonNullable<Legibility['colours']> {
  const stands = (letter: LetterGround, colour: string) =>
    contrastOfLetter(letter, colour) >= contrastNeeded(letter.size * shownScale, letter.weight);
  // Hundreds of shades are tried, and most fail at the same few letters: those are asked before the others.
  let tightest: readonly LetterGround[] = [];
  const passes = (colour: string): boolean => {
    if (!tightest.every((letter) => stands(letter, colour))) return false;
    const failing = letters.find((letter) => !stands(letter, colour));
    if (!failing) return true;
    tightest = [failing, ...tightest].slice(0, TIGHTEST);
    return false;
  };
  if (!letters.length) return { shade: null, ink: null };
  const shade = nearestShade(own, (_, colour) => passes(colour));
  return { shade, ink: shade ? null : (inks.find(({ hex }) => passes(hex)) ?? null) };
}
