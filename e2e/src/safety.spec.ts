// Covers: web/storage, web/document, core/backup, core/graphic
import { demo } from './harness/demo';
import { changeHead, storedHead } from './harness/stored';
import { randomBytes } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync, zipSync, strToU8, strFromU8 } from 'fflate';
import { readContents } from '@bright-slot/core';
import { everySlot } from './harness/demo';
import { startApp, type RunningApp } from './harness/app';
import { Browser, Key } from './harness/browser';
import { download, drop, settleDemo, things } from './harness/workbench';
import sharp from 'sharp';

let app: RunningApp;
beforeAll(async () => {
  app = await startApp();
});
afterAll(async () => app.stop());

describe('save everything, bring back', () => {
  let browser: Browser;
  let zip: Uint8Array;
  const temporary = mkdtempSync(join(tmpdir(), 'bright-slot-zip-'));
  beforeAll(async () => {
    browser = await Browser.open();
    await settleDemo(browser, app);
  });
  afterAll(async () => {
    await browser.close();
    rmSync(temporary, { recursive: true, force: true });
  });
  const bring = async (bytes: Uint8Array) => {
    const path = join(temporary, `${Math.random()}.zip`);
    writeFileSync(path, bytes);
    await (await browser.find('footer input[type=file]')).sendKeys(path);
  };
  const names = () =>
    browser.run<string[]>(`return [...document.querySelectorAll('bs-graphic-card strong')].map((e) => e.textContent)`);

  it('gives one zip of documented JSON and the pictures as they were', async () => {
    await browser.press('Save everything');
    zip = readFileSync(await download(browser, '.zip'));
    const files = unzipSync(zip);
    const lines = (name: string) =>
      strFromU8(files[name]!)
        .trim()
        .split('\n')
        .map((line) => JSON.parse(line) as { name: string; hash: string; entry: string });
    expect(readContents(strFromU8(files['bright-slot.json']!)).ok).toBe(true);
    const graphics = lines('graphics.ndjson');
    expect(graphics).toHaveLength(demo.graphics.length);
    for (const { entry } of graphics) expect(lines(entry).length).toBeGreaterThan(0);
    const kiln = lines('assets.ndjson').find((a) => a.name === 'Kiln at night')!;
    expect(Buffer.from(files[`assets/${kiln.hash}`]!).equals(readFileSync('demo/pictures/kiln.jpg'))).toBe(true);
  });
  it('brings back what was lost, beside what is here, and overwrites nothing', async () => {
    await browser.press('More for Kiln opening');
    await browser.menu('Delete');
    await browser.driver.wait(async () => !(await names()).includes('Kiln opening'), 5000);
    await browser.press('Clear 1 deleted for good');
    await browser.driver.wait(async () => (await browser.all('footer button')).length === 2, 5000);
    // So does a slot that was deleted from the book.
    await browser.go(`${app.app}/slots`);
    const slots = () => browser.run<number>(`return document.querySelectorAll('bs-slot-outlines li').length`);
    await (await browser.named('button', 'Slim header, 960')).sendKeys(Key.DELETE);
    await browser.driver.wait(async () => (await slots()) === everySlot.length - 1, 5000);
    // One of them has changed since: it stays as it is now.
    await browser.go(`${app.app}/graphics/demo-new-jugs`);
    const name = await browser.find('input.name');
    await browser.fill(name, `Newer jugs${Key.ENTER}`);
    await browser.saved();
    await browser.go(`${app.app}/graphics`);
    await browser.find('bs-graphic-card');
    await bring(zip);
    await browser.seeText('Brought back 2 graphics');
    const after = await names();
    expect(after).toEqual(expect.arrayContaining(['Kiln opening', 'Newer jugs', 'New jugs, brought back']));
    expect(after).toHaveLength(demo.graphics.length + 1);
    await (await browser.named('a', 'Open Kiln opening')).click();
    await browser.exact();
    expect(await things(browser)).toHaveLength(2);
    await browser.go(`${app.app}/slots`);
    await browser.driver.wait(async () => (await slots()) === everySlot.length, 5000, 'The slot did not come back');
    await browser.go(`${app.app}/graphics`);
    await browser.find('bs-graphic-card');
  });
  it('finds everything here the second time', async () => {
    await bring(zip);
    await browser.seeText(`Brought back 0 graphics and 0 pictures; ${demo.graphics.length} stood here just the same`);
    expect(await names()).toHaveLength(demo.graphics.length + 1);
  });
  const hostile = (change: (files: Record<string, Uint8Array>) => void): Uint8Array => {
    const files = unzipSync(zip);
    change(files);
    return zipSync(files, { level: 1 });
  };
  it.each<[string, () => Uint8Array, string]>([
    [
      'a zip that climbs out of its folder',
      () => hostile((f) => (f['../../climbed.json'] = strToU8('{}'))),
      'lead out of its folder',
    ],
    [
      'a zip that swells',
      () => zipSync({ 'bright-slot.json': new Uint8Array(70 * 2 ** 20) }, { level: 9 }),
      'swells to far more',
    ],
    [
      'malformed JSON',
      () => hostile((f) => (f['bright-slot.json'] = strToU8('{"format":'))),
      'was not made by “Save everything”',
    ],
    [
      'a record from a newer version',
      () =>
        hostile((f) => {
          const list = JSON.parse(strFromU8(f['bright-slot.json']!)) as { version: number };
          f['bright-slot.json'] = strToU8(JSON.stringify({ ...list, version: 3 }));
        }),
      'saved by a newer Bright Slot',
    ],
    ['a zip cut short', () => zip.subarray(0, Math.floor(zip.length * 0.7)), 'nothing was brought in'],
    ['a letter', () => strToU8('Dear Wren'), 'is not a zip file'],
  ])('refuses %s and changes nothing', async (_what, make, sentence) => {
    const before = await names();
    await bring(make());
    await browser.driver
      .wait(async () => (await browser.all('main > .problem-text')).length === 0, 5000)
      .catch(() => undefined);
    await browser.seeText(sentence);
    expect(await names()).toEqual(before);
  });
  it('deletes with a way back', async () => {
    await browser.press('More for Autumn glazes, to mend');
    await browser.menu('Delete');
    await browser.seeText('“Autumn glazes, to mend” was deleted.');
    await browser.press('Undo');
    await browser.driver.wait(async () => (await names()).includes('Autumn glazes, to mend'), 5000);
    expect(await browser.violations()).toEqual([]);
  });
  it('keeps a graphic of a newer version as it is, and says so', async () => {
    await changeHead(browser, 'demo-wren', (g) => ({ ...g, version: 9, layers: { later: 'shape' } }));
    await browser.driver.navigate().refresh();
    await browser.seeText('was last changed in a newer Bright Slot');
    await browser.go(`${app.app}/graphics/demo-wren`);
    await browser.seeText('It is kept as it is and can be changed there');
    const kept = (await storedHead(browser, 'demo-wren')).graphic.version;
    expect(kept).toBe(9);
  });
});

describe('storage', () => {
  let browser: Browser;
  /** Whether 50 kB more are refused, in a database of their own that goes again. */
  const refused = () =>
    browser.driver.executeAsyncScript<boolean>(
      `const [done] = arguments;
       const asked = indexedDB.open('room', 1);
       asked.onupgradeneeded = () => asked.result.createObjectStore('room');
       asked.onerror = () => done(true);
       asked.onsuccess = () => {
         const db = asked.result;
         const end = (full) => { db.close(); indexedDB.deleteDatabase('room'); setTimeout(() => done(full), 500); };
         const t = db.transaction('room', 'readwrite', { durability: 'strict' });
         t.objectStore('room').put(new Uint8Array(50_000), 1);
         t.oncomplete = () => end(false);
         t.onabort = () => end(true);
       };`,
    );
  beforeAll(async () => {
    browser = await Browser.open();
    await settleDemo(browser, app);
  });
  afterAll(async () => browser.close());

  it('shows how much is used', async () => {
    await browser.seeText('used in this browser');
  });
  it('warns while there still is a little room', async () => {
    // What the browser says of its room is put on: it does not follow the limit set below.
    const script = (await browser.driver.sendAndGetDevToolsCommand('Page.addScriptToEvaluateOnNewDocument', {
      source: `navigator.storage.estimate = async () => ({ usage: 9.96e9, quota: 1e10 });`,
    })) as unknown as { identifier: string };
    await browser.go(`${app.app}/graphics/demo-kiln-opening`);
    await browser.seeText('The browser has only 40 MB left for your graphics. Save everything as a zip');
    await browser.driver.sendDevToolsCommand('Page.removeScriptToEvaluateOnNewDocument', {
      identifier: script.identifier,
    });
  });
  it('tells of a full disk at once, keeps the work, and saves once there is room', async () => {
    await browser.go(`${app.app}/graphics/demo-kiln-opening`);
    await browser.exact();
    const quota = (quotaSize?: number) =>
      browser.driver.sendDevToolsCommand('Storage.overrideQuotaForOrigin', {
        origin: app.app,
        ...(quotaSize === undefined ? {} : { quotaSize }),
      });
    await quota(1000);
    // Chromium goes by what it last knew of the free room for half a minute: until it refuses what we write elsewhere.
    await browser.until(() => refused(), 'Chromium never ran out of room', 60_000);
    await browser.fill(await browser.find('input.name'), `Kiln, full disk${Key.ENTER}`);
    await browser.seeText('The browser has no room left, so the last change is not saved');
    expect(await (await browser.find('bs-save-state')).getText()).toBe('Not saved');
    expect(await (await browser.find('input.name')).getAttribute('value')).toBe('Kiln, full disk');
    // A picture that finds no room is refused in words, and nothing changes.
    const noise = await sharp(randomBytes(600 * 400 * 3), {
      raw: { width: 600, height: 400, channels: 3 },
    })
      .png()
      .toBuffer();
    await drop(browser, { name: 'noise.png', bytes: noise });
    // The bar is there before its words are.
    await browser.until(
      async () => (await (await browser.find('mat-snack-bar-container')).getText()).includes('no room left'),
      'The picture was not refused in words',
    );
    expect(await things(browser)).toHaveLength(2);
    // Deleting is what is advised: it needs no room. In another tab, since this one has something in hand.
    const here = await browser.driver.getWindowHandle();
    await browser.driver.switchTo().newWindow('tab');
    await browser.size(1280, 800);
    await browser.go(`${app.app}/graphics`);
    await browser.find('bs-graphic-card');
    await browser.run('window.confirm = (said) => ((window.__asked = said), true)');
    await browser.press('More for Tuesday wheel, to mend');
    await browser.menu('Delete');
    await browser.seeText('was deleted');
    const asked = await browser.run<string | null>('return window.__asked ?? null');
    if (asked !== null) expect(asked).toContain('no room left');
    await browser.driver.close();
    await browser.driver.switchTo().window(here);
    await quota();
    await browser.press('Try again');
    await browser.saved();
    await browser.driver.navigate().refresh();
    await browser.exact();
    expect(await (await browser.find('input.name')).getAttribute('value')).toBe('Kiln, full disk');
  });
});
