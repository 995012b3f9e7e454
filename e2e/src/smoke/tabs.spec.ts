// Covers: web/document, web/storage
import { startApp, type RunningApp } from '../harness/app';
import { Browser, Key } from '../harness/browser';
import { settleDemo, things } from '../harness/workbench';

let app: RunningApp;
beforeAll(async () => {
  app = await startApp();
});
afterAll(async () => app.stop());

it('of two tabs one writes and the other reads, or takes over', async () => {
  const browser = await Browser.open();
  try {
    await settleDemo(browser, app);
    await browser.go(`${app.app}/graphics/demo-autumn-glazes`);
    await browser.exact();
    const first = await browser.driver.getWindowHandle();
    await browser.driver.switchTo().newWindow('tab');
    const second = await browser.driver.getWindowHandle();
    await browser.size(1280, 800);
    await browser.go(`${app.app}/graphics/demo-autumn-glazes`);
    await browser.seeText('Another tab is working on this graphic');
    await browser.exact();
    // The reader cannot write …
    await browser.chord(Key.CONTROL, 'z');
    await browser.keys(Key.DELETE);
    expect(await things(browser)).toHaveLength(3);
    // … and sees what the writer saves.
    await browser.driver.switchTo().window(first);
    await browser.fill(await browser.find('input.name'), `From the first${Key.ENTER}`);
    await browser.saved();
    await browser.driver.switchTo().window(second);
    const name = async () => (await browser.find('input.name')).getAttribute('value');
    await browser.driver.wait(async () => (await name()) === 'From the first', 5000);
    await browser.press('Work on it here');
    await browser.driver.wait(async () => (await browser.all('.banner')).length === 0, 8000);
    await browser.fill(await browser.find('input.name'), `From the second${Key.ENTER}`);
    await browser.saved();
    await browser.driver.switchTo().window(first);
    await browser.seeText('Another tab is working on this graphic');
    await browser.driver.wait(async () => (await name()) === 'From the second', 5000);
    // A tab that went away and comes back reads what was written meanwhile.
    await browser.press('Graphics', 'a');
    await browser.find('bs-graphic-card');
    await browser.driver.switchTo().window(second);
    await browser.fill(await browser.find('input.name'), `While the first was away${Key.ENTER}`);
    await browser.saved();
    await browser.press('Graphics', 'a');
    await browser.find('bs-graphic-card');
    await browser.driver.sleep(700);
    await browser.driver.switchTo().window(first);
    await (await browser.find('a[href="/graphics/demo-autumn-glazes"]')).click();
    await browser.driver.wait(async () => (await name()) === 'While the first was away', 8000);
    expect(await browser.all('.banner')).toHaveLength(0);
  } finally {
    await browser.close();
  }
});
