// Covers: web/graphics, web/house-style, web/storage, web/connector, core/demo, demo
import { startApp, type RunningApp } from './harness/app';
import { Browser } from './harness/browser';
import { demo, everySlot } from './harness/demo';
import { lookRound, newGraphic, startBare } from './harness/workbench';
import { slotsToStart } from '@bright-slot/core';

const body = async (browser: Browser) => (await browser.find('body')).getText();
/** What every likeness of a page says: they are drawn in shadow trees. */
const pages = (browser: Browser) =>
  browser.run<string>(
    `return [...document.querySelectorAll('bs-page-likeness')].map((p) => p.shadowRoot?.textContent ?? '').join(' ')`,
  );
const slotsIn = async (browser: Browser, app: RunningApp) => {
  await browser.go(`${app.app}/slots`);
  await browser.find('.outline');
  return (await browser.all('bs-slot-outlines .outline, .slots .outline, bs-slot-card, .outline')).length;
};

describe('a fresh browser', () => {
  let app: RunningApp;
  let browser: Browser;
  beforeAll(async () => {
    app = await startApp();
    browser = await Browser.open();
  });
  afterAll(async () => {
    await browser.close();
    await app.stop();
  });

  it('is asked how to begin; a business of one’s own takes a name, an address, a logo with its colours, a first slot', async () => {
    await browser.go(`${app.app}/graphics`);
    await browser.find('bs-first-steps', 20_000);
    expect(await browser.violations()).toEqual([]);
    const [name, address] = await browser.all('bs-first-steps form input:not([type=file])');
    await browser.fill(name!, 'Mill Street Bakery');
    await browser.fill(address!, 'mill-street.example');
    const logo = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 60 20"><path fill="#123a5c" d="M0 0h40v20H0z"/><path fill="#e0702a" d="M40 0h20v20H40z"/></svg>`;
    await browser.dropFiles('bs-first-steps', [{ name: 'loaf.svg', type: 'image/svg+xml', bytes: Buffer.from(logo) }]);
    await browser.find('.chip');
    const colours = await Promise.all((await browser.all('.chip')).map((c) => c.getAttribute('aria-label')));
    expect(colours).toEqual(expect.arrayContaining(['Colour #123a5c', 'Colour #e0702a']));
    await browser.run(
      `const s = document.querySelector('bs-first-steps select'); s.value = 'common-blog-940x198'; s.dispatchEvent(new Event('change'))`,
    );
    await browser.press('Start');
    await startBare(browser);
    expect(await pages(browser)).toContain('Mill Street Bakery');
  });

  it('no page, field or card of it is the demo’s', async () => {
    for (const place of ['graphics', 'slots', 'house-style', 'sites']) {
      await browser.go(`${app.app}/${place}`);
      await browser.find('main');
      await browser.driver.sleep(600);
      const seen = `${await body(browser)} ${await pages(browser)} ${await browser.run<string>(
        `return [...document.querySelectorAll('[placeholder], [title], [aria-label]')].map((e) => [e.placeholder, e.title, e.ariaLabel].join(' ')).join(' ')`,
      )}`;
      expect(/ottermill|pottery/i.exec(seen)).toBeNull();
      expect(await browser.violations()).toEqual([]);
    }
    await browser.seeText('No site yet');
    await browser.go(`${app.app}/house-style`);
    await browser.driver.wait(
      async () => {
        const values = await browser.run<string[]>(
          `return [...document.querySelectorAll('input')].map((i) => i.value.toLowerCase())`,
        );
        return ['mill street bakery', 'mill-street.example'].every((v) => values.includes(v));
      },
      10_000,
      'The house style has not the business’s own name and address',
    );
    expect(await slotsIn(browser, app)).toBe(slotsToStart.length);
  });

  it('is not asked again, and saves a file where there is no site', async () => {
    await browser.go(`${app.app}/graphics`);
    await browser.find('bs-graphic-card');
    expect(await browser.all('bs-first-steps')).toEqual([]);
    expect(await browser.all('.round-note')).toEqual([]);
  });
});

describe('the demo', () => {
  let app: RunningApp;
  let browser: Browser;
  beforeAll(async () => {
    app = await startApp();
    browser = await Browser.open();
    await browser.go(`${app.app}/graphics`);
    await lookRound(browser);
  });
  afterAll(async () => {
    await browser.close();
    await app.stop();
  });
  /** So many stand there, once they are read. */
  const seeCards = async (count: number) => {
    await browser.go(`${app.app}/graphics`);
    await browser.driver.wait(
      async () => (await browser.all('bs-graphic-card')).length === count,
      15_000,
      `There are not ${count} graphics`,
    );
  };

  it('leaves by one press, all but what one worked on, and comes back by another', async () => {
    await newGraphic(browser, app, 'Article picture 640 × 480, 640 × 480');
    await seeCards(demo.graphics.length + 1);
    await browser.press('Take the pottery away');
    await browser.seeText('The demo is gone.');
    await browser.driver.wait(async () => (await browser.all('bs-graphic-card')).length === 1, 5000);
    await browser.press('Undo');
    await browser.driver.wait(
      async () => (await browser.all('bs-graphic-card')).length === demo.graphics.length + 1,
      10_000,
    );
    expect(await slotsIn(browser, app)).toBe(everySlot.length);
    await browser.go(`${app.app}/sites`);
    await browser.seeText('Ottermill Pottery');
    await seeCards(demo.graphics.length + 1);
    await browser.press('Take the pottery away');
    await browser.seeText('The demo is gone.');
    expect(await slotsIn(browser, app)).toBe(slotsToStart.length);
    await browser.go(`${app.app}/sites`);
    await browser.seeText('No site yet');
    await seeCards(1);
    await browser.go(`${app.app}/house-style`);
    await browser.driver.sleep(500);
    expect(
      /ottermill/i.exec(
        await browser.run<string>(`return [...document.querySelectorAll('input')].map((i) => i.value).join()`),
      ),
    ).toBeNull();
  });
});

describe('started without the demo', () => {
  it('asks for one’s own business only, and works', async () => {
    const app = await startApp({ empty: true });
    const browser = await Browser.open();
    try {
      await browser.go(`${app.app}/graphics`);
      await browser.find('bs-first-steps', 20_000);
      expect(/look round|ottermill/i.exec(await body(browser))).toBeNull();
      await browser.press('Start');
      await browser.seeText('No graphics yet');
      await newGraphic(browser, app, 'Blog header 940 × 198, 940 × 198');
      await browser.go(`${app.app}/sites`);
      await browser.seeText('No site yet');
      expect(await fetch(`${app.app}/demo.json`).then((r) => r.status)).toBe(404);
      expect(await fetch(app.site).catch(() => 'nobody')).toBe('nobody');
      expect(await browser.violations()).toEqual([]);
    } finally {
      await browser.close();
      await app.stop();
    }
  });
});
