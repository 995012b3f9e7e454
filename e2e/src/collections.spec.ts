// Covers: web/graphics, web/storage
import { accessible } from './harness/accessible';
import { withApp } from './harness/suite';
import { settleDemo } from './harness/workbench';

const { app, browser } = withApp({ width: 1280, height: 800 });
beforeAll(() => settleDemo(browser, app));

const cards = () =>
  browser.run<string[]>(
    `return [...document.querySelectorAll('bs-graphic-card .words strong')].map((e) => e.textContent.trim())`,
  );
const chips = () =>
  browser.run<string[]>(
    `return [...document.querySelectorAll('nav.collections a')].map((e) => e.textContent.trim().replace(/\\s+/g, ' '))`,
  );
const menuOf = async (graphic: string, ...names: string[]) => {
  await browser.run(`document.querySelector('button[aria-label="More for ' + arguments[0] + '"]').click()`, graphic);
  for (const name of names) await browser.menu(name);
};
const graphics = async () => {
  await browser.visit(`${app.app}/slots`);
  await browser.visit(`${app.app}/graphics`);
  await browser.find('bs-graphic-card');
};

it('a collection is named, filled from a graphic’s menu and by dragging, browsed and searched', async () => {
  await graphics();
  await browser.press('New collection');
  await browser.find('nav.collections input:focus');
  await browser.keys('Spring opening');
  await browser.press('Make it');
  await browser.seeText('Nothing is in “Spring opening” yet.');
  await accessible(browser);
  await browser.press('All', 'a');
  await browser.find('bs-graphic-card');
  await menuOf('Notes from the Wheel', 'Collections', 'Spring opening');
  await browser.until(async () => (await chips()).includes('Spring opening 1'), 'It is not in the collection');
  // Dragged on its name.
  await browser.run(`
    const from = document.querySelector('a[aria-label="Open Shop sign"]');
    const to = [...document.querySelectorAll('nav.collections a')].find((a) => a.textContent.includes('Spring'));
    const dataTransfer = new DataTransfer();
    from.dispatchEvent(new DragEvent('dragstart', { dataTransfer, bubbles: true }));
    to.dispatchEvent(new DragEvent('dragover', { dataTransfer, bubbles: true, cancelable: true }));
    to.dispatchEvent(new DragEvent('drop', { dataTransfer, bubbles: true, cancelable: true }));`);
  await browser.until(async () => (await chips()).includes('Spring opening 2'), 'It was not put in by dragging');
  await browser.run(
    `[...document.querySelectorAll('nav.collections a')].find((a) => a.textContent.includes('Spring')).click()`,
  );
  await browser.until(async () => (await cards()).length === 2, 'Not two are shown');
  expect((await cards()).sort()).toEqual(['Notes from the Wheel', 'Shop sign']);
  const search = await browser.find('main input[type=search]');
  await browser.fill(search, 'sign');
  await browser.until(async () => (await cards()).length === 1, 'It was not searched within');
  await browser.fill(search, '');
});

it('a graphic begins a collection; one is found by the name of what it is in', async () => {
  await graphics();
  await menuOf('Shop sign', 'Collections', 'In a new collection');
  await browser.find('nav.collections input:focus');
  await browser.keys('Signs');
  await browser.press('Make it');
  await browser.until(async () => (await chips()).includes('Signs 1'), 'It is not in the new one');
  await browser.fill(await browser.find('main input[type=search]'), 'spring opening');
  await browser.until(async () => (await cards()).length === 2, 'Graphics are not found by their collection');
});

it('is renamed, taken away and brought back; its graphics stay', async () => {
  await graphics();
  const before = (await cards()).length;
  await browser.run(
    `[...document.querySelectorAll('nav.collections a')].find((a) => a.textContent.includes('Signs')).click()`,
  );
  const name = await browser.find('.opened input');
  // A name that is taken gets a number.
  await browser.fill(name, 'Spring opening');
  await browser.run(`arguments[0].blur()`, name);
  await browser.until(async () => (await chips()).includes('Spring opening 2 1'), 'It was not renamed');
  await browser.press('Take the collection away');
  await browser.until(async () => (await chips()).length === 2, 'It is still there');
  await browser.until(async () => (await cards()).length === before, 'Its graphics are gone');
  await browser.press('Undo');
  await browser.until(async () => (await chips()).includes('Spring opening 2 1'), 'It did not come back');
});

it('ten thousand graphics: a few dozen stand in the page, each is found, and the last is scrolled to', async () => {
  const many = 10_000;
  await browser.driver.executeAsyncScript(
    `const [many, done] = arguments;
     const open = indexedDB.open('bright-slot');
     open.onsuccess = () => {
       const db = open.result;
       const t = db.transaction(['graphics', 'listed', 'heads'], 'readwrite');
       const get = (s) => new Promise((r) => { const q = t.objectStore(s).get('demo-notes'); q.onsuccess = () => r(q.result); });
       Promise.all(['graphics', 'listed', 'heads'].map(get)).then(([graphic, listed, head]) => {
         for (let i = 0; i < many; i++) {
           const id = 'many-' + i;
           t.objectStore('graphics').put({ ...graphic, id, head: id, changed: 1000 + i });
           t.objectStore('listed').put({ ...listed, id, head: id, name: 'Header number ' + i });
           const step = { ...head.step, id, graphicId: id, graphic: { ...head.step.graphic, id, name: 'Header number ' + i } };
           t.objectStore('heads').put({ ...head, id, step });
         }
       });
       t.oncomplete = () => { db.close(); done(); };
     };`,
    many,
  );
  await browser.go(`${app.app}/graphics`);
  await browser.find('bs-graphic-card', 60_000);
  const main = () =>
    browser.run<[number, number]>(`const m = document.querySelector('main'); return [m.scrollHeight, m.clientHeight]`);
  await browser.until(async () => (await main())[0] > 1_000_000, 'They are not all listed');
  expect((await cards()).length).toBeLessThan(60);
  const search = await browser.find('main input[type=search]');
  await browser.fill(search, 'number 7777');
  await browser.until(async () => (await cards()).join() === 'Header number 7777', 'It was not found');
  await browser.fill(search, 'header number');
  await browser.until(async () => (await main())[0] > 1_000_000, 'They are not all found');
  await browser.run(`const m = document.querySelector('main'); m.scrollTop = m.scrollHeight`);
  // Latest first: the first made is the last.
  await browser.until(async () => (await cards()).includes('Header number 0'), 'The last is not there');
  expect((await cards()).length).toBeLessThan(60);
  await browser.until(
    () =>
      browser.run<boolean>(
        `return [...document.querySelectorAll('bs-graphic-card')].some((c) => c.textContent.includes('Header number 0') && c.querySelector('.fit').textContent.trim() !== '')`,
      ),
    'The last is not painted and judged',
  );
});
