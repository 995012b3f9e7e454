import { readFileSync, writeFileSync } from 'node:fs';
import { startApp } from './harness/app';
import { Browser, Key } from './harness/browser';
import { settleDemo } from './harness/workbench';
const app = await startApp();
const browser = await Browser.open();
const cdp = (c: string, p: object = {}) => (browser.driver as unknown as { sendAndGetDevToolsCommand(c: string, p: object): Promise<any> }).sendAndGetDevToolsCommand(c, p);
try {
  await settleDemo(browser, app);
  await browser.go(`${app.app}/graphics`);
  await browser.press('New graphic');
  await browser.press('Blog header, 940 × 198');
  await browser.seeText('The canvas is empty');
  await browser.dropFiles('bs-workbench-page', [
    { name: 'pano.jpg', type: 'image/jpeg', base64: readFileSync('/work/main/demo/pictures/pano.jpg').toString('base64') },
  ]);
  await browser.find('.thing');
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
  await cdp('Profiler.enable');
  await cdp('Profiler.setSamplingInterval', { interval: 1000 });
  await cdp('Profiler.start');
  const deltas = await browser.driver.executeAsyncScript<number[]>(
      `const [done] = arguments;
       const content = document.querySelector('.hits .konvajs-content');
       const at = content.getBoundingClientRect();
       const thing = [...document.querySelectorAll('.thing[aria-label^="Words"]')].at(-1).getBoundingClientRect();
       const [x0, y0] = [thing.x + thing.width / 2 - at.x, thing.y + thing.height / 2 - at.y];
       const fire = (target, type, x, y) =>
         target.dispatchEvent(new PointerEvent(type, { bubbles: true, clientX: at.x + x, clientY: at.y + y, pointerId: 1, button: 0, buttons: 1 }));
       document.title = String(document.querySelectorAll('.thing').length); fire(content, "pointerdown", x0, y0);
       const deltas = [];
       let last = performance.now();
       let n = 0;
       const step = (now) => {
         if (n > 0) deltas.push(now - last);
         last = now;
         if (++n > 120) { fire(window, "pointerup", x0, y0); return done(deltas); }
         fire(window, "pointermove", x0 + 40 * Math.sin(n / 9), y0 + 12 * Math.cos(n / 9));
         requestAnimationFrame(step);
       };
       requestAnimationFrame(step);`,
    );
  await new Promise((r) => setTimeout(r, 1500));
  const { profile } = await cdp('Profiler.stop');
  console.log(deltas.map((d, i) => [i, Math.round(d)]).filter(([, d]) => d! > 20).join(' ; '));
  writeFileSync('/tmp/drag.cpuprofile', JSON.stringify(profile));
} finally {
  await browser.close();
  await app.stop();
}
