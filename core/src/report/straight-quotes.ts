import { typographic } from '../words/typography';
import { defineRule, type Finding } from './rule';
import { visibleWords, withTexts } from './said';
import { textOf } from '../words/words';
import { called } from './wording';

/** A straight quote; not the marks of feet, inches, minutes and seconds, which follow a figure. */
const STRAIGHT = /(?<!\d)["']/;
const CURLY = /[“”‘’]/;

/** Straight quotes beside curly ones look like two hands wrote them. */
export const straightQuotes = defineRule({
  id: 'straight-quotes',
  about: 'Words',
  what: 'A straight quote or apostrophe among curly ones.',
  by: [],
  mends: 'The quotes of print.',
  passed: 'Quotes and apostrophes are of one kind',
  needs: ['layers'],
  judge({ layers }): Finding[] {
    const words = visibleWords(layers);
    if (!words.some((l) => CURLY.test(textOf(l)))) return [];
    return words
      .filter((l) => STRAIGHT.test(textOf(l)))
      .map((layer): Finding => {
        const mended = withTexts(layer, typographic);
        return {
          id: `straight-quotes:${layer.id}`,
          group: 'time',
          title: `${called(layer)} has straight quotes among curly ones`,
          detail: 'Those of print are “ ” and ’.',
          at: null,
          layer: layer.id,
          fixes:
            layer.locked || mended === layer
              ? []
              : [
                  {
                    label: 'The quotes of print',
                    edit: { type: 'replace-layer', name: `${layer.name}: the quotes of print`, layer: mended },
                  },
                ],
        };
      });
  },
});
