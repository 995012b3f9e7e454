// What the changes since the last common commit can affect: units by import, browser files by the folders that they
// name in a header.
import { execFileSync } from 'node:child_process';
import { covered, others, smoke } from './browser-tests.mjs';
import { root } from './prepare.mjs';
import { bundleUnits } from './units.mjs';

const git = (...args) => execFileSync('git', args, { cwd: root, encoding: 'utf8' }).trim();

/** The last commit that this branch shares with what it came from; the last of all where it came from nothing. */
function common() {
  for (const other of ['@{upstream}', 'origin/HEAD', 'origin/main', 'main'])
    try {
      return git('merge-base', 'HEAD', other);
    } catch {
      // There is no such branch.
    }
  return 'HEAD';
}

/** The files that differ from that commit, committed or not. */
export function changedFiles(base = common()) {
  const said = [git('diff', '--name-only', base), git('ls-files', '-o', '--exclude-standard')].join('\n');
  return [...new Set(said.split('\n').filter(Boolean))];
}

/** The specs that import a file, however far away. */
export function specsOf(files, inputs) {
  const importers = new Map();
  for (const [from, { imports }] of Object.entries(inputs))
    for (const { path } of imports) importers.set(path, [...(importers.get(path) ?? []), from]);
  const seen = new Set(files);
  for (const file of seen) for (const from of importers.get(file) ?? []) seen.add(from);
  return [...seen].filter((f) => f.endsWith('.spec.ts') && f in inputs);
}

/** The browser files that a change can affect: themselves, or a folder that they cover (`web/sets`, `core/sets`). */
export function browserFilesOf(files, specs, of = covered) {
  const folders = files.map((f) => f.replace(/^web\/src\/(app\/)?/, 'web/').replace(/^(core|server)\/src\//, '$1/'));
  return specs.filter(
    (spec) =>
      files.includes(spec) ||
      files.some((f) => f.startsWith('e2e/src/harness/')) ||
      // A file that names nothing covers everything.
      (of(spec) ?? ['']).some((c) => folders.some((f) => !c || f === c || f.startsWith(`${c}/`))),
  );
}

/** What everything stands on. */
const ALL =
  /^(package(-lock)?\.json|angular\.json|jest\.config\.mjs|tsconfig.*\.json|tools\/.*\.mjs|core\/kernel\/.*)$/;

export async function affected() {
  const files = changedFiles();
  const { inputs } = await bundleUnits();
  const everything = files.filter((f) => ALL.test(f));
  const units = everything.length ? Object.keys(inputs).filter((f) => f.endsWith('.spec.ts')) : specsOf(files, inputs);
  const product = files.filter((f) => /^(core|web|server|demo)\//.test(f) && !f.endsWith('.spec.ts'));
  const browser = browserFilesOf(files, others());
  const components = files.some((f) => /^(core|web)\//.test(f)) || everything.length > 0;
  const named = (list) => (list.length ? list.join(', ') : 'none');
  return {
    // Jest takes patterns of the bundles' paths.
    units: units.map((f) => `${f.replace(/\.ts$/, '')}\\.js$`),
    components,
    smoke: product.length || everything.length ? smoke() : browserFilesOf(files, smoke()),
    browser,
    said: `Changed: ${files.length} files since ${git('rev-parse', '--short', common())}. Units: ${units.length}. Browser files: ${named(browser)}.`,
  };
}

if (import.meta.filename === process.argv[1]) console.log(await affected());
