import type { Layer, WordsLayer } from '../graphic/graphic';
import { withFields } from '../words/layout';

/** The words that are to be seen. */
export const visibleWords = (layers: readonly Layer[]): WordsLayer[] =>
  layers.filter((l): l is WordsLayer => l.role === 'words' && l.visible);

/** What each paragraph of a layer says, its fields filled in. */
export const paragraphsOf = (layer: WordsLayer): string[] =>
  layer.paragraphs.map((p) => withFields(p.runs.map((r) => r.text).join(''), layer.fields.values));

/** A layer with its runs' texts changed; the layer itself where none is. */
export function withTexts(layer: WordsLayer, change: (text: string) => string): WordsLayer {
  const same = layer.paragraphs.every((p) => p.runs.every((r) => change(r.text) === r.text));
  if (same) return layer;
  const paragraphs = layer.paragraphs.map((p) => ({ ...p, runs: p.runs.map((r) => ({ ...r, text: change(r.text) })) }));
  return { ...layer, paragraphs };
}
