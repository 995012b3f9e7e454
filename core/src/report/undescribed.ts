import { proposedDescription } from '../graphic/describe';
import { defineRule, type Finding } from './rule';

/** A picture needs words for people who cannot see it. WCAG 2.2, 1.1.1 Non-text Content (A). */
export const undescribed = defineRule({
  id: 'undescribed',
  passed: 'It has a description for people who cannot see it',
  needs: ['layers', 'choices'],
  judge({ layers, choices }): Finding[] {
    if (choices.alt.trim() || !layers.some((l) => l.visible)) return [];
    const alt = proposedDescription(layers);
    return [
      {
        id: 'undescribed',
        group: 'time',
        title: 'No words for people who cannot see it',
        detail: alt ? `Suggested: “${alt}”` : 'Say on the Export page what it shows.',
        at: null,
        fixes: alt
          ? [
              {
                label: 'Take the suggestion',
                edit: { type: 'set-export', name: 'Description added', choices: { alt } },
              },
            ]
          : [],
      },
    ];
  },
});
