// Covers: web/sites, web/output, core/site, core/export, server
import { chooseFormat } from './harness/exporting';
import { readFileSync } from 'node:fs';
import exifr from 'exifr';
import sharp from 'sharp';
import { demo } from './harness/demo';
import { Key } from './harness/browser';
import { withApp } from './harness/suite';
import { download } from './harness/workbench';

const { app, browser } = withApp();

const today = () => new Date().toLocaleDateString('sv-SE');
const toExport = async (id: string) => {
  await browser.visit(`${app.app}/graphics/${id}/export`);
  await browser.find('img.file', 30_000);
  await browser.driver.wait(
    async () =>
      !(await browser.run<boolean>(
        `return [...document.querySelectorAll('.bytes')].some((b) => b.textContent.includes('…'))`,
      )),
    30_000,
  );
};
const nameField = () => browser.find('aside .field input[spellcheck="false"]');

describe('names', () => {
  beforeAll(async () => {
    await toExport('demo-kiln-opening');
    await chooseFormat(browser, 'JPEG');
  });
  it('say graphic, slot and day, stay while nothing changes, and step on by a letter instead of overwriting', async () => {
    const first = `kiln-opening-page-cover-${today()}a.jpg`;
    expect(await (await nameField()).getAttribute('value')).toBe(first);
    await browser.press('Save file');
    await download(browser, first);
    await browser.seeText(`Saved as ${first}`);
    // One state, one name; another quality is another file.
    expect(await (await nameField()).getAttribute('value')).toBe(first);
    await (await browser.find('input[aria-label="Quality"]')).sendKeys(Key.ARROW_LEFT);
    await browser.driver.wait(
      async () => (await (await nameField()).getAttribute('value')) === first.replace('a.jpg', 'b.jpg'),
      5000,
    );
  });
  it('refuse what was given already, and offer the next free one', async () => {
    await browser.fill(await nameField(), `kiln-opening-page-cover-${today()}a.jpg`);
    await browser.seeText('That name has been given already.');
    expect(await (await browser.named('button', 'Save file')).isEnabled()).toBe(false);
    await browser.press(`Use kiln-opening-page-cover-${today()}b.jpg`);
    expect(await (await browser.named('button', 'Save file')).isEnabled()).toBe(true);
  });
  it.each([['Kiln Öffnung.jpg'], ['kiln opening.jpg'], ['KILN.jpg'], ['kiln.png']])('take no “%s”', async (name) => {
    await browser.fill(await nameField(), name);
    expect(await (await browser.named('button', 'Put on the site')).isEnabled()).toBe(false);
  });
});

describe('what a file says of itself', () => {
  it.each([
    ['JPEG', 1, '.jpg'],
    ['PNG', 2, '.png'],
    ['WebP', 3, '.webp'],
  ])('%s states sRGB, and no copyright while the house style gives none', async (_name, nth, ending) => {
    await toExport('demo-new-jugs');
    await (await browser.find(`.format:nth-child(${nth})`)).click();
    await browser.find(`.format:nth-child(${nth})[aria-checked="true"]`);
    await browser.press('Save file');
    const file = await download(browser, ending, [`kiln-opening-page-cover-${today()}a.jpg`]);
    const meta = await sharp(file).metadata();
    expect([meta.width, meta.height, meta.space]).toEqual([1200, 630, 'srgb']);
    expect(meta.exif).toBeUndefined();
    // PNG says it in its sRGB chunk, the others in a profile.
    if (nth === 2) expect(readFileSync(file).includes('sRGB')).toBe(true);
    else expect(meta.icc!.includes(Buffer.from('\0s\0R\0G\0B', 'latin1'))).toBe(true);
  });
  it('has the copyright line once the house style has one', async () => {
    await browser.visit(`${app.app}/house-style`);
    const line = await browser.find('input[placeholder^="For example: ©"]');
    await browser.fill(line, `© 2026 Ottermill Pottery${Key.TAB}`);
    await browser.saved();
    await toExport('demo-evening-classes');
    await chooseFormat(browser, 'JPEG');
    await browser.seeText('“© 2026 Ottermill Pottery” is written in');
    await browser.press('Save file');
    const file = await download(browser, `evening-classes-to-mend-form-header-${today()}a.jpg`);
    const { Copyright } = (await exifr.parse(file, { tiff: true })) as { Copyright: string };
    expect(Copyright).toContain('2026 Ottermill Pottery');
  });
});

describe('the sites place', () => {
  it('asks for a description when sending, proposed from the words', async () => {
    await toExport('demo-autumn-glazes');
    await chooseFormat(browser, 'JPEG');
    await browser.press('Put on the site');
    // What the fit report found is named once.
    await browser.seeText('still open');
    await browser.press('Send it all the same');
    const asked = await browser.find('mat-dialog-container textarea');
    expect(await asked.getAttribute('value')).toBe('Notes from the Wheel; a diary from the mill');
    await browser.press('Not yet');
    await browser.driver.wait(async () => (await browser.all('mat-dialog-container')).length === 0, 5000);
    await browser.press('Put on the site');
    await browser.press('Send with this');
    await browser.seeText('It is on the site.');
    await browser.press('Put on the site');
    // The site keeps one of each name: the same state again goes under the next.
    await browser.driver.wait(async () => (await (await nameField()).getAttribute('value'))!.endsWith('b.jpg'), 10_000);
  });
  it('shows each page, what its slot shows, when it was sent and from which graphic', async () => {
    await browser.visit(`${app.app}/sites`);
    const card = await browser.find('section[aria-label="Notes from the Wheel"]');
    const text = await card.getText();
    expect(text).toContain(`autumn-glazes-to-mend-blog-header-${today()}b.jpg`);
    expect(text).toMatch(/Sent \d\d:\d\d, from Autumn glazes, to mend/);
    expect(text).toContain('Described as “Notes from the Wheel; a diary from the mill”');
    expect((await browser.all('section.page')).length).toBe(demo.site.pages.length);
    const image = await browser.driver.executeScript<boolean>(
      `const i = arguments[0].querySelector('bs-page-likeness').shadowRoot.querySelector('img'); return i.complete && i.naturalWidth === 940;`,
      card,
    );
    expect(image).toBe(true);
  });
  it('takes down, undoes that, and puts an earlier one back; a visitor sees each', async () => {
    const shown = async () =>
      /src="\/pictures\/[^"]*\/([^"]*)"/.exec(await (await fetch(`${app.site}/blog`)).text())?.[1] ?? null;
    expect(await shown()).toBe(`autumn-glazes-to-mend-blog-header-${today()}b.jpg`);
    await browser.press(`Take down autumn-glazes-to-mend-blog-header-${today()}b.jpg`);
    await browser.seeText('is taken down from Blog header');
    expect(await shown()).toBeNull();
    await browser.press('Undo');
    await browser.seeText('Take down');
    await browser.driver.wait(async () => (await shown()) !== null, 5000);
    await (await browser.find('section[aria-label="Notes from the Wheel"] summary')).click();
    await browser.press(`Put autumn-glazes-to-mend-blog-header-${today()}a.jpg back`);
    await browser.seeText(`shows “autumn-glazes-to-mend-blog-header-${today()}a.jpg” again`);
    expect(await shown()).toBe(`autumn-glazes-to-mend-blog-header-${today()}a.jpg`);
  });
  it('says so when the site does not answer, and loses nothing', async () => {
    await browser.driver.sendDevToolsCommand('Network.enable', {});
    await browser.driver.sendDevToolsCommand('Network.setBlockedURLs', { urls: ['*/api/*'] });
    await browser.driver.navigate().refresh();
    await browser.seeText('The site does not answer');
    await browser.driver.sendDevToolsCommand('Network.setBlockedURLs', { urls: [] });
    await browser.press('Try again');
    await browser.seeText('Notes from the Wheel');
  });
});

it('a new name pattern is taken, and an unknown part refused', async () => {
  await browser.visit(`${app.app}/house-style`);
  const pattern = await browser.find('section[aria-labelledby="files-title"] input');
  await browser.fill(pattern, '{graphic}-{colour}');
  await browser.seeText('{colour} is no part of a name');
  await browser.fill(pattern, `Ottermill {graphic}${Key.TAB}`);
  await browser.seeText('ottermill-autumn-glazes.jpg');
  await browser.saved();
  await toExport('demo-kiln-opening');
  expect(await (await nameField()).getAttribute('value')).toBe('ottermill-kiln-opening.jpg');
  expect(await browser.violations()).toEqual([]);
});
