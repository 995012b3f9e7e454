// Covers: web/workbench, web/document, core/graphic
import { accessible } from './harness/accessible';
import { Key } from './harness/browser';
import { withApp } from './harness/suite';
import { settleDemo } from './harness/workbench';

// States of a graphic that were named: come back to, gone on from, compared.
const { app, browser } = withApp();
beforeAll(async () => {
  await settleDemo(browser, app);
  await browser.visit(`${app.app}/graphics/demo-notes`);
});

const text = (css: string) =>
  browser.run<string[]>(
    `return [...document.querySelectorAll(arguments[0])].map((e) => e.textContent.trim().replace(/\\s+/g, ' '))`,
    css,
  );
const keep = async (name: string) => {
  await browser.fill(await browser.find('input[aria-label="Name for this state"]'), `${name}${Key.ENTER}`);
  await browser.until(async () => (await text('.version .name')).includes(name), `“${name}” is no version`);
};
const size = async (px: number) => {
  await browser.layer('Words: Title');
  await browser.number('Size', px);
  await browser.saved();
};

it('a state is named, gone on from, and come back to', async () => {
  await browser.press('Steps');
  await keep('Large title');
  await size(40);
  await keep('Small title');
  await size(30);
  expect(await text('.version .name')).toEqual(['Small title', 'Large title']);
  await accessible(browser);
  await (await browser.find('.version:last-of-type .go')).click();
  await browser.layer('Words: Title');
  const field = () => browser.field('//bs-settings', 'Size');
  await browser.until(async () => (await (await field()).getAttribute('value')) === '54', 'It is not as it was');
  // Another way from there: both are kept.
  await size(60);
  expect(await text('.version .name')).toEqual(['Small title', 'Large title']);
});

it('versions outlive a reload', async () => {
  await browser.saved();
  await browser.driver.navigate().refresh();
  await browser.press('Steps');
  await browser.until(async () => (await text('.version .name')).length === 2, 'They are gone');
});

it('two and three are compared side by side and one over the other, and what differs is said', async () => {
  await browser.press('Compare');
  await browser.until(async () => (await browser.all('bs-compare img')).length === 2, 'They were not painted', 30_000);
  expect(await text('bs-compare section li')).toEqual(['Title: 54 → 40 px']);
  await accessible(browser);
  // A third beside them, and what differs from the first.
  await browser.run(
    `const s = document.querySelector('bs-compare select[aria-label="Third"]') ?? [...document.querySelectorAll('bs-compare bs-select')].find((b) => b.textContent.includes('Third')).querySelector('select');
     s.value = 'now'; s.dispatchEvent(new Event('change'));`,
  );
  await browser.until(
    async () => (await browser.all('bs-compare img')).length === 3,
    'The third was not painted',
    30_000,
  );
  expect(await text('bs-compare section li')).toEqual(['Title: 54 → 40 px', 'Title: 54 → 60 px']);
  await accessible(browser);
  // At true size all are looked at in one place.
  await browser.size(820, 700);
  await browser.press('Pixel for pixel');
  const moved = await browser.run<number[]>(
    `const [a, b, c] = document.querySelectorAll('bs-compare .window');
     a.scrollLeft = 120;
     return new Promise((done) => setTimeout(() => done([a.scrollLeft, b.scrollLeft, c.scrollLeft]), 300));`,
  );
  expect(moved[0]).toBeGreaterThan(0);
  expect(moved[1]).toBe(moved[0]);
  expect(moved[2]).toBe(moved[0]);
  await browser.size(1280, 800);
  await browser.press('One over the other');
  await browser.find('bs-compare .both .top');
  await browser.keys(Key.ESCAPE);
  await browser.until(async () => (await browser.all('bs-compare')).length === 0, 'It is open still');
});

it('what is live is compared with what is here now', async () => {
  await browser.visit(`${app.app}/graphics/demo-kiln-opening`);
  await browser.press('Finish');
  await browser.find('bs-finish-panel textarea:focus');
  await browser.keys(Key.ENTER);
  await browser.seeText('It is on the site.', 30_000);
  await browser.keys(Key.ESCAPE);
  await browser.layer('Words: Title');
  await browser.tab('Place');
  await browser.number('From the top', 104);
  await browser.saved();
  await browser.press('Steps');
  await browser.press('Compare');
  await browser.until(
    async () => (await text('bs-compare figcaption'))[0]?.startsWith('What is live on') ?? false,
    'What is live was not found',
    20_000,
  );
  expect((await text('bs-compare section li')).join()).toMatch(/^Title: [\d.]+ px (lower|higher)$/);
});
