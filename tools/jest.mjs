// Runs Jest on some of its projects and gives the count, and what failed by file; a suite that could not start counts
// as a failure.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { root } from './prepare.mjs';

export async function jest(projects, more = []) {
  mkdirSync(`${root}/.cache`, { recursive: true });
  const output = `${root}/.cache/jest-${projects.join('-')}.json`;
  rmSync(output, { force: true });
  const args = [
    '--experimental-vm-modules',
    '--no-warnings',
    'node_modules/jest/bin/jest.js',
    '--config',
    'jest.config.mjs',
    '--selectProjects',
    ...projects,
    '--json',
    `--outputFile=${output}`,
    ...more,
  ];
  // Jest's JSON goes to the file; its readable report is on stderr.
  const [status] = await once(spawn('node', args, { cwd: root, stdio: ['ignore', 'ignore', 'inherit'] }), 'exit');
  if (!existsSync(output)) return { passed: 0, failed: 1, files: [] };
  const r = JSON.parse(readFileSync(output, 'utf8'));
  const failed = r.numFailedTests + r.numRuntimeErrorTestSuites;
  const files = r.testResults
    .filter((f) => f.status === 'failed')
    .map((f) => ({
      path: f.name,
      tests: f.assertionResults.filter((t) => t.status === 'failed').map((t) => t.fullName),
    }));
  return { passed: r.numPassedTests, failed: failed === 0 && status !== 0 ? 1 : failed, files };
}
