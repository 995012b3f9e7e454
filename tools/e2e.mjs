// The real interface in a real browser: `npm run e2e -- slots` runs one file, `-t "is searched"` one case of it;
// without a name, all but the soak.
import { build } from './build.mjs';
import { installDebianPackages } from './browser.mjs';
import { browserTests, others, smoke } from './browser-tests.mjs';
import { filesBelow } from './prepare.mjs';

const words = process.argv.slice(2);
const at = words.findIndex((w) => w.startsWith('-'));
const [names, more] = at < 0 ? [words, []] : [words.slice(0, at), words.slice(at)];
const named = (f) => f.endsWith('.spec.ts') && names.some((n) => f.includes(n));
const files = names.length ? filesBelow('e2e/src', named) : [...smoke(), ...others()];

await build();
installDebianPackages();
const { passed, failed, unsteady } = await browserTests(files, more);
if (unsteady.length)
  console.log(`Unsteady, to be mended (passed only when run once more):\n  ${unsteady.join('\n  ')}`);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed || !passed ? 1 : 0);
