// The real interface in a real browser.
import { build } from './build.mjs';
import { installDebianPackages } from './browser.mjs';
import { jest } from './jest.mjs';

await build();
installDebianPackages();
const { passed, failed } = jest(['e2e'], ['--runInBand', ...process.argv.slice(2)]);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
