import { contrast } from '../colour/contrast';
import { withLayer, type Graphic, type WordsLayer } from '../graphic/graphic';
import { readEveryState } from './calm-place';
import { faintestLetter, type Legibility } from './legibility';
import type { Reader } from './ways';

/** How wide a line around letters is, shares of their size: thin ones first. Common practice, no source. */
const WIDTHS = [0.04, 0.07];
/** Thinner than so many CSS px on the page it is not seen. */
const THIN = 1;

/**
 * The thinnest line around a layer's letters with which they stand out as they are; null where none does, or they have
 * one. Understanding WCAG 2.2, 1.4.3, on text with an outline: it is read against that (from memory). It is judged by
 * `faintestLetter`, as all words are. `shownScale`: CSS px on the page per canvas px.
 */
export async function outlinedWords(
  graphic: Graphic,
  layer: WordsLayer,
  reader: Reader,
  shownScale: number,
): Promise<NonNullable<Legibility['outlined']> | null> {
  if (layer.outline || layer.ground) return null;
  const runs = layer.paragraphs.flatMap((p) => p.runs);
  const [first] = runs;
  if (!first) return null;
  const size = Math.max(...runs.map((r) => r.size));
  const colour = contrast(first.colour, '#000000') >= contrast(first.colour, '#ffffff') ? '#000000' : '#ffffff';
  for (const share of WIDTHS) {
    const width = Math.round(Math.max(size * share, THIN / shownScale) * 2) / 2;
    const outline = { width, colour };
    const there = { ...layer, outline };
    const read = await readEveryState(withLayer(graphic, there), there, reader);
    const worst = faintestLetter({ letters: read }, shownScale);
    if (worst && worst.contrast >= worst.needed) return { outline, contrast: worst.contrast };
  }
  return null;
}
