import { isStaleDescription, proposedDescription } from '../graphic/describe';
import { defineRule, type Finding } from './rule';

/** Whether a description is a file’s name, as programs put it there: “IMG_2041.jpg”, “header-final-2”. */
const isFileName = (text: string): boolean =>
  /^\S+\.(jpe?g|png|webp|gif|svg|avif|heic)$/i.test(text.trim()) ||
  /^(img|dsc|pxl|screenshot)[_-]?\d[\w-]*$/i.test(text.trim());

/** A picture needs words for people who cannot see it, and words of this one. WCAG 2.2, 1.1.1 Non-text Content (A). */
export const undescribed = defineRule({
  id: 'undescribed',
  about: 'Rights and people',
  what: 'No words for people who cannot see the graphic, words of an earlier state of it, or a file’s name instead of words.',
  by: [],
  mends: 'The words on it as a suggestion.',
  passed: 'It has a description for people who cannot see it',
  needs: ['layers', 'frame', 'choices'],
  judge({ layers, frame, choices }): Finding[] {
    if (!layers.some((l) => l.visible)) return [];
    const stale = isStaleDescription(choices, layers);
    const named = isFileName(choices.alt);
    if (choices.alt.trim() && !stale && !named) return [];
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
        title: named
          ? 'The description is only a file’s name'
          : stale
            ? 'The description is of an earlier state'
            : 'No words for people who cannot see it',
        detail: named
          ? `“${choices.alt}” tells nobody what it shows.${suggestion}`
          : stale
            ? `Words or photo changed since “${choices.alt}” was written.${suggestion}`
            : suggestion.trim() || 'Say on the Export page what it shows.',
        at: null,
        fixes: [...(alt && alt !== choices.alt ? [take] : []), ...(stale && !named ? [keep] : [])],
      },
    ];
  },
});
