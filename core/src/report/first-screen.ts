import { deviceHeights, shownOnDevices } from '../slot/shown';
import { defineRule, type Finding } from './rule';
import { thresholds } from './thresholds';
import { onDevice } from './wording';

/** A header that fills the first screen leaves visitors nothing of the page to see before they scroll. */
export const firstScreen = defineRule({
  id: 'first-screen',
  about: 'Page',
  what: 'A graphic so high that little of the page is to be seen on the first screen of a desktop or a phone.',
  by: ['firstScreen'],
  mends: 'Nothing here mends it: the slot is that high.',
  passed: 'The first screen leaves the page room',
  needs: ['slot'],
  judge({ slot }): Finding[] {
    if (slot.group !== 'Headers' && slot.group !== 'Covers and banners') return [];
    const worst = shownOnDevices(slot)
      .map(({ device, shown }) => ({ device, share: shown.height / deviceHeights[device] }))
      .sort((a, b) => b.share - a.share)[0];
    if (!worst || worst.share < thresholds.firstScreen.value) return [];
    return [
      {
        id: 'first-screen',
        group: 'time',
        title: `${onDevice[worst.device]} it takes ${Math.round(worst.share * 100)} % of the first screen`,
        detail: 'Visitors see little else before they scroll. A lower slot, in Slots, shows more of the page.',
        at: null,
        figures: [worst.share],
        fixes: [],
      },
    ];
  },
});
