// Makes the pictures of the main views in docs/screenshots from the demo.
import { build } from './build.mjs';
import { installDebianPackages } from './browser.mjs';
import { run } from './prepare.mjs';

await build();
installDebianPackages();
run('npx', ['tsx', 'e2e/src/screenshots.ts', ...process.argv.slice(2)]);
