// Runs Jest on some of its projects and gives the count, and what failed by file; a suite that could not start counts
// as a failure, and so does a run that says nothing any more.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { root } from './prepare.mjs';

/** The longest file takes minutes and speaks at its end, ms. */
const SILENCE = 20 * 60_000;

export async function jest(projects, more = [], silence = SILENCE) {
  mkdirSync(`${root}/.cache`, { recursive: true });
  const output = `${root}/.cache/jest-${projects.join('-')}.json`;
  rmSync(output, { force: true });
  const args = [
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
  const child = spawn('node', args, {
    cwd: root,
    stdio: ['ignore', 'ignore', 'pipe'],
    detached: true,
    env: { ...process.env, NODE_OPTIONS: '--experimental-vm-modules --enable-source-maps --no-warnings' },
  });
  const status = await new Promise((done) => {
    const end = () => {
      console.error(`Jest said nothing for ${silence / 60_000} minutes and was ended.`);
      process.kill(-child.pid, 'SIGKILL');
    };
    let timer = setTimeout(end, silence);
    child.stderr.on('data', (said) => {
      process.stderr.write(said);
      clearTimeout(timer);
      timer = setTimeout(end, silence);
    });
    child.once('exit', (code) => {
      clearTimeout(timer);
      done(code ?? 1);
    });
  });
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
