import { defineRule, type Finding } from './rule';
import { paragraphsOf, visibleWords, withTexts } from './said';
import { called } from './wording';

/** Words that English says twice on purpose: common practice, no source. */
const meant = new Set([
  'had',
  'that',
  'bye',
  'no',
  'ha',
  'ho',
  'very',
  'so',
  'really',
  'knock',
  'tut',
  'there',
  'now',
  'well',
]);

const TWICE = /(?<![\p{L}\p{N}’'-])(\p{L}+)(\s+)(\1)(?![\p{L}\p{N}’'-])/giu;

/** "in the the mill": the eye reads over it, visitors do not. */
export const doubled = defineRule({
  id: 'doubled',
  about: 'Words',
  what: 'A word that stands twice in a row.',
  by: [],
  mends: 'One of the two away.',
  passed: 'No word stands twice in a row',
  needs: ['layers'],
  judge({ layers }): Finding[] {
    return visibleWords(layers).flatMap((layer): Finding[] => {
      const twice = paragraphsOf(layer)
        .flatMap((text) => [...text.matchAll(TWICE)])
        .find(([, word]) => !meant.has(word!.toLocaleLowerCase()));
      if (!twice) return [];
      const word = twice[1]!;
      const once = (text: string) =>
        text.replace(TWICE, (all, first: string) => (meant.has(first.toLocaleLowerCase()) ? all : first));
      const mended = withTexts(layer, once);
      return [
        {
          id: `doubled:${layer.id}`,
          group: 'time',
          title: `${called(layer)} says “${word}” twice in a row`,
          detail: `“${twice[0]}”.`,
          at: null,
          layer: layer.id,
          fixes:
            layer.locked || mended === layer
              ? []
              : [
                  {
                    label: `Say “${word}” once`,
                    edit: { type: 'replace-layer', name: `“${word}” once`, layer: mended },
                  },
                ],
        },
      ];
    });
  },
});
