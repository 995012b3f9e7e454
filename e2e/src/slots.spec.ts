// Covers: web/slots, core/slot, web/bookmark
import { demo, everySlot } from './harness/demo';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { mosaicOf, pageFits, placed, readSpans, sizeText, type PageFit } from '@bright-slot/core';
import { root } from './harness/app';
import { Key } from './harness/browser';
import { withApp } from './harness/suite';
import { download } from './harness/workbench';

const { app, browser } = withApp();

const open = async (query = '') => {
  // A fragment alone would not load the page anew.
  await browser.go('about:blank');
  await browser.go(`${app.app}/slots${query}`);
  await browser.find(query.includes('screenshot') ? 'bs-shot-view' : 'bs-slot-outlines li');
};
const outlines = () =>
  browser.run<string[]>(
    `return [...document.querySelectorAll('bs-slot-outlines button')].map((b) => b.getAttribute('aria-label'))`,
  );
const field = (label: string) =>
  browser.find(`bs-text-field[label="${label}"] input, bs-number[label="${label}"] input`);
const fill = async (label: string, text: string) => browser.fill(await field(label), text);
const panel = () => browser.run<string>(`return document.querySelector('aside').innerText.replace(/\\u00a0/g, ' ')`);
const panelSays = (text: string) =>
  browser.driver.wait(async () => (await panel()).includes(text), 10_000, `The panel does not say “${text}”`);
const undo = () => browser.press('Undo', 'button[contains(@class, "mat-mdc-snack-bar-action")]');

describe('the book', () => {
  beforeEach(() => open());
  it('draws every entry that ships to one scale', async () => {
    expect((await outlines()).length).toBe(everySlot.length);
    const drawn = await browser.run<Record<string, [number, number]>>(
      `return Object.fromEntries([...document.querySelectorAll('bs-slot-outlines button')].map((b) => {
        const r = b.querySelector('.outline').getBoundingClientRect();
        return [b.getAttribute('aria-label'), [r.width, r.height]];
      }))`,
    );
    const ratio = (name: string, width: number) => drawn[name]![0] / width;
    const scale = ratio('Form header 1600 × 400, 1600 × 400', 1600);
    for (const [name, width] of [
      ['Round avatar 128, 128 × 128', 128],
      ['Menu tile 320 × 200, 320 × 200', 320],
      ['Profile banner 1584 × 396, 1584 × 396', 1584],
    ] as const)
      expect(Math.abs(ratio(name, width) / scale - 1)).toBeLessThan(0.01);
  });
  it('is searched by name and by size, and filtered by kind, shape and site', async () => {
    const search = await browser.find('input[type="search"]');
    await search.sendKeys('1584x396');
    await browser.driver.wait(async () => (await outlines()).length === 2, 5000, 'Not two banners');
    await browser.fill(search, 'nothing of the kind');
    await browser.press('Show all');
    await (await browser.find('select option[value="ellipse"]')).click();
    expect(await outlines()).toEqual([expect.stringContaining('Round'), expect.stringContaining('Round')]);
    await (await browser.find('select option[value="ottermill.example"]')).click();
    expect(await outlines()).toEqual(['Round chat avatar, 128 × 128, ottermill.example']);
    await browser.press('All, to one scale');
    await browser.press('Logos');
    await browser.driver.wait(async () => (await outlines()).length === 2, 5000, 'Not two logos');
  });
  it('shows a slot on its page at three widths, with all its figures', async () => {
    await browser.press('Class header, 1120');
    await panelSays('towards the foot, 62 %');
    await panelSays('2240 × 560 px');
    await panelSays('shown 1120 × 280');
    await browser.press('Phone');
    await panelSays('shown 366 × 150');
  });
  it('duplicates, edits and deletes, each taken back by Undo, and keeps what is not', async () => {
    const count = everySlot.length;
    await browser.press('Slim header, 960');
    await browser.press('Duplicate');
    await browser.seeText('“Slim header, copy” is in the book.');
    expect(await outlines()).toHaveLength(count + 1);
    await browser.press('Edit');
    await fill('Width', '964,5');
    await (await field('Width')).sendKeys(Key.TAB);
    await fill('Height', '0');
    await (await field('Height')).sendKeys(Key.TAB);
    // Nothing that is no size is taken.
    await browser.driver.wait(
      async () => (await (await field('Height')).getAttribute('value')) === '100',
      5000,
      'A height of 0 is taken',
    );
    await browser.press('Save');
    await panelSays('964.5 × 100 px');
    await undo();
    await panelSays('960 × 100 px');
    await browser.press('Delete');
    await browser.driver.wait(async () => (await outlines()).length === count, 5000);
    await undo();
    await browser.driver.wait(async () => (await outlines()).length === count + 1, 5000);
    await (await browser.named('button', 'Slim header, copy')).sendKeys(Key.DELETE);
    await browser.driver.wait(async () => (await outlines()).length === count, 5000);
    await browser.driver.navigate().refresh();
    await browser.find('bs-slot-outlines li');
    expect(await outlines()).toHaveLength(count);
  });
  it('keeps an edit that was left for another place', async () => {
    await browser.press('Slim header, 960');
    await browser.press('Edit');
    await fill('Width', '961');
    await (await field('Width')).sendKeys(Key.TAB);
    await browser.press('House style', 'a');
    await browser.seeText('File names');
    await browser.press('Slots', 'a');
    await browser.find('bs-slot-editor');
    expect(await (await field('Width')).getAttribute('value')).toBe('961');
    await browser.press('Cancel');
    await browser.find('bs-slot-outlines button');
    expect(await outlines()).toContain('Slim header, 960 × 100, ottermill.example');
  });
  it('goes out as JSON and comes in again; a hostile file changes nothing and says so', async () => {
    await browser.press('Save as JSON');
    await browser.menu('The whole book');
    const file = await download(browser, '.json');
    const book = JSON.parse(readFileSync(file, 'utf8')) as { slots: { id: string; name: string; width: number }[] };
    expect(book.slots).toHaveLength(everySlot.length);
    const put = async (text: string) => {
      const path = join(browser.downloads, 'in.json');
      writeFileSync(path, text);
      await browser.run(`document.querySelector('input[accept^=".json"]').classList.remove('visually-hidden')`);
      await (await browser.find('input[accept^=".json"]')).sendKeys(path);
    };
    book.slots = [{ ...book.slots[0]!, id: 'fresh', name: 'Brought header', width: 777 }, book.slots[1]!];
    await put(JSON.stringify(book));
    await browser.seeText('1 brought in; 1 stood here just the same.');
    expect(await outlines()).toHaveLength(everySlot.length + 1);
    await undo();
    await browser.driver.wait(async () => (await outlines()).length === everySlot.length, 5000);
    await put('{"format":"bright-slot-book","version":1,"slots":[{"id":"x"},');
    await browser.seeText('That is no JSON, or it breaks off before its end.');
    await put(JSON.stringify({ ...book, slots: [{ ...book.slots[0], width: '<img src=x onerror=alert(1)>' }] }));
    await browser.seeText('“Brought header” was left out: width is not as it should be.');
    expect(await outlines()).toHaveLength(everySlot.length);
    const schema: unknown = await (await fetch(`${app.app}/slot-book.schema.json`)).json();
    expect(schema).toMatchObject({ $schema: 'https://json-schema.org/draft/2020-12/schema' });
  });
});

describe('against Chromium', () => {
  beforeAll(() => browser.go('about:blank'));
  it('mosaic cells lie where its CSS grid puts them, within its layout unit of 1/64 px', async () => {
    for (const [width, height, columns, rows, gap, text] of [
      [1050, 600, 4, 2, 15, '2x2 1x2 1x1 1x1'],
      [1000, 433, 6, 2, 7, '3x1 3x1 2x1 2x1 2x1'],
      [777, 555, 5, 3, 11, '1x1 3x1 2x2 1x2 2x1 1x1 1x1'],
      [320.5, 200.25, 3, 3, 0.5, '2x2 1x1 1x1 3x1'],
    ] as const) {
      const spans = readSpans(text);
      const ours = spans.ok && mosaicOf({ width, height, columns, rows, gap, outerGap: false, spans: spans.value });
      if (!ours || !ours.ok) throw new Error('no mosaic');
      const theirs = await browser.run<{ x: number; y: number; width: number; height: number }[]>(
        `const [width, height, columns, rows, gap, spans] = arguments;
         const g = document.createElement('div');
         g.style.cssText = \`position:absolute;left:0;top:0;display:grid;grid-auto-flow:row dense;width:\${width}px;height:\${height}px;gap:\${gap}px;grid-template:repeat(\${rows},1fr)/repeat(\${columns},1fr)\`;
         for (const s of spans) { const c = document.createElement('div'); c.style.cssText = \`grid-column:span \${s.columns};grid-row:span \${s.rows};min-width:0;min-height:0\`; g.append(c); }
         document.body.replaceChildren(g);
         return [...g.children].map((c) => { const r = c.getBoundingClientRect(); return { x: r.x, y: r.y, width: r.width, height: r.height }; });`,
        width,
        height,
        columns,
        rows,
        gap,
        spans.ok && spans.value,
      );
      ours.value.cells.forEach(({ box }, i) => {
        for (const k of ['x', 'y', 'width', 'height'] as const)
          expect(Math.abs(box[k] - theirs[i]![k])).toBeLessThanOrEqual(1 / 64 + 1e-9);
      });
    }
  });
  it('a picture of another size lies where its object-fit and background-size put it', async () => {
    // Each pixel of the picture says where it is: red is x, green is y.
    const [w, h] = [200, 120];
    const raw = Buffer.alloc(w * h * 3);
    for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) raw.set([x, y, 200], (y * w + x) * 3);
    const png = await sharp(raw, { raw: { width: w, height: h, channels: 3 } })
      .png()
      .toBuffer();
    const url = `data:image/png;base64,${png.toString('base64')}`;
    const object: Record<PageFit, string> = {
      'fills-centre': 'object-fit:cover',
      'fills-top': 'object-fit:cover;object-position:50% 0',
      'fits-within': 'object-fit:contain',
      stretches: 'object-fit:fill',
      'asks-crop': 'object-fit:cover',
      'top-left': 'object-fit:none;object-position:0 0',
    };
    const background: Record<PageFit, string> = {
      'fills-centre': 'center/cover',
      'fills-top': '50% 0/cover',
      'fits-within': 'center/contain',
      stretches: '0 0/100% 100%',
      'asks-crop': 'center/cover',
      'top-left': '0 0/auto',
    };
    for (const slot of [
      { width: 400, height: 90 },
      { width: 90, height: 300 },
      { width: 100, height: 60 },
    ])
      for (const fit of pageFits) {
        await browser.run(
          `const [url, slot, object, background] = arguments;
           const size = \`width:\${slot.width}px;height:\${slot.height}px;image-rendering:pixelated;position:absolute;top:20px\`;
           document.body.innerHTML = \`<img src="\${url}" style="\${size};left:20px;\${object}"><div style="\${size};left:520px;background:url(\${url}) \${background} no-repeat"></div>\`;
           document.body.style.background = '#000';
           return document.querySelector('img').decode();`,
          url,
          slot,
          object[fit],
          background[fit],
        );
        const shot = await sharp(Buffer.from(await browser.driver.takeScreenshot(), 'base64'))
          .removeAlpha()
          .raw()
          .toBuffer({ resolveWithObject: true });
        const { image, seen } = placed({ width: w, height: h }, slot, fit);
        for (const left of [20, 520]) {
          const at = (x: number, y: number) => {
            const i = (Math.floor(20 + y) * shot.info.width + Math.floor(left + x)) * 3;
            return [shot.data[i]!, shot.data[i + 1]!, shot.data[i + 2]!] as const;
          };
          // The first and last pixel of what is seen, and the middle.
          const [x0, y0] = [Math.max(0, image.x), Math.max(0, image.y)];
          const [x1, y1] = [Math.min(slot.width, image.x + image.width), Math.min(slot.height, image.y + image.height)];
          const scale = [image.width / w, image.height / h] as const;
          for (const [x, y] of [
            [Math.ceil(x0) + 0.5, Math.ceil(y0) + 0.5],
            [Math.floor(x1) - 0.5, Math.floor(y1) - 0.5],
            [(x0 + x1) / 2, (y0 + y1) / 2],
          ] as const) {
            const [r, g, b] = at(x, y);
            const where = `${fit} in ${sizeText(slot)} at ${x}, ${y}`;
            expect([where, b]).toEqual([where, 200]);
            expect(Math.abs(r - (x - image.x) / scale[0])).toBeLessThanOrEqual(1.5);
            expect(Math.abs(g - (y - image.y) / scale[1])).toBeLessThanOrEqual(1.5);
            expect(r).toBeGreaterThanOrEqual(Math.floor(seen.x) - 1);
          }
        }
      }
  });
});

/** Opens a screenshot in the app and drags roughly around a place on it, CSS px of the page. */
async function bring(png: Buffer, name: string): Promise<void> {
  await browser.dropFiles('bs-shot-view', [{ name, type: 'image/png', bytes: png }]);
  await browser.driver.wait(
    async () =>
      (await browser.all('.sheet img')).length > 0 &&
      (await browser.run<string>(`return document.querySelector('.tools .name')?.textContent ?? ''`)) === name,
    20_000,
    `${name} was not opened`,
  );
}
async function dragAround(r: { x: number; y: number; width: number; height: number }): Promise<string> {
  const sheet = await browser.run<{ x: number; y: number; z: number }>(
    `const s = document.querySelector('.sheet'); s.parentElement.scrollTo(0, 0); const r = s.getBoundingClientRect(); return { x: r.x, y: r.y, z: r.width / document.querySelector('.sheet img').naturalWidth }`,
  );
  const [x, y] = [sheet.x + (r.x - 7) * sheet.z, sheet.y + (r.y + 5) * sheet.z];
  const before = await browser.run<number>(`return document.querySelectorAll('.found').length`);
  await browser.drag({ x, y }, { x: (r.width + 15) * sheet.z, y: (r.height - 11) * sheet.z });
  await browser.driver.wait(
    async () => (await browser.run<number>(`return document.querySelectorAll('.found').length`)) > before,
    20_000,
    'Nothing was found',
  );
  return (await browser.find('bs-screenshot-finder .size strong')).getText();
}

describe('from a screenshot', () => {
  // As a person would: from nothing but the picture of each page.
  const pages: [string, string, string[]][] = [
    ['blog', 'blog-header', ['940 × 198']],
    ['shop', 'slim-header', ['960 × 100']],
    ['make', 'menu-tile', ['160 × 100']],
    ['window', 'mosaic-wide', ['517 × 600', '518 × 600', '517.5 × 600']],
    ['window', 'mosaic-tall', ['251 × 600', '252 × 600', '251.25 × 600']],
    ['window', 'mosaic-upper', ['251 × 292', '252 × 293', '251 × 293', '252 × 292']],
    ['kiln', 'strip-square', ['134 × 134']],
    ['pay', 'checkout-header', ['750 × 90']],
    ['tuesday', 'class-header', ['1120 × 280']],
    ['neighbours', 'page-cover', ['851 × 315']],
    ['wren', 'profile-banner', ['792 × 198']],
    ['chat', 'chat-avatar', ['128 × 128']],
    ['shared', 'link-card', ['600 × 315']],
  ];
  it.each(pages)(
    'the page “%s” gives %s its right size, in the book in under 20 seconds',
    async (path, slot, sizes) => {
      await browser.go(`${app.site}/${path}`);
      await browser.run(`return Promise.all([...document.images].map((i) => i.decode()))`);
      const rect = await browser.run<{ x: number; y: number; width: number; height: number }>(
        `const r = document.querySelector('figure[data-slot="' + arguments[0] + '"]').getBoundingClientRect(); return { x: r.x, y: r.y, width: r.width, height: r.height };`,
        slot,
      );
      const png = Buffer.from(await browser.driver.takeScreenshot(), 'base64');
      await open('?way=screenshot');
      const started = Date.now();
      await bring(png, `${path}.png`);
      const size = await dragAround(rect);
      expect(sizes).toContain(size);
      await browser.press('Add to the book');
      await browser.seeText('is in the book');
      expect(Date.now() - started).toBeLessThan(20_000);
      const said = await panel();
      const known = demo.slots.find((s) => s.id === slot)!;
      expect(said).toContain(known.ground);
      // Shown at half its size, a menu tile has half its corners.
      const rounded = slot === 'menu-tile' ? 'corners of 6 px' : 'corners of 12 px';
      expect(said).toContain({ ellipse: 'round', rounded, rectangle: 'straight corners' }[known.shape.kind]);
      if (slot === 'menu-tile') expect(said).toContain('7 in a row, gaps of 20 px');
      if (slot === 'strip-square') expect(said).toContain('5 in a row, gaps of 20 px');
      if (slot === 'checkout-header') expect(said).toContain('1 px, #cfc6b4');
    },
  );
  it('has its edges moved by the arrow keys under a loupe, and a box placed without a pointer', async () => {
    await open('?way=screenshot');
    await browser.press('Try the demo');
    await browser.find('.sheet img');
    await browser.press('Place a box');
    await browser.keys(Key.ARROW_LEFT, Key.ARROW_UP);
    await browser.driver
      .actions()
      .keyDown(Key.SHIFT)
      .sendKeys(Key.ARROW_RIGHT, Key.ARROW_DOWN)
      .keyUp(Key.SHIFT)
      .perform();
    await browser.keys(Key.ENTER);
    await browser.find('.found', 20_000);
    const width = async () =>
      Number((await (await browser.find('bs-screenshot-finder .size strong')).getText()).split(' × ')[0]);
    const before = await width();
    await browser.driver.wait(
      async () => browser.run<boolean>(`return document.activeElement.classList.contains('left')`),
      5000,
      'No edge has the focus',
    );
    expect(await browser.run(`return document.querySelector('bs-shot-loupe').offsetWidth`)).toBeGreaterThan(100);
    await browser.keys(Key.ARROW_LEFT);
    await browser.driver.wait(async () => (await width()) === before + 1, 5000, 'The edge did not go out');
    await browser.driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_RIGHT).keyUp(Key.SHIFT).perform();
    await browser.driver.wait(async () => (await width()) === before - 9, 5000, 'The edge did not go ten back');
  });
  it('takes one 20 000 px tall, and refuses what is too large, cut short or no picture, in words', async () => {
    await open('?way=screenshot');
    const flat = (width: number, height: number) =>
      sharp({ create: { width, height, channels: 3, background: '#fbf8f2' } })
        .png()
        .toBuffer();
    const tall = await sharp(await flat(1000, 20_000))
      .composite([
        {
          input: await sharp({ create: { width: 600, height: 150, channels: 3, background: '#3f5a4f' } })
            .png()
            .toBuffer(),
          left: 100,
          top: 200,
        },
      ])
      .png()
      .toBuffer();
    await bring(tall, 'tall.png');
    expect(await dragAround({ x: 100, y: 200, width: 600, height: 150 })).toBe('600 × 150');
    const put = async (name: string, bytes: Buffer, said: string) => {
      await browser.dropFiles('bs-shot-view', [{ name, type: 'image/png', bytes }]);
      await browser.seeText(said);
    };
    await put('vast.png', await flat(9000, 9000), 'too large to measure at once');
    await put('cut.png', tall.subarray(0, tall.length >> 1), 'breaks off before its end');
    await put('note.png', Buffer.from('only words'), 'its content is no picture');
    // What was measured before is still there.
    expect(await (await browser.find('bs-screenshot-finder .size strong')).getText()).toBe('600 × 150');
  });
});

describe('on the live page', () => {
  const bookmark = () =>
    readFileSync(join(root, 'dist/web/browser/bookmark/measure.js'), 'utf8').replaceAll(
      '__APP__',
      JSON.stringify(app.app),
    );
  const start = () => browser.run(bookmark());
  const onPage = () => browser.run<number>(`return document.querySelectorAll('[data-bright-slot-measure]').length`);

  it.each([
    ['blog', 'blog-header', '940 × 198', 'straight'],
    ['tuesday', 'class-header', '1120 × 280', 'corners of 12 px'],
    ['chat', 'chat-avatar', '128 × 128', 'round'],
    ['make', 'menu-tile', '160 × 100', 'corners of 6 px'],
    ['pay', 'checkout-header', '750 × 90', 'straight'],
  ])(
    'on “%s”, of another origin, it measures %s as getBoundingClientRect does and hands it back',
    async (path, slot, size, shape) => {
      await browser.go(`${app.site}/${path}`);
      const home = await browser.driver.getWindowHandle();
      const before = await browser.run<string>('return document.documentElement.outerHTML');
      const rect = await browser.run<{ x: number; y: number; width: number; height: number }>(
        `const r = document.querySelector('figure[data-slot="' + arguments[0] + '"] img').getBoundingClientRect(); return { x: r.x, y: r.y, width: r.width, height: r.height }`,
        slot,
      );
      await start();
      await browser.driver
        .actions()
        .move({ x: Math.round(rect.x + rect.width / 2), y: Math.round(rect.y + rect.height / 2) })
        .perform();
      const said = await browser.run<string>(
        `return document.querySelector('[data-bright-slot-measure]').shadowRoot.querySelector('.said').textContent`,
      );
      expect(said).toContain(`${size} px`);
      await browser.driver.actions().click().perform();
      await browser.driver.wait(async () => (await browser.driver.getAllWindowHandles()).length === 2, 10_000);
      const [other] = (await browser.driver.getAllWindowHandles()).filter((h) => h !== home);
      // Nothing stays behind on the page.
      expect(await browser.run<string>('return document.documentElement.outerHTML')).toBe(before);
      await browser.driver.switchTo().window(other!);
      await browser.find('bs-live-finder dl', 20_000);
      const address = await browser.driver.getCurrentUrl();
      const measured = JSON.parse(decodeURIComponent(address.split('#measured=')[1]!)) as {
        width: number;
        height: number;
        picture: { address: string };
      };
      expect([measured.width, measured.height]).toEqual([rect.width, rect.height]);
      expect(measured.picture.address).toContain(`${app.site}/first/${slot}`);
      await panelSays(shape);
      if (slot === 'menu-tile') await panelSays('7, gaps of 20 px');
      if (slot === 'checkout-header') await panelSays('1 px, #cfc6b4');
      if (slot === 'blog-header') {
        await panelSays('#fbf8f2');
        await browser.press('Look at the picture there');
        await panelSays('It suits the slot.');
        await browser.press('Add to the book');
        await browser.seeText('“Notes from the Wheel”, 940 × 198, is in the book.');
      }
      await browser.driver.close();
      await browser.driver.switchTo().window(home);
    },
  );
  it('goes by Tab, gives a text where no window opens, takes that back by paste, and Escape ends it', async () => {
    await browser.go(`${app.site}/window`);
    await browser.run('window.open = () => null');
    await start();
    await browser.keys(Key.TAB, Key.TAB);
    await browser.keys(Key.ENTER);
    const text = await browser.run<string>(
      `return document.querySelector('[data-bright-slot-measure]').shadowRoot.querySelector('textarea').value`,
    );
    const rect = await browser.run<number[]>(
      `const r = document.images[1].getBoundingClientRect(); return [r.width, r.height]`,
    );
    expect(JSON.parse(text)).toMatchObject({ width: rect[0], height: rect[1] });
    await browser.keys(Key.ESCAPE);
    expect(await onPage()).toBe(0);
    await open('?way=live');
    const paste = (t: string) =>
      browser.run(
        `const d = new DataTransfer(); d.setData('text/plain', arguments[0]); document.dispatchEvent(new ClipboardEvent('paste', { clipboardData: d, bubbles: true, cancelable: true }))`,
        t,
      );
    await paste('{"version":1,"width":"<b>"}');
    await panelSays('That is not what the measuring bookmark gives.');
    await paste(text);
    await panelSays('251.25 × 600 px');
  });
});

describe('the current picture', () => {
  it('is diagnosed against a slot: how much is seen first, what is wasted, what to do', async () => {
    await open('?way=picture');
    const bytes = readFileSync(join(root, 'demo/logos/old-header.jpg'));
    await browser.dropFiles('bs-picture-finder', [{ name: 'old-header.jpg', type: 'image/jpeg', bytes }]);
    const option = await browser.find('bs-slot-select option[value="checkout-header"]');
    await option.click();
    await panelSays('In Checkout header');
    const said = await panel();
    expect(said).toMatch(/Too tall for the slot, by \d+ %/);
    expect(said).toMatch(/A visitor first sees the top 90 of its \d+ px: \d+ %/);
    expect(said).toMatch(/are sent for nothing/);
    expect(said).toMatch(/Empty margins\s+\d+ px at the top/);
  });
  it('comes by its address too, and what cannot be fetched is said', async () => {
    await open('?way=picture');
    await fill('Address', `${app.site}/first/blog-header.jpg`);
    await browser.press('Fetch');
    await panelSays('940 × 198');
    // It is the site's own slot that shows it.
    await panelSays('“Blog header”, which is in the book');
    await browser.press('Use that slot');
    await browser.find('bs-slot-card');
    await open('?way=picture');
    await fill('Address', `${app.app}/slots`);
    await browser.press('Fetch');
    await panelSays('own network');
  });
});

describe('graphics and their slots', () => {
  it('keep the slot they were made for, say that it was edited, and follow or keep it', async () => {
    await open();
    await browser.press('Blog header, 940 × 198, ottermill.example');
    await browser.press('Edit');
    await fill('Width', '960');
    await (await field('Width')).sendKeys(Key.TAB);
    await fill('Height', '210');
    await (await field('Height')).sendKeys(Key.TAB);
    await browser.press('Save');
    await browser.seeText('“Blog header” is changed.');
    await browser.go(`${app.app}/graphics`);
    await browser.seeText('the slot is 960 × 210 now');
    await browser.go(`${app.app}/graphics/demo-autumn-glazes`);
    await browser.exact();
    await browser.seeText('960 × 210 instead of 940 × 198');
    expect(await (await browser.find('.lit canvas')).getAttribute('aria-label')).toContain('940 × 198');
    await browser.press('Follow it');
    await browser.driver.wait(
      async () => (await (await browser.find('.lit canvas')).getAttribute('aria-label'))?.includes('960 × 210'),
      5000,
      'It did not follow',
    );
    await browser.saved();
    expect(await browser.all('.banner')).toHaveLength(0);
    await browser.press('Undo');
    await browser.press('Keep 940 × 198');
    await browser.driver.wait(async () => (await browser.all('.banner')).length === 0, 5000);
    await browser.driver.navigate().refresh();
    await browser.exact();
    await new Promise((r) => setTimeout(r, 500));
    expect(await browser.all('.banner')).toHaveLength(0);
  });
});

it('breaks no rule of its Content-Security-Policy', async () => {
  await open('?way=live');
  expect(await browser.violations()).toEqual([]);
});
