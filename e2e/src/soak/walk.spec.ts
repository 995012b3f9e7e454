// Covers: web, core
import { withApp } from '../harness/suite';
import { walk } from '../harness/walk';

// `npm run soak` sets these: an hour of walks instead of ten.
const minutes = Number(process.env['SOAK_MINUTES'] ?? 0);
const WALKS = Number(process.env['WALKS'] ?? 10);
const ACTS = 300;
/** Printed with what went wrong, so that a walk can be taken again. */
const SEED = Number(process.env['WALK_SEED'] ?? 1128);
const slots = ['Blog header, 940 × 198', 'Round chat avatar', 'Form header, 1600 × 400', 'Slim header, 960'];

const { app, browser } = withApp();

it(
  `random walks that type, paste, name, duplicate, reload and undo never meet a graphic that does not open (seed ${SEED})`,
  async () => {
    const until = Date.now() + minutes * 60_000;
    for (let n = 0; n < WALKS || Date.now() < until; n++) {
      const wrong = await walk(browser, app, slots[n % slots.length]!, SEED + n, ACTS);
      expect(wrong).toEqual([]);
      if (minutes) console.log(`walk ${n + 1}, seed ${SEED + n}: sound`);
    }
    expect(await browser.violations()).toEqual([]);
  },
  minutes * 60_000 + 1_500_000,
);
