import type { Demo } from '@bright-slot/core';
import { graphics } from './graphics';
import { site } from './site';
import { potterySets, potterySlots } from './slots';

/** All that the demo brings but its shelf, whose files stand beside. */
export const demo: Demo = {
  format: 'bright-slot-demo',
  version: 1,
  name: 'Ottermill Pottery',
  about: 'An invented two-wheel workshop by a mill stream, with ten graphics: some finished, some with something to mend.',
  call: 'the pottery',
  source: { credit: 'Bright Slot, for Ottermill Pottery', licence: 'MIT, with this project' },
  site,
  slots: [...potterySlots],
  sets: [...potterySets],
  graphics: [...graphics],
  houseStyle: { business: 'Ottermill Pottery', address: 'ottermill.example', logos: ['ottermill.svg'] },
  shot: 'shots/window.png',
};
