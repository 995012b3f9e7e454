import type { Browser } from './browser';

/** Waits on the Export page until the lightest file that looks the same is found. */
export const foundFile = (browser: Browser) => browser.find('.formats[data-found="true"]', 120_000);

/** Chooses a format by what it is called, and waits until its file is made. */
export async function chooseFormat(browser: Browser, name: string): Promise<void> {
  const row = `//*[contains(@class, "format") and @role="radio" and ./strong[normalize-space()="${name}"]]`;
  await foundFile(browser);
  await browser.press(name, '*[@role="radio"]');
  await browser.driver.wait(async () => {
    const [found] = await browser.driver.findElements({ xpath: `${row}[@aria-checked="true"]//*[@class="bytes"]` });
    return /B|bytes/.test((await found?.getText()) ?? '');
  }, 30_000);
}
