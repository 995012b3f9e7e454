// Everything: installs what is missing, then lint, types, units, build, the real browser.
import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { buildKernel, installPackages, root, unpackType } from './prepare.mjs';
import { installDebianPackages } from './browser.mjs';

await installPackages();
await unpackType();
await buildKernel();
installDebianPackages();
const { jest } = await import('./jest.mjs');
const { browserTests } = await import('./browser-tests.mjs');

const results = [];
async function check(name, work) {
  const began = Date.now();
  const done = await work().then(
    (counts) => counts ?? { passed: 1, failed: 0 },
    (error) => {
      console.error(error.stdout ?? '', error.stderr ?? error);
      return { passed: 0, failed: 1 };
    },
  );
  const seconds = Math.round((Date.now() - began) / 1000);
  console.log(`== ${name}: ${done.failed ? 'failed' : 'passed'}, ${seconds} s`);
  results.push({ name, seconds, ...done });
}

/** A program whose output is shown only where it fails, so that two can run beside each other. */
const quietly = async (command, ...args) => {
  await promisify(execFile)(command, args, { cwd: root, maxBuffer: 1e9 });
};

// Two rows of one thread's work each, about as long: each has a core.
await Promise.all([
  check('core', () => jest(['core'], ['--runInBand'])),
  (async () => {
    await check('build', () => quietly('node', 'tools/build.mjs'));
    await check('types', () => quietly('node', 'tools/typecheck.mjs', '--no-templates'));
    await check('lint', () => quietly('npm', 'run', '--silent', 'lint'));
    await check('server, web', () => jest(['server', 'web'], ['--runInBand']));
  })(),
]);
await check('browser', () => browserTests());

console.log('');
for (const { name, passed, failed, seconds } of results)
  console.log(
    `${name.padEnd(12)}${String(passed).padStart(5)} passed${failed ? `, ${failed} failed` : ''}, ${seconds} s`,
  );
const unsteady = results.flatMap((r) => r.unsteady ?? []);
if (unsteady.length)
  console.log(`\nUnsteady, to be mended (passed only when run once more):\n  ${unsteady.join('\n  ')}`);
const sum = (key) => results.reduce((n, r) => n + r[key], 0);
console.log(`\n${sum('passed')} passed, ${sum('failed')} failed`);
process.exit(sum('failed') ? 1 : 0);
