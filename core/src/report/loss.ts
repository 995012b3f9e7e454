import { hasQuality, pictureFormats } from '../formats/registry';
import { weightText } from '../formats/weight';
import { defineRule, type Finding } from './rule';

/** What packing takes from a picture is not seen in its figures: the file itself is held against the canvas. */
export const loss = defineRule({
  id: 'loss',
  about: 'Weight and file',
  what: 'A file that can be told from the canvas at 100 %: blocks, smears, colours that ran.',
  by: [],
  mends: 'The lightest file that looks the same.',
  passed: ({ weights }) => (weights?.chosen.seen === false ? 'The file looks the same as the canvas at 100 %' : ''),
  needs: ['choices', 'slot', 'weights', 'frame'],
  judge({ choices, slot, weights, frame }): Finding[] | null {
    const { own = false, mostBytes } = choices;
    const most = mostBytes ?? slot.mostBytes;
    // What is chosen by itself looks the same, unless a limit is in the way.
    if (own ? !hasQuality(choices.format) : most === null) return [];
    if (!weights) return null;
    const { format, quality, seen } = weights.chosen;
    if (!seen) return [];
    const as = `${pictureFormats[format].name} at quality ${quality}`;
    return [
      {
        id: 'loss',
        group: 'time',
        title: 'The file can be told from the canvas at 100 %',
        detail: own
          ? `${as} leaves traces where the canvas has none: look at the loupes on Export.`
          : `No file of at most ${weightText(most!)} looks the same. Fewer details, a veil over the photo or a lower density make it lighter.`,
        at: null,
        figures: [quality],
        fixes: own
          ? [
              {
                label: 'Take the lightest that looks the same',
                edit: { type: 'set-export', frame, name: 'The lightest that looks the same', choices: { own: false } },
              },
            ]
          : [],
      },
    ];
  },
});
