import { readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { root } from './app';
import type { Browser } from './browser';
import { things } from './workbench';

/** What is done with a site of one's own, whose files are in a folder of this computer. */
export function atOwnSite(browser: () => Browser, folder: () => string) {
  /** A page of a shop's: its header is whatever stands at `name`, 940 × 198. */
  function page(name: string, picture: string): void {
    writeFileSync(
      join(folder(), name),
      `<!doctype html><title>Journal</title><style>body{margin:0;background:#f4f1ea;font:16px sans-serif}
main{width:940px;margin:40px auto}.head{width:940px;height:198px;background:#8d9a92;overflow:hidden}.head img{display:block}
h1{font-size:28px}</style><main><div class="head"><img src="${picture}" alt="" onerror="this.remove()"></div>
<h1>The ash glaze, third firing</h1><p>The shelf nearest the burner came out a shade greener.</p></main>`,
    );
  }

  const field = async (label: string, text: string) => {
    const input = await browser().driver.wait(async () => {
      for (const l of await browser().all('label.field'))
        if ((await l.getText()).startsWith(label)) return l.findElement({ css: 'input' });
      return null;
    }, 5000);
    await browser().fill(input!, text);
  };
  /** What elements say. */
  const texts = `return [...document.querySelectorAll(arguments[0])].map((e) => e.textContent.trim())`;
  const chosen = (css: string) =>
    browser().run<string>(`return document.querySelector('${css}')?.textContent.trim() ?? ''`);

  /** Measures the header on a screenshot of its page, and brings it into the book. */
  async function measure(at: string, name: string): Promise<void> {
    const file = join(tmpdir(), `own-site-${process.pid}-${name}.png`);
    await browser().press('Measure a place on a screenshot');
    const [back] = await browser().driver.getAllWindowHandles();
    await browser().driver.switchTo().newWindow('tab');
    await browser().size(1280, 800);
    await browser().go(at);
    await browser().screenshot(file);
    const box = await browser().run<{ x: number; y: number }>(
      `const r = document.querySelector('.head').getBoundingClientRect(); return { x: r.x, y: r.y }`,
    );
    await browser().driver.close();
    await browser().driver.switchTo().window(back!);
    await browser().dropFiles('bs-shot-view', [{ name: `${name}.png`, type: 'image/png', bytes: readFileSync(file) }]);
    await browser().find('.sheet img');
    const sheet = await browser().run<{ x: number; y: number; k: number }>(
      `const img = document.querySelector('.sheet img'); const r = img.getBoundingClientRect(); return { x: r.x, y: r.y, k: r.width / img.naturalWidth }`,
    );
    await browser().drag(
      { x: sheet.x + (box.x - 8) * sheet.k, y: sheet.y + (box.y - 8) * sheet.k },
      { x: 956 * sheet.k, y: 214 * sheet.k },
    );
    await browser().seeText('940 × 198');
    await field('Name', name);
    await browser().press('Add to the book');
    await browser().seeText('is in the book');
  }

  /** Puts a photo on the canvas that is open, and sends it. */
  async function sendFrom(photo: string, alt: string, by?: string): Promise<void> {
    await browser().dropFiles('bs-workbench-page', [
      { name: photo, type: 'image/jpeg', bytes: readFileSync(join(root, 'demo/pictures', photo)) },
    ]);
    const name = photo.replace('.jpg', '');
    await browser().driver.wait(async () => (await things(browser())).some((t) => t.includes(name)), 15_000);
    await browser().find('[data-settled="true"]', 30_000);
    await browser().saved();
    await finish(alt, by);
  }

  /** Waits until a dialog that was answered has gone: while it goes it is still there to be asked. */
  const gone = (css: string) =>
    browser().driver.wait(async () => (await browser().all(css)).length === 0, 30_000, `${css} does not go`);

  async function signIn(): Promise<void> {
    await field('Passphrase', 'green as the glaze');
    await browser().press('Sign in');
    await gone('bs-sign-in-dialog');
  }

  async function finish(alt: string, by = 'Put on the site'): Promise<void> {
    await browser().press('Finish');
    await browser().fill(await browser().find('bs-finish-panel textarea'), alt);
    await browser().press(by);
    const sent = 'bs-sent-note .sent strong';
    await browser().find(`bs-findings-dialog, bs-sign-in-dialog, ${sent}`, 30_000);
    // What the fit report found does not keep anyone from sending.
    if ((await browser().all('bs-findings-dialog')).length) {
      await browser().press('Send it all the same');
      await gone('bs-findings-dialog');
    }
    await browser().find(`bs-sign-in-dialog, ${sent}`, 30_000);
    if ((await browser().all('bs-sign-in-dialog')).length) await signIn();
    await browser().find(sent, 30_000);
  }

  /** What a visitor’s browser shows in the header. */
  async function header(at: string): Promise<Buffer> {
    const [back] = await browser().driver.getAllWindowHandles();
    await browser().driver.switchTo().newWindow('tab');
    await browser().size(1280, 800);
    await browser().go(at);
    await browser().driver.wait(
      () => browser().run<boolean>(`return [...document.images].every((i) => i.complete && i.naturalWidth > 0)`),
      10_000,
    );
    const file = join(tmpdir(), `own-site-${process.pid}-header.png`);
    await browser().screenshot(file);
    const box = await browser().run<{ left: number; top: number; width: number; height: number }>(
      `const r = document.querySelector('.head').getBoundingClientRect(); return { left: r.x, top: r.y, width: r.width, height: r.height }`,
    );
    await browser().driver.close();
    await browser().driver.switchTo().window(back!);
    return sharp(file).extract(box).removeAlpha().raw().toBuffer();
  }

  const pixels = async (file: string) => sharp(file).removeAlpha().raw().toBuffer();
  const worst = (a: Buffer, b: Buffer) => a.reduce((m, v, i) => Math.max(m, Math.abs(v - b[i]!)), 0);

  return { page, field, texts, chosen, measure, sendFrom, signIn, finish, gone, header, pixels, worst };
}
