import { figure, filePixels } from '../slot/slot';
import { defineRule, type Finding } from './rule';

/** A file has whole pixels. Where its slot has not, the page draws it a fraction smaller, and every edge in it softens. */
export const halfPixels = defineRule({
  id: 'half-pixels',
  about: 'Sharp',
  what: 'A slot whose sides are no whole pixels at the densities that are wanted.',
  by: [],
  mends: 'Nothing here mends it: measure the slot again, or ask for a density at which it is whole, in Slots.',
  passed: 'The slot’s sides are whole pixels',
  needs: ['slot'],
  judge({ slot }): Finding[] {
    const { width, height, densities } = slot;
    const parted = (length: number, density: number) =>
      Math.abs(length * density - Math.round(length * density)) > 0.01;
    const density = densities.find((d) => parted(width, d) || parted(height, d));
    if (density === undefined) return [];
    const file = filePixels(slot, density);
    const side = parted(width, density)
      ? `${figure(width * density)} px wide; the file has ${file.width}`
      : `${figure(height * density)} px high; the file has ${file.height}`;
    return [
      {
        id: 'half-pixels',
        group: 'time',
        title: `At ${density}× the slot is ${side}`,
        detail:
          'A file has whole pixels, so it reaches a fraction over the slot and fine lines soften a little. Measure the slot again, should that be a slip.',
        at: null,
        figures: [width, height],
        fixes: [],
      },
    ];
  },
});
