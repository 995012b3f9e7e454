import { busyness } from '../legibility/busyness';
import { allLetters, faintestLetter } from '../legibility/legibility';
import { calmingVeil } from '../legibility/veil-behind';
import { STRENGTHS } from '../graphic/shape';
import { smallestScale } from '../slot/shown';
import { layoutOf, wordsBounds } from '../words/layout';
import { defineRule, fixable, type Finding, type Fix } from './rule';
import { visibleWords } from './said';
import { thresholds } from './thresholds';
import { called } from './wording';

const { value: most } = thresholds.busy;

/** Words that stand out can still be tiring to read where what is behind them changes with every letter. */
export const busy = defineRule({
  id: 'busy',
  about: 'Readable',
  what: 'Words on a ground that changes much from dark to light at the scale of their letters.',
  by: ['busy'],
  mends: 'A veil behind them, just strong enough.',
  passed: 'What is behind the words is calm',
  needs: ['layers', 'legibility', 'slot', 'shaper'],
  judge({ layers, legibility, slot, shaper }): Finding[] | null {
    const words = visibleWords(layers);
    if (words.length === 0) return [];
    if (!legibility) return null;
    const scale = smallestScale(slot);
    return words.flatMap((layer): Finding[] => {
      // On a ground or within a line of their own they are kept apart from what is behind them.
      const read = legibility.find((l) => l.layer === layer.id);
      if (!read?.letters.length || layer.ground || layer.outline) return [];
      const letters = allLetters(read);
      const span = busyness(letters);
      const worst = faintestLetter({ letters }, scale);
      // Of words that are too faint another finding speaks.
      if (span < most || (worst && worst.contrast < worst.needed)) return [];
      return [
        fixable(
          {
            id: `busy:${layer.id}`,
            group: 'time',
            title: `What is behind ${called(layer)} is busy: ${Math.round(span)}, calm is under ${most}`,
            detail:
              'Between the darkest and the lightest around a letter, in steps of lightness (of 100). It can be read, but not at a glance.',
            at: wordsBounds(layer, layoutOf(layer, shaper)),
            layer: layer.id,
            figures: [span],
          },
          (): Fix[] => {
            const veil = layer.locked ? null : calmingVeil(layer, layers, letters, scale, most);
            if (!veil) return [];
            return [
              {
                label: `Veil behind it, ${Math.round((veil.strength / (STRENGTHS - 1)) * 100)} %`,
                edit: { type: 'add-layer', name: `Veil behind ${layer.name}`, at: layers.indexOf(layer), layer: veil },
              },
            ];
          },
        ),
      ];
    });
  },
});
