// Covers: web/sets, core/sets, core/layouts
import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { accessible } from './harness/accessible';
import { Key } from './harness/browser';
import { withApp } from './harness/suite';
import type { GivenFile } from './harness/browser';
import { download, dropOn, settleDemo } from './harness/workbench';

// Tiles of one layout, made from a table; and the same set done again with other photos.
const { app, browser } = withApp({ width: 1280, height: 800 });
beforeAll(() => settleDemo(browser, app));

const seven = ['Bowls', 'Jugs', 'Mugs', 'Bottles', 'Plates', 'Teapots & lids', 'Seconds'];
const demoPhoto = (name: string, as = name): GivenFile => ({
  name: as,
  bytes: readFileSync(`demo/pictures/${name}`),
  type: 'image/jpeg',
});
const seen: string[] = [];

/** Nothing is being made, and every row is judged. */
async function settled(rows: number): Promise<void> {
  await browser.driver.wait(
    () =>
      browser.run<boolean>(
        `const fits = [...document.querySelectorAll('tbody tr')].map((r) => r.children[r.children.length - (document.querySelector('bs-set-page input.word') ? 2 : 1)].innerText);
         return fits.length === arguments[0] && fits.every((f) => /fits|to fix|to look/.test(f)) && !document.querySelector('.news .working')`,
        rows,
      ),
    60_000,
    `${rows} rows are not settled`,
  );
}
const onTheSet = (...files: GivenFile[]) => dropOn(browser, 'bs-set-page main', ...files);
const words = () => browser.run<string[]>(`return [...document.querySelectorAll('input.word')].map((f) => f.value)`);
const photos = () =>
  browser.run<string[]>(`return [...document.querySelectorAll('.cell.photo span')].map((s) => s.textContent.trim())`);
/** The address of the set that is open. */
const address = () => browser.driver.getCurrentUrl();

it('seven tiles in twenty-five presses, a photo proposed for each; the eighth told', async () => {
  let actions = 0;
  const act = async (work: Promise<unknown>) => {
    actions++;
    await work;
  };
  await browser.visit(`${app.app}/graphics`);
  await act(browser.press('New graphic'));
  await act(browser.press('A row of 7: Menu tile'));
  await settled(7);
  await accessible(browser);
  await act(browser.run(`document.querySelector('input.word').focus()`));
  for (const word of seven) {
    await act(browser.keys(word));
    await act(browser.keys(Key.ENTER));
  }
  await browser.until(async () => (await words()).join() === seven.join(), 'the words stand');
  await settled(7);
  const files = await (actions++, browser.press('Save 7 files'), zip(7));
  console.info(`seven tiles: ${actions} actions`);
  expect(actions).toBeLessThanOrEqual(25);
  expect([...files.keys()].map((n) => n.slice(0, 4))).toEqual(['1-bo', '2-ju', '3-mu', '4-bo', '5-pl', '6-te', '7-se']);
  for (const file of files.values()) {
    const { width, height } = await sharp(file).metadata();
    expect([width, height]).toEqual([320, 200]);
  }
  // Photos by their names, each once.
  const proposed = await photos();
  expect(proposed.slice(0, 2)).toEqual(['A bowl on the wheel', 'Jugs on the sill']);
  expect(new Set(proposed).size).toBe(7);
  await browser.press('A row');
  await browser.until(async () => (await words()).length === 8, 'an eighth row');
  await browser.keys('Events', Key.ENTER);
  await browser.seeText('The eighth, “Events”, would not be seen: the page shows 7.');
  await settled(8);
  // What is to be looked at is told once for all: the page itself prints all of these words but the sixth and the last.
  await browser.seeText('1 to 5 and 7: The page prints the same words', 60_000);
  await accessible(browser);
});

async function zip(count: number): Promise<Map<string, Buffer>> {
  await browser.seeText(`${count} files are in`, 60_000);
  const path = await download(browser, '.zip', seen);
  seen.push(basename(path));
  return new Map(Object.entries(unzipSync(readFileSync(path))).map(([name, bytes]) => [name, Buffer.from(bytes)]));
}

it('a row taken out comes back by undo, and one moved stands elsewhere', async () => {
  await browser.press('Take tile 8 out');
  await browser.until(async () => (await words()).length === 7, 'a row less');
  await browser.press('Undo');
  await browser.until(async () => (await words()).at(-1) === 'Events', 'the row is back');
  await browser.press('Redo');
  await browser.until(async () => (await words()).length === 7, 'gone again');
  await browser.run(`document.querySelectorAll('.handle')[0].focus()`);
  await browser.keys(Key.ARROW_DOWN);
  await browser.until(async () => (await words())[1] === 'Bowls', 'it moved down');
  await browser.chord(Key.CONTROL, 'z');
  await browser.until(async () => (await words())[0] === 'Bowls', 'it is back at its place');
  await settled(7);
});

it('a tile changed on its own canvas keeps its change when all are made anew, and follows again at a press', async () => {
  const set = await address();
  await browser.press('Open Mugs on its canvas', 'a');
  await browser.find('.layer-item');
  await browser.run(
    `[...document.querySelectorAll('.layer-item')].find((l) => /Title|Mugs/.test(l.getAttribute('aria-label'))).click()`,
  );
  await browser.tab('Place');
  await browser.number('From the left', 60);
  await browser.saved();
  await browser.press('Menu tile', 'a');
  await settled(7);
  expect(await address()).toBe(set);
  await browser.seeText('follow again');
  const hand = () =>
    browser.run<string[]>(`return [...document.querySelectorAll('tr.hand input.word')].map((f) => f.value)`);
  expect(await hand()).toEqual(['Mugs']);
  const field = (await browser.all('input.word'))[5]!;
  await browser.fill(field, `Teapots${Key.ENTER}`);
  await browser.until(async () => (await words())[5] === 'Teapots', 'the word changed');
  await settled(7);
  expect(await hand()).toEqual(['Mugs']);
  await browser.press('Tile 3 follows the layout again');
  await browser.until(async () => (await hand()).length === 0, 'it follows');
});

it('another layout for all at once', async () => {
  await browser.press('Change the layout');
  await browser.find('bs-layout-dialog bs-layout-tiles button');
  await browser.seeText('Words on the photo');
  await browser.press('Words on the photo');
  await browser.seeText('Words on the photo. Change it');
  await settled(7);
  await browser.press('Undo');
  await browser.seeText('Band at the foot. Change it');
  await settled(7);
});

it('next week’s photos in three actions: made, named, saved; the edition before is put back in one press', async () => {
  const before = await photos();
  let actions = 0;
  await browser.press('New edition');
  actions++;
  await browser.find('bs-edition-dialog input[type=file]');
  await accessible(browser);
  await (
    await browser.find('bs-edition-dialog input[type=file]')
  ).sendKeys(['sill', 'tiles', 'kiln'].map((n) => `${process.cwd()}/demo/pictures/${n}.jpg`).join('\n'));
  actions++;
  await browser.seeText('3 of 7 are new.');
  await browser.press('Make it and save 7 files');
  actions++;
  await zip(7);
  console.info(`next week's tiles: ${actions} actions`);
  expect(actions).toBeLessThanOrEqual(3);
  expect((await photos()).slice(0, 3)).toEqual(['sill', 'tiles', 'kiln']);
  expect(await words()).toEqual(['Bowls', 'Jugs', 'Mugs', 'Bottles', 'Plates', 'Teapots', 'Seconds']);
  await browser.seeText('since then: 3 photos');
  await settled(7);
  await browser.press('Put back');
  await browser.until(async () => (await photos()).join() === before.join(), 'the photos of before');
  // What was put aside for it is kept in its place.
  await browser.seeText('since then: 3 photos');
  await settled(7);
});

it('rows pasted from a sheet, with a photo by name, another missing and told', async () => {
  const html =
    '<table><tr><td>Name</td><td>Picture</td></tr><tr><td>Dishes</td><td>kiln.jpg</td></tr><tr><td>Cups &amp; more</td><td>nowhere.jpg</td></tr></table>';
  await browser.run(
    `const data = new DataTransfer(); data.setData('text/html', arguments[0]); data.setData('text/plain', 'x');
     const field = document.querySelectorAll('input.word')[5]; field.focus();
     field.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))`,
    html,
  );
  await browser.until(async () => (await words()).slice(5).join() === 'Dishes,Cups & more', 'the rows of the sheet');
  expect((await photos())[5]).toBe('Kiln at night');
  await browser.seeText('Not among your photos: nowhere.jpg.');
  await settled(7);
});

it('a CSV that is dropped brings its rows; photos that are dropped go to the rows of their names', async () => {
  const csv = 'word,line\r\n"Vases, tall",from 40\r\nLids,\r\n';
  await onTheSet({ name: 'more.csv', bytes: Buffer.from(csv), type: 'text/csv' });
  await browser.until(async () => (await words()).slice(7).join('|') === 'Vases, tall|Lids', 'the rows of the file');
  await settled(9);
  await onTheSet(demoPhoto('sill.jpg', 'vase.jpg'), demoPhoto('pots-tall.jpg', 'plates.jpg'));
  await browser.until(async () => {
    const now = await photos();
    return now[7] === 'vase' && now[4] === 'plates';
  }, 'photos at their rows');
  await settled(9);
});

it('what is called off in the middle leaves what was there', async () => {
  const before = await words();
  const csv = Array.from({ length: 400 }, (_, i) => `Tile ${i}`).join('\n');
  await onTheSet({ name: 'many.csv', bytes: Buffer.from(csv), type: 'text/csv' });
  await browser.press('Cancel');
  await browser.until(async () => (await browser.all('.news .working')).length === 0, 'nothing is under way');
  expect(await words()).toEqual(before);
  await browser.driver.navigate().refresh();
  await settled(9);
  expect(await words()).toEqual(before);
});

it('of many rows those near what is seen are drawn; one added at the end is written in at once', async () => {
  const csv = Array.from({ length: 60 }, (_, i) => `Piece ${i + 1}`).join('\n');
  const rows = () => browser.all('tr[data-row]');
  await onTheSet({ name: 'many.csv', bytes: Buffer.from(csv), type: 'text/csv' });
  await browser.until(async () => (await rows()).length === 69, '69 rows');
  // What is out of sight can be found and read, and is not made yet.
  await browser.until(
    async () => (await (await browser.find('tr[data-row="68"]')).getText()) === 'Piece 60',
    'the last row',
  );
  expect((await words()).length).toBeLessThan(40);
  await accessible(browser);
  await browser.press('A row');
  await browser.until(
    () => browser.run<boolean>(`return document.activeElement.getAttribute('aria-label') === 'Word of tile 70'`),
    'the new row is written in',
  );
  await browser.driver.actions().sendKeys('The seventieth', Key.TAB).perform();
  await browser.until(async () => (await words()).at(-1) === 'The seventieth', 'its word');
  // Enter leads on through rows that were never drawn.
  const row = (i: number) => browser.run(`document.querySelector('tr[data-row="${i}"]').scrollIntoView()`);
  await row(40);
  const field = await browser.find('[aria-label="Word of tile 41"]');
  await browser.run(`arguments[0].focus()`, field);
  for (let i = 42; i < 56; i++) {
    await browser.driver.actions().sendKeys(Key.ENTER).perform();
    await browser.until(
      () => browser.run<boolean>(`return document.activeElement.getAttribute('aria-label') === 'Word of tile ${i}'`),
      `the word of tile ${i}`,
    );
  }
  for (const left of [70, 69, 9]) {
    await browser.driver.actions().keyDown(Key.CONTROL).sendKeys('z').keyUp(Key.CONTROL).perform();
    await browser.until(async () => (await rows()).length === left, `${left} rows`);
  }
  await settled(9);
});

it('a set is one card, found by its tiles’ words, and gone and back in one', async () => {
  await browser.visit(`${app.app}/graphics`);
  await browser.find('bs-set-card');
  await browser.seeText('A set of 9');
  expect(
    await browser.run(
      `return [...document.querySelectorAll('bs-graphic-card strong')].some((s) => s.textContent === 'Bowls')`,
    ),
  ).toBe(false);
  await browser.fill(await browser.find('input[type=search]'), 'plates');
  await browser.find('bs-set-card');
  await browser.press('More for Menu tile');
  await browser.menu('Delete');
  await browser.driver.wait(async () => (await browser.all('bs-set-card')).length === 0, 10_000);
  await browser.press('Undo');
  await browser.find('bs-set-card');
  await accessible(browser);
});

it('all on the site in one press: one entry in Sites, and a visitor sees them side by side in their order', async () => {
  await browser.visit(`${app.app}/graphics`);
  await browser.press('New graphic');
  await browser.press('A row of 7: Menu tile');
  await settled(7);
  await browser.press('Put all 7 on the site');
  await browser.seeText('All 7 are on the site.', 60_000);
  const visitor = await (await browser.find('.news a[target=_blank]')).getAttribute('href');
  await browser.visit(`${app.app}/sites`);
  await browser.seeText('6 more beside it, sent together');
  await browser.driver.get(visitor!);
  const places = await browser.run<{ src: string; left: number; width: number }[]>(
    `return [...document.querySelectorAll('.slot img')].map((i) => ({ src: i.src, left: i.getBoundingClientRect().left, width: i.getBoundingClientRect().width }))`,
  );
  expect(places).toHaveLength(7);
  expect(places.map((p) => /\/(\d)-/.exec(p.src)?.[1])).toEqual(['1', '2', '3', '4', '5', '6', '7']);
  expect(places.every((p, i) => i === 0 || p.left > places[i - 1]!.left)).toBe(true);
  await browser.go(`${app.app}/graphics`);
});
