/** Sets as the app makes them: a strip beside one file of the same area, a hundred tiles from a CSV. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root, type RunningApp } from '../../e2e/src/harness/app';
import { Browser } from '../../e2e/src/harness/browser';
import { drop, dropOn, settleDemo, startBare } from '../../e2e/src/harness/workbench';
import type { Row } from './history';

const pano = { name: 'pano.jpg', bytes: readFileSync(join(root, 'demo/pictures/pano.jpg')), type: 'image/jpeg' };

/** From a press until something is said, ms, in the page's own clock; the middle of so many times. */
async function pressed(browser: Browser, button: string, said: string, times = 11): Promise<number> {
  const all: number[] = [];
  for (let i = 0; i < times; i++)
    all.push(
      await browser.driver.executeAsyncScript<number>(
        `const [button, said, done] = arguments;
         const find = () => [...document.querySelectorAll('button')].find((b) => b.textContent.trim().startsWith(button));
         for (const s of document.querySelectorAll('[role=status]')) if (s.textContent.includes(said)) s.textContent = '';
         const start = performance.now();
         find().click();
         const look = () => ([...document.querySelectorAll('[role=status]')].some((s) => s.textContent.includes(said)) ? done(performance.now() - start) : setTimeout(look, 1));
         setTimeout(look, 1);`,
        button,
        said,
      ),
    );
  return all.sort((a, b) => a - b)[Math.floor(times / 2)]!;
}

async function strip(browser: Browser, app: RunningApp, row: Row): Promise<void> {
  await browser.visit(`${app.app}/graphics`);
  await browser.press('New graphic');
  await browser.press('From the kiln, Strip of 5');
  await browser.seeText('Frame 1 of 5');
  await drop(browser, pano);
  await browser.find('.thing');
  await browser.saved();
  await browser.exact();
  await browser.press('The set', 'a');
  await browser.seeText('5 places of one picture');
  await browser.driver.wait(
    () =>
      browser.run<boolean>(
        `return [...document.querySelectorAll('td.file')].every((t) => /kB/.test(t.textContent)) && document.querySelectorAll('td.file').length === 5`,
      ),
    60_000,
  );
  const five = await pressed(browser, 'Save 5 files', '5 files are in');
  await browser.visit(`${app.app}/graphics`);
  await browser.go(`${app.app}/graphics/new?size=670x134`);
  await startBare(browser);
  await drop(browser, pano);
  await browser.find('.thing');
  await browser.saved();
  await browser.exact();
  const address = await browser.driver.getCurrentUrl();
  await browser.go(`${address.replace('/graphics/', '/sets/')}`);
  await browser.seeText('one picture');
  await browser.driver.wait(
    () => browser.run<boolean>(`return /kB/.test(document.querySelector('td.file')?.textContent ?? '')`),
    60_000,
  );
  const one = await pressed(browser, 'Save 1 file', ' is in ');
  row('a strip of five saved, against one file of the same area', five / one, '≤ 1.3');
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
