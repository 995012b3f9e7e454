// Component tests: every `*.component.spec.ts` of the app in one page of the real Chromium, by Jasmine. The page gives
// what layout, pixels, workers and IndexedDB really do; Angular's TestBed gives a component without the whole app.
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import express from 'express';
import { Builder, logging } from 'selenium-webdriver';
import { Options, ServiceBuilder } from 'selenium-webdriver/chrome.js';
import { madePictures } from './made-pictures.mjs';
import { filesBelow, root, run, unless, whenChanged } from './prepare.mjs';

/** A page that says nothing for so long hangs, ms. */
const SILENCE = 60_000;

export const componentSpecs = () => filesBelow('web/src', (f) => f.endsWith('.component.spec.ts'));

/** Builds the page; types were checked by `npm run typecheck`, templates by the app's own build. */
export async function buildComponents() {
  const specs = componentSpecs();
  const main = join(root, '.cache/components/main.ts');
  mkdirSync(join(root, '.cache/components'), { recursive: true });
  const imported = ['web/src/app/testing/component-page.ts', ...specs];
  unless(main, imported.map((f) => `import '../../${f.replace(/\.ts$/, '')}';\n`).join(''));
  const inputs = [
    ...specs,
    'web/src',
    'core/src',
    'core/kernel',
    'demo/src',
    'angular.json',
    'web/tsconfig.components.json',
    'package-lock.json',
  ];
  await whenChanged('components', inputs, ['dist/components/browser/main.js'], () =>
    run('npx', ['ng', 'build', 'components', '--progress', 'false'], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, NG_CLI_ANALYTICS: 'false', NG_BUILD_TYPE_CHECK: '0' },
    }),
  );
}

/** Jasmine's own boot, then the tests, then how they went: `window.__done`, `window.__heard`. */
const page = (
  name,
) => `<!doctype html><html lang="en"><meta charset="utf-8"><title>Component tests</title><base href="/">
<link rel="stylesheet" href="styles.css">
<script src="/jasmine/jasmine.js"></script>
<script>
  const env = jasmine.getEnv();
  window.__results = [];
  window.__heard = performance.now();
  env.configure({ random: true, forbidDuplicateNames: true, seed: ${JSON.stringify(process.env.SEED ?? '')} || undefined, specFilter: (s) => s.getFullName().includes(${JSON.stringify(name)}) });
  env.addReporter({
    specStarted: () => { window.__heard = performance.now(); },
    specDone: ({ fullName, status, duration, failedExpectations }) => {
      window.__heard = performance.now();
      window.__results.push({ fullName, status, duration, messages: failedExpectations.map((f) => f.message + '\\n' + f.stack) });
    },
    jasmineDone: ({ overallStatus, order, failedExpectations }) => {
      window.__done = { overallStatus, seed: order.seed, messages: (failedExpectations ?? []).map((f) => f.message) };
    },
  });
  addEventListener('error', (e) => { window.__broken ??= String(e.error?.stack ?? e.message); });
</script>
<script type="module">
  try { await import('/main.js'); window.__loaded = true; env.execute(); } catch (e) { window.__broken = String(e?.stack ?? e); }
</script>
<body class="mat-typography"></body></html>`;

export async function componentTests({ name = '' } = {}) {
  await buildComponents();
  const app = express();
  app.get('/', (_, to) => to.type('html').send(page(name)));
  app.use('/jasmine', express.static(join(root, 'node_modules/jasmine-core/lib/jasmine-core')));
  app.use(express.static(join(root, 'dist/components/browser')));
  madePictures(app);
  const server = await new Promise((ready) => {
    const s = app.listen(0, '127.0.0.1', () => ready(s));
  });
  const profile = mkdtempSync(join(tmpdir(), 'bright-slot-components-'));
  const options = new Options();
  options.setChromeBinaryPath('/usr/bin/chromium');
  options.addArguments(
    ...['--headless=new', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-sync'],
    ...['--disable-background-networking', '--disable-component-update', '--force-color-profile=srgb'],
    ...['--force-prefers-reduced-motion', '--window-size=1280,900', `--user-data-dir=${profile}`],
  );
  const logs = new logging.Preferences();
  logs.setLevel(logging.Type.BROWSER, logging.Level.SEVERE);
  options.setLoggingPrefs(logs);
  const driver = await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new ServiceBuilder('/usr/bin/chromedriver'))
    .build();
  try {
    await driver.get(`http://localhost:${server.address().port}/`);
    for (;;) {
      const { done, broken, silent, at } = await driver.executeScript(
        `return { done: window.__done, broken: window.__broken, silent: performance.now() - window.__heard, at: window.__results?.length }`,
      );
      if (done) break;
      if (broken && !at) throw new Error(`The page of component tests did not load: ${broken}`);
      if (silent > SILENCE)
        throw new Error(`The component tests said nothing for ${SILENCE / 1000} s after ${at} tests`);
      await new Promise((r) => setTimeout(r, 250));
    }
    const { results, done } = await driver.executeScript(`return { results: window.__results, done: window.__done }`);
    const of = (status) => results.filter((r) => r.status === status);
    for (const { fullName, messages } of of('failed')) console.error(`  ✕ ${fullName}\n${messages.join('\n')}\n`);
    for (const m of done.messages) console.error(`  ✕ ${m}`);
    if (process.env.VERBOSE)
      for (const { fullName, duration } of of('passed')) console.log(`  ✓ ${fullName} (${duration} ms)`);
    console.log(`component tests in order of seed ${done.seed} (SEED=${done.seed} takes it again)`);
    const failed = of('failed').length + done.messages.length;
    return { passed: of('passed').length, failed: failed || (results.length ? 0 : 1), files: [] };
  } finally {
    await driver.quit();
    server.close();
    rmSync(profile, { recursive: true, force: true, maxRetries: 5 });
  }
}

if (import.meta.filename === process.argv[1]) {
  const { installDebianPackages } = await import('./browser.mjs');
  installDebianPackages();
  const { passed, failed } = await componentTests({ name: process.argv[2] });
  console.log(`${passed} passed, ${failed} failed`);
  process.exit(failed ? 1 : 0);
}
