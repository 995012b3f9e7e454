// Builds what is missing, then measures.
import { build } from './build.mjs';
import { installDebianPackages } from './browser.mjs';
import { run } from './prepare.mjs';

await build();
installDebianPackages();
run('npx', ['tsx', 'tools/bench/bench.ts', ...process.argv.slice(2)]);
