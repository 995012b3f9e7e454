// Covers: web/workbench, web/document
import { Key } from './harness/browser';
import { withApp } from './harness/suite';
import { newGraphic, placed as placedOn } from './harness/workbench';

// What is taken hold of on the canvas, with a real pointer.
const { app, browser } = withApp({ reducedMotion: false });

const add = async (...what: string[]) => {
  await browser.press('Add');
  for (const w of what) await browser.menu(w);
};
const placed = () => placedOn(browser);
/** A point of the canvas on the screen, and how large a canvas px is there. */
const onScreen = async (x: number, y: number): Promise<{ x: number; y: number; zoom: number }> =>
  browser.run(
    `const [x, y] = arguments;
     const c = document.querySelector('.lit canvas');
     const r = c.getBoundingClientRect();
     const zoom = r.width / 940;
     return { x: r.left + x * zoom, y: r.top + y * zoom, zoom };`,
    x,
    y,
  );

it('a note dragged by its rim goes as far as the pointer, its words with it', async () => {
  await newGraphic(browser, app, 'Blog header, 940 × 198');
  await add('Shape', 'Note');
  await browser.saved();
  const before = await placed();
  const note = before.find((p) => p.name.includes('Note'))!;
  const from = await onScreen(note.x + 4, note.y + note.height / 2);
  await browser.drag(from, { x: 60, y: 20 });
  await browser.saved();
  const after = await placed();
  for (const own of before) {
    const now = after.find((p) => p.name === own.name)!;
    expect(Math.abs(now.x - own.x - 60 / from.zoom)).toBeLessThan(8);
    expect(Math.abs(now.y - own.y - 20 / from.zoom)).toBeLessThan(8);
  }
});

it('a rule of one px can be taken hold of three px beside it', async () => {
  await newGraphic(browser, app, 'Blog header, 940 × 198');
  await add('Shape', 'Rule');
  await browser.saved();
  const [rule] = await placed();
  expect(rule!.height).toBeLessThanOrEqual(4);
  await browser.keys(Key.ESCAPE);
  const from = await onScreen(rule!.x + rule!.width / 3, rule!.y + rule!.height / 2);
  await browser.drag({ x: from.x, y: from.y + 3 }, { x: 0, y: 40 });
  await browser.saved();
  const [now] = await placed();
  expect(Math.abs(now!.y - rule!.y - 40 / from.zoom)).toBeLessThan(8);
});

it('once a figure is taken with Enter, undo is the graphic’s', async () => {
  await newGraphic(browser, app, 'Blog header, 940 × 198');
  await add('Shape', 'Rectangle');
  await browser.saved();
  const [before] = await placed();
  await browser.tab('Place');
  await browser.number('From the left', Math.round(before!.x) + 33);
  await browser.driver.wait(async () => (await placed())[0]!.x === Math.round(before!.x) + 33, 5000);
  // The field still has the focus.
  expect(await browser.run<string>(`return document.activeElement.tagName`)).toBe('INPUT');
  await browser.chord(Key.CONTROL, 'z');
  await browser.driver.wait(async () => Math.abs((await placed())[0]!.x - before!.x) < 1, 5000);
});
