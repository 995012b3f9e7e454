// Covers: web/workbench, web/document, core/graphic, core/geometry
import { accessible } from './harness/accessible';
import { Key } from './harness/browser';
import { withApp } from './harness/suite';
import { newGraphic, placed as placedOn, things, type Placed } from './harness/workbench';

// Several things on the canvas: taken hold of together, brought in line, copied from tab to tab.
const { app, browser } = withApp({ reducedMotion: false });

const placed = () => placedOn(browser);
/** A point of the canvas on the screen, CSS px of the window. */
const at = (x: number, y: number): Promise<{ x: number; y: number }> =>
  browser.run(
    `const [x, y] = arguments;
     const r = document.querySelector('.lit canvas').getBoundingClientRect();
     return { x: Math.round(r.left + (x * r.width) / 940), y: Math.round(r.top + (y * r.width) / 940) };`,
    x,
    y,
  );
const middle = (p: Placed) => at(p.x + p.width / 2, p.y + p.height / 2);
const drag = async (from: { x: number; y: number }, to: { x: number; y: number }, key?: string) => {
  const actions = browser.driver.actions();
  if (key) actions.keyDown(key);
  actions
    .move(from)
    .press()
    .move({ x: Math.round((from.x + to.x) / 2), y: Math.round((from.y + to.y) / 2), duration: 60 })
    .move({ ...to, duration: 60 })
    .release();
  if (key) actions.keyUp(key);
  await actions.perform();
};
const click = async (where: { x: number; y: number }, key?: string) => {
  const actions = browser.driver.actions();
  if (key) actions.keyDown(key);
  actions.move(where).click();
  if (key) actions.keyUp(key);
  await actions.perform();
};
const selected = () => browser.run<number>(`return document.querySelectorAll('li.selected:not(.group)').length`);
const chosen = (n: number, when = '') =>
  browser.until(async () => (await selected()) === n, `Not ${n} layers were selected ${when}`);
const nothing = async () => {
  // A menu that is closing takes the key for itself.
  await browser.until(async () => (await browser.all('.cdk-overlay-pane')).length === 0, 'Something is open still');
  await browser.run('document.activeElement.blur()');
  await browser.keys(Key.ESCAPE);
  await chosen(0);
};

/** Three rectangles where they are put, by their fields. */
async function three(): Promise<void> {
  await newGraphic(browser, app, 'Blog header, 940 × 198');
  for (const [x, y, w, h] of [
    [100, 40, 60, 50],
    [340, 90, 60, 50],
    ['940/2 + 200', 60, '120/2', 50],
  ] as const) {
    await browser.press('Add');
    await browser.menu('Shape');
    await browser.menu('Rectangle');
    await browser.tab('Place');
    await browser.number('Width', w);
    await browser.number('Height', h);
    await browser.number('From the left', x);
    await browser.number('From the top', y);
  }
  await browser.until(async () => (await placed()).at(-1)!.y === 60, 'The third does not stand where it was put');
}

it('sums are typed where numbers are', async () => {
  await three();
  expect((await placed()).map(({ x, y, width, height }) => [x, y, width, height])).toEqual([
    [100, 40, 60, 50],
    [340, 90, 60, 50],
    [670, 60, 60, 50],
  ]);
});

it('a box selects what it touches; they are aligned, spread and moved together; each is one step', async () => {
  await nothing();
  await drag(await at(60, 20), await at(560, 120));
  await chosen(2);
  const [, , third] = await placed();
  await click(await middle(third!), Key.SHIFT);
  await chosen(3);
  await browser.press('To the top');
  await browser.until(async () => (await placed()).every((p) => p.y === 40), 'They were not aligned');
  await browser.press('Equal gaps across');
  await browser.until(async () => (await placed())[1]!.x === 385, 'Gaps are not equal');
  await browser.press('To the middle, both ways');
  await browser.until(async () => (await placed())[0]!.x === 155, 'They are not in the middle');
  expect((await placed()).map((p) => [p.x, p.y])).toEqual([
    [155, 74],
    [440, 74],
    [725, 74],
  ]);
  // By the pointer: from one of them, all.
  const from = await middle((await placed())[0]!);
  const to = await at(215 + 30 - 60, 74 + 25 + 40);
  await drag(from, to, Key.ALT);
  await browser.until(async () => (await placed())[0]!.y > 74, 'They were not moved');
  const after = await placed();
  expect(after.map((p) => p.y - after[0]!.y)).toEqual([0, 0, 0]);
  expect(after.map((p) => p.x - after[0]!.x)).toEqual([0, 285, 570]);
  // Four steps back.
  await browser.run('document.activeElement.blur()');
  for (let i = 0; i < 4; i++) await browser.chord(Key.CONTROL, 'z');
  await browser.until(async () => (await placed())[1]!.y === 90, 'They did not come back');
  expect((await placed()).map((p) => [p.x, p.y])).toEqual([
    [100, 40],
    [340, 90],
    [670, 60],
  ]);
});

it('what they share is set for all of them', async () => {
  await chosen(3);
  await browser.tab('What they share');
  await browser.number('Opacity, figure', 40);
  await browser.saved();
  for (const nth of [1, 2, 3]) {
    await browser.run('document.querySelectorAll("li .layer-item")[arguments[0]].click()', nth - 1);
    await chosen(1);
    await browser.tab('Fill');
    await browser.until(
      async () => (await (await browser.field('//bs-settings', 'Opacity, figure')).getAttribute('value')) === '40',
      `Layer ${nth} did not take the opacity`,
    );
  }
});

it('a group is taken whole, gone into, folded, and left again', async () => {
  await nothing();
  const [first, second] = await placed();
  await click(await middle(first!));
  await chosen(1, 'by the first press');
  await click(await middle(second!), Key.SHIFT);
  await chosen(2, 'at 1');
  await browser.run('document.activeElement.blur()');
  await browser.chord(Key.CONTROL, 'g');
  await browser.find('li.group');
  await nothing();
  // Two presses on one thing within 400 ms are a double press, whatever came between.
  await browser.driver.sleep(600);
  await click(await middle(second!));
  await chosen(2, 'at 2');
  // A second press goes into it.
  await browser.driver
    .actions()
    .move(await middle(second!))
    .doubleClick()
    .perform();
  await chosen(1, 'at 3');
  await browser.keys(Key.ESCAPE);
  await chosen(2, 'at 4');
  await browser.press('Fold Group 1');
  await browser.until(async () => (await browser.all('li .layer-item')).length === 1, 'It was not folded');
  await accessible(browser);
  await browser.press('Unfold Group 1');
  await browser.press('Undo the group');
  await browser.until(async () => (await browser.all('li.group')).length === 0, 'It is a group still');
});

it('what lies beneath is reached by the menu, by key too', async () => {
  await browser.press('Add');
  await browser.menu('Shape');
  await browser.menu('Rectangle');
  const top = (await placed()).at(-1)!;
  await browser.tab('Place');
  await browser.number('From the left', 100);
  await browser.number('From the top', 40);
  await browser.until(async () => (await placed()).at(-1)!.x === 100, 'It was not moved');
  await browser.driver
    .actions()
    .move(await at(130, 60))
    .contextClick()
    .perform();
  await browser.until(async () => (await browser.all('.there')).length === 2, 'Two things lie here');
  const listed = await Promise.all((await browser.all('.there')).map((e) => e.getAttribute('aria-label')));
  expect(listed[0]).toContain(top.name.split(': ')[1]);
  await (await browser.all('.there'))[1]!.click();
  await chosen(1);
  expect(await browser.run(`return document.querySelectorAll('li')[0].classList.contains('selected')`)).toBe(true);
});

it('snapping shows what has met, and is held off by Alt', async () => {
  await nothing();
  const all = await placed();
  const last = all.at(-1)!;
  const from = await at(last.x + last.width - 10, last.y + last.height - 8);
  // To within reach of the right edge of the canvas.
  const off = 940 - (last.x + last.width) - 3;
  const by = await at(last.x + last.width - 10 + off, last.y + last.height - 8);
  await drag(from, by, Key.ALT);
  await browser.until(async () => (await placed()).at(-1)!.x !== last.x, 'It was not moved');
  const free = (await placed()).at(-1)!;
  expect(free.x + free.width).toBeLessThan(940);
  await browser.chord(Key.CONTROL, 'z');
  await browser.until(async () => (await placed()).at(-1)!.x === last.x, 'It did not come back');
  await drag(from, by);
  await browser.until(async () => (await placed()).at(-1)!.x + last.width === 940, 'It did not meet the edge');
});

it('layers are copied into another graphic in another tab, and text is pasted as words', async () => {
  await browser.run('document.activeElement.blur()');
  await browser.chord(Key.CONTROL, 'a');
  await chosen(4);
  await browser.chord(Key.CONTROL, 'c');
  const first = await browser.driver.getWindowHandle();
  await browser.driver.switchTo().newWindow('tab');
  await newGraphic(browser, app, 'Menu tile, 320 × 200');
  await browser.run('document.activeElement.blur()');
  await browser.chord(Key.CONTROL, 'v');
  await browser.until(async () => (await things(browser)).length === 4, 'They were not pasted');
  await browser.saved();
  // All of them on the smaller canvas.
  for (const p of await placed()) {
    expect(p.x).toBeGreaterThanOrEqual(-1);
    expect(p.x + p.width).toBeLessThanOrEqual(321);
  }
  await browser.chord(Key.CONTROL, 'x');
  await browser.until(async () => (await things(browser)).length === 0, 'They were not cut');
  await browser.run(
    `const data = new DataTransfer();
     data.setData('text/plain', 'From the kiln');
     document.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));`,
  );
  await browser.until(async () => (await things(browser)).length === 1, 'The text was not pasted');
  expect(await (await browser.find('bs-settings textarea')).getAttribute('value')).toBe('From the kiln');
  await browser.saved();
  // What is no layer of ours is met with a word.
  await browser.run(
    `document.activeElement.blur();
     const data = new DataTransfer();
     data.setData('application/x-bright-slot-layers+json', '{"kind":"layers","version":99,"canvas":{"width":1,"height":1},"layers":[{}]}');
     document.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));`,
  );
  await browser.seeText('later version');
  await browser.driver.close();
  await browser.driver.switchTo().window(first);
  await browser.until(async () => (await things(browser)).length === 4, 'Those that were copied are there still');
});

it('the canvas is made larger where the pointer is, and the space around it can be reached', async () => {
  await nothing();
  const zoom = () =>
    browser.run<number>(`return document.querySelector('.lit canvas').getBoundingClientRect().width / 940`);
  const p = await at(200, 60);
  const before = await zoom();
  await browser.run(
    `const [x, y] = arguments;
     document.querySelector('.room').dispatchEvent(new WheelEvent('wheel', { deltaY: -240, ctrlKey: true, clientX: x, clientY: y, bubbles: true, cancelable: true }));`,
    p.x,
    p.y,
  );
  await browser.until(async () => (await zoom()) > before * 1.5, 'It was not made larger');
  const now = await at(200, 60);
  expect(Math.abs(now.x - p.x) + Math.abs(now.y - p.y)).toBeLessThanOrEqual(3);
  await browser.run(
    `document.querySelector('.room').dispatchEvent(new WheelEvent('wheel', { deltaX: -5000, bubbles: true, cancelable: true }));`,
  );
  // Moved to the right, its left edge with room beside it.
  await browser.until(async () => (await at(0, 0)).x > 300, 'The space beside it cannot be reached');
  await browser.chord(Key.ALT, '0');
  await browser.until(async () => Math.abs((await zoom()) - before) < 0.01, 'It does not fit again');
  await browser.fill(await browser.field('//bs-stage', 'Seen at'), `150${Key.ENTER}`);
  await browser.until(async () => Math.abs((await zoom()) - 1.5) < 0.01, 'The figure was not taken');
});
