import { pictureFormats } from '../formats/registry';
import { uncoveredParts } from './uncovered';
import { defineRule, type Finding } from './rule';

/** A transparent canvas needs a format that has transparency; JPEG has none (ITU-T T.81 knows no alpha). */
export const transparency = defineRule({
  id: 'transparency',
  about: 'Weight and file',
  what: 'A canvas with transparent parts in a format that has no transparency.',
  by: [],
  mends: 'A format that has it.',
  passed: 'The format keeps what is transparent',
  needs: ['layers', 'backdrop', 'canvas', 'frame', 'rect', 'choices', 'slot'],
  judge({ layers, backdrop, canvas, frame, rect, choices, slot }): Finding[] {
    // Where the slot keeps no transparency, bare parts are a finding of their own.
    if (!slot.keepsTransparency || pictureFormats[choices.format].alpha) return [];
    if (uncoveredParts(layers, backdrop, canvas, rect).length === 0) return [];
    const format = (['png', 'webp'] as const).find((f) => slot.formats.includes(f));
    return [
      {
        id: 'transparency',
        group: 'before',
        title: 'JPEG cannot keep the transparent canvas',
        detail: 'It would be saved with a solid ground and show as a box on the page.',
        at: null,
        fixes: format
          ? [
              {
                label: `Save it as ${pictureFormats[format].name}`,
                edit: {
                  type: 'set-export',
                  frame,
                  name: `Format: ${pictureFormats[format].name}`,
                  choices: { format },
                },
              },
            ]
          : [],
      },
    ];
  },
});
