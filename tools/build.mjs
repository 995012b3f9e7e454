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

export async function build() {
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
    run('npx', ['ng', 'build', '--configuration', 'production'], {
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
      '--alias:@bright-slot/core=./core/src/index.ts',
      '--log-level=warning',
    ]);
  });
}

if (import.meta.filename === process.argv[1]) await build();
