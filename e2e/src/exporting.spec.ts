// Covers: web/export, web/output, web/pixels, core/export
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import sharp from 'sharp';
import { accessible } from './harness/accessible';
import { Key } from './harness/browser';
import { chooseFormat, foundFile } from './harness/exporting';
import { withApp } from './harness/suite';
import { download, findings, startBare } from './harness/workbench';

// The lightest file that looks the same, its densities and the code that loads them.
const { app, browser } = withApp({ width: 1280, height: 800 });

let folder: string;
let page: Server;
let html = '';
const seen: string[] = [];
/** What a page that has only the exported files and the copied code is asked for. */
const asked: string[] = [];
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'bright-slot-files-'));
  page = createServer((request, response) => {
    const name = basename(decodeURIComponent(request.url!.split('?')[0]!));
    if (request.url === '/page.html') {
      response.setHeader('Content-Type', 'text/html; charset=utf-8');
      response.end(`<!doctype html><meta charset="utf-8"><title>A page</title><body style="margin:0">${html}`);
      return;
    }
    asked.push(name);
    try {
      response.end(readFileSync(join(folder, name)));
    } catch {
      response.statusCode = 404;
      response.end();
    }
  });
  await new Promise<void>((done) => page.listen(0, '127.0.0.1', done));
});
afterAll(() => {
  page.close();
  rmSync(folder, { recursive: true });
});

const said = (css: string) =>
  browser.run<string>(`return document.querySelector(arguments[0])?.textContent ?? ''`, css);
const toExport = async (id: string) => {
  await browser.visit(`${app.app}/graphics/${id}/export`);
  await foundFile(browser);
};
const tick = (density: number) =>
  browser.run(`document.querySelectorAll('bs-page-code .ticks input')[arguments[0]].click()`, density - 1);
const code = () => browser.run<string>(`return document.querySelector('bs-page-code textarea').value`);
/** What a page with the code loads where the screen has so many device px a CSS px. */
async function loadedAt(density: number): Promise<{ asked: string[]; width: number; height: number }> {
  // A page that stands there while the density changes would load again.
  await browser.driver.get('about:blank');
  await browser.driver.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
    width: 1280,
    height: 800,
    deviceScaleFactor: density,
    mobile: false,
  });
  const { port } = page.address() as AddressInfo;
  asked.length = 0;
  await browser.driver.get(`http://127.0.0.1:${port}/page.html`);
  await browser.driver.wait(() => asked.some((n) => !n.includes('favicon')), 10_000, 'Nothing was loaded');
  const box = await browser.run<{ width: number; height: number }>(
    `const e = document.querySelector('img, .header');
     return Promise.resolve(e.decode?.()).then(() => { const r = e.getBoundingClientRect(); return { width: r.width, height: r.height }; })`,
  );
  const loaded = [...new Set(asked)].filter((n) => !n.includes('favicon'));
  await browser.driver.get('about:blank');
  await browser.driver.sendDevToolsCommand('Emulation.clearDeviceMetricsOverride', {});
  return { asked: loaded, ...box };
}

it('a header leaves in the lightest form that looks the same, at two densities, with its code, in six actions', async () => {
  await browser.visit(`${app.app}/graphics/demo-notes`);
  await browser.find('[data-settled="true"]', 30_000);
  let actions = 0;
  const act = async (work: Promise<unknown>) => {
    actions++;
    await work;
  };
  await act(browser.press('Export', 'a'));
  await foundFile(browser);
  expect(await said('.itself[role=status]')).toContain('the lightest that looks the same');
  await act(tick(2));
  await act(browser.press('Code for the page', 'summary'));
  html = await code();
  await act(browser.press('Save 2 files in one zip'));
  await browser.seeText('2 files are in', 60_000);
  const zip = await download(browser, '.zip', seen);
  seen.push(basename(zip));
  console.info(`a header, two densities and its code: ${actions} actions`);
  expect(actions).toBeLessThanOrEqual(6);
  // Info-ZIP’s own check, and its own reading.
  execFileSync('unzip', ['-t', zip]);
  const names = execFileSync('unzip', ['-Z1', zip], { encoding: 'utf8' }).trim().split('\n');
  execFileSync('unzip', ['-o', '-q', zip, '-d', folder]);
  expect(names).toHaveLength(2);
  expect(names[1]).toBe(names[0]!.replace(/\.(\w+)$/, '-2x.$1'));
  const sizes = await Promise.all(names.map((n) => sharp(join(folder, n)).metadata()));
  expect(sizes.map((s) => [s.width, s.height])).toEqual([
    [940, 198],
    [1880, 396],
  ]);
  // Extension and content agree.
  for (const [i, n] of names.entries())
    expect(n.endsWith({ jpeg: 'jpg', webp: 'webp', png: 'png' }[sizes[i]!.format as 'jpeg'])).toBe(true);
  for (const [density, name] of [
    [1, names[0]],
    [2, names[1]],
    [3, names[1]],
  ] as const)
    expect(await loadedAt(density)).toEqual({ asked: [name], width: 940, height: 198 });
});

it('a picture with another format for older browsers, and CSS, load the right file too', async () => {
  await toExport('demo-notes');
  await chooseFormat(browser, 'WebP');
  await browser.press('Code for the page', 'summary');
  await browser.press('picture');
  html = await code();
  expect(html).toContain('<source type="image/webp"');
  await browser.press('Save 4 files in one zip');
  await browser.seeText('4 files are in', 60_000);
  const zip = await download(browser, '.zip', seen);
  seen.push(basename(zip));
  execFileSync('unzip', ['-o', '-q', zip, '-d', folder]);
  const names = execFileSync('unzip', ['-Z1', zip], { encoding: 'utf8' }).trim().split('\n');
  expect(names.map((n) => /(-2x)?\.\w+$/.exec(n)![0])).toEqual(['.webp', '-2x.webp', '.jpg', '-2x.jpg']);
  await browser.press('CSS');
  const css = await code();
  expect((await loadedAt(2)).asked).toEqual([names[1]]);
  html = `<style>${css}</style><div class="header"></div>`;
  expect(await loadedAt(1)).toEqual({ asked: [names[0]], width: 940, height: 198 });
  expect((await loadedAt(2)).asked).toEqual([names[1]]);
});

it('the formats side by side: bytes, difference, loupes, curve; the canvas beside the file at 100 %', async () => {
  await toExport('demo-kiln-opening');
  const rows = await browser.run<string[]>(
    `return [...document.querySelectorAll('.format')].map((e) => e.textContent)`,
  );
  expect(rows).toHaveLength(3);
  for (const row of rows) expect(row).toMatch(/[\d,]+ bytes.*(looks the same|identical|can be seen).*s to load/s);
  // Of the three the lightest is chosen.
  const bytes = rows.map((r) => Number(/([\d,]+) bytes/.exec(r)![1]!.replaceAll(',', '')));
  const chosen = await browser.run<number>(
    `return [...document.querySelectorAll('.format')].findIndex((e) => e.getAttribute('aria-checked') === 'true')`,
  );
  expect(bytes[chosen]).toBe(Math.min(...bytes));
  await browser.find('bs-loupes[data-drawn="3"]', 20_000);
  // What the loupes show is not empty, and the two of each are nearly the same.
  const pairs = await browser.run<number[]>(
    `const of = (c) => c.getContext('2d').getImageData(0, 0, c.width, c.height).data;
     return [...document.querySelectorAll('bs-loupes .pair')].map((p) => { const [a, b] = [...p.querySelectorAll('canvas')].map(of);
       let sum = 0; for (let i = 0; i < a.length; i++) sum += Math.abs(a[i] - b[i]); return sum / a.length; })`,
  );
  for (const p of pairs) expect([p > 0, p < 12]).toEqual([true, true]);
  await browser.driver.wait(async () => !(await said('.curve [role=status]')), 60_000);
  const curve = await browser.run<string>(
    `return document.querySelector('bs-weight-curve canvas').getAttribute('aria-label')`,
  );
  for (const way of ['JPEG 4:4:4', 'JPEG 4:2:0', 'WebP']) expect(curve).toContain(`${way}: `);
  await browser.driver.sendDevToolsCommand('Browser.grantPermissions', {
    permissions: ['clipboardReadWrite', 'clipboardSanitizedWrite'],
  });
  await browser.press('Copy the picture');
  await browser.seeText('It is in the clipboard.');
  const copied = await browser.run<string>(
    `return navigator.clipboard.read().then((all) => all[0].getType('image/png')).then((b) => createImageBitmap(b)).then((i) => i.width + ' × ' + i.height)`,
  );
  expect(copied).toBe('851 × 315');
  await browser.press('Beside the canvas');
  const split = await browser.find('bs-split-view .both');
  expect((await split.getRect()).width).toBe(851);
  await browser.run(`document.querySelector('bs-split-view input').focus()`);
  await browser.keys(Key.HOME);
  await browser.driver.wait(
    () =>
      browser.run<boolean>(
        `return getComputedStyle(document.querySelector('bs-split-view .file')).clipPath.includes('0%')`,
      ),
    5000,
  );
  await accessible(browser);
});

it('a limit is met by itself; where nothing that looks the same meets it, that is said with what helps', async () => {
  await toExport('demo-kiln-opening');
  const most = await browser.find('.limit input');
  await browser.fill(most, `20${Key.TAB}`);
  await browser.seeText('No file under 20 kB looks the same', 60_000);
  await browser.seeText('a limit of that would do');
  await foundFile(browser);
  const chosen = await said('.format[aria-checked="true"]');
  const bytes = Number(/([\d,]+) bytes/.exec(chosen)![1]!.replaceAll(',', ''));
  expect(bytes).toBeLessThanOrEqual(20_000);
  await browser.press('Save file');
  const file = await download(browser, chosen.startsWith('JPEG') ? '.jpg' : '.webp', seen);
  seen.push(basename(file));
  expect(readFileSync(file).length).toBeLessThanOrEqual(20_000);
  await browser.fill(await browser.find('.limit input'), `90${Key.TAB}`);
  await browser.press('Best within it');
  await browser.driver.wait(async () => (await said('.itself[role=status]')).includes('Chosen by you'), 60_000);
  const best = await said('.format[aria-checked="true"]');
  const had = Number(/([\d,]+) bytes/.exec(best)![1]!.replaceAll(',', ''));
  expect([had <= 90_000, had > 60_000]).toEqual([true, true]);
  await browser.press('Choose the lightest that looks the same');
  await browser.driver.wait(async () => (await said('.itself[role=status]')).includes('Chosen by itself'), 60_000);
});

it('what Export puts over a file or takes from it is told beside the canvas, and off by a press', async () => {
  const told = (title: string, there = true) =>
    browser.driver.wait(
      async () => (await findings(browser)).some((f) => f.startsWith(title)) === there,
      30_000,
      `“${title}” was ${there ? 'not ' : ''}told`,
    );
  const toCanvas = () => browser.visit(`${app.app}/graphics/demo-kiln-opening`);
  await toExport('demo-kiln-opening');
  await browser.fill(await browser.find('.limit input'), `20${Key.TAB}`);
  await browser.seeText('No file under 20 kB looks the same', 60_000);
  await toCanvas();
  await told('The file can be told from the canvas');
  await toExport('demo-kiln-opening');
  await browser.fill(await browser.find('.limit input'), `${Key.BACK_SPACE}${Key.TAB}`);
  await foundFile(browser);
  await browser.run(`document.querySelector('bs-watermark-here .tick input').click()`);
  await browser.seeText('The same for all your graphics');
  await browser.press('All over');
  await browser.seeText('It lies over');
  await browser.saved();
  await toCanvas();
  await told('The file can be told from the canvas', false);
  await told('The watermark lies over');
  await browser.press('Leave it off this file');
  await told('The watermark lies over', false);
});

it('a slot that takes AVIF gets one: it opens elsewhere, and says that it is sRGB', async () => {
  await browser.visit(`${app.app}/slots`);
  await browser.press('Slim header, 960');
  await browser.press('Edit');
  await browser.press('Everything else about it', 'summary');
  await browser.press('AVIF');
  await browser.press('Save');
  await browser.driver.wait(async () => (await browser.all('bs-slot-editor')).length === 0, 10_000);
  await browser.press('Start a graphic');
  await startBare(browser);
  await browser.press('Add');
  await browser.menu('Words');
  await browser.saved();
  await browser.press('Export', 'a');
  await foundFile(browser);
  await chooseFormat(browser, 'AVIF');
  await browser.press('Save file');
  const file = await download(browser, '.avif', seen);
  const meta = await sharp(file).metadata();
  expect(meta.compression).toBe('av1');
  const told = execFileSync('exiftool', ['-ColorPrimaries', '-TransferCharacteristics', file], { encoding: 'utf8' });
  expect(told).toMatch(/709[\s\S]*(sRGB|61966)/);
});

/** The files of the newest zip, by name, in their order. */
async function newestZip(): Promise<Map<string, Buffer>> {
  const zip = await download(browser, '.zip', seen);
  seen.push(basename(zip));
  execFileSync('unzip', ['-t', zip]);
  const names = execFileSync('unzip', ['-Z1', zip], { encoding: 'utf8' }).trim().split('\n');
  return new Map(names.map((n) => [n, execFileSync('unzip', ['-p', zip, n], { maxBuffer: 64e6 })]));
}

it('choices kept as a routine: the same again for another graphic in two actions, to the byte', async () => {
  await toExport('demo-notes');
  await browser.fill(await browser.find('bs-routines-here form input'), 'Blog headers');
  await browser.press('Keep as a routine');
  await browser.seeText('“Blog headers” is kept, for every graphic of “Blog header”.');
  await browser.visit(`${app.app}/graphics/demo-autumn-glazes`);
  await browser.find('[data-settled="true"]', 30_000);
  let actions = 0;
  await (actions++, browser.press('Export', 'a'));
  await (actions++, browser.press('Run “Blog headers”'));
  await browser.seeText('2 files are in', 90_000);
  const first = await newestZip();
  console.info(`the same again: ${actions} actions`);
  expect([...first.keys()].map((n) => /(-2x)?\.\w+$/.exec(n)![0].replace(/\w+$/, ''))).toEqual(['.', '-2x.']);
  expect(actions).toBe(2);
  await browser.press('Run “Blog headers”');
  await browser.driver.wait(async () => (await browser.all('bs-routines-here .made')).length === 2, 60_000);
  const second = await newestZip();
  expect([...second.keys()]).not.toEqual([...first.keys()]);
  const bytes = (files: Map<string, Buffer>) => [...files.values()].map((f) => f.toString('base64'));
  expect(bytes(second)).toEqual(bytes(first));
});

it('several graphics by a routine in one go, with a report; called off, nothing is saved', async () => {
  await browser.visit(`${app.app}/graphics`);
  await browser.press('Export several', 'a');
  await browser.press('Blog headers', 'label');
  for (const name of ['Notes from the Wheel', 'Autumn glazes', 'Evening classes'])
    await browser.press(name, 'li//label');
  await accessible(browser);
  await browser.press('Make 6 files');
  await browser.press('Cancel');
  await browser.seeText('Called off: nothing was saved.', 60_000);
  await browser.press('Make 6 files');
  await browser.seeText('6 files are in', 180_000);
  const files = await newestZip();
  expect(files.size).toBe(6);
  const rows = await browser.run<string[]>(
    `return [...document.querySelectorAll('.report tbody tr')].map((r) => r.textContent)`,
  );
  expect(rows).toHaveLength(6);
  // A letter tells names apart, and each row speaks of a file that is there.
  for (const [i, name] of [...files.keys()].entries()) expect(rows[i]).toContain(name);
  await accessible(browser);
});
