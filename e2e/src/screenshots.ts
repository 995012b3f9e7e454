import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root, startApp } from './harness/app';
import { foundFile } from './harness/exporting';
import { Browser, Key } from './harness/browser';
import { drop, lookRound } from './harness/workbench';

/** Pictures of the main views, from the demo: `npm run screenshots`, or with names of views to make only those. */
const folder = process.env['SHOTS'] ?? join(root, 'docs/screenshots');
const [width, height] = (process.env['SIZE'] ?? '1280x800').split('x').map(Number);
const wanted = new Set(process.argv.slice(2));
mkdirSync(folder, { recursive: true });

const app = await startApp();
const browser = await Browser.open({ width: width!, height: height! });

const settle = () => new Promise((r) => setTimeout(r, 400));

/** A second site of the pottery's, which files go to by WebDAV, being set up; the way in has been tried. */
async function wayIn() {
  await browser.go(`${app.app}/sites`);
  await browser.press('A site');
  await typed('Name', 'Evening classes');
  await typed('Address', 'classes.ottermill.example');
  await typed('Address of the folder', `${app.site}/dav/`);
  await typed('Sign-in name', 'otter');
  await typed('Password', 'mill');
  await typed('Visitors find it at', `${app.site}/files/`);
  await browser.press('Try it');
  await browser.seeText('It works.');
}

const views: Record<string, () => Promise<unknown>> = {
  async graphics() {
    await browser.go(`${app.app}/graphics`);
    await browser.driver.wait(
      async () =>
        (await browser.all('bs-graphic-card')).length > 0 &&
        // Cards further down are painted when they are seen.
        !(await browser.run<boolean>(
          `return [...document.querySelectorAll('.wait')].some((e) => e.getBoundingClientRect().top < innerHeight)`,
        )),
      30_000,
    );
  },
  /** How a new graphic starts: bare, or in a layout with one's own photo and words. */
  async layouts() {
    await browser.go(`${app.app}/graphics/new?slot=page-cover`);
    await browser.fill(await browser.field('//bs-start-page', 'Title'), 'Kiln opening');
    await browser.fill(await browser.field('//bs-start-page', 'Line'), 'Saturday at four');
    await browser.press('Kiln at night');
    await browser.driver.wait(
      () =>
        browser.run<boolean>(
          `return document.querySelector('bs-layout-tiles [role=status]')?.textContent.includes('All layouts are shown.') ?? false`,
        ),
      60_000,
    );
    await browser.driver.sleep(500);
  },
  async workbench() {
    await browser.go(`${app.app}/graphics/demo-evening-classes`);
    await browser.layer('Words');
    await browser.press('Line 2');
    await browser.exact();
    await browser.find('[data-settled="true"]', 20_000);
    // The pages beside the report are painted a moment later.
    await browser.driver.sleep(1500);
  },
  /** The same header for five other slots. */
  async carry() {
    await browser.go(`${app.app}/graphics/demo-notes/carry`);
    await browser.find('.way img', 60_000);
    await browser.driver.wait(
      () =>
        browser.run<boolean>(
          `return [...document.querySelectorAll('.all li .fit')].length > 4 && [...document.querySelectorAll('.all li .fit')].every((f) => f.textContent.trim())`,
        ),
      120_000,
    );
  },
  /** The page on a desktop, a tablet and a phone, the graphic in it, with what the report says of it. */
  async 'on-the-page'() {
    await browser.go(`${app.app}/graphics/demo-kiln-opening`);
    await browser.find('[data-settled="true"]', 20_000);
    await browser.press('On the page');
    await browser.driver.wait(
      () =>
        browser.run<boolean>(
          `return [...document.querySelectorAll('bs-on-page bs-page-likeness')].filter((p) => p.shadowRoot.querySelector('img')?.complete).length === 3`,
        ),
      15_000,
    );
  },
  /** A header with much to mend: words too faint, cut off, gone by, doubled; no description. */
  async report() {
    await browser.go(`${app.app}/graphics/demo-autumn-glazes`);
    await browser.layer('Words: Title');
    await browser.tab('Place');
    await browser.number('From the left', 700);
    await browser.layer('Words: Line');
    await browser.tab('Words');
    await browser.fill(await browser.find('bs-settings textarea'), 'from the the kiln, 12 October');
    await browser.find('[data-settled="true"]', 20_000);
    await browser.driver.sleep(2500);
  },
  /** Several graphics by a routine that was kept on Export. */
  async 'export-several'() {
    await browser.go(`${app.app}/graphics/demo-notes/export`);
    await foundFile(browser);
    await browser.run(`document.querySelectorAll('bs-page-code .ticks input')[1].click()`);
    await browser.fill(await browser.find('bs-routines-here form input'), 'Headers, light');
    await browser.press('Keep as a routine');
    await browser.seeText('is kept');
    await browser.visit(`${app.app}/exports`);
    await browser.press('Headers, light', 'label');
    for (const name of ['Notes from the Wheel', 'Autumn glazes']) await browser.press(name, 'li//label');
    await browser.press('Make 4 files');
    await browser.seeText('4 files are in', 90_000);
    await browser.run(`document.querySelector('.list').scrollTop = 0`);
    await settle();
  },
  async export() {
    await browser.go(`${app.app}/graphics/demo-notes/export`);
    await browser.find('img.file');
    await foundFile(browser);
    await browser.driver.wait(async () => !(await browser.all('.curve [role=status]')).length, 60_000);
  },
  async visitor() {
    await browser.go(`${app.app}/graphics/demo-notes`);
    await browser.find('[data-settled="true"]', 20_000);
    await browser.press('Finish');
    await browser.find('bs-finish-panel textarea:focus');
    await browser.keys(Key.ENTER);
    await browser.seeText('It is on the site.');
    await browser.go(`${app.site}/blog`);
  },
  async slots() {
    await browser.go(`${app.app}/slots`);
    await browser.find('bs-slot-outlines li');
    await browser.press('Class header, 1120');
    await browser.seeText('shown 1120');
  },
  async 'slots-screenshot'() {
    await browser.go(`${app.app}/slots?way=screenshot`);
    await browser.press('Try the demo');
    await browser.find('.sheet img');
    await settle();
    const sheet = await browser.run<{ x: number; y: number; z: number }>(
      `const r = document.querySelector('.sheet').getBoundingClientRect(); return { x: r.x, y: r.y, z: r.width / 1280 }`,
    );
    const at = (x: number, y: number) => ({ x: sheet.x + x * sheet.z, y: sheet.y + y * sheet.z });
    const [from, to] = [at(892, 150), at(1175, 410)];
    await browser.drag(from, { x: to.x - from.x, y: to.y - from.y });
    await browser.find('bs-screenshot-finder .size');
  },
  async 'house-style'() {
    await browser.go(`${app.app}/house-style`);
    await browser.seeText('File names');
  },
  /** That site with what its places show, one of them darkened there since. */
  async sites() {
    if (!(await browser.all('bs-site-editor')).length) await wayIn();
    await browser.press('Keep the site');
    await browser.seeText('Which places does it have?');
    const places = [
      ['kiln-opening', 'page-cover'],
      ['evening-classes', 'form-header'],
      ['notes', 'blog-header'],
      ['wren', 'profile-banner'],
    ] as const;
    for (const [, slot] of places) {
      await browser.run(
        `const s = [...document.querySelectorAll('bs-select')].find((e) => e.textContent.startsWith('Add')).querySelector('select');
         s.value = arguments[0]; s.dispatchEvent(new Event('change'));`,
        slot,
      );
      await browser.find(`section.page[data-slot="${slot}"]`);
    }
    for (const [graphic] of places) {
      if (graphic === 'wren') continue;
      await browser.visit(`${app.app}/graphics/demo-${graphic}`);
      await browser.find('[data-settled="true"]', 20_000);
      await browser.press('Finish');
      const words = await browser.find('bs-finish-panel textarea');
      if (!(await words.getAttribute('value'))) await browser.fill(words, graphic.replace('-', ' '));
      await browser.press('Put on the site');
      await browser.driver.wait(async () => {
        if ((await browser.all('bs-findings-dialog')).length) await browser.press('Send it all the same');
        if ((await browser.all('bs-sign-in-dialog')).length) {
          await typed('Password', 'mill');
          await browser.press('Sign in');
        }
        return (await browser.all('bs-sent-note .sent strong')).length > 0;
      }, 30_000);
    }
    const fault = (faults: object) =>
      fetch(`${app.site}/api/faults`, {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json', Origin: app.app },
        body: JSON.stringify(faults),
      });
    await browser.visit(`${app.app}/sites`);
    await browser.press('Evening classes');
    await browser.press('Look at Page cover');
    await fault({ darkening: 0.25 });
    await browser.press('Look again');
    await browser.seeText('darker than what was sent.');
    await fault({});
  },
  /** Seven tiles of one layout, made from their table, as they stand on the page. */
  async tiles() {
    await browser.visit(`${app.app}/graphics`);
    await browser.press('New graphic');
    await browser.press('A row of 7: Menu tile');
    await rowsSettled(7);
    for (const [i, word] of ['Bowls', 'Jugs', 'Mugs', 'Bottles', 'Plates', 'Teapots & lids', 'Seconds'].entries()) {
      const field = (await browser.all('input.word'))[i]!;
      await browser.fill(field, `${word}${Key.ENTER}`);
    }
    await browser.press('A row');
    await rowsSettled(8);
    await browser.fill((await browser.all('input.word'))[7]!, `Events${Key.ENTER}`);
    await rowsSettled(8);
    await browser.run(`document.querySelector('.left').scrollTop = 0`);
  },
  /** What a next edition takes the place of, looked at before it is made. */
  async editions() {
    if (!(await browser.all('input.word')).length) await views['tiles']!();
    await browser.press('New edition');
    const files = ['wheel', 'sill', 'tiles', 'shelf'].map((n) => join(root, `demo/pictures/${n}.jpg`)).join('\n');
    await (await browser.find('bs-edition-dialog input[type=file]')).sendKeys(files);
    await browser.seeText('of 8 are new.');
    await browser.press('Make it');
    await rowsSettled(8);
    await browser.press('New edition');
    await (
      await browser.find('bs-edition-dialog input[type=file]')
    ).sendKeys(['pots-tall', 'kiln', 'wheel'].map((n) => join(root, `demo/pictures/${n}.jpg`)).join('\n'));
    await browser.seeText('of 8 are new.');
  },
  /** One picture over five squares: its set, its editions. */
  async strip() {
    await browser.visit(`${app.app}/graphics`);
    await browser.press('New graphic');
    await browser.press('From the kiln, Strip of 5');
    await browser.seeText('Frame 1 of 5');
    await brought('pano.jpg');
    await browser.press('The set', 'a');
    await rowsSettled(5);
    await browser.press('New edition');
    await (await browser.find('bs-edition-dialog input[type=file]')).sendKeys(join(root, 'demo/pictures/shelf.jpg'));
    await browser.find('bs-edition-dialog .canvas');
    await browser.press('Make it');
    await browser.seeText('since then');
    await rowsSettled(5);
  },
  /** Four cells of a mosaic on one canvas. */
  async mosaic() {
    await browser.visit(`${app.app}/graphics`);
    await browser.press('New graphic');
    await browser.press('The window, Mosaic of 4');
    await browser.seeText('Frame 1 of 4');
    await brought('shelf.jpg');
    await browser.exact();
    await browser.find('[data-settled="true"]', 30_000);
  },
  /** A photo in all graphics that use it, before and after. */
  async everywhere() {
    await browser.visit(`${app.app}/everywhere`);
    await browser.find('.pictures button');
    await browser.run(`document.querySelector('[aria-label="Pictures that graphics use"] button').click()`);
    await browser.run(
      `[...document.querySelectorAll('[aria-label="What takes its place"] button')].find((b) => /sill/.test(b.title)).click()`,
    );
    await browser.driver.wait(
      () =>
        browser.run<boolean>(
          `const all = [...document.querySelectorAll('.found li')]; return all.length > 0 && all.every((l) => l.querySelectorAll('figure strong').length === 2)`,
        ),
      90_000,
    );
  },
};
/** All rows of a set are made, judged and weighed. */
async function rowsSettled(rows: number): Promise<void> {
  await browser.driver.wait(
    () =>
      browser.run<boolean>(
        `const files = [...document.querySelectorAll('td.file')]; return files.length === arguments[0] && files.every((f) => /kB/.test(f.textContent)) && !document.querySelector('.working')`,
        rows,
      ),
    90_000,
  );
}
/** A photo of the demo on the canvas at work. */
async function brought(name: string): Promise<void> {
  await drop(browser, { name, bytes: readFileSync(join(root, 'demo/pictures', name)), type: 'image/jpeg' });
  await browser.find('.thing');
  await browser.saved();
}
/** Types into a labelled field. */
async function typed(label: string, text: string): Promise<void> {
  for (const l of await browser.all('label.field'))
    if ((await l.getText()).startsWith(label)) return browser.fill(await l.findElement({ css: 'input' }), text);
  throw new Error(`No field ${label}`);
}
/** The demo's screenshot to measure slots on: the pottery's window, as it stands at 1280 wide. */
async function demoShot(): Promise<void> {
  await browser.go(`${app.site}/window`);
  await settle();
  const folder = join(root, 'demo/shots');
  mkdirSync(folder, { recursive: true });
  await browser.screenshot(join(folder, 'window.png'));
}

try {
  // A fresh browser is asked how to begin.
  await browser.go(`${app.app}/graphics`);
  await browser.find('bs-first-steps', 60_000);
  if (!wanted.size || wanted.has('first-start')) {
    await (await browser.find('bs-first-steps input[type=file]')).sendKeys(join(root, 'demo/logos/ottermill.svg'));
    await browser.find('.chip');
    await settle();
    await browser.screenshot(join(folder, 'first-start.png'));
  }
  await lookRound(browser);
  if (wanted.has('demo-shot')) await demoShot();
  for (const [name, open] of Object.entries(views)) {
    if (wanted.size && !wanted.has(name)) continue;
    await open();
    await settle();
    await browser.screenshot(join(folder, `${name}.png`));
    console.log(name);
  }
  if (process.env['REPORTS'])
    for (const id of ['autumn-glazes', 'evening-classes', 'kiln-opening', 'wren', 'tuesday-wheel', 'new-jugs']) {
      await browser.go(`${app.app}/graphics/demo-${id}`);
      await browser.find('[data-settled="true"]', 20_000);
      await browser.exact();
      console.log(id, await browser.run(`return document.querySelector('bs-fit-report').innerText`));
      await browser.screenshot(join(folder, `demo-${id}.png`));
    }
} finally {
  await browser.close();
  await app.stop();
}
