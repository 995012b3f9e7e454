import crc from 'crc-32';
import { cutText } from '../text';
import { withFields } from '../words/layout';
import { isPicture, type Graphic, type Layer, type WordsLayer } from './graphic';
import type { CanvasWindow, ExportChoices } from './frame';
import { limits } from '../limits';
import { textOf } from '../words/words';

const wordsOf = (layers: readonly Layer[]) =>
  layers
    .filter((l): l is WordsLayer => l.role === 'words' && l.visible)
    .map((l) => withFields(textOf(l), l.fields.values).replace(/\s+/g, ' ').trim())
    .filter(Boolean);

/**
 * A description to start from, for people who cannot see the picture: what the words on it say. What its pictures show
 * is for a person to say: files and layers are named for whoever makes the graphic. (WCAG 2.2, 1.1.1 asks for a text
 * alternative.)
 */
export function proposedDescription(layers: readonly Layer[]): string {
  return cutText([...new Set(wordsOf(layers))].join('; '), limits.description / 2);
}

/** A short name for a value: another one where its JSON is another. */
function stateName(value: unknown): string {
  const text = JSON.stringify(value);
  return `${text.length}-${(crc.str(text) >>> 0).toString(16)}`;
}

/** Names what a description is of: the words that are to be seen, and the pictures. Another one where either changed. */
export function describedState(layers: readonly Layer[]): string {
  const pictures = layers.flatMap((l) => (isPicture(l) && l.visible ? [l.asset] : []));
  return stateName([wordsOf(layers), pictures]);
}

/** Names what a frame's file shows: another one where anything that is painted changed. Fields that were frozen since say the same. */
export function pictureState({ layers, backdrop, canvas }: Graphic, { rect }: CanvasWindow): string {
  const plain = layers.map((l) =>
    l.role === 'words' ? { ...l, fields: l.fields.values, locked: false } : { ...l, locked: false },
  );
  const whole = rect.x === 0 && rect.y === 0 && rect.width === canvas.width && rect.height === canvas.height;
  return stateName(whole ? [plain, backdrop, canvas] : [plain, backdrop, canvas, rect]);
}

/** Whether a description was written for other words or pictures than are there now. One of before that was kept is not known to be. */
export function isStaleDescription({ alt, altFor }: ExportChoices, layers: readonly Layer[]): boolean {
  return alt.trim() !== '' && altFor !== undefined && altFor !== describedState(layers);
}
