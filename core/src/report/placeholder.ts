import { PLACEHOLDER } from '../graphic/new-words';
import { defineRule, type Finding } from './rule';
import { paragraphsOf, visibleWords } from './said';
import { called } from './wording';

/** Texts that stand in until the real one is written. */
const standIn = (text: string): boolean =>
  text === PLACEHOLDER.toLocaleLowerCase() ||
  /^(your (title|text|headline|business|name|words|line)( here)?|(title|text|headline) here|lorem ipsum\b.*|xxx+|tbc|tba|todo)[.…]?$/.test(
    text,
  );

/** Words that stand in for the real ones were never meant to go up. */
export const placeholder = defineRule({
  id: 'placeholder',
  about: 'Words',
  what: `Words that stand in for the real ones, such as “${PLACEHOLDER}”.`,
  by: [],
  mends: 'The words away; or write them.',
  passed: 'No words stand in for the real ones',
  needs: ['layers'],
  judge({ layers }): Finding[] {
    return visibleWords(layers).flatMap((layer): Finding[] => {
      const texts = paragraphsOf(layer).map((t) => t.replace(/\s+/g, ' ').trim());
      const found = [texts.join(' '), ...texts].find((t) => standIn(t.toLocaleLowerCase()));
      if (!found) return [];
      return [
        {
          id: `placeholder:${layer.id}`,
          group: 'before',
          title: `“${found}” still stands in for the real words`,
          detail: `Write over ${called(layer)}, or take it away.`,
          at: null,
          layer: layer.id,
          fixes: layer.locked
            ? []
            : [
                {
                  label: 'Take it away',
                  edit: { type: 'remove-layer', id: layer.id, name: `${layer.name} removed` },
                },
              ],
        },
      ];
    });
  },
});
