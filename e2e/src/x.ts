import { startApp } from './harness/app';
import { Browser } from './harness/browser';
import { settleDemo } from './harness/workbench';
const app = await startApp();
const browser = await Browser.open();
const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));
try {
  await settleDemo(browser, app);
  await browser.go(`${app.app}/graphics/demo-shelves`);
  await browser.find('[data-settled="true"]', 30_000);
  await browser.press('On the page');
  await wait(800);
  await (await browser.find('bs-on-page a.button')).click();
  await browser.seeText('Your own page for');
  await browser.screenshot('/tmp/shots/own0.png');
  await browser.press('Try the demo’s');
  await browser.find('.sheet img', 10_000);
  await wait(800);
  const sheet = await browser.run<{x:number;y:number;k:number}>(`const r = document.querySelector('.sheet img').getBoundingClientRect(); return {x: r.x, y: r.y, k: r.width / 1280}`);
  await browser.drag({ x: sheet.x + 100 * sheet.k, y: sheet.y + 125 * sheet.k }, { x: 535 * sheet.k, y: 625 * sheet.k });
  await browser.seeText('Make this the page of');
  await wait(500);
  await browser.screenshot('/tmp/shots/own1.png');
  await browser.press('Make this the page of');
  await wait(2500);
  await browser.screenshot('/tmp/shots/own2.png');
  await browser.press('Back to the canvas');
  await wait(1500);
  await browser.screenshot('/tmp/shots/own3.png');
  await browser.go(`${app.app}/graphics`);
  await wait(3000);
  await browser.screenshot('/tmp/shots/own4.png');
} finally {
  await browser.close();
  await app.stop();
}
