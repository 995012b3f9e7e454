import {
  cutText,
  keptCentred,
  withText,
  wordsTaken,
  type Graphic,
  type Shaper,
  type WordsLayer,
} from '@bright-slot/core';

/** A change to a block of words; where it stood in the middle of the canvas it stays there. */
export function centred(
  before: WordsLayer,
  after: WordsLayer,
  graphic: Graphic | null,
  shaper: Shaper | null,
): WordsLayer {
  return graphic && shaper && after.sizing.kind !== 'fill' ? keptCentred(before, after, graphic.canvas, shaper) : after;
}

const nameFor = (text: string) => cutText(text.slice(0, 400).replace(/\s+/g, ' ').trim(), 40).trim() || 'Words';

/**
 * A words layer as it is being written: the layer, what its step is called, and which steps it joins: one a word;
 * and in words what of the text was left out.
 */
export function written(
  before: WordsLayer,
  was: string,
  given: string,
): { layer: WordsLayer; name: string; merge: string; left: string } {
  // Cut first: nothing may be done with a million letters.
  const taken = wordsTaken(given);
  const { text } = taken;
  // The key changes where a word ends.
  const words = text.trim().split(/\s+/).length;
  const layer = withText(before, taken.text);
  return {
    left: taken.left,
    // A name that was not given by hand goes along with the words.
    layer: before.name === nameFor(was) ? { ...layer, name: nameFor(text) } : layer,
    name: `Words: “${text.slice(-400).toWellFormed().replace(/\s+/g, ' ').trim().slice(-40).toWellFormed()}”`,
    merge: `words:${before.id}:${words}`,
  };
}
