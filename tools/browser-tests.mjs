// The browser's tests. A file in which one failed is run once more by itself: what passes only then is unsteady, and is
// named at the end, to be mended. What fails twice has failed.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { jest } from './jest.mjs';
import { root } from './prepare.mjs';

/** More files than this do not fail by chance. */
const MOST = 4;

/** Each with an app and a browser of its own. */
const PROCESSES = '2';

export async function browserTests(more = []) {
  // Each process brings the demo in once, for all its files (`harness/suite.ts`).
  const profiles = mkdtempSync(join(tmpdir(), 'bright-slot-profiles-'));
  process.env.BRIGHT_SLOT_PROFILES = profiles;
  const first = await jest(['e2e'], ['--maxWorkers', PROCESSES, ...more]);
  delete process.env.BRIGHT_SLOT_PROFILES;
  rmSync(profiles, { recursive: true, force: true });
  if (!first.failed || !first.files.length || first.files.length > MOST) return { ...first, unsteady: [] };
  let { passed, failed } = first;
  const unsteady = [];
  for (const { path, tests } of first.files) {
    console.log(`\nOnce more by itself: ${relative(root, path)}`);
    const again = await jest(['e2e'], ['--runInBand', '--runTestsByPath', path]);
    if (again.failed) continue;
    // A file that could not start has no failed tests of its own.
    const were = Math.max(1, tests.length);
    failed -= were;
    passed += tests.length ? were : again.passed;
    unsteady.push(...(tests.length ? tests : ['the whole file']).map((t) => `${relative(root, path)}: ${t}`));
  }
  return { passed, failed, unsteady };
}
