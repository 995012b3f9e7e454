// The browser's tests: the smoke run, all others, or those that are named. A file in which one failed is run once more
// by itself: what passes only then is unsteady, and is named at the end, to be mended. What fails twice has failed.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { jest } from './jest.mjs';
import { filesBelow, root } from './prepare.mjs';

/** More files than this do not fail by chance. */
const MOST = 4;

/** Each with an app and a browser of its own. */
const PROCESSES = '2';

const inFolder = (folder) => (f) => f.startsWith(`e2e/src/${folder}/`);
const all = () => filesBelow('e2e/src', (f) => f.endsWith('.spec.ts'));
export const smoke = () => all().filter(inFolder('smoke'));
export const others = () => all().filter((f) => !inFolder('smoke')(f) && !inFolder('soak')(f));

/** The folders whose code a browser file goes through: the line `// Covers: web/sets, core/sets` at its top. */
export function covered(file) {
  const line = /^\/\/ Covers: (.+)$/m.exec(readFileSync(join(root, file), 'utf8'));
  return line ? line[1].split(/,\s*/) : null;
}

export async function browserTests(files, more = []) {
  if (!files.length) return { passed: 0, failed: 0, unsteady: [], files: [] };
  // Each process brings the demo in once, for all its files (`harness/suite.ts`).
  const profiles = mkdtempSync(join(tmpdir(), 'bright-slot-profiles-'));
  process.env.BRIGHT_SLOT_PROFILES = profiles;
  const first = await jest(['e2e'], ['--maxWorkers', PROCESSES, ...more, '--runTestsByPath', ...files]);
  delete process.env.BRIGHT_SLOT_PROFILES;
  rmSync(profiles, { recursive: true, force: true });
  if (!first.failed || !first.files.length || first.files.length > MOST) return { ...first, unsteady: [] };
  let { passed, failed } = first;
  const unsteady = [];
  for (const { path, tests } of first.files) {
    console.log(`\nOnce more by itself: ${relative(root, path)}`);
    const again = await jest(['e2e'], ['--runInBand', ...more, '--runTestsByPath', path]);
    if (again.failed) continue;
    // A file that could not start has no failed tests of its own.
    const were = Math.max(1, tests.length);
    failed -= were;
    passed += tests.length ? were : again.passed;
    unsteady.push(...(tests.length ? tests : ['the whole file']).map((t) => `${relative(root, path)}: ${t}`));
  }
  return { passed, failed, unsteady, files: first.files };
}
