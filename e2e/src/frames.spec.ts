// Covers: web/workbench, web/document, core/graphic
import sharp from 'sharp';
import type { Frame, Graphic } from '@bright-slot/core';
import { changeHead } from './harness/stored';
import { withApp } from './harness/suite';
import { drop, exportedPng, newGraphic } from './harness/workbench';

const { app, browser } = withApp();

/** A graphic made to have two frames side by side. */
function split(graphic: Graphic): Graphic {
  const [frame] = graphic.frames as [Frame];
  const width = frame.rect.width / 2;
  const slot = { ...frame.slot, width, shownWidth: width, keepsTransparency: false };
  const half = (n: number): Frame => ({
    ...frame,
    id: `half-${n}`,
    rect: { ...frame.rect, x: n * width, width },
    slot,
  });
  return { ...graphic, frames: [half(0), half(1)] };
}

describe('a graphic of two frames', () => {
  let whole: Awaited<ReturnType<typeof exportedPng>>;
  let address = '';

  it('is one canvas with both outlined, one of them in hand', async () => {
    await newGraphic(browser, app, 'Blog header, 940 × 198');
    const scene = await sharp({ create: { width: 1200, height: 600, channels: 3, background: '#a4512f' } })
      .composite([
        {
          input: await sharp({ create: { width: 300, height: 200, channels: 3, background: '#f2b01e' } })
            .png()
            .toBuffer(),
          left: 500,
          top: 180,
        },
      ])
      .blur(6)
      .png()
      .toBuffer();
    await drop(browser, { name: 'glow.png', type: 'image/png', bytes: scene });
    await browser.find('.thing');
    await browser.press('Add');
    await browser.menu('Words');
    await browser.find('.thing[aria-label^="Words"]');
    await browser.saved();
    address = await browser.driver.getCurrentUrl();
    whole = await exportedPng(browser);
    await browser.visit(`${app.app}/slots`);
    await browser.seeText('Slots');
    await changeHead(browser, address.split('/').at(-1)!, split);
    await browser.go(address);
    await browser.find('.tag');
    expect((await browser.all('.tag')).length).toBe(2);
    await browser.seeText('Frame 1 of 2, 470 × 198 px');
    await browser.press('Frame 2', 'button[contains(@class, "tag")]');
    await browser.seeText('Frame 2 of 2, 470 × 198 px');
    expect((await browser.all('.outline.in-hand')).length).toBe(1);
    // The words stand in the middle of the canvas: over the seam.
    await browser.seeText('reaches');
  });

  it('becomes a file for each, which together are the canvas, to one level of 255', async () => {
    const right = await exportedPng(browser);
    await browser.press('1 · 470 × 198');
    await browser.driver.wait(
      async () => (await browser.all('bs-choice button[aria-pressed="true"]')).length > 0,
      5000,
    );
    await browser.seeText('Made from the originals');
    await browser.press('Workbench', 'a').catch(() => browser.driver.navigate().back());
    await browser.find('.tag');
    await browser.seeText('Frame 1 of 2');
    const left = await exportedPng(browser);
    for (const half of [left, right]) expect([half.width, half.height]).toEqual([470, 198]);
    const together = await sharp({ create: { width: 940, height: 198, channels: 4, background: '#0000' } })
      .composite([
        { input: left.file, left: 0, top: 0 },
        { input: right.file, left: 470, top: 0 },
      ])
      .raw()
      .toBuffer();
    let worst = 0;
    for (let i = 0; i < together.length; i++) worst = Math.max(worst, Math.abs(together[i]! - whole.data[i]!));
    // A reduction that begins elsewhere may round its last bit the other way.
    expect(worst).toBeLessThanOrEqual(1);
  });

  it('keeps each description with its frame, and lists the graphic with its first', async () => {
    const field = await browser.find('input[placeholder="What it shows and says"]');
    await browser.fill(field, 'The left half\n');
    await browser.press('2 · 470 × 198');
    await browser.driver.wait(
      async () =>
        (await (await browser.find('input[placeholder="What it shows and says"]')).getAttribute('value')) === '',
      5000,
      'The other frame has the first one’s description',
    );
    await browser.saved();
    await browser.visit(`${app.app}/graphics`);
    await browser.find(`bs-graphic-card a[href$="${address.split('/').at(-1)}"]`);
    expect(await browser.violations()).toEqual([]);
    expect(await browser.errors()).toEqual([]);
  });
});

it('left by an address of its own and come back to by the browser’s arrow, a graphic is read anew and can be worked on', async () => {
  await browser.visit(`${app.app}/graphics/demo-kiln-opening`);
  await browser.exact();
  await browser.visit(`${app.app}/slots`);
  await browser.seeText('Slots');
  await browser.driver.navigate().back();
  await browser.exact();
  await browser.press('Add');
  await browser.menu('Words');
  await browser.saved();
  await browser.exact();
  expect(await browser.errors()).toEqual([]);
});
