import { nameFrom } from '../text';
import { plainWordsAppearance } from '../words/appearance';
import { plainBlock } from '../words/words';
import type { Graphic, WordsLayer } from './graphic';
import { withText } from './runs';

/** What new words say until they are written. */
export const PLACEHOLDER = 'Your words';

/**
 * A line of words in the middle of a canvas, a size that suits it (canvas px); where it goes, and its colour, is for
 * whoever places it.
 */
export function newWords({ canvas }: Pick<Graphic, 'canvas'>, text: string, id: string): WordsLayer {
  const { width, height } = canvas;
  const size = Math.max(12, Math.round(Math.min(height * 0.28, width * 0.09)));
  const layer: WordsLayer = {
    id,
    role: 'words',
    name: nameFrom(text.slice(0, 400), 40, 'Words'),
    visible: true,
    locked: false,
    lineSpacing: 1.2,
    place: { x: width / 2, y: (height - size * 1.2) / 2 },
    ...plainBlock,
    ...plainWordsAppearance,
    paragraphs: [
      {
        align: 'centre',
        runs: [
          {
            text: '',
            size,
            colour: '#1f2a30',
            face: { family: 'Bricolage Grotesque', weight: 700, italic: false },
            tracking: 0,
            case: 'typed',
          },
        ],
      },
    ],
  };
  return withText(layer, text);
}
