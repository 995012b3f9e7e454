// Installs what is missing, builds what changed, serves with the demo; `npm start -- --empty` without it.
import { build } from './build.mjs';
import { root } from './prepare.mjs';

await build({ demo: !process.argv.includes('--empty') });
process.chdir(root);
await import(`${root}/dist/server/main.mjs`);
