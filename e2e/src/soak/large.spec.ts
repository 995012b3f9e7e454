// Covers: web/storage, core/backup
import { statSync } from 'node:fs';
import { startApp, type RunningApp } from '../harness/app';
import { Browser } from '../harness/browser';
import { download, settleDemo } from '../harness/workbench';

/** `npm run soak` makes 2 GB of pictures and 60 000 steps. */
const MEGABYTES = Number(process.env['LARGE_MB'] ?? 80);
const STEPS = Number(process.env['LARGE_STEPS'] ?? 1500);
const MINUTES = MEGABYTES > 500 ? 30 : 2;

let app: RunningApp;
beforeAll(async () => {
  app = await startApp();
});
afterAll(async () => app.stop());

/** Pictures of noise, a megabyte each, and a graphic of many steps, put into the database as the app would have. */
const FILL = `const [megabytes, count, done] = arguments;
const hex = (b) => [...new Uint8Array(b)].map((n) => n.toString(16).padStart(2, '0')).join('');
// A PNG whose pixels do not compress: its own chunks, one of them filled with noise that no reader looks at.
const crcTable = Array.from({ length: 256 }, (_, n) => { for (let k = 0; k < 8; k++) n = n & 1 ? 0xedb88320 ^ (n >>> 1) : n >>> 1; return n >>> 0; });
const crc = (b) => { let c = ~0; for (let i = 0; i < b.length; i++) c = crcTable[(c ^ b[i]) & 255] ^ (c >>> 8); return ~c >>> 0; };
(async () => {
  const sheet = new OffscreenCanvas(8, 8);
  sheet.getContext('2d').fillRect(0, 0, 8, 8);
  const plain = new Uint8Array(await (await sheet.convertToBlob()).arrayBuffer());
  const db = await new Promise((go) => (indexedDB.open('bright-slot').onsuccess = (e) => go(e.target.result)));
  const put = (store, values) => new Promise((go, no) => {
    const t = db.transaction(store, 'readwrite');
    for (const v of values) t.objectStore(store).put(v);
    t.oncomplete = go; t.onerror = () => no(t.error);
  });
  for (let i = 0; i < megabytes; i++) {
    const noise = new Uint8Array(2 ** 20);
    for (let at = 0; at < noise.length; at += 65536) crypto.getRandomValues(noise.subarray(at, at + 65536));
    const chunk = new Uint8Array(noise.length + 12);
    const view = new DataView(chunk.buffer);
    view.setUint32(0, noise.length);
    chunk.set([0x62, 0x73, 0x4e, 0x7a], 4);
    chunk.set(noise, 8);
    view.setUint32(8 + noise.length, crc(chunk.subarray(4, 8 + noise.length)));
    const end = plain.length - 12;
    const blob = new Blob([plain.subarray(0, end), chunk, plain.subarray(end)], { type: 'image/png' });
    const hash = hex(await crypto.subtle.digest('SHA-256', await blob.arrayBuffer()));
    await put('assets', [{ hash, blob, type: 'png', width: 8, height: 8, opaque: true, silhouette: null, name: 'Noise ' + i, added: Date.now() + 1e9, credit: '' }]);
  }
  const many = (i) => ({ ...first, id: 'many-' + i, graphicId: 'many', parent: i ? 'many-' + (i - 1) : null, at: i, name: 'Step ' + i,
    graphic: { ...first.graphic, id: 'many', name: 'Many steps ' + i } });
  const first = await new Promise((go) => (db.transaction('steps').objectStore('steps').get('demo-autumn-glazes-start').onsuccess = (e) => go(e.target.result)));
  for (let i = 0; i < count; i += 500)
    await put('steps', Array.from({ length: Math.min(500, count - i) }, (_, k) => many(i + k)));
  await put('heads', [{ id: 'many', step: many(count - 1), depth: 0, weight: 0 }]);
  await put('graphics', [{ id: 'many', head: 'many-' + (count - 1), created: '', changed: 1 }]);
  db.close();
  done();
})();`;

/** How many pictures there are, and steps of the graphic with many. */
const counts = (browser: Browser) =>
  browser.driver.executeAsyncScript<number[]>(
    `const [done] = arguments;
     indexedDB.open('bright-slot').onsuccess = (e) => {
       const t = e.target.result.transaction(['assets', 'steps']);
       const count = (of, key) => new Promise((go) => (of.count(key).onsuccess = (r) => go(r.target.result)));
       Promise.all([count(t.objectStore('assets')), count(t.objectStore('steps').index('graphicId'), 'many')]).then(done);
     };`,
  );

it(
  `${MEGABYTES} MB of pictures and ${STEPS} steps are saved, and brought back whole in another browser`,
  async () => {
    const first = await Browser.open();
    const second = await Browser.open();
    try {
      await settleDemo(first, app);
      await first.driver.manage().setTimeouts({ script: MINUTES * 60_000 });
      await first.driver.executeAsyncScript(FILL, MEGABYTES, STEPS);
      await first.driver.navigate().refresh();
      await first.find('bs-graphic-card', 60_000);
      await first.press('Save everything');
      await first.driver.wait(
        async () => /Everything is in/.test(await (await first.find('body')).getText()),
        MINUTES * 60_000,
        'It was not packed',
      );
      const zip = await download(first, '.zip');
      expect(statSync(zip).size).toBeGreaterThan(MEGABYTES * 2 ** 20);
      await settleDemo(second, app);
      await (await second.find('footer input[type=file]')).sendKeys(zip);
      await second.driver.wait(
        async () => /Brought back \d+ graphics? and/.test(await (await second.find('body')).getText()),
        MINUTES * 60_000,
        'It was not brought back',
      );
      const all = await counts(first);
      expect(all[1]).toBe(STEPS);
      expect(await counts(second)).toEqual(all);
    } finally {
      await first.close();
      await second.close();
    }
  },
  (2 * MINUTES + 10) * 60_000,
);
