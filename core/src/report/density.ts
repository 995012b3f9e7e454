import { filePixels, topDensity } from '../slot/slot';
import { defineRule, type Finding } from './rule';

/** A slot that asks for a denser file than the graphic was made for is filled with too few pixels. */
export const density = defineRule({
  id: 'density',
  about: 'Weight and file',
  what: 'A density that the slot asks for by now, and that the graphic was not made for.',
  by: [],
  mends: 'The graphic follows its slot.',
  passed: ({ slot }) => `The file is made at ${topDensity(slot)}×, the densest that the slot asks for`,
  needs: ['slot', 'slotNow', 'frame'],
  judge({ slot, slotNow, frame }): Finding[] {
    if (!slotNow) return [];
    const [made, wanted] = [topDensity(slot), topDensity(slotNow)];
    if (wanted <= made) return [];
    const file = filePixels(slotNow, wanted);
    return [
      {
        id: 'density',
        group: 'before',
        title: `The slot asks for ${wanted}× now; the file is made at ${made}×`,
        detail: `It would have ${file.width} × ${file.height} px then. On dense screens it looks soft without them.`,
        at: null,
        figures: [made, wanted],
        fixes: [
          {
            label: `Make it at ${wanted}×`,
            edit: { type: 'adapt-to-slot', frame, slot: slotNow, name: `${slotNow.name} at ${wanted}×` },
          },
        ],
      },
    ];
  },
});
