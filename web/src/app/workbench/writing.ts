import { withText, type WordsLayer } from '@bright-slot/core';

const nameFor = (text: string) => text.replace(/\s+/g, ' ').trim().slice(0, 40) || 'Words';

/** A words layer as it is being written: the layer, what its step is called, and which steps it joins: one a word. */
export function written(
  before: WordsLayer,
  was: string,
  text: string,
): { layer: WordsLayer; name: string; merge: string } {
  // The key changes where a word ends.
  const words = text.trim().split(/\s+/).length;
  const layer = withText(before, text);
  return {
    // A name that was not given by hand goes along with the words.
    layer: before.name === nameFor(was) ? { ...layer, name: nameFor(text) } : layer,
    name: `Words: “${text.replace(/\s+/g, ' ').trim().slice(-40)}”`,
    merge: `words:${before.id}:${words}`,
  };
}
