/** Sets as the app makes them: a strip beside one file of the same area, a hundred tiles from a CSV. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root, type RunningApp } from '../../e2e/src/harness/app';
import { Browser } from '../../e2e/src/harness/browser';
import { drop, dropOn, settleDemo, startBare } from '../../e2e/src/harness/workbench';
import { middle } from './files';
import type { Row } from './history';

const pano = { name: 'pano.jpg', bytes: readFileSync(join(root, 'demo/pictures/pano.jpg')), type: 'image/jpeg' };

/** From a press, as soon as the button is there, until something is said, ms, in the page's own clock. */
function pressed(browser: Browser, button: string, said: string): Promise<number> {
  return browser.driver.executeAsyncScript<number>(
    `const [button, said, done] = arguments;
     const find = () => [...document.querySelectorAll('button')].find((b) => b.textContent.trim().startsWith(button) && !b.disabled);
     const press = () => {
       if (!find()) return setTimeout(press, 4);
       for (const s of document.querySelectorAll('[role=status]')) if (s.textContent.includes(said)) s.textContent = '';
       const start = performance.now();
       find().click();
       const look = () => ([...document.querySelectorAll('[role=status]')].some((s) => s.textContent.includes(said)) ? done(performance.now() - start) : setTimeout(look, 4));
       setTimeout(look, 4);
     };
     press();`,
    button,
    said,
  );
}

/** All of a set are made, judged and weighed. */
async function weighed(browser: Browser, places: number): Promise<void> {
  await browser.driver.wait(
    () =>
      browser.run<boolean>(
        `const files = [...document.querySelectorAll('td.file')];
         return files.length === arguments[0] && files.every((t) => /kB/.test(t.textContent));`,
        places,
      ),
    60_000,
  );
}

/** A picture on a canvas, and the address of its set. */
async function pictured(browser: Browser): Promise<string> {
  await drop(browser, pano);
  await browser.find('.thing');
  await browser.saved();
  await browser.exact();
  return (await browser.driver.getCurrentUrl()).replace('/graphics/', '/sets/');
}

async function strip(browser: Browser, app: RunningApp, row: Row): Promise<void> {
  await browser.visit(`${app.app}/graphics`);
  await browser.press('New graphic');
  await browser.press('From the kiln, Strip of 5');
  await browser.seeText('Frame 1 of 5');
  const strip = {
    address: await pictured(browser),
    button: 'Save 5 files',
    said: '5 files are in',
    all: [] as number[],
  };
  await browser.go(`${app.app}/graphics/new?size=670x134`);
  await startBare(browser);
  const one = { address: await pictured(browser), button: 'Save 1 file', said: ' is in ', all: [] as number[] };
  // In turns, each as it was just opened: nothing is painted, and no file made.
  for (let i = 0; i < 7; i++)
    for (const of of [strip, one]) {
      await browser.go(of.address);
      of.all.push(await pressed(browser, of.button, of.said));
    }
  row('a strip of five saved, against one file of the same area', middle(strip.all) / middle(one.all), '≤ 1.3');
  await browser.visit(strip.address);
  await weighed(browser, 5);
  const again: number[] = [];
  for (let i = 0; i < 11; i++) again.push(await pressed(browser, strip.button, strip.said));
  row('… saved when it was weighed, its files made already', middle(again), '', 'ms');
}

async function tiles(browser: Browser, app: RunningApp, row: Row): Promise<void> {
  await browser.visit(`${app.app}/graphics`);
  await browser.press('New graphic');
  await browser.press('A row of 7: Menu tile');
  await browser.driver.wait(
    () =>
      browser.run<boolean>(
        `return document.querySelectorAll('input.word').length === 7 && !document.querySelector('.working')`,
      ),
    60_000,
  );
  const csv = ['word,photo', ...Array.from({ length: 100 }, (_, i) => `Tile ${i + 1},`)].join('\n');
  /** What the page holds, bytes: what is garbage is swept before, and frames meanwhile are not counted. */
  const heap = async () => {
    await browser.run(`window.sweeping = true`);
    await browser.driver.sendDevToolsCommand('HeapProfiler.collectGarbage', {});
    return browser.run<number>(`window.sweeping = false; return performance.memory.usedJSHeapSize`);
  };
  // The pages that may come next are got ready a while after this one came.
  await new Promise((done) => setTimeout(done, 4000));
  await browser.run(
    `window.frames = []; let last = performance.now();
     let swept = false;
     const tick = (now) => {
       if (!window.sweeping && !swept) window.frames.push(now - last);
       swept = window.sweeping;
       last = now;
       requestAnimationFrame(tick);
     };
     requestAnimationFrame(tick);`,
  );
  const start = Date.now();
  await dropOn(browser, 'bs-set-page main', { name: 'tiles.csv', bytes: Buffer.from(csv), type: 'text/csv' });
  await browser.driver.wait(
    () =>
      browser.run<boolean>(
        `return document.querySelectorAll('tr[data-row]').length === 100 && !document.querySelector('.working')`,
      ),
    120_000,
  );
  const made = (Date.now() - start) / 1000;
  const painted = async (css: string, n: number) => {
    await browser.driver.wait(
      () => browser.run<boolean>(`return document.querySelectorAll(arguments[0]).length >= arguments[1]`, css, n),
      120_000,
    );
    return heap();
  };
  const at10 = await painted('td .tile img', 10);
  // All are painted, judged and weighed when their fit is said as one.
  await browser.driver.wait(
    () => browser.run<boolean>(`return /fit|to fix|look at/.test(document.querySelector('.fit').textContent)`),
    120_000,
  );
  const at100 = await heap();
  const frames = await browser.run<number[]>(`return window.frames`);
  frames.sort((a, b) => a - b);
  row('100 tiles from a CSV, made and kept', made, '≤ 30', 's');
  row('… the middle frame meanwhile', frames[Math.floor(frames.length / 2)]!, '≤ 17', 'ms');
  row('… the slowest frame meanwhile but one in a hundred', frames[Math.floor(frames.length * 0.99)]!, '≤ 20', 'ms');
  row('… the page’s memory when all are painted, against the tenth', at100 / at10, '≤ 1.1');
}

export async function sets(app: RunningApp, row: Row): Promise<void> {
  const browser = await Browser.open({ width: 1280, height: 800 });
  try {
    await settleDemo(browser, app);
    await strip(browser, app, row);
    await tiles(browser, app, row);
  } finally {
    await browser.close();
  }
}
