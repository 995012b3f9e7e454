// Builds the app and the server, each only when its sources changed.
import {
  buildBookmark,
  buildKernel,
  buildWorkersApart,
  installPackages,
  run,
  unpackType,
  whenChanged,
} from './prepare.mjs';

/** All of it; the demo is data that the server hands on where it is there. */
export async function build({ demo = true } = {}) {
  await installPackages();
  await unpackType();
  await buildKernel();
  await buildBookmark();
  await buildWorkersApart();
  const web = [
    'web/src',
    'web/public',
    'web/package.json',
    'docs/slot-book.schema.json',
    'web/tsconfig.json',
    'web/tsconfig.worker.json',
    'core/src',
    'core/kernel',
    'angular.json',
    'tsconfig.base.json',
    'package-lock.json',
  ];
  await whenChanged('web', web, ['dist/web/browser/index.html'], () => {
    console.log('Building the app …');
    run('npx', ['ng', 'build', 'web', '--configuration', 'production'], {
      env: { ...process.env, NG_CLI_ANALYTICS: 'false' },
    });
  });
  await whenChanged('server', ['server/src', 'core/src', 'package-lock.json'], ['dist/server/main.mjs'], () => {
    console.log('Building the server …');
    run('npx', [
      'esbuild',
      'server/src/main.ts',
      '--bundle',
      '--platform=node',
      '--format=esm',
      '--target=node20',
      '--outfile=dist/server/main.mjs',
      '--packages=external',
      '--alias:@bright-slot/core/formats/drawing=./core/src/formats/drawing.ts',
      '--alias:@bright-slot/core=./core/src/index.ts',
      '--log-level=warning',
    ]);
  });
  if (!demo) return;
  await whenChanged('demo', ['demo/src', 'core/src', 'package-lock.json'], ['dist/demo/demo.json'], () => {
    console.log('Putting the demo together …');
    run('npx', ['tsx', 'demo/build.ts']);
  });
}

if (import.meta.filename === process.argv[1]) await build();
