// The real interface in a real browser.
import { build } from './build.mjs';
import { installBrowser } from './browser.mjs';
import { jest } from './jest.mjs';

await build();
installBrowser();
const { passed, failed } = jest(['e2e'], ['--runInBand', ...process.argv.slice(2)]);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
