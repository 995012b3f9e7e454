import { run } from './prepare.mjs';

for (const project of [
  'core/tsconfig.json',
  'core/tsconfig.spec.json',
  'demo/tsconfig.json',
  'server/tsconfig.json',
  'web/tsconfig.worker.json',
  'web/tsconfig.spec.json',
  'e2e/tsconfig.json',
])
  run('npx', ['tsc', '-p', project]);
// tsc does not look into templates; the build does.
if (!process.argv.includes('--no-templates')) run('npx', ['ngc', '-p', 'web/tsconfig.json', '--noEmit']);
