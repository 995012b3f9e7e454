// Covers: web, core/placing
import { storedHead } from './harness/stored';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { root } from './harness/app';
import { Key } from './harness/browser';
import { withApp } from './harness/suite';
import { canvasAt, download, startBare, things } from './harness/workbench';

// What a newcomer does, the shortest way, each press counted: a button, a menu's item, a key such as Enter, a word or
// a text that is typed, a drag, a drop.
const { app, browser } = withApp();

const picture = (name: string, type: string) => ({
  name,
  type,
  bytes: readFileSync(join(root, 'demo', name.startsWith('ottermill') ? 'logos' : 'pictures', name)),
});
const photo = (name: string) => picture(name, 'image/jpeg');
const logo = () => picture('ottermill-padded.png', 'image/png');

const counted: string[] = [];
let presses = 0;
const press = async (name: string, kind = 'button') => {
  presses++;
  await browser.press(name, kind);
};
const choose = async (name: string) => {
  presses++;
  await browser.menu(name);
};
const tab = async (name: string) => {
  presses++;
  await browser.tab(name);
};
const key = async (k: string) => {
  presses++;
  await browser.keys(k);
};
/** Types where the focus is: it has to be there by itself. */
const type = async (text: string) => {
  presses++;
  await browser.keys(text);
};
const drop = async (css: string, file: ReturnType<typeof picture>, at?: { x: number; y: number }) => {
  presses++;
  await browser.dropFiles(css, [file], at);
};
const begin = async (place = 'graphics') => {
  presses = 0;
  await browser.visit(`${app.app}/${place}`);
  await browser.find(place === 'graphics' ? 'bs-graphic-card' : 'main');
};
const layers = (n: number) =>
  browser.until(async () => (await things(browser)).length === n, `There are not ${n} layers`);
/** The search of the dialog has the focus; what is typed there is found, and Enter takes it. */
const takeSlot = async (text: string, name: string) => {
  await browser.until(
    async () => browser.run(`return document.activeElement?.matches('bs-new-graphic input[type=search]') ?? false`),
    'The search has not the focus',
  );
  await type(text);
  await browser.until(
    async () =>
      browser.run(
        `return (document.querySelector('bs-new-graphic button.slot.next')?.getAttribute('aria-label') ?? '').includes(arguments[0])`,
        name,
      ),
    `${name} does not come first`,
  );
  await key(Key.ENTER);
  await browser.find('bs-stage, bs-start-page .bare-canvas');
};
/** Asked how it starts, bare has the focus. */
const bare = async () => {
  await browser.until(
    () => browser.run(`return document.activeElement?.matches('bs-start-page .bare-canvas') ?? false`),
    'The bare canvas has not the focus',
  );
  await key(Key.ENTER);
  await browser.find('bs-stage');
};
const words = async (text: string) => {
  await press('Add');
  await choose('Words');
  await browser.find('bs-words-editor textarea:focus');
  await type(text);
  await browser.saved();
};
/** What stands on the site in a slot: its file, looked at. */
const onSite = async (slot: string) => {
  const { pages } = (await (await fetch(`${app.site}/api/site`)).json()) as {
    pages: { slots: { slot: { id: string }; now: { address: string } | null }[] }[];
  };
  const now = pages.flatMap((p) => p.slots).find((s) => s.slot.id === slot)!.now!;
  return sharp(Buffer.from(await (await fetch(now.address)).arrayBuffer()))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
};
const saved = async (ending: string) =>
  sharp(readFileSync(await download(browser, ending)))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
/** Sends from the workbench: the description stands in the field, Enter sends. */
const finish = async (description?: string) => {
  await press('Finish');
  await browser.find('bs-finish-panel textarea:focus');
  if (description) await type(description);
  await key(Key.ENTER);
  await browser.seeText('It is on the site.', 30_000);
};
const done = (what: string, most: number) => {
  counted.push(`${what}: ${presses} presses, at most ${most}`);
  expect([what, presses, presses <= most]).toEqual([what, presses, true]);
};
const found = async () => {
  await browser.find('[data-settled="true"]', 20_000);
  return browser.run<string[]>(
    `return [...document.querySelectorAll('bs-fit-report li .title')].map((e) => e.textContent.trim())`,
  );
};
afterAll(() => console.info(counted.join('\n')));

it('a round avatar', async () => {
  await begin();
  await drop('bs-graphics-page', photo('wheel.jpg'));
  await takeSlot('avatar', 'Round chat avatar');
  await layers(1);
  await press('Finish');
  await press('Save file');
  const { info } = await saved('.jpg');
  expect([info.width, info.height]).toEqual([128, 128]);
  done('round avatar', 6);
});

it('a slim header of mark and words', async () => {
  await begin();
  await press('New graphic');
  await takeSlot('slim', 'Slim header');
  await bare();
  await press('Add');
  await choose('The house logo');
  await layers(1);
  await words(`Stoneware${Key.ENTER}from the mill`);
  await layers(2);
  await press('Line 2');
  presses += 2;
  // As small as can be read on a phone.
  await browser.number('Size', 24);
  // Nothing covers the canvas: the report's own press.
  await press('The page’s ground as backdrop');
  await browser.until(async () => !(await found()).some((f) => f.includes('faint')), 'The words are too faint');
  await finish();
  const { info } = await onSite('slim-header');
  expect([info.width, info.height]).toEqual([960, 100]);
  done('slim header of mark and words', 15);
});

it('a profile banner', async () => {
  await begin();
  await drop('bs-graphics-page', photo('pano.jpg'));
  await takeSlot('profile banner', 'Profile banner');
  await layers(1);
  await words('Wren Alder');
  await words('pots for every day');
  await layers(3);
  await press('Finish');
  await browser.find('bs-finish-panel textarea:focus');
  await key(Key.ENTER);
  // Where words over a busy photo are not read, that is asked about once.
  await browser.until(
    async () =>
      (await browser.all('bs-findings-dialog')).length > 0 || (await browser.all('bs-finish-panel .sent')).length > 0,
    'Neither sent nor asked',
  );
  if ((await browser.all('bs-findings-dialog')).length) await press('Send it all the same');
  await browser.seeText('It is on the site.', 30_000);
  const { info } = await onSite('profile-banner');
  expect([info.width, info.height]).toEqual([1584, 396]);
  done('profile banner', 14);
});

it('a photo at the present picture’s size, the rest in its edge’s colour', async () => {
  await begin();
  await press('Sites', 'a');
  await browser.find('[data-slot="checkout-header"]');
  await drop('.place[data-slot="checkout-header"]', photo('sill.jpg'));
  await browser.find('bs-stage');
  await layers(1);
  await press('Show it whole');
  await tab('Edge');
  await press('Its edge’s colour');
  await finish('Jugs on a window sill');
  const { data, info } = await onSite('checkout-header');
  expect([info.width, info.height]).toEqual([750, 90]);
  const at = (x: number, y: number) => [0, 1, 2].map((c) => data[(y * 750 + x) * 4 + c]!);
  // One colour from the photo's edge to the canvas's.
  for (const c of [0, 1, 2]) expect(Math.abs(at(10, 45)[c]! - at(250, 45)[c]!)).toBeLessThan(8);
  done('a photo with its edge’s colour', 8);
});

it('a logo header that is too tall', async () => {
  await begin();
  await drop('bs-graphics-page', logo());
  await takeSlot('150', '150');
  await layers(1);
  await press('Clean logo');
  await browser.driver.wait(async () => {
    const [, height] = /× (\d+) px/.exec((await things(browser))[0]!)!;
    return Number(height) > 110 && Number(height) <= 150;
  }, 15_000);
  await press('Finish');
  await press('Save file');
  const { data, info } = await saved('.png');
  expect(info.height).toBe(150);
  // Its sheet is gone: the corners are clear, and something stands in the middle.
  expect([data[3], data[(info.width - 1) * 4 + 3]]).toEqual([0, 0]);
  done('a logo header too tall', 6);
});

it('a banner with a band and a logo taken apart', async () => {
  await begin();
  await drop('bs-graphics-page', logo());
  await takeSlot('1584', 'Profile banner');
  await layers(1);
  const [sheet] = await things(browser);
  await press('Clean logo');
  // Trimmed, it is of another size.
  await browser.until(async () => (await things(browser))[0] !== sheet, 'It was not cleaned');
  await browser.saved();
  await tab('Cut out');
  await press('Take it apart');
  await browser.until(async () => (await things(browser)).length >= 2, 'It was not taken apart');
  // Each part is off the sheet as the whole was.
  await browser.until(
    async () =>
      (await (await browser.named('button', 'Also where it shows through')).getAttribute('aria-pressed')) === 'true',
    'A part has its sheet again',
  );
  await browser.saved();
  const parts = await things(browser);
  // A band behind everything.
  await press(`Add behind ${/: (.*), \d+ × /.exec(parts[0]!)![1]!}`);
  await choose('Shape');
  await choose('Band');
  await layers(parts.length + 1);
  await browser.saved();
  // The mark to one end.
  presses++;
  const mark = await browser.run<{ x: number; y: number }>(
    `const r = [...document.querySelectorAll('.thing')].at(-1).getBoundingClientRect();
     return { x: r.left + r.width / 2, y: r.top + r.height / 2 };`,
  );
  await browser.drag(mark, { x: 120, y: 0 });
  await browser.saved();
  await press('Finish');
  await browser.find('bs-finish-panel textarea:focus');
  await press('Save file');
  const { info } = await saved('.jpg');
  expect(info.width).toBeGreaterThan(100);
  done('banner with band and split logo', 20);
});

it('a composed blog header', async () => {
  await begin();
  await press('New graphic');
  await takeSlot('blog', 'Blog header');
  await bare();
  const end = await browser.run<{ x: number; y: number }>(
    `const r = document.querySelector('.lit').getBoundingClientRect(); return { x: r.right - 60, y: r.top + 60 };`,
  );
  await drop('bs-stage .hits', photo('sill.jpg'), end);
  await layers(1);
  expect((await things(browser))[0]).toMatch(/× 198 px at \d{3}, 0/);
  await tab('Edge');
  await press('Left');
  await press('Backdrop from an edge');
  await choose('Left');
  await words('Notes from the Wheel');
  await words('a diary from the mill');
  await press('Add');
  await choose('The house logo');
  await layers(4);
  await browser.until(async () => !(await found()).some((f) => f.includes('faint')), 'The words are too faint');
  await finish();
  const { info } = await onSite('blog-header');
  expect([info.width, info.height]).toEqual([940, 198]);
  done('composed blog header', 23);
});

it('a photo with title and veil', async () => {
  await begin();
  await drop('bs-graphics-page', photo('tiles.jpg'));
  await takeSlot('link card', 'Link card');
  await layers(1);
  await words('Forty glazes, all of them ours');
  await press('Add');
  await choose('Veil');
  await layers(3);
  await browser.saved();
  await browser.until(async () => !(await found()).some((f) => f.includes('faint')), 'The words are too faint');
  await finish();
  const { info } = await onSite('link-card');
  expect([info.width, info.height]).toEqual([1200, 630]);
  done('photo with title and veil', 10);
});

describe('what is dropped means something', () => {
  it('on a slot in the book it begins that graphic', async () => {
    await begin('slots');
    await browser.find('[data-slot="slim-header"]');
    await browser.dropFiles('[data-slot="slim-header"]', [photo('tiles.jpg')]);
    await browser.find('bs-stage');
    await layers(1);
    await browser.seeText('960 × 100');
  });

  it('on a leaf, or with “Another photo” open, it takes that photo’s place', async () => {
    await browser.dropFiles('li[data-layer] .layer-item', [photo('sill.jpg')]);
    await browser.find('.layer-item[aria-label^="Photo: sill"]');
    await layers(1);
    await browser.layer('Photo');
    await browser.tab('Another photo');
    await browser.dropFiles('bs-stage', [photo('kiln.jpg')]);
    await browser.find('.layer-item[aria-label^="Photo: kiln"]');
    await layers(1);
    await browser.tab('Place');
  });

  it('nowhere does it lead out of the app', async () => {
    for (const place of ['house-style', 'sites', 'slots', 'graphics']) {
      await begin(place);
      const taken = await browser.run<boolean>(
        `const data = new DataTransfer();
         data.items.add(new File(['x'], 'x.txt', { type: 'text/plain' }));
         const drop = new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer: data });
         document.querySelector('h1').dispatchEvent(drop);
         return drop.defaultPrevented;`,
      );
      expect([place, taken]).toEqual([place, true]);
    }
    await browser.keys(Key.ESCAPE);
  });
});

describe('what is looked for', () => {
  it('a new slot begins with the seven ways; the form shows few fields and folds the rest', async () => {
    await begin('slots');
    await browser.press('New slot');
    await browser.until(
      async () => browser.run(`return document.activeElement?.matches('.ways .way') ?? false`),
      'The ways have not the focus',
    );
    expect(await browser.all('.ways .way')).toHaveLength(7);
    await browser.press('Fill in the form');
    await browser.find('bs-slot-editor');
    const shown = await browser.run<number>(
      `return [...document.querySelectorAll('bs-slot-editor input, bs-slot-editor select')].filter((e) => e.checkVisibility()).length`,
    );
    expect(shown).toBeLessThanOrEqual(8);
    await browser.press('Cancel');
  });

  it('where nothing lies on the canvas its backdrop is chosen', async () => {
    await browser.visit(`${app.app}/slots`);
    await browser.press('Slim header, 960 × 100');
    await browser.press('Start a graphic');
    await startBare(browser);
    await browser.find('bs-stage');
    const at = await browser.run<{ x: number; y: number }>(
      `const r = document.querySelector('.lit').getBoundingClientRect(); return { x: Math.round(r.left + 40), y: Math.round(r.top + 20) };`,
    );
    await browser.driver.actions().move(at).click().perform();
    await browser.find('.back.selected');
  });

  it('“Only the picture” stays with a short press, and goes with the next', async () => {
    const button = await browser.named('button', 'Only the picture');
    const only = () => browser.all('bs-workbench-page.only');
    await button.click();
    await browser.until(async () => (await only()).length === 1, 'It does not stay');
    await button.click();
    await browser.until(async () => (await only()).length === 0, 'It does not go');
    const box = await button.getRect();
    const middle = { x: Math.round(box.x + box.width / 2), y: Math.round(box.y + box.height / 2) };
    await browser.driver.actions().move(middle).press().pause(500).perform();
    expect(await only()).toHaveLength(1);
    await browser.driver.actions().release().perform();
    await browser.until(async () => (await only()).length === 0, 'It stays though it was held');
  });

  it('a line of words has a look of its own, and so has a selection; typing keeps them', async () => {
    await browser.press('Add');
    await browser.menu('Words');
    await browser.find('bs-words-editor textarea:focus');
    await browser.keys(`Ottermill${Key.ENTER}opening soon`);
    await browser.keys(Key.ESCAPE);
    await browser.press('Line 2');
    await browser.number('Size', 18);
    await browser.saved();
    const field = await browser.find('bs-words-settings textarea');
    await browser.run('arguments[0].focus(); arguments[0].setSelectionRange(18, 22)', field);
    await browser.find('.parts button:last-child');
    await browser.fill(await browser.find('bs-words-settings .hex'), `#a4512f${Key.ENTER}`);
    await browser.saved();
    const graphic = (await browser.driver.getCurrentUrl()).split('/').at(-1)!;
    const runs = async () => {
      const { layers } = (await storedHead(browser, graphic)).graphic;
      const words = layers.find((l) => l.role === 'words');
      return words?.paragraphs.flatMap((p) => p.runs.map((r) => [r.text, r.size, r.colour] as const)) ?? [];
    };
    const now = await runs();
    expect(now.map((r) => r[0])).toEqual(['Ottermill', 'opening ', 'soon']);
    expect(now.slice(1).map((r) => r[1])).toEqual([18, 18]);
    expect(now[2]![2]).toBe('#a4512f');
    await browser.run('arguments[0].focus(); arguments[0].setSelectionRange(9, 9)', field);
    await browser.keys('’s');
    await browser.saved();
    expect((await runs()).map((r) => [r[0], r[2] === '#a4512f'])).toEqual([
      ['Ottermill’s', false],
      ['opening ', false],
      ['soon', true],
    ]);
  });

  it('new words stand in the middle, and stay there when their size changes', async () => {
    const [before] = (await things(browser)).filter((t) => t.startsWith('Words'));
    const middle = (label: string) => {
      const [w, h, x, y] = /(\d+) × (\d+) px at (-?\d+), (-?\d+)/.exec(label)!.slice(1).map(Number);
      return [x! + w! / 2, y! + h! / 2];
    };
    await browser.press('All of it');
    await browser.number('Size', 22);
    await browser.saved();
    const [after] = (await things(browser)).filter((t) => t.startsWith('Words'));
    expect(before).not.toBe(after);
    for (const label of [before!, after!]) {
      expect(Math.abs(middle(label)[0]! - 480)).toBeLessThan(2);
      expect(Math.abs(middle(label)[1]! - 50)).toBeLessThan(2);
    }
    expect((await canvasAt(browser, 960, [[2, 2]]))[0]![3]).toBe(0);
  });

  it('a picture of the site’s is of the slot that shows it', async () => {
    await browser.visit(`${app.app}/slots?way=picture`);
    const address = await browser.run<string>(
      `return fetch(document.querySelector('meta[name=site-origin]').content + '/api/site').then((r) => r.json())
         .then((s) => s.pages.flatMap((p) => p.slots).find((p) => p.slot.id === 'link-card').now.address)`,
    );
    await browser.fill(await browser.find('bs-picture-finder input'), address);
    await browser.press('Fetch');
    await browser.seeText('which is in the book', 20_000);
    await browser.press('Use that slot');
    await browser.find('bs-slot-card');
    expect(await browser.violations()).toEqual([]);
  });
});
