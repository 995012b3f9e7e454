// Covers: web/everywhere, core/graphic, core/sets
import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { unzipSync } from 'fflate';
import { accessible } from './harness/accessible';
import { storedHead } from './harness/stored';
import { withApp } from './harness/suite';
import { demoAtRest, download, settleDemo } from './harness/workbench';

// One picture, colour or phrase in all graphics that use it, at once; steps of one graphic taken with others.
const { app, browser } = withApp({ width: 1280, height: 800 });
beforeAll(async () => {
  await settleDemo(browser, app);
  await demoAtRest(browser);
});

/** Ids of the graphics that are listed, and whether each is ticked. */
const listed = () =>
  browser.run<{ id: string; on: boolean }[]>(
    `return [...document.querySelectorAll('.found li .pair a')].map((a) => ({ id: a.getAttribute('href').split('/').pop(), on: a.closest('li').querySelector('input').checked }))`,
  );
/** All that are listed are painted before and after, and judged. */
async function looked(): Promise<void> {
  await browser.driver.wait(
    () =>
      browser.run<boolean>(
        `const all = [...document.querySelectorAll('.found li')]; return all.length > 0 && all.every((l) => l.querySelectorAll('figure').length === 2 && [...l.querySelectorAll('figure')].every((f) => f.querySelector('img') && f.querySelector('strong')))`,
      ),
    60_000,
    'all of them looked at',
  );
}
/** What of a stored graphic is used, as text. */
const stored = async (id: string) => JSON.stringify((await storedHead(browser, id)).graphic.layers);

it('a photo is replaced in everything that uses it, each looked at before, and undone as one', async () => {
  await browser.visit(`${app.app}/graphics`);
  await browser.press('Replace everywhere', 'a');
  await browser.find('.pictures button');
  const [title, hash] = await browser.run<[string, string]>(
    `const b = document.querySelector('[aria-label="Pictures that graphics use"] button'); b.click(); return [b.title, '']`,
  );
  expect(title).not.toBe('');
  expect(hash).toBe('');
  await browser.driver.wait(async () => (await listed()).length > 1, 20_000);
  await browser.run(
    `[...document.querySelectorAll('[aria-label="What takes its place"] button')].find((b) => /Glaze/.test(b.title)).click()`,
  );
  await looked();
  await accessible(browser);
  const all = await listed();
  const before = await Promise.all(all.map((g) => stored(g.id)));
  await browser.press('Replace in');
  await browser.seeText('graphics have it now');
  const after = await Promise.all(all.map((g) => stored(g.id)));
  expect(after.every((a, i) => a !== before[i])).toBe(true);
  await browser.seeText('No graphic uses it.');
  await browser.press('Undo all of it');
  await browser.seeText('All of them are as they were.');
  expect(await Promise.all(all.map((g) => stored(g.id)))).toEqual(before);
});

it('words are replaced where they are ticked, and nowhere else', async () => {
  await browser.press('Words');
  await browser.fill(await browser.find('input[placeholder="As they stand in graphics"]'), 'Notes from the Wheel');
  await browser.driver.wait(async () => (await listed()).length > 1, 20_000);
  const fields = await browser.all('aside .field input');
  await browser.fill(fields[1]!, 'Letters from the Mill');
  await looked();
  const [first, ...rest] = await listed();
  await browser.run(`document.querySelector('.found li input').click()`);
  const kept = await stored(first!.id);
  await browser.press('Replace in');
  await browser.seeText('it now.');
  expect(await stored(first!.id)).toBe(kept);
  for (const { id } of rest) expect(await stored(id)).toContain('Letters from the Mill');
  await browser.press('Undo all of it');
  await browser.seeText('All of them are as they were.');
});

it('a colour is replaced, in the house style too', async () => {
  await browser.press('A colour');
  await browser.find('.colours button');
  const colour = await browser.run<string>(
    `const b = document.querySelector('.colours button'); b.click(); return b.title.slice(0, 7)`,
  );
  await browser.driver.wait(async () => (await listed()).length > 0, 20_000);
  await looked();
  const all = await listed();
  await browser.press('Replace in');
  await browser.seeText('it now.');
  for (const { id } of all) expect((await stored(id)).toLowerCase()).not.toContain(`"${colour}"`);
  await browser.press('Undo all of it');
  await browser.seeText('All of them are as they were.');
});

it('steps of one graphic are kept as a routine, and taken with others by what their layers are for', async () => {
  await browser.visit(`${app.app}/graphics`);
  await browser.press('Open Notes from the Wheel', 'a');
  await browser.find('.layer-item');
  await browser.run(
    `[...document.querySelectorAll('.layer-item')].find((l) => /Title|Notes from/.test(l.getAttribute('aria-label'))).click()`,
  );
  await browser.tab('Around them');
  await browser.number('Letter spacing', 7);
  await browser.saved();
  await browser.press('Steps');
  await browser.press('Save steps as a routine');
  await browser.find('bs-routine-dialog li input');
  await accessible(browser);
  await browser.fill(await browser.find('bs-routine-dialog .field input'), 'Spaced titles');
  await browser.press('Keep it', 'bs-routine-dialog//button');
  await browser.seeText('is kept.');
  await browser.press('Replace everywhere', 'bs-routine-dialog//a');
  await browser.driver.wait(async () => (await listed()).length > 2, 30_000);
  expect((await listed()).every((g) => !g.on)).toBe(true);
  await looked();
  await browser.run(`[...document.querySelectorAll('.found li input')].slice(0, 2).forEach((i) => i.click())`);
  const two = (await listed()).slice(0, 2);
  await browser.press('Take it with 2 graphics');
  await browser.seeText('2 graphics have it now');
  for (const { id } of two) expect(await stored(id)).toContain('"tracking":0.07');
  await browser.press('Undo all of it');
  await browser.seeText('All of them are as they were.');
  for (const { id } of two) expect(await stored(id)).not.toContain('"tracking":0.07');
});

it('one composition carried over to several places is kept together, and saved at once', async () => {
  await browser.visit(`${app.app}/graphics`);
  await browser.press('Open Notes from the Wheel', 'a');
  await browser.press('Carry over', 'a');
  await browser.find('bs-carry-page li .fit');
  await browser.run(`[...document.querySelectorAll('bs-carry-page .tick input')].at(-1).click()`);
  // Two places are enough here.
  await browser.run(
    `[...document.querySelectorAll('bs-carry-page li .tick input')].forEach((i, n) => { if (i.checked !== n < 2) i.click(); })`,
  );
  await browser.press('Make 2 graphics');
  await browser.seeText('Take the collection away', 60_000);
  await browser.press('Save all 3 files');
  await browser.seeText('3 files are in', 60_000);
  const path = await download(browser, '.zip');
  expect(Object.keys(unzipSync(readFileSync(path)))).toHaveLength(3);
  expect(basename(path)).toMatch(/^notes-from-the-wheel-/);
  await accessible(browser);
});
