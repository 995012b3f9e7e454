import { startApp } from './harness/app';
import { Browser } from './harness/browser';
import { settleDemo } from './harness/workbench';
const app = await startApp();
const browser = await Browser.open();
const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));
const report = () =>
  browser.run<string[]>(
    `return [...document.querySelectorAll('bs-fit-report ol li')].map((e) => e.querySelector('.title').textContent.trim() + ' :: ' + [...e.querySelectorAll('.button')].map(b => b.textContent.trim()).join(' | '))`,
  );
try {
  await settleDemo(browser, app);
  for (const id of ['demo-evening-classes', 'demo-autumn-glazes']) {
    await browser.go(`${app.app}/graphics/${id}`);
    await browser.find('[data-settled="true"]', 30_000);
    await wait(2000);
    console.log(id, (await report()).join('\n'));
  }
  // menu tiles
  await browser.go(`${app.app}/slots?slot=menu-tile`);
  await wait(500);
  for (let i = 0; i < 9; i++) {
    await browser.visit(`${app.app}/slots?slot=menu-tile`);
    await browser.press('Start a graphic');
    await browser.seeText('Nothing on the canvas yet');
  }
  await wait(2500);
  console.log((await report()).join('\n'));
  await browser.press('On the page');
  await wait(1500);
  await browser.screenshot('/tmp/shots/tiles.png');
} finally {
  await browser.close();
  await app.stop();
}
