import { startApp, type RunningApp } from './app';
import { Browser, type BrowserChoices } from './browser';
import { settleDemo } from './workbench';

/** The app and a browser for the tests of a file, the demo in place; both go when the tests are done. */
export function withApp(choices: BrowserChoices = {}): { readonly app: RunningApp; readonly browser: Browser } {
  const held: { app?: RunningApp; browser?: Browser } = {};
  beforeAll(async () => {
    held.app = await startApp();
    held.browser = await Browser.open(choices);
    await settleDemo(held.browser, held.app);
  });
  afterAll(async () => {
    await held.browser?.close();
    await held.app?.stop();
  });
  return {
    get app() {
      return held.app!;
    },
    get browser() {
      return held.browser!;
    },
  };
}
