import { startApp } from './harness/app';
import { Browser } from './harness/browser';
import { settleDemo } from './harness/workbench';
const app = await startApp();
const browser = await Browser.open();
const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));
try {
  await settleDemo(browser, app);
  await browser.go(`${app.app}/graphics/demo-kiln-opening`);
  await browser.find('[data-settled="true"]', 30_000);
  await browser.press('On the page');
  await wait(800);
  await browser.press('Page colours');
  await wait(2500);
  await browser.screenshot('/tmp/shots/col0.png');
  await browser.run(`document.querySelectorAll('.palette')[3].click()`);
  await wait(600);
  await browser.screenshot('/tmp/shots/col1.png');
  await browser.press('Keep for this page');
  await wait(800);
  await browser.screenshot('/tmp/shots/col1b.png');
  await browser.run(`document.querySelector('mat-snack-bar-container')?.remove()`);
  await browser.press('The file itself');
  await browser.press('Desktop');
  await browser.press('True size');
  await wait(1500);
  await browser.screenshot('/tmp/shots/col2.png');
  await browser.press('Back to the canvas');
  const b = await browser.named('button', 'Dim the rest');
  await b.click();
  await wait(600);
  await browser.screenshot('/tmp/shots/dim.png');
} finally {
  await browser.close();
  await app.stop();
}
