// Covers: web/pixels, web/storage
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { startApp, type RunningApp } from '../harness/app';
import { Browser } from '../harness/browser';
import { drop, newGraphic, settleDemo } from '../harness/workbench';

/** `npm run soak` opens and closes twenty. */
const GRAPHICS = Number(process.env['MEMORY_GRAPHICS'] ?? 5);
const profile = mkdtempSync(join(tmpdir(), 'bright-slot-memory-'));
let app: RunningApp;
let browser: Browser;
beforeAll(async () => {
  app = await startApp();
  browser = await Browser.open({ profile });
  await settleDemo(browser, app);
});
afterAll(async () => {
  await browser.close();
  await app.stop();
  rmSync(profile, { recursive: true, force: true, maxRetries: 5 });
});

/** Memory of the page and its workers, MB: what is resident of this browser's renderers and its painting process. */
function resident(): number {
  const ids = execFileSync('pgrep', ['-f', `user-data-dir=${profile}`], { encoding: 'utf8' })
    .trim()
    .split('\n');
  let sum = 0;
  for (const id of ids)
    try {
      const command = readFileSync(`/proc/${id}/cmdline`, 'utf8');
      if (!/--type=(renderer|gpu-process)/.test(command)) continue;
      sum += Number(/^VmRSS:\s+(\d+) kB/m.exec(readFileSync(`/proc/${id}/status`, 'utf8'))![1]) / 1024;
    } catch {
      // It ended meanwhile.
    }
  return sum;
}

/** After everything has had the time to go that is let go after a while. */
async function settled(): Promise<number> {
  await browser.driver.sleep(24_000);
  for (let i = 0; i < 3; i++) {
    await browser.driver.sendDevToolsCommand('HeapProfiler.collectGarbage', {});
    await browser.driver.sleep(1500);
  }
  return resident();
}

/** A photograph of 24 megapixels, one of its own each time. */
const photograph = (n: number) =>
  sharp({ create: { width: 6000, height: 4000, channels: 3, background: `hsl(${n * 17}, 40%, 40%)` } })
    .composite([
      {
        input: Buffer.from(
          `<svg xmlns="http://www.w3.org/2000/svg" width="6000" height="4000"><circle cx="${1000 + n * 150}" cy="2000" r="900" fill="#f4e7cb"/></svg>`,
        ),
      },
    ])
    .jpeg({ quality: 80 })
    .toBuffer();

async function openAndClose(n: number): Promise<void> {
  await newGraphic(browser, app, 'Form header, 1600 × 400');
  await drop(browser, { name: `photo-${n}.jpg`, bytes: await photograph(n) });
  await browser.find('.thing', 60_000);
  await browser.exact();
  await browser.saved();
  await browser.press('Graphics', 'a');
  await browser.find('bs-graphic-card');
}

it(`${GRAPHICS} graphics with photographs of 24 megapixels, opened and closed, end near where it began`, async () => {
  // Codecs, shaping and type are loaded by the first.
  await openAndClose(0);
  const began = await settled();
  let most = 0;
  for (let n = 1; n <= GRAPHICS; n++) {
    await openAndClose(n);
    most = Math.max(most, resident());
  }
  // What was let go is taken back when the browser comes to it.
  let ended = await settled();
  for (let tries = 0; tries < 4 && ended >= began * 1.1 + 20; tries++) ended = await settled();
  console.log(`memory: ${began.toFixed(0)} MB at first, ${most.toFixed(0)} at most, ${ended.toFixed(0)} at the end`);
  // Each photograph alone would be 96 MB: kept ones would show at once.
  expect(ended).toBeLessThan(began * 1.1 + 20);
}, 1_800_000);
