// Builds what is missing, then measures.
import { build } from './build.mjs';
import { installBrowser } from './browser.mjs';
import { run } from './prepare.mjs';

await build();
installBrowser();
run('npx', ['tsx', 'tools/bench/bench.ts']);
