/**
 * Speed, as ratios within this run: absolute times say little on a noisy machine.
 * `npm run bench`; the part in the browser needs the built app (`npm run build`).
 */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import {
  compiledRows,
  createReporter,
  layoutWords,
  mainFrame,
  measureSlot,
  reduce,
  sampleGround,
  sourceNeeded,
  type CompiledRows,
  type Field,
} from '../../core/src/index';
import { blank, photo, withLayers, words } from '../../core/src/testing/samples';
import { realShaper } from '../../core/src/testing/type';
import { startApp, root } from '../../e2e/src/harness/app';
import { Browser } from '../../e2e/src/harness/browser';

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
  rows.push([what, `${figure.toFixed(2)} ${unit}`, goal]);

const pano = join(root, 'demo/pictures/pano.jpg');
const shaper = await realShaper();

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
  const ours = await time(() => reduce(pixels, part, natural, need, true, undefined, kernel), 3);
  const raw = { raw: { width: info.width, height: info.height, channels: 4 as const } };
  const theirs = await time(() => sharp(data, raw).resize(1600, 400, { kernel: 'lanczos3' }).raw().toBuffer(), 3);
  row('reduce 6000 × 1500 to 1600 × 400, against sharp from the same pixels', ours / theirs, '≤ 1.0');
  row('… the kernel in plain TypeScript, against the compiled one', plain / ours, 'the more the better');
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
    judge({ graphic, frame: mainFrame(graphic), shaper, assets: new Map(), legibility: [] });
  });
  row('geometry rules over 20 layers, against laying one line out', judged / (laid / 50), 'geometry rules ≤ 5 ms');
  row('geometry rules over 20 layers', judged, '≤ 5', 'ms');
  const ground: Field = { width: 940, height: 198, data: new Float32Array(940 * 198).fill(0.2) };
  const layout = layoutWords(layer, shaper);
  const sampled = await time(() =>
    sampleGround('w', layout, ground, 1, { x: 0, y: 0 }, (_i, b) => new Uint8Array(b.width * b.height).fill(255)),
  );
  row('sampling the ground of one line', sampled, 'pixel rules ≤ 150', 'ms');
}

const app = await startApp();
const browser = await Browser.open();
try {
  const big = await sharp(pano).resize(6000, 4000, { fit: 'cover' }).jpeg({ quality: 88 }).toBuffer();
  await browser.go(`${app.app}/graphics`);
  await browser.find('bs-graphic-card', 60_000);
  await browser.press('New graphic');
  await browser.press('Form header, 1600 × 400');
  await browser.seeText('The canvas is empty');
  const sight = await browser.driver.executeAsyncScript<{ decode: number; sight: number; exact: number }>(
    `const [base64, done] = arguments;
     const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
     const blob = new Blob([bytes], { type: 'image/jpeg' });
     (async () => {
       await createImageBitmap(blob);
       let start = performance.now();
       await createImageBitmap(blob);
       const decode = performance.now() - start;
       const data = new DataTransfer();
       data.items.add(new File([bytes], 'large.jpg', { type: 'image/jpeg' }));
       const canvas = document.querySelector('.lit canvas');
       const painted = () => canvas.getContext('2d').getImageData(canvas.width / 2, canvas.height / 2, 1, 1).data[3] > 0;
       start = performance.now();
       document.querySelector('bs-workbench-page').dispatchEvent(new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer: data }));
       while (!painted()) await new Promise(requestAnimationFrame);
       const sight = performance.now() - start;
       while (canvas.dataset.exact !== 'true') await new Promise(requestAnimationFrame);
       done({ decode, sight, exact: performance.now() - start - sight });
     })();`,
    big.toString('base64'),
  );
  row('24-megapixel JPEG to first sight, against the browser’s bare decode', sight.sight / sight.decode, '≤ 1.25');
  row('… and from first sight to final quality', sight.exact, '≤ 250 after rest', 'ms');

  const theirs = await time(
    () => sharp(big).resize(1600, 400, { fit: 'cover' }).jpeg({ mozjpeg: true, quality: 85 }).toBuffer(),
    3,
  );
  const ours = await browser.driver.executeAsyncScript<number>(
    `const [done] = arguments;
     const start = performance.now();
     [...document.querySelectorAll('a')].find((a) => a.textContent.trim() === 'Export').click();
     const look = () => (document.querySelector('img.file') ? done(performance.now() - start) : requestAnimationFrame(look));
     look();`,
  );
  row('export 1600 × 400 as JPEG, cold, page and all, against sharp from the file', ours / theirs, '≤ 1.6');
} finally {
  await browser.close();
  await app.stop();
}

const wide = Math.max(...rows.map(([what]) => what.length));
for (const [what, figure, goal] of rows) console.log(`${what.padEnd(wide)}  ${figure.padStart(10)}   goal ${goal}`);
