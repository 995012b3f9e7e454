// Covers: web/document, web/storage
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { random as randomFrom } from '../../../core/src/testing/samples';
import { startApp, type RunningApp } from '../harness/app';
import { Browser } from '../harness/browser';
import { newGraphic, settleDemo, things } from '../harness/workbench';

/** `npm run soak` sets fifty. */
const KILLS = Number(process.env['KILLS'] ?? 2);
/** Printed, so that the same moments can be tried again. */
const SEED = Number(process.env['KILL_SEED'] ?? Date.now() % 1_000_000);
const random = randomFrom(SEED);

let app: RunningApp;
beforeAll(async () => {
  app = await startApp();
});
afterAll(async () => app.stop());

it(`loses nothing shown as saved when Chromium is killed 250 ms after an edit, ${KILLS} times at random points (seed ${SEED})`, async () => {
  const profile = mkdtempSync(join(tmpdir(), 'bright-slot-crash-'));
  let browser = await Browser.open({ profile });
  try {
    await newGraphicOnce(browser);
    const address = await browser.driver.getCurrentUrl();
    const at = async () => Number(/ at (-?\d+), /.exec((await things(browser)).join())?.[1]);
    let saved = await at();
    for (let kill = 0; kill < KILLS; kill++) {
      // Some edits, a random while apart; what was moved to when “Saved” stood there must be there afterwards.
      const edits = 1 + Math.floor(random() * 4);
      const pauses = Array.from({ length: edits }, () => random() * 180);
      const [last, seen] = await browser.driver.executeAsyncScript<[number, number]>(
        `const [pauses, done] = arguments;
         const edits = pauses.length;
         const where = () => Number(/ at (-?\\d+), /.exec(document.querySelector('.thing').getAttribute('aria-label'))[1]);
         const isSaved = () => document.querySelector('bs-save-state').textContent.trim().startsWith('Saved');
         (async () => {
           let seen = null;
           const look = () => { if (isSaved()) seen = where(); };
           for (let i = 0; i < edits; i++) {
             document.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true, cancelable: true }));
             const until = performance.now() + (i === edits - 1 ? 250 : pauses[i]);
             await new Promise((r) => setTimeout(r));
             while (performance.now() < until) { await new Promise(requestAnimationFrame); look(); }
           }
           done([where(), seen]);
         })();`,
        pauses,
      );
      // The browser and all its processes, at once and without notice.
      execFileSync('pkill', ['-9', '-f', `user-data-dir=${profile}`]);
      if (seen !== null) saved = seen;
      await browser.close();
      browser = await Browser.open({ profile });
      await browser.go(address);
      await browser.find('.thing', 30_000);
      const found = await at();
      expect(found).toBeGreaterThanOrEqual(saved);
      expect(found).toBeLessThanOrEqual(last);
      saved = found;
      await browser.layer('Words');
      await browser.run('document.activeElement?.blur()');
    }
  } finally {
    await browser.close();
    rmSync(profile, { recursive: true, force: true, maxRetries: 5 });
  }
}, 900_000);

async function newGraphicOnce(browser: Browser): Promise<void> {
  await settleDemo(browser, app);
  await newGraphic(browser, app, 'Blog header, 940 × 198');
  await browser.press('Add');
  await browser.menu('Words');
  await browser.find('.thing');
  await browser.saved();
  await browser.run('document.activeElement?.blur()');
}
