// Installs what is missing, builds what changed, serves with the demo.
import { build } from './build.mjs';
import { root } from './prepare.mjs';

await build();
process.chdir(root);
await import(`${root}/dist/server/main.mjs`);
