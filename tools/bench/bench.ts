/**
 * Speed, as ratios within this run: absolute times say little on a noisy machine.
 * `npm run bench`; the part in the browser needs the built app (`npm run build`).
 */
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import {
  compiledRows,
  cutFlat,
  createReporter,
  edgeBlurs,
  layoutWords,
  measureSlot,
  palettesFor,
  reduce,
  groundSampler,
  seenThrough,
  sharpestBlur,
  sourceNeeded,
  usualCutout,
  type CompiledRows,
} from '../../core/src/index';
import { blank, photo, withLayers, words } from '../../core/src/testing/samples';
import { contextOf } from '../../core/src/testing/context';
import { reference, ssim } from '../../core/src/testing/reference';
import { realShaper } from '../../core/src/testing/type';
import { startApp, root } from '../../e2e/src/harness/app';
import { Browser, Key } from '../../e2e/src/harness/browser';
import { startBare } from '../../e2e/src/harness/workbench';
import { history } from './history';
import { leaving } from './files';
import { sets } from './sets';

/** `--only alone`, `files` or `interaction`: that part; without it all of them. */
const part = process.argv.includes('--only') ? process.argv[process.argv.indexOf('--only') + 1] : undefined;
const only = (name: 'alone' | 'files' | 'interaction') => part === undefined || part === name;

/** The middle of five times, ms, after one that does not count. */
async function time(work: () => unknown, times = 5): Promise<number> {
  await work();
  const all: number[] = [];
  for (let i = 0; i < times; i++) {
    const start = performance.now();
    await work();
    all.push(performance.now() - start);
  }
  return all.sort((a, b) => a - b)[Math.floor(times / 2)]!;
}

const rows: [string, string, string][] = [];
const row = (what: string, figure: number, goal: string, unit = '×') =>
  rows.push([what, `${figure.toFixed(unit === '' ? 5 : 2)} ${unit}`.trim(), goal]);

const pano = join(root, 'demo/pictures/pano.jpg');
const shaper = await realShaper();

/** What needs no browser. */
async function alone() {
  {
    const { data, info } = await sharp(pano).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    const natural = { width: info.width, height: info.height };
    const box = { x: 0, y: 0, width: 1600, height: 400 };
    const need = { image: box, shown: box, out: box };
    const part = sourceNeeded(natural, need)!;
    const pixels = { ...natural, data: new Uint8ClampedArray(data) };
    const { instance } = await WebAssembly.instantiate(readFileSync(join(root, '.cache/kernel/reduce.wasm')), {});
    const kernel = compiledRows(instance.exports as unknown as CompiledRows);
    const plain = await time(() => reduce(pixels, part, natural, need, true), 3);
    const ours = await time(() => reduce(pixels, part, natural, need, true, kernel), 3);
    const raw = { raw: { width: info.width, height: info.height, channels: 4 as const } };
    const theirs = await time(() => sharp(data, raw).resize(1600, 400, { kernel: 'lanczos3' }).raw().toBuffer(), 3);
    row('reduce 6000 × 1500 to 1600 × 400, against sharp from the same pixels', ours / theirs, '≤ 1.0');
    // The quality of a quarter of it, since the reference is slow: the same scale, the same kernel.
    const corner = { left: 1500, top: 300, width: 1500, height: 750 };
    const cut = await sharp(pano).extract(corner).ensureAlpha().raw().toBuffer();
    const small = { width: 1500, height: 750, data: new Uint8ClampedArray(cut) };
    const at = { x: 0, y: 0, width: 400, height: 200 };
    const whole = { x: 0, y: 0, width: 1500, height: 750 };
    const wanted = reference(small, at, at);
    const made = reduce(small, whole, small, { image: at, shown: at, out: at }, true, kernel);
    const native = await sharp(cut, { raw: { width: 1500, height: 750, channels: 4 } })
      .resize(400, 200, { kernel: 'lanczos3' })
      .raw()
      .toBuffer();
    row('… SSIM against a double-precision Lanczos-3 in linear light', ssim(made, wanted), '≥ 0.995', '');
    const theirsIs = ssim({ ...at, data: new Uint8ClampedArray(native) }, wanted);
    row('… sharp’s own SSIM against the same', theirsIs, 'no better than ours', '');
    row('… the kernel in plain TypeScript, against the compiled one', plain / ours, 'the more the better');
  }
  {
    const [width, height] = [3000, 2000];
    const pots = await sharp(join(root, 'demo/pictures/cutout-bowls.png'))
      .resize({ width: 2600, height: 1800, fit: 'inside' })
      .png()
      .toBuffer();
    const sheet = await sharp({ create: { width, height, channels: 3, background: '#ffffff' } })
      .composite([{ input: pots, gravity: 'centre' }])
      .jpeg({ quality: 90 })
      .toBuffer();
    const { data } = await sharp(sheet).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    const pixels = { width, height, data: new Uint8ClampedArray(data) };
    const ours = await time(() => cutFlat(pixels, usualCutout));
    const theirs = await time(() => sharp(sheet).raw().toBuffer());
    row('a flat ground cut from 3000 × 2000, against sharp decoding that JPEG', ours / theirs, '');
    row('… that cut-out', ours, '≤ 250', 'ms');
  }
  {
    const shot = join(root, 'demo/shots/window.png');
    const { data, info } = await sharp(shot).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    const raster = { data: new Uint8ClampedArray(data), width: info.width, height: info.height };
    const rough = { x: 885, y: 140, width: 270, height: 300 };
    const ours = await time(() => measureSlot(raster, rough, 1));
    const theirs = await time(() => sharp(shot).ensureAlpha().raw().toBuffer());
    row('a slot measured on a screenshot of 1280 × 800, against decoding that', ours / theirs, '≤ 10');
  }
  {
    const layer = words('Notes from the Wheel, a diary from the mill');
    let n = 0;
    const laid = await time(() => {
      for (let i = 0; i < 50; i++) layoutWords({ ...layer, place: { x: n++, y: 0 } }, shaper);
    });
    const graphic = withLayers(blank(), photo(), ...Array.from({ length: 19 }, (_, i) => ({ ...layer, id: `w${i}` })));
    const judged = await time(() => {
      const judge = createReporter();
      judge(contextOf(graphic, shaper));
    });
    row('geometry rules over 20 layers, against laying one line out', judged / (laid / 50), 'geometry rules ≤ 5 ms');
    row('geometry rules over 20 layers', judged, '≤ 5', 'ms');
    const block = words('The shelf nearest the burner came out a shade greener. '.repeat(180), {}, { size: 12 });
    const long = await time(() => {
      const fresh = { ...block, sizing: { kind: 'wrap' as const, width: 600 }, place: { x: n++, y: 0 } };
      const g = withLayers(blank(), fresh);
      layoutWords(fresh, shaper);
      createReporter()(contextOf(g, shaper));
    });
    row('a block of ten thousand letters laid out and judged', long, '≤ 100', 'ms');
    const size = { width: 940, height: 198 };
    const pixels = { ...size, data: new Uint8ClampedArray(size.width * size.height * 4).fill(90) };
    const layout = layoutWords(layer, shaper);
    const standing = { size, scale: 1, origin: { x: 0, y: 0 }, turn: null };
    const sampled = await time(() => {
      const sampler = groundSampler(layout, standing, (_i, b) => new Uint8Array(b.width * b.height).fill(255))!;
      return sampler.sample(seenThrough(pixels, null, [255, 255, 255], sampler.region));
    });
    row('sampling the ground of one line', sampled, 'pixel rules ≤ 150', 'ms');
    const part = { width: 192, height: 192 };
    const fields = Array.from({ length: 16 }, (_, k) => ({
      ...part,
      data: Float32Array.from({ length: 192 * 192 }, (_v, i) => 0.5 + 0.5 * Math.sin(i / (5 + k) + (i % 192) / 3)),
    }));
    row(
      'how soft a photo is, in sixteen parts of it',
      await time(() => sharpestBlur(fields.flatMap(edgeBlurs))),
      '',
      'ms',
    );
    const made = ['#7a4b2a', '#2f5a63', '#d9c9a8', '#a8331f', '#1f2a30', '#c8a078', '#8fa9b5', '#f2b01e'];
    row('palettes for a page, of eight colours', await time(() => palettesFor(made, true)), '≤ 50', 'ms');
  }
}

async function inBrowser() {
  const app = await startApp();
  const browser = await Browser.open();
  try {
    if (only('files')) await leaving(browser, app, pano, row);
    if (!only('interaction')) return;
    // A drag over 20 layers, four of them photos that fade, are tinted or throw a shadow.
    await browser.run('history.back()');
    await browser.find('bs-layer-list');
    await browser.tab('Edge');
    await browser.press('Left');
    await browser.run('document.activeElement.blur()');
    for (let i = 0; i < 19; i++) await browser.chord(Key.CONTROL, 'd');
    await browser.saved();
    await browser.exact();
    const frames = await browser.driver.executeAsyncScript<number[]>(
      `const [done] = arguments;
     const content = document.querySelector('.hits .konvajs-content');
     const at = content.getBoundingClientRect();
     const fire = (target, type, x, y) =>
       target.dispatchEvent(new PointerEvent(type, { bubbles: true, clientX: at.x + x, clientY: at.y + y, pointerId: 1, button: 0, buttons: 1 }));
     const [x0, y0] = [at.width / 2, 120];
     fire(content, 'pointerdown', x0, y0);
     const deltas = [];
     let last = performance.now();
     let n = 0;
     const step = (now) => {
       if (n > 0) deltas.push(now - last);
       last = now;
       if (++n > 120) { fire(window, 'pointerup', x0, y0); return done(deltas); }
       fire(window, 'pointermove', x0 + 40 * Math.sin(n / 9), y0 + 12 * Math.cos(n / 9));
       requestAnimationFrame(step);
     };
     requestAnimationFrame(step);`,
    );
    const sorted = frames.sort((a, b) => a - b);
    const share = (s: number) => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * s))]!;
    row('a frame while a fading photo is dragged among 20, median', share(0.5), '≤ 16.7', 'ms');
    row('… 95th of a hundred', share(0.95), '≤ 16.7', 'ms');
    row('… worst', share(1), '≤ 50', 'ms');
    // Words: 20 layers, four of them words with outline and shadow; one of those dragged, then written.
    await browser.go(`${app.app}/graphics`);
    await browser.press('New graphic');
    await browser.press('Blog header, 940 × 198');
    await startBare(browser);
    await browser.dropFiles('bs-workbench-page', [{ name: 'pano.jpg', type: 'image/jpeg', bytes: readFileSync(pano) }]);
    await browser.seeText('its own');
    await browser.press('Add');
    await browser.menu('Shape');
    await browser.menu('Rounded rectangle');
    await browser.run('document.activeElement.blur()');
    for (let i = 0; i < 14; i++) await browser.chord(Key.CONTROL, 'd');
    await browser.press('Add');
    await browser.menu('Words');
    await browser.fill(await browser.find('textarea'), 'Notes from the Wheel');
    await browser.tab('Around them');
    for (const tick of ['Outline', 'Shadow']) await (await browser.named('label', tick)).click();
    await browser.run('document.activeElement.blur()');
    for (let i = 0; i < 3; i++) await browser.chord(Key.CONTROL, 'd');
    await browser.saved();
    await browser.exact();
    const during = async (what: string, each: string, before = '', after = '') => {
      const deltas = await browser.driver.executeAsyncScript<number[]>(
        `const [done] = arguments;
       const content = document.querySelector('.hits .konvajs-content');
       const at = content.getBoundingClientRect();
       const thing = [...document.querySelectorAll('.thing[aria-label^="Words"]')].at(-1).getBoundingClientRect();
       const [x0, y0] = [thing.x + thing.width / 2 - at.x, thing.y + thing.height / 2 - at.y];
       const fire = (target, type, x, y) =>
         target.dispatchEvent(new PointerEvent(type, { bubbles: true, clientX: at.x + x, clientY: at.y + y, pointerId: 1, button: 0, buttons: 1 }));
       ${before}
       const deltas = [];
       let last = performance.now();
       let n = 0;
       const step = (now) => {
         if (n > 0) deltas.push(now - last);
         last = now;
         if (++n > 120) { ${after} return done(deltas); }
         ${each}
         requestAnimationFrame(step);
       };
       requestAnimationFrame(step);`,
      );
      const order = deltas.sort((a, b) => a - b);
      const at = (share: number) => order[Math.min(order.length - 1, Math.floor(order.length * share))]!;
      row(`a frame while ${what} among 20 layers, median`, at(0.5), '≤ 16.7', 'ms');
      row('… 95th of a hundred', at(0.95), '≤ 16.7', 'ms');
      row('… worst', at(1), '≤ 50', 'ms');
    };
    await during(
      'shadowed, outlined words are dragged',
      'fire(window, "pointermove", x0 + 40 * Math.sin(n / 9), y0 + 12 * Math.cos(n / 9));',
      'fire(content, "pointerdown", x0, y0);',
      'fire(window, "pointerup", x0, y0);',
    );
    await browser.tab('Words');
    await during(
      'shadowed, outlined words are written',
      'if (n % 6 === 0) { const f = document.querySelector(\'textarea[aria-label="The words"]\'); f.value += "ab cde fg "[n % 10]; f.dispatchEvent(new Event("input")); }',
    );
    // A list of forty families: as many more as there are to be, all of them one font.
    await browser.saved();
    await browser.give({ name: 'caveat.ttf', bytes: readFileSync(join(root, '.cache/type/caveat.ttf')) });
    await browser.driver.executeAsyncScript(
      `const [done] = arguments;
     const blob = new Blob([window.__files[0]]);
     const open = indexedDB.open('bright-slot');
     open.onsuccess = () => {
       const store = open.result.transaction('fonts', 'readwrite').objectStore('fonts');
       for (let i = 0; i < 24; i++) store.put({ hash: String(i).padStart(64, '0'), family: 'Own ' + i, weights: [400, 700], italic: false, licence: '', added: i, blob });
       store.transaction.oncomplete = () => { open.result.close(); done(); };
     };`,
    );
    await browser.driver.navigate().refresh();
    await browser.layer('Words');
    await browser.exact();
    const opened = await browser.driver.executeAsyncScript<{ seen: number; whole: number; count: number }>(
      `const [done] = arguments;
     const field = document.querySelector('bs-family-field input[type=text]');
     const start = performance.now();
     let seen = 0;
     field.focus();
     field.click();
     // A frame after the rows are there they have been painted.
     const look = () => {
       const panel = document.querySelector('.families');
       const count = panel?.querySelectorAll('mat-option').length ?? 0;
       const rows = count && panel.clientHeight / panel.querySelector('mat-option').clientHeight;
       if (!seen && count && count >= Math.floor(rows)) requestAnimationFrame(() => (seen = performance.now() - start));
       if (count < 40 || !seen) return requestAnimationFrame(look);
       requestAnimationFrame(() => done({ seen, whole: performance.now() - start, count }));
     };
     requestAnimationFrame(look);`,
    );
    row(`a list of ${opened.count - 1} families, from the press to its first frame`, opened.seen, '≤ 100', 'ms');
    row('… to the frame that has all of them, past the end of its room too', opened.whole, '', 'ms');
    await browser.keys(Key.ESCAPE);
    await browser.press('Add');
    await browser.menu('Veil');
    const veiled = performance.now();
    await browser.driver.wait(
      async () =>
        browser.run<boolean>(
          `return /just enough\\.|No strength|without it/.test(document.querySelector('bs-veil-settings').innerText)`,
        ),
      60_000,
    );
    row('a veil’s least strength for four words layers, found', performance.now() - veiled, '', 'ms');
    const peaks = execFileSync('ps', ['-eo', 'pid,args'])
      .toString()
      .split('\n')
      .filter((l) => l.includes('--type=renderer'))
      .map((l) => {
        const status = readFileSync(`/proc/${l.trim().split(' ')[0]}/status`, 'utf8');
        return Number(/VmHWM:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024;
      });
    row('peak memory of the page and its workers', Math.max(...peaks), '', 'MB');
    await history(app, row);
    await sets(app, row);
  } finally {
    await browser.close();
    await app.stop();
  }
}

if (only('alone')) await alone();
if (only('files') || only('interaction')) await inBrowser();

const wide = Math.max(...rows.map(([what]) => what.length));
for (const [what, figure, goal] of rows)
  console.log(`${what.padEnd(wide)}  ${figure.padStart(10)}${goal ? `   goal ${goal}` : ''}`);

if (process.argv.includes('--write')) {
  const table = rows.map(([what, figure, goal]) => `| ${what} | ${figure} | ${goal} |`).join('\n');
  const text = `# Speed

Written by \`npm run bench -- --write\`, ${new Date().toISOString().slice(0, 10)}, on two cores and without a GPU. Ratios are within the run; milliseconds are of that machine and say little on another.

| what | figure | goal |
| --- | --- | --- |
${table}
`;
  writeFileSync(join(root, 'docs/bench.md'), text);
}
