import { isStaleDescription, proposedDescription } from '../graphic/describe';
import { defineRule, type Finding } from './rule';

/** A picture needs words for people who cannot see it, and words of this one. WCAG 2.2, 1.1.1 Non-text Content (A). */
export const undescribed = defineRule({
  id: 'undescribed',
  passed: 'It has a description for people who cannot see it',
  needs: ['layers', 'frame', 'choices'],
  judge({ layers, frame, choices }): Finding[] {
    if (!layers.some((l) => l.visible)) return [];
    const stale = isStaleDescription(choices, layers);
    if (choices.alt.trim() && !stale) return [];
    const alt = proposedDescription(layers);
    const suggestion = alt ? ` Suggested: “${alt}”` : '';
    const take = {
      label: 'Take the suggestion',
      edit: { type: 'set-export', frame, name: 'Description added', choices: { alt } },
    } as const;
    const keep = {
      label: 'It still says it',
      edit: { type: 'set-export', frame, name: 'Description kept', choices: { alt: choices.alt } },
    } as const;
    return [
      {
        id: 'undescribed',
        group: 'time',
        title: stale ? 'The description is of an earlier state' : 'No words for people who cannot see it',
        detail: stale
          ? `Words or photo changed since “${choices.alt}” was written.${suggestion}`
          : suggestion.trim() || 'Say on the Export page what it shows.',
        at: null,
        fixes: [...(alt && alt !== choices.alt ? [take] : []), ...(stale ? [keep] : [])],
      },
    ];
  },
});
