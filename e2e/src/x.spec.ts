import { Browser } from './harness/browser';
import { startApp } from './harness/app';
it('looks', async () => {
  const app = await startApp();
  const browser = await Browser.open();
  try {
    await browser.go(`${app.app}/graphics`);
    await browser.find('bs-first-steps', 20_000);
    await browser.driver.sleep(500);
    await browser.screenshot('/tmp/shots/first.png');
    const input = await browser.find('bs-first-steps input[type=file]');
    await input.sendKeys('/work/main/demo/logos/ottermill.svg');
    await browser.find('.chip');
    await browser.screenshot('/tmp/shots/first-logo.png');
    await browser.press('Look round the pottery');
    await browser.find('bs-graphic-card', 60_000);
    await browser.driver.sleep(4000);
    await browser.screenshot('/tmp/shots/round.png');
    await browser.go(`${app.app}/sites`);
    await browser.driver.sleep(2500);
    await browser.screenshot('/tmp/shots/sites.png');
    await browser.go(`${app.app}/slots`);
    await browser.driver.sleep(2500);
    await browser.screenshot('/tmp/shots/slots.png');
    await browser.go(`${app.app}/graphics`);
    await browser.find('bs-graphic-card', 60_000);
    await browser.press('Take the pottery away');
    await browser.driver.sleep(1500);
    await browser.screenshot('/tmp/shots/gone.png');
    console.log(await (await browser.find('body')).getText());
    console.log(JSON.stringify(await browser.violations()));
  } finally {
    await browser.close();
    await app.stop();
  }
});
