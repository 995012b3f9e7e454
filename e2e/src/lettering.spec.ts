// Covers: web/workbench, web/type, core/words, core/colour, core/paint
import sharp from 'sharp';
import { Key } from './harness/browser';
import { withApp } from './harness/suite';
import { exportedPng, newGraphic, things } from './harness/workbench';

// What is around words, in the running app.
const { app, browser } = withApp();

const back = async () => {
  await browser.run('history.back()');
  await browser.find('bs-layer-list');
};
const figure = async (label: string) =>
  browser.run<string>(
    `return [...document.querySelectorAll('bs-settings bs-number')].find((n) => n.textContent.includes(arguments[0])).querySelector('input').value`,
    label,
  );
const choose = async (select: string, option: string) => {
  await (await browser.find(`mat-select[aria-label="${select}"]`)).click();
  await browser.press(option, 'mat-option');
};

describe('letter spacing and case', () => {
  beforeAll(async () => {
    await newGraphic(browser, app, 'Blog header, 940 × 198');
    await browser.press('Add');
    await browser.menu('Words');
    await browser.fill(await browser.find('textarea'), 'Notes from the Wheel');
    await browser.saved();
    await browser.tab('Around them');
  });

  it.each([
    ['as typed, spaced by 12 %', 12, 'As typed', 'none'],
    ['large, spaced by 8 %', 8, 'ALL LARGE', 'uppercase'],
    ['each word large, drawn together by 3 %', -3, 'Each Word Large', 'capitalize'],
  ])(
    '%s: as wide as Chromium lays out the same words (CSS Text 3), within 0.5 px',
    async (_name, percent, name, css) => {
      await browser.number('Letter spacing', percent);
      await choose('Case', name);
      await browser.saved();
      await browser.tab('Words');
      await browser.find('textarea');
      const size = Number(await figure('Size'));
      await browser.tab('Place');
      await browser.named('button', 'Centre across');
      const ours = await browser.run<number>(
        `return Number(/([\\d.]+) × /.exec([...document.querySelectorAll('bs-words-settings .quiet')].at(-1).textContent)[1])`,
      );
      const theirs = await browser.driver.executeAsyncScript<number>(
        `const [size, spacing, transform, done] = arguments;
       document.fonts.load('700 52px "Bricolage Grotesque Variable"').then(() => {
         const e = document.createElement('span');
         Object.assign(e.style, { position: 'absolute', whiteSpace: 'pre', fontFamily: '"Bricolage Grotesque Variable"', fontWeight: 700, fontSize: size + 'px', letterSpacing: spacing + 'em', textTransform: transform });
         e.textContent = 'Notes from the Wheel';
         document.body.append(e);
         const { width } = e.getBoundingClientRect();
         e.remove();
         done(width);
       });`,
        size,
        percent / 100,
        css,
      );
      expect(Math.abs(ours - theirs)).toBeLessThanOrEqual(0.5);
      await browser.tab('Around them');
    },
  );
});

it('faint words get a ground of their own, and the report follows; outline and shadow come along into the file', async () => {
  await browser.visit(`${app.app}/graphics/demo-autumn-glazes`);
  await browser.find('[data-settled="true"]', 20_000);
  const faint = () =>
    browser.run<boolean>(`return document.querySelector('bs-fit-report').textContent.includes('“Title” is too faint')`);
  const before = await faint();
  await browser.layer('Words: Title');
  await browser.tab('Around them');
  await (await browser.named('label', 'Ground')).click();
  await browser.number('Opacity', 100);
  await browser.saved();
  await browser.find('[data-settled="true"]', 20_000);
  expect([before, await faint()]).toEqual([true, false]);
  await (await browser.named('label', 'Outline')).click();
  await browser.number('Wide', 3);
  await browser.saved();
  await browser.find('[data-settled="true"]', 20_000);
  // Brown letters within dark lines on white: the lines are what is read.
  expect(await faint()).toBe(false);
  await (await browser.named('label', 'Shadow')).click();
  await browser.saved();
  await browser.exact();
  const { data } = await exportedPng(browser);
  // The outline’s own ink, 3 px around letters of 52.
  let ink = 0;
  for (let i = 0; i < data.length; i += 4) if (data[i] === 0x1f && data[i + 1] === 0x2a && data[i + 2] === 0x30) ink++;
  expect(ink).toBeGreaterThan(1500);
  await back();
});

it('words are turned by figures, the selection goes along, and each change is undone', async () => {
  await browser.layer('Words: Title');
  await browser.tab('Place');
  const before = (await things(browser))[1]!;
  await browser.number('Turn', 90);
  await browser.saved();
  const [, w, h] = /, (\d+) × (\d+) px/.exec((await things(browser))[1]!)!.map(Number);
  const [, w0, h0] = /, (\d+) × (\d+) px/.exec(before)!.map(Number);
  expect([w, h]).toEqual([h0, w0]);
  await browser.run('document.activeElement.blur()');
  await browser.chord(Key.CONTROL, 'z');
  await browser.driver.wait(async () => (await things(browser))[1] === before, 5000);
  expect(await browser.errors()).toEqual([]);
});

it('a gradient backdrop is what Chromium paints for the same CSS (CSS Images 3), reversed by a press', async () => {
  await newGraphic(browser, app, 'Blog header, 940 × 198');
  await browser.layer('Backdrop');
  await browser.press('A gradient');
  await browser.number('Angle', 115);
  await browser.fill(await browser.find('input[aria-label="From, hex"]'), `#1f6f5c${Key.ENTER}`);
  await browser.fill(await browser.find('input[aria-label="To, hex"]'), `#f4e7cb${Key.ENTER}`);
  await browser.saved();
  const seen = async (from: string, to: string) => {
    const { data } = await exportedPng(browser);
    const tab = await browser.driver.getWindowHandle();
    await browser.driver.switchTo().newWindow('tab');
    await browser.size(1280, 800);
    await browser.go(
      `data:text/html,<style>body{margin:0}div{width:940px;height:198px;background:linear-gradient(115deg,%23${from},%23${to})}</style><div></div>`,
    );
    const shot = Buffer.from(await (await browser.find('div')).takeScreenshot(), 'base64');
    await browser.driver.close();
    await browser.driver.switchTo().window(tab);
    const want = await sharp(shot).ensureAlpha().raw().toBuffer();
    expect(want.length).toBe(data.length);
    let worst = 0;
    for (let i = 0; i < data.length; i++) worst = Math.max(worst, Math.abs(data[i]! - want[i]!));
    await back();
    return worst;
  };
  expect(await seen('1f6f5c', 'f4e7cb')).toBeLessThanOrEqual(2);
  await browser.layer('Backdrop');
  await browser.press('Reverse');
  await browser.saved();
  expect(await seen('f4e7cb', '1f6f5c')).toBeLessThanOrEqual(2);
});
