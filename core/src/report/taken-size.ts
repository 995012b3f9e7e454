import { filePixels } from '../slot/slot';
import { defineRule, type Finding } from './rule';

/** Some pages refuse a file that has too few pixels, or too many. */
export const takenSize = defineRule({
  id: 'taken-size',
  about: 'Weight and file',
  what: 'A file of fewer or more pixels than the page takes.',
  by: [],
  mends: 'Nothing here mends it: the slot’s size or densities, in Slots.',
  passed: 'The page takes a file of this size',
  needs: ['slot'],
  judge({ slot }): Finding[] {
    const { least, most, densities } = slot;
    const sizes = densities.map((d) => filePixels(slot, d));
    const text = (s: { width: number; height: number }) => `${s.width} × ${s.height} px`;
    const under = least && sizes.find((s) => s.width < least.width || s.height < least.height);
    const over = most && sizes.find((s) => s.width > most.width || s.height > most.height);
    const wrong = under ?? over;
    if (!wrong) return [];
    const limit = under ? `${text(least)} at the least` : `${text(most!)} at the most`;
    return [
      {
        id: 'taken-size',
        group: 'before',
        title: `The file has ${text(wrong)}; the page takes ${limit}`,
        detail: 'It may refuse the file, or shrink it itself. Look at the slot’s size and densities in Slots.',
        at: null,
        figures: [wrong.width, wrong.height],
        fixes: [],
      },
    ];
  },
});
