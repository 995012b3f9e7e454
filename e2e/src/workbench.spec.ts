// Covers: web/workbench, web/document, core/graphic, core/report
import { By, Key } from './harness/browser';
import { withApp } from './harness/suite';
import { canvasAt, newGraphic, things } from './harness/workbench';

const { app, browser } = withApp({ reducedMotion: false });

const open = async (id: string) => {
  await browser.visit(`${app.app}/graphics/${id}`);
  await browser.exact();
};
const settled = async () => {
  await browser.saved();
  await browser.find('[data-settled="true"]', 20_000);
};
const report = async () => {
  await browser.find('[data-settled="true"]', 20_000);
  return browser.run<string>(`return document.querySelector('bs-fit-report').innerText.replace(/\\s+/g, ' ')`);
};
const leaves = () =>
  browser.run<string[]>(
    `return [...document.querySelectorAll('li .layer-item')].map((l) => l.getAttribute('aria-label'))`,
  );
const leave = () => browser.run('document.activeElement?.blur()');

describe('cropping', () => {
  it('shows all of the photo, dimmed outside its frame, and moves it by drag under the frame', async () => {
    await open('demo-autumn-glazes');
    const thing = await browser.find('.thing[aria-label^="Photo"]');
    const before = await thing.getAttribute('aria-label');
    await browser.layer('Photo');
    await browser.press('Crop');
    await browser.find('bs-crop-view');
    const dim = await browser.run<number[]>(
      `const c = document.querySelector('bs-crop-view canvas');
       const d = c.getContext('2d');
       const lit = document.querySelector('.lit').getBoundingClientRect();
       const room = document.querySelector('.room').getBoundingClientRect();
       const x = lit.x - room.x + lit.width / 2, y = lit.y - room.y;
       return [d.getImageData(x, y - 10, 1, 1).data[3], d.getImageData(x, y + 20, 1, 1).data[3]];`,
    );
    expect(dim).toEqual([255, 0]);
    const lit = await (await browser.find('.lit')).getRect();
    await browser.drag({ x: lit.x + 200, y: lit.y + 60 }, { x: 0, y: -30 });
    await browser.saved();
    const moved = await thing.getAttribute('aria-label');
    expect(moved).not.toBe(before);
    expect(moved).toContain('940 × 626 px');
  });
  it('takes exact figures in the photo’s own px, zooms, and ends at a key', async () => {
    await browser.number('Width', 1750);
    await browser.saved();
    expect((await things(browser))[0]).toContain('1880 × 1253 px');
    await leave();
    await browser.keys(Key.ESCAPE);
    await browser.driver.wait(async () => (await browser.all('bs-crop-view')).length === 0, 5000);
    await browser.chord(Key.CONTROL, 'z');
    await browser.saved();
    expect((await things(browser))[0]).toContain('940 × 626 px');
  });
  it('begins at a double click, keeps the frame of a photo that does not cover, and cuts by its edges', async () => {
    await browser.layer('Photo');
    await browser.press('Show it whole');
    await browser.saved();
    const box = await (await browser.find('.thing[aria-label^="Photo"]')).getRect();
    await browser.driver
      .actions()
      .move({ x: Math.round(box.x + 20), y: Math.round(box.y + box.height - 20) })
      .doubleClick()
      .perform();
    await browser.find('bs-crop-view');
    const frame = await (await browser.find('.thing[aria-label^="Photo"]')).getRect();
    await browser.drag({ x: frame.x + frame.width, y: frame.y + frame.height / 2 }, { x: -60, y: 0 });
    await browser.saved();
    const after = await (await browser.find('.thing[aria-label^="Photo"]')).getRect();
    expect(frame.width - after.width).toBeGreaterThan(50);
    expect(after.height).toBeCloseTo(frame.height, 0);
    await browser.press('Done');
    await browser.chord(Key.CONTROL, 'z');
    await browser.chord(Key.CONTROL, 'z');
    await browser.saved();
  });
  it('leaves only the picture while that is held', async () => {
    const button = await browser.named('button', 'Only the picture');
    await browser.driver.actions().move({ origin: button }).press().pause(400).perform();
    const visible = () =>
      browser.run<string[]>(
        `return ['.bar', '.dock', '.report', '.page', '.hits'].filter((s) => getComputedStyle(document.querySelector(s)).visibility !== 'hidden')`,
      );
    await browser.driver.wait(async () => (await visible()).length === 0, 3000);
    await browser.driver.actions().release().perform();
    await browser.driver.wait(async () => (await visible()).length === 5, 3000);
  });
});

describe('words', () => {
  beforeAll(async () => {
    await newGraphic(browser, app, 'Blog header, 940 × 198');
    await browser.press('Add');
    await browser.menu('Words');
  });
  it('are undone by the word, not by the letter', async () => {
    const field = await browser.find('textarea');
    await browser.fill(field, 'Bowls and');
    for (const letter of ' jugs') await field.sendKeys(letter);
    await browser.saved();
    await browser.chord(Key.CONTROL, 'z');
    const value = async (text: string) =>
      browser.driver.wait(async () => (await field.getAttribute('value'))!.trim() === text, 3000, `never “${text}”`);
    await value('Bowls and');
    await browser.chord(Key.CONTROL, 'z');
    await value('Bowls');
    await browser.chord(Key.CONTROL, 'y');
    await browser.chord(Key.CONTROL, 'y');
    await value('Bowls and jugs');
  });
  it('break lines, change family and weight, lean, align, and take a colour from the house style', async () => {
    const field = await browser.find('textarea');
    await field.sendKeys(Key.END, Key.ENTER, 'and mugs');
    await browser.saved();
    const height = async () => Number(/ × (\d+) px/.exec((await things(browser))[0]!)![1]);
    expect(await height()).toBeGreaterThan(120);
    await (await browser.find('input[aria-label="Type family"]')).click();
    await (await browser.named('mat-option', 'Lora')).click();
    await browser.press('Italic');
    await browser.press('Left');
    await browser.press('Colour of the words, choose');
    await browser.press('Clay #a4512f');
    await browser.keys(Key.ESCAPE);
    await settled();
    const names = await stepNames();
    expect(names.slice(0, 4)).toEqual([
      'Bowls and jugs and mugs: colour #a4512f',
      'Bowls and jugs and mugs: aligned left',
      'Bowls and jugs and mugs: italic',
      'Bowls and jugs and mugs: Lora',
    ]);
  });
});

async function stepNames(): Promise<string[]> {
  await browser.press('Steps');
  await browser.find('bs-steps-panel');
  const names = await browser.run<string[]>(
    `return [...document.querySelectorAll('bs-steps-panel li .name')].map((e) => e.textContent.trim()).reverse()`,
  );
  await browser.press('Close steps');
  return names;
}

async function goToStep(name: string): Promise<void> {
  await browser.press('Steps');
  const steps = await browser.find('bs-steps-panel');
  for (const button of await steps.findElements(By.css('li button')))
    if ((await button.getText()).startsWith(name)) {
      await button.click();
      break;
    }
  await browser.press('Close steps');
}

describe('leaves and backdrop', () => {
  beforeAll(() => open('demo-new-jugs'));
  it('are renamed, locked, duplicated, and found by the keyboard', async () => {
    const title = await browser.find('.layer-item[aria-label^="Words: Title"]');
    await title.sendKeys(Key.F2);
    const box = await browser.find('.rename');
    await box.sendKeys(Key.chord(Key.CONTROL, 'a'), 'Headline', Key.ENTER);
    await browser.find('.layer-item[aria-label^="Words: Headline"]');
    await browser.press('More for Headline');
    await browser.menu('Lock');
    await browser.find('.layer-item[aria-label$="locked"]');
    await browser.layer('Words: Headline');
    await leave();
    await browser.keys(Key.DELETE);
    await browser.keys(Key.ARROW_DOWN);
    expect(await leaves()).toHaveLength(2);
    await browser.press('More for Headline');
    await browser.menu('Unlock');
    await leave();
    await browser.chord(Key.CONTROL, 'd');
    await browser.driver.wait(async () => (await leaves()).length === 3, 3000);
    await (await browser.find('.layer-item[aria-label*=", copy"]')).sendKeys(Key.chord(Key.ALT, Key.ARROW_LEFT));
    await browser.driver.wait(async () => (await leaves())[1]!.includes(', copy'), 3000);
    await browser.seeText('is now 2 of 3 from the back').catch(() => undefined);
  });
  it('are reordered by drag', async () => {
    const from = await (await browser.find('.layer-item[aria-label*=", copy"]')).getRect();
    const to = await (await browser.find('.layer-item[aria-label^="Words: Headline, 3"]')).getRect();
    await browser.driver
      .actions()
      .move({ x: Math.round(from.x + 10), y: Math.round(from.y + 10) })
      .press()
      .move({ x: Math.round(from.x + 40), y: Math.round(from.y + 12), duration: 120 })
      .move({ x: Math.round(to.x + to.width), y: Math.round(to.y + 12), duration: 250 })
      .release()
      .perform();
    await browser.driver.wait(async () => (await leaves())[2]!.includes(', copy'), 5000);
  });
  it('take a new one in between, where it was asked for', async () => {
    await browser.press('Add behind Headline');
    await browser.menu('Words');
    await browser.driver.wait(async () => (await leaves()).length === 4, 5000);
    expect((await leaves())[1]).toContain('Your words');
  });
  it('are seen when they are selected, however many there are', async () => {
    const before = (await leaves()).length;
    const more = 7;
    await leave();
    for (let i = 1; i <= more; i++) {
      await browser.chord(Key.CONTROL, 'd');
      await browser.driver.wait(async () => (await leaves()).length === before + i, 5000);
    }
    const seen = () =>
      browser.run<boolean>(
        `const leaf = document.querySelector('bs-layer-list li.selected');
         const [a, b] = [leaf, leaf.parentElement].map((e) => e.getBoundingClientRect());
         return leaf.parentElement.scrollWidth > b.width && a.left >= b.left - 1 && a.right <= b.right + 1;`,
      );
    await browser.driver.wait(seen, 5000);
    // One that is far off, taken on the canvas.
    await browser.run(`document.querySelector('.thing').focus()`);
    await browser.driver.wait(
      () => browser.run<boolean>(`return document.querySelector('bs-layer-list li').matches('.selected')`),
      5000,
    );
    await browser.driver.wait(seen, 5000);
    for (let i = more - 1; i >= 0; i--) {
      await browser.chord(Key.CONTROL, 'z');
      await browser.driver.wait(async () => (await leaves()).length === before + i, 5000);
    }
  });
  it('stand on a backdrop: none or a colour', async () => {
    await browser.press('Hide Jugs on the sill');
    await (await browser.find('.layer-item[aria-label^="Backdrop"]')).click();
    await browser.press('A colour');
    await browser.press('Colour of the backdrop #a4512f');
    await browser.saved();
    expect((await canvasAt(browser, 1200, [[6, 600]]))[0]).toEqual([164, 81, 47, 255]);
    await browser.press('None');
    await browser.saved();
    expect((await canvasAt(browser, 1200, [[6, 600]]))[0]![3]).toBe(0);
  });
});

describe('steps', () => {
  it('go back to the beginning, survive a reload, and are walked both ways', async () => {
    await browser.driver.navigate().refresh();
    await browser.exact();
    const names = await stepNames();
    expect(names.at(-1)).toBe('Made');
    expect(names[0]).toBe('Backdrop: none');
    await goToStep('Made');
    await browser.driver.wait(async () => (await leaves()).length === 2, 5000);
    expect((await leaves())[1]).toContain('Words: Title');
    await browser.saved();
    await goToStep('Backdrop: none');
    await browser.driver.wait(async () => (await leaves()).length === 4, 5000);
  });
});

describe('the fit report', () => {
  it('finds words too faint for what is behind them, shows the mend before it is taken, and mends', async () => {
    await open('demo-autumn-glazes');
    await goToStep('Made');
    await browser.driver.wait(async () => (await report()).includes('needs 3'), 10_000);
    expect(await report()).toMatch(/“Title” is too faint: \d\.\d, needs 3/);
    const fix = await browser.named('button', 'Use the nearest shade that passes');
    const shade = /#[0-9a-f]{6}/.exec(await fix.getText())![0];
    await browser.driver.actions().move({ origin: fix }).perform();
    await fix.click();
    await settled();
    expect(await report()).not.toContain('too faint');
    await browser.layer('Words: Title');
    expect(await (await browser.find('input.hex')).getAttribute('value')).toBe(shade);
  });
  it('finds words outside a round slot, and moves them inside', async () => {
    await open('demo-tuesday-wheel');
    expect(await report()).toContain('px outside the round slot');
    await browser.press('Move it inside');
    await settled();
    expect(await report()).not.toContain('outside the round slot');
  });
  it('finds an enlarged photo and a missing description, and takes the suggestion', async () => {
    await open('demo-wren');
    expect(await report()).toMatch(/Old header is drawn at \d+ % of its own pixels/);
    // No file or layer name is proposed: what a photo shows is for a person to say.
    expect(await report()).toContain('Say on the Export page what it shows');
    await newGraphic(browser, app, 'Blog header, 940 × 198');
    await browser.press('Add');
    await browser.menu('Words');
    await browser.fill(await browser.find('bs-settings textarea'), 'Open on Saturdays');
    await settled();
    await browser.press('Take the suggestion');
    await settled();
    expect(await report()).not.toContain('No words for people');
    // Changed words: the description is of an earlier state, and says so.
    await browser.fill(await browser.find('bs-settings textarea'), 'Closed on Saturdays');
    await browser.seeText('The description is of an earlier state');
    await browser.press('Take the suggestion');
    await settled();
    expect(await report()).not.toContain('earlier state');
  });
  it('finds a transparent canvas that would be saved as JPEG', async () => {
    await newGraphic(browser, app, 'Logo, transparent, 512 × 512');
    await browser.press('Add');
    await browser.menu('Words');
    await browser.press('Export', 'a');
    await (await browser.find('.format:nth-child(1)')).click();
    await browser.saved();
    await browser.press('Logo, transparent', 'a');
    await browser.seeText('JPEG cannot keep the transparent canvas');
    await browser.press('Save it as PNG');
    await settled();
    expect(await report()).not.toContain('JPEG');
  });
});

it('all this without a violation of the policy, and no task over 120 ms while a photo is dragged', async () => {
  expect(await browser.violations()).toEqual([]);
  await open('demo-evening-classes');
  await browser.find('[data-settled="true"]', 20_000);
  // The goal is 50 ms. A shared machine adds to single tasks, but hardly to each of three drags; what is far beyond the
  // goal by its own doing is so each time.
  const worst: number[] = [];
  for (const x of [-40, 30, -20]) {
    await browser.run('window.__longTasks.length = 0');
    const lit = await (await browser.find('.lit')).getRect();
    await browser.drag({ x: lit.x + lit.width * 0.8, y: lit.y + lit.height * 0.8 }, { x, y: -10 });
    const long = await browser.run<number[]>('return window.__longTasks');
    console.log(`tasks over 50 ms during the drag: ${JSON.stringify(long)}`);
    worst.push(Math.max(0, ...long));
  }
  expect(Math.min(...worst)).toBeLessThan(120);
  expect(await browser.violations()).toEqual([]);
});
