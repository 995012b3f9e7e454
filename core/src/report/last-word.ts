import type { WordsLayer } from '../graphic/graphic';
import { lineTexts } from '../words/layout';
import type { Shaper } from '../words/shaper';
import { isLong } from './free-move';
import { defineRule, fixable, type Finding, type Fix } from './rule';
import { visibleWords } from './said';
import { thresholds } from './thresholds';
import { called } from './wording';

/** The short word that stands on the last of a paragraph's lines by itself; null where none does. */
function leftOver(layer: WordsLayer, shaper: Shaper): string | null {
  // A long text has its lines broken for reading; measuring it takes longer than it is worth.
  if (layer.sizing.kind === 'grow' || isLong(layer)) return null;
  for (const lines of lineTexts(layer, shaper)) {
    const last = lines.at(-1)!;
    const word = last.replace(/[^\p{L}\p{N}]+$/u, '');
    const alone = lines.length > 1 && word !== '' && !/\s/.test(last) && word.length <= thresholds.lastWord.value;
    // Lines of a word each are a choice.
    if (alone && lines.some((l) => /\s/.test(l))) return last;
  }
  return null;
}

/** Widths that are tried instead of a block's own, the nearest first. */
const WIDTHS = [0.97, 1.03, 0.94, 1.06, 0.9, 1.1, 0.85, 1.15, 0.8, 1.2, 0.7, 1.3];

/** A short word on a last line by itself looks left over. */
export const lastWord = defineRule({
  id: 'last-word',
  about: 'Words',
  what: 'A short word by itself on the last line of words whose lines break at a width.',
  by: ['lastWord'],
  mends: 'A width a little wider or narrower.',
  passed: 'No word is left over on a line',
  needs: ['layers', 'shaper'],
  judge({ layers, shaper }): Finding[] {
    return visibleWords(layers).flatMap((layer): Finding[] => {
      const word = leftOver(layer, shaper);
      if (word === null) return [];
      const fixes = (): Fix[] => {
        const { sizing } = layer;
        if (layer.locked || sizing.kind !== 'wrap') return [];
        for (const by of WIDTHS) {
          const other: WordsLayer = { ...layer, sizing: { ...sizing, width: sizing.width * by } };
          if (leftOver(other, shaper) !== null) continue;
          const label = `${by < 1 ? 'Narrower' : 'Wider'} by ${Math.abs(Math.round((by - 1) * 100))} %`;
          return [{ label, edit: { type: 'replace-layer', name: `${layer.name}: lines broken anew`, layer: other } }];
        }
        return [];
      };
      return [
        fixable(
          {
            id: `last-word:${layer.id}`,
            group: 'time',
            title: `“${word}” is left over on the last line of ${called(layer)}`,
            detail: 'A line of one short word looks like a mistake.',
            at: null,
            layer: layer.id,
          },
          fixes,
        ),
      ];
    });
  },
});
