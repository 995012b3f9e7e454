// What takes too long for every run: an hour of random walks, fifty kills, 2 GB and 60 000 steps saved and brought
// back, twenty large photographs. `npm run soak -- --minutes 5` walks for less.
import { build } from './build.mjs';
import { installDebianPackages } from './browser.mjs';
import { jest } from './jest.mjs';

const at = process.argv.indexOf('--minutes');
const minutes = at > 0 ? process.argv[at + 1] : '60';
// The download of so large a file, and the walks, need their time.
Object.assign(process.env, {
  SOAK_MINUTES: minutes,
  WALK_SEED: String(Math.floor(Date.now() / 1000) % 1_000_000),
  KILLS: '50',
  LARGE_MB: '2048',
  LARGE_STEPS: '60000',
  MEMORY_GRAPHICS: '20',
});

await build();
installDebianPackages();
const { passed, failed } = await jest(
  ['e2e'],
  ['--runInBand', '--testPathPatterns', '(walk|kills|large|memory)\\.spec'],
);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
