// What has to be there before anything else: packages installed, type unpacked. Each is skipped when up to date.
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync, readdirSync, statSync } from 'node:fs';
import { join, relative } from 'node:path';

export const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '');

export function run(command, args, options = {}) {
  execFileSync(command, args, { cwd: root, stdio: 'inherit', ...options });
}

/**
 * A digest over files' names and contents, to tell whether work has to be done again. Tests count only where they are
 * named themselves: nothing is built from them.
 */
export function digestOf(paths) {
  const hash = createHash('sha256');
  const walk = (path) => {
    if (!existsSync(path)) return;
    if (statSync(path).isDirectory()) {
      for (const name of readdirSync(path).sort())
        if (name !== 'node_modules' && !name.endsWith('.spec.ts')) walk(join(path, name));
    } else hash.update(relative(root, path)).update(readFileSync(path));
  };
  for (const path of paths) walk(join(root, path));
  return hash.digest('hex');
}

/** The files below a folder for which `wanted` holds, as paths from the root, in order. */
export const filesBelow = (folder, wanted) =>
  readdirSync(join(root, folder), { recursive: true })
    .map((f) => join(folder, f))
    .filter(wanted)
    .sort();

/** Writes a file unless it says so already, so that what depends on it stays up to date. */
export function unless(path, text) {
  if (!existsSync(path) || readFileSync(path, 'utf8') !== text) writeFileSync(path, text);
}

/** Runs `work` unless its inputs are as they were when it last succeeded. */
export function whenChanged(name, inputs, outputs, work) {
  mkdirSync(join(root, '.cache'), { recursive: true });
  const mark = join(root, '.cache', `${name}.digest`);
  const digest = digestOf(inputs);
  const done =
    existsSync(mark) && readFileSync(mark, 'utf8') === digest && outputs.every((o) => existsSync(join(root, o)));
  if (done) return Promise.resolve(false);
  return Promise.resolve(work()).then(() => {
    writeFileSync(mark, digest);
    return true;
  });
}

export async function installPackages() {
  const manifests = ['.', 'core', 'web', 'server', 'e2e', 'tools'].map((w) => join(w, 'package.json'));
  await whenChanged('packages', [...manifests, 'package-lock.json'], ['node_modules/.package-lock.json'], () => {
    console.log('Installing packages (about a minute the first time) …');
    // `npm install` and not `ci`: the latter refuses locks whose optional builds for other platforms are absent.
    run('npm', ['install', '--no-audit', '--no-fund', '--loglevel=error']);
  });
}

/** WOFF2 from the packages: copied for the pages, unpacked to bare OpenType for shaping. */
export async function unpackType() {
  const inputs = ['web/package.json', 'tools/prepare.mjs'];
  await whenChanged('type', inputs, ['.cache/type/public-sans.ttf', '.cache/type/public-sans.woff2'], async () => {
    const { default: decompress } = await import('woff2-encoder/decompress');
    mkdirSync(join(root, '.cache/type'), { recursive: true });
    for (const family of readdirSync(join(root, 'node_modules/@fontsource-variable')))
      for (const style of ['normal', 'italic']) {
        const file = join(
          root,
          'node_modules/@fontsource-variable',
          family,
          'files',
          `${family}-latin-wght-${style}.woff2`,
        );
        if (!existsSync(file)) continue;
        const stem = style === 'italic' ? `${family}-italic` : family;
        const packed = readFileSync(file);
        writeFileSync(join(root, '.cache/type', `${stem}.woff2`), packed);
        writeFileSync(join(root, '.cache/type', `${stem}.ttf`), await decompress(packed));
      }
  });
}

/** The kernel that reduces pixels, from AssemblyScript to WebAssembly. */
export async function buildKernel() {
  await whenChanged('kernel', ['core/kernel', 'package-lock.json'], ['.cache/kernel/reduce.wasm'], () => {
    run('npx', [
      ...['asc', 'core/kernel/reduce.ts', '-o', '.cache/kernel/reduce.wasm'],
      ...['--enable', 'simd', '-O3', '--noAssert', '--runtime', 'stub', '--initialMemory', '1'],
    ]);
  });
}

/** Workers that are scripts of their own, since their libraries ask for more than the page may. */
export async function buildWorkersApart() {
  for (const name of ['subject', 'unpack'])
    await whenChanged(name, [`web/src/${name}`, 'package-lock.json'], [`.cache/${name}/${name}.js`], () => {
      run('npx', [
        ...['esbuild', `web/src/${name}/${name}.ts`, '--bundle', '--minify', '--format=iife', '--target=es2022'],
        ...[`--outfile=.cache/${name}/${name}.js`, '--log-level=warning'],
      ]);
    });
}

/** The measuring bookmark: one small script that can stand in an address. */
export async function buildBookmark() {
  await whenChanged('bookmark', ['web/src/bookmark', 'package-lock.json'], ['.cache/bookmark/measure.js'], () => {
    run('npx', [
      ...['esbuild', 'web/src/bookmark/measure.ts', '--bundle', '--minify', '--format=iife', '--target=es2022'],
      ...['--charset=ascii', '--outfile=.cache/bookmark/measure.js', '--log-level=warning'],
    ]);
  });
}
