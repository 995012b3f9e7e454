import { cpSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { startApp, type RunningApp } from './app';
import { Browser, type BrowserChoices } from './browser';
import { demoAtRest, lookRound, settleDemo } from './workbench';

/**
 * Where this process keeps a profile with the demo brought in and at rest, for its next files to begin with a copy of.
 * Set by whoever runs them all; a file by itself brings the demo in anew.
 */
const kept = process.env['BRIGHT_SLOT_PROFILES'];
const own = kept && join(kept, process.env['JEST_WORKER_ID'] ?? '1');

/** Brings the demo in once for all files of this process: the profile, and the port it belongs to. */
async function keepDemo(folder: string): Promise<void> {
  const app = await startApp();
  const profile = `${folder}-first`;
  const browser = await Browser.open({ profile });
  try {
    await settleDemo(browser, app);
    await demoAtRest(browser);
  } finally {
    await browser.close();
    await app.stop();
  }
  mkdirSync(folder, { recursive: true });
  cpSync(profile, join(folder, 'profile'), { recursive: true });
  writeFileSync(join(folder, 'port'), new URL(app.app).port);
}

/** Stands for what is there once the tests have begun. */
const once = <T extends object>(there: () => T | undefined): T =>
  new Proxy({} as T, {
    get: (_, key) => {
      const it = there();
      if (!it) throw new Error('The app and its browser are there once the tests have begun, not before.');
      const value: unknown = Reflect.get(it, key);
      return typeof value === 'function' ? (value.bind(it) as unknown) : value;
    },
  });

/**
 * The app and a browser for the tests of a file, the demo in place; both go when the tests are done. Without motion
 * unless it is asked for: nothing has to be waited for, and two processes share two cores.
 */
export function withApp(choices: BrowserChoices = {}): { readonly app: RunningApp; readonly browser: Browser } {
  const held: { app?: RunningApp; browser?: Browser } = {};
  beforeAll(async () => {
    if (own && !existsSync(join(own, 'port'))) await keepDemo(own);
    const port = own && Number(readFileSync(join(own, 'port'), 'utf8'));
    held.app = await startApp(port ? { port } : {});
    held.browser = await Browser.open({ reducedMotion: true, ...choices, from: own && join(own, 'profile') });
    if (!own) return settleDemo(held.browser, held.app);
    await held.browser.go(`${held.app.app}/graphics`);
    await lookRound(held.browser);
  });
  afterAll(async () => {
    await held.browser?.close();
    await held.app?.stop();
  });
  return { app: once(() => held.app), browser: once(() => held.browser) };
}
