import { differenceCiede2000 } from 'culori/fn';
import { isOpaqueFill } from '../colour/fill';
import { defineRule, type Finding } from './rule';
import { thresholds } from './thresholds';

const apart = differenceCiede2000();

/** A backdrop that is nearly, but not quite, the page's own ground looks like a box that was meant to vanish. */
export const nearlyGround = defineRule({
  id: 'nearly-ground',
  about: 'Page',
  what: 'A backdrop of one colour that is nearly the page’s own ground, or the line around it, so that its edge looks like a mistake.',
  by: ['nearlyGround', 'seenApart'],
  mends: 'The page’s own ground.',
  passed: 'The backdrop is the page’s ground, or clearly another',
  needs: ['layers', 'backdrop', 'slot'],
  judge({ layers, backdrop, slot }): Finding[] {
    if (backdrop.kind !== 'colour' || !isOpaqueFill(backdrop)) return [];
    // What covers all of it is seen instead.
    if (layers.some((l) => l.visible && l.role === 'photo' && l.place.mode === 'cover')) return [];
    // What stands beside it: the line around it, where there is one.
    const [beside, what] = slot.border ? [slot.border.colour, 'border'] : [slot.ground, 'ground'];
    const by = apart(backdrop.colour, beside);
    if (by <= thresholds.seenApart.value || by > thresholds.nearlyGround.value) return [];
    return [
      {
        id: 'nearly-ground',
        group: 'time',
        title: `The backdrop is nearly the page’s ${what}: ΔE ${by.toFixed(1)}`,
        detail: `${backdrop.colour} beside ${beside}: its edge will show as a faint ${slot.border ? 'line' : 'box'}.`,
        at: null,
        figures: [by],
        fixes: [
          {
            label: `Take the page’s ${what}, ${beside}`,
            edit: {
              type: 'set-backdrop',
              backdrop: { kind: 'colour', colour: beside },
              name: `Backdrop: the page’s ${what}, ${beside}`,
            },
          },
        ],
      },
    ];
  },
});
