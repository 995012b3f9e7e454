// Covers: web/export, web/output, core/export, core/paint, core/formats, core/backup
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { Resvg } from '@resvg/resvg-js';
import { strToU8, unzipSync, zipSync } from 'fflate';
import sharp from 'sharp';
import { accessible } from './harness/accessible';
import { Browser } from './harness/browser';
import { chooseFormat, foundFile } from './harness/exporting';
import { withApp } from './harness/suite';
import { download, drop, dropOn, exportedPng, newGraphic, things } from './harness/workbench';

// Graphics in open formats, for other programs and other browsers; and under a watermark of one's own.
const { app, browser } = withApp({ width: 1280, height: 800 });

const seen: string[] = [];
const toExport = async (id: string) => {
  await browser.visit(`${app.app}/graphics/${id}/export`);
  await foundFile(browser);
};
async function saved(as: string, ending: string): Promise<string> {
  await browser.press(`Save as ${as}`);
  await browser.driver.wait(
    () =>
      browser.run<boolean>(
        `return /^Saved as .*${ending.replace('.', '\\.')},/.test(document.querySelector('bs-other-programs [role=status]').textContent.trim())`,
      ),
    30_000,
  );
  const file = await download(browser, ending, seen);
  seen.push(basename(file));
  return file;
}

interface Raw {
  readonly data: Buffer;
  readonly width: number;
  readonly height: number;
}
async function rawOf(picture: Buffer | Uint8Array): Promise<Raw> {
  const { data, info } = await sharp(picture).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}
/** Mean difference of a channel, 0 to 255; and the share of pixels off by more than 24. */
function off(a: Raw, b: Raw): { mean: number; far: number } {
  expect([a.width, a.height]).toEqual([b.width, b.height]);
  let [sum, far] = [0, 0];
  for (let i = 0; i < a.data.length; i += 4) {
    const each = [0, 1, 2, 3].map((c) => Math.abs(a.data[i + c]! - b.data[i + c]!));
    sum += each.reduce((n, d) => n + d, 0);
    if (Math.max(...each) > 24) far++;
  }
  return { mean: sum / a.data.length, far: far / (a.data.length / 4) };
}
/** An SVG as Chromium paints it, at its own size. */
async function byChromium(svg: Buffer): Promise<Raw> {
  const png = await browser.driver.executeAsyncScript<string>(
    `const [text, done] = arguments;
     const image = new Image();
     image.onload = () => { const c = document.createElement('canvas'); c.width = image.width; c.height = image.height;
       c.getContext('2d').drawImage(image, 0, 0); done(c.toDataURL().split(',')[1]); };
     image.onerror = () => done('');
     image.src = URL.createObjectURL(new Blob([text], { type: 'image/svg+xml' }));`,
    svg.toString('utf8'),
  );
  return rawOf(Buffer.from(png, 'base64'));
}
const byResvg = (svg: Buffer): Promise<Raw> =>
  rawOf(new Resvg(svg.toString('utf8'), { font: { loadSystemFonts: false } }).render().asPng());

it.each(['demo-notes', 'demo-kiln-opening', 'demo-shop-sign'])(
  'as SVG %s is painted by Chromium and by resvg as its PNG is',
  async (id) => {
    await toExport(id);
    const png = await rawOf(readFileSync(await saved('PNG', '.png')));
    const svg = readFileSync(await saved('SVG', '.svg'));
    for (const [who, painted] of [
      ['Chromium', await byChromium(svg)],
      ['resvg', await byResvg(svg)],
    ] as const) {
      const { mean, far } = off(png, painted);
      console.info(
        `${id} by ${who}: mean ${mean.toFixed(2)}, ${(far * 100).toFixed(2)} % of pixels off by more than 24`,
      );
      expect(mean).toBeLessThan(1.5);
      expect(far).toBeLessThan(0.02);
    }
    // Words are outlines: what stands in words is its title alone.
    expect(svg.toString('utf8')).not.toContain('<text');
  },
);

it('beside the other formats, where the slot takes it: it leaves as SVG, in one file, with its code, and goes on the site', async () => {
  await newGraphic(browser, app, 'Logo, transparent');
  await drop(browser, { name: 'mark.svg', bytes: readFileSync('demo/logos/ottermill.svg') });
  await browser.driver.wait(async () => (await things(browser)).join().includes('mark'), 15_000);
  await browser.saved();
  await browser.press('Export', 'a');
  await foundFile(browser);
  const told = () =>
    browser.run<string>(
      `return [...document.querySelectorAll('.format')].find((f) => f.textContent.startsWith('SVG')).textContent`,
    );
  await browser.driver.wait(async () => (await told()).includes('bytes'), 20_000);
  expect(await told()).toMatch(/looks the same, sharp at every size/);
  const png = await rawOf(readFileSync(await saved('PNG', '.png')));
  await chooseFormat(browser, 'SVG');
  const code = () => browser.run<string>(`return document.querySelector('bs-page-code textarea').value`);
  await browser.driver.wait(async () => (await code()).includes('.svg'), 15_000);
  expect(await code()).toMatch(/^<img src="[a-z0-9-]+\.svg" width="512" height="512" alt="">$/);
  await browser.press('Save file');
  const path = await download(browser, '.svg', seen);
  seen.push(basename(path));
  const svg = readFileSync(path);
  expect(`${svg.length.toLocaleString('en-GB')} bytes`).toBe(/[\d,]+ bytes/.exec(await told())![0]);
  expect(off(png, await byChromium(svg)).mean).toBeLessThan(0.3);
  expect(off(png, await byResvg(svg)).mean).toBeLessThan(0.6);
  await accessible(browser);
  await browser.press('Put on the site');
  await browser.fill(await browser.find('mat-dialog-container textarea'), 'The mark of the pottery');
  await browser.press('Send with this');
  await browser.seeText('It is on the site.', 30_000);
  const page = await (await fetch(`${app.site}/about`)).text();
  expect(page).toMatch(/<img[^>]*src="[^"]*\.svg"/);
});

it('as OpenRaster: its layers, laid over one another by other code, are its PNG; it comes back as a graphic', async () => {
  await toExport('demo-notes');
  const png = readFileSync(await saved('PNG', '.png'));
  const path = await saved('OpenRaster', '.ora');
  execFileSync('unzip', ['-t', path]);
  const bytes = readFileSync(path);
  // OpenRaster, “File layout”: the type comes first, stored, so that it can be told by the first bytes.
  expect(bytes.subarray(30, 54).toString('latin1')).toBe('mimetypeimage/openraster');
  const files = unzipSync(bytes);
  const xml = new TextDecoder().decode(files['stack.xml']);
  const layers = [...xml.matchAll(/<layer name="([^"]*)" src="([^"]*)" x="(-?\d+)" y="(-?\d+)" opacity="([\d.]+)"/g)];
  expect(layers.length).toBeGreaterThanOrEqual(3);
  const { width, height } = await sharp(png).metadata();
  const composed = await sharp({ create: { width, height, channels: 4, background: '#00000000' } })
    .composite(
      layers
        .toReversed()
        .map(([, , src, x, y]) => ({ input: Buffer.from(files[src!]!), left: Number(x), top: Number(y) })),
    )
    .png()
    .toBuffer();
  for (const [, , , , , opacity] of layers) expect(opacity).toBe('1');
  const whole = await rawOf(png);
  expect(off(whole, await rawOf(files['mergedimage.png']!)).mean).toBe(0);
  expect(off(whole, await rawOf(composed)).mean).toBeLessThan(0.6);
  const thumbnail = await sharp(Buffer.from(files['Thumbnails/thumbnail.png']!)).metadata();
  expect(Math.max(thumbnail.width, thumbnail.height)).toBe(256);

  await browser.visit(`${app.app}/graphics`);
  await browser.find('bs-graphic-card');
  await dropOn(browser, 'bs-graphics-page', { name: 'notes.ora', bytes });
  await browser.find('[data-settled="true"]', 30_000);
  await browser.exact();
  const back = await exportedPng(browser);
  expect(off(whole, { ...back, data: (await rawOf(back.file)).data }).mean).toBeLessThan(0.6);
});

it('OpenRaster of another program: stacks within stacks, hidden layers; what cannot be kept is told', async () => {
  const solid = (width: number, height: number, background: string) =>
    sharp({ create: { width, height, channels: 4, background } })
      .png()
      .toBuffer();
  const file = zipSync({
    mimetype: [strToU8('image/openraster'), { level: 0 }],
    'stack.xml': strToU8(`<?xml version='1.0' encoding='UTF-8'?>
<image w="300" h="200"><stack>
 <stack name="Front things" x="20" y="30"><layer name="A jug" src="data/jug of mine.png" x="5" y="6" opacity="0.5"/></stack>
 <layer name="Hidden" src="data/b.png" visibility="hidden"/>
 <layer name="Ground" src="data/b.png" composite-op="svg:multiply"/>
 <layer name="Torn" src="data/none.png"/>
</stack></image>`),
    'data/jug of mine.png': await solid(40, 30, '#a4512f'),
    'data/b.png': await solid(300, 200, '#f4e7cb'),
  });
  await browser.visit(`${app.app}/graphics`);
  await browser.find('bs-graphic-card');
  await dropOn(browser, 'bs-graphics-page', { name: 'shelf.ora', bytes: Buffer.from(file) });
  await browser.seeText('“shelf” was brought in. Not as it was there: layers with a blend mode: 1', 30_000);
  await browser.seeText('the layer “Torn”');
  await browser.press('Open shelf', 'a');
  await browser.find('[data-settled="true"]', 30_000);
  expect((await things(browser)).join(' ')).toContain('Front things · A jug');
  const png = await exportedPng(browser);
  const { data } = await rawOf(png.file);
  const at = (x: number, y: number) => [...data.subarray((y * 300 + x) * 4, (y * 300 + x) * 4 + 3)];
  expect([png.width, png.height]).toEqual([300, 200]);
  expect(at(5, 5)).toEqual([0xf4, 0xe7, 0xcb]);
  // Half of #a4512f over #f4e7cb, at 20 + 5, 30 + 6.
  for (const [c, v] of at(26, 37).entries()) expect(Math.abs(v - [0xcc, 0x9c, 0x7d][c]!)).toBeLessThanOrEqual(2);
  expect(at(24, 37)).toEqual([0xf4, 0xe7, 0xcb]);

  await browser.visit(`${app.app}/graphics`);
  await browser.find('bs-graphic-card');
  for (const [name, bytes] of [
    ['cut.ora', file.subarray(0, file.length / 2)],
    ['empty.ora', strToU8('')],
    ['picture.ora', await solid(4, 4, '#ffffff')],
  ] as const) {
    await dropOn(browser, 'bs-graphics-page', { name, bytes: Buffer.from(bytes) });
    await browser.seeText(`“${name}” cannot be read as OpenRaster`);
  }
});

it('as a bundle: brought back in another browser it is the same graphic, byte for byte as it leaves', async () => {
  await toExport('demo-notes');
  const png = readFileSync(await saved('PNG', '.png'));
  const path = await saved('Bundle', '.zip');
  execFileSync('unzip', ['-t', path]);
  const names = execFileSync('unzip', ['-Z1', path], { encoding: 'utf8' }).trim().split('\n');
  expect(names.filter((n) => n.startsWith('graphics/'))).toHaveLength(1);
  expect(names.filter((n) => n.startsWith('assets/'))).toHaveLength(1);
  const second = await Browser.open({ width: 1280, height: 800 });
  try {
    await second.go(`${app.app}/graphics`);
    await second.find('bs-first-steps', 30_000);
    await dropOn(second, 'bs-graphics-page', { name: 'notes.zip', bytes: readFileSync(path) });
    await second.seeText('Brought back 1 graphic and 1 picture', 30_000);
    await second.press('Open Notes from the Wheel', 'a');
    await second.find('[data-settled="true"]', 30_000);
    await second.exact();
    const back = await exportedPng(second);
    expect(off(await rawOf(png), { ...back, data: (await rawOf(back.file)).data }).mean).toBe(0);
    expect(await second.errors()).toEqual([]);
  } finally {
    await second.close();
  }
});

it('a watermark of one’s own: over the file, not on the canvas; where there is room; once or all over', async () => {
  await toExport('demo-notes');
  const before = await rawOf(readFileSync(await saved('PNG', '.png')));
  const tick = async () => {
    await browser.run(`document.querySelector('bs-watermark-here input[type=checkbox]').click()`);
  };
  await tick();
  await browser.find('bs-watermark-here bs-slider');
  await foundFile(browser);
  const once = await rawOf(readFileSync(await saved('PNG', '.png')));
  /** Where two pictures differ, as a box. */
  const differs = (a: Raw, b: Raw) => {
    let [left, top, right, bottom, n] = [a.width, a.height, 0, 0, 0];
    for (let i = 0; i < a.data.length; i += 4)
      if (Math.abs(a.data[i]! - b.data[i]!) > 12) {
        const [x, y] = [(i / 4) % a.width, Math.floor(i / 4 / a.width)];
        [left, top, right, bottom, n] = [
          Math.min(left, x),
          Math.min(top, y),
          Math.max(right, x),
          Math.max(bottom, y),
          n + 1,
        ];
      }
    return { left, top, right, bottom, share: n / (a.width * a.height) };
  };
  const mark = differs(before, once);
  // Bottom right, off the words that stand at the left.
  expect(mark.share).toBeGreaterThan(0.002);
  expect(mark.left).toBeGreaterThan(500);
  expect(mark.top).toBeGreaterThan(90);
  expect(
    await browser.run(`return document.querySelector('bs-watermark-here').textContent.includes('It lies over')`),
  ).toBe(false);
  await browser.press('All over');
  await browser.seeText('It lies over Title, Line.');
  await foundFile(browser);
  const all = differs(before, await rawOf(readFileSync(await saved('PNG', '.png'))));
  expect(all.left).toBeLessThan(150);
  expect(all.right).toBeGreaterThan(800);
  await accessible(browser);
  // Another graphic carries it only where it says so; what it is, is the same.
  await toExport('demo-kiln-opening');
  expect(await browser.all('bs-watermark-here bs-slider')).toHaveLength(0);
  // Without it the file is as it was.
  await toExport('demo-notes');
  await tick();
  await foundFile(browser);
  expect(off(before, await rawOf(readFileSync(await saved('PNG', '.png')))).mean).toBe(0);
  await browser.visit(`${app.app}/graphics/demo-notes`);
});
