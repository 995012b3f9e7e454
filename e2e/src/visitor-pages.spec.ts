// Covers: web/page, web/sites, core/page, server
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { devices, windowWidth, type Device } from '@bright-slot/core';
import sharp from 'sharp';
import { demo } from './harness/demo';
import { withApp } from './harness/suite';

// What a visitor’s browser shows of each of the site’s pages, held against the likeness that the app shows of it: the
// same markup, but another document, with its own type and nothing inherited.

const { app, browser } = withApp();
const HIGH = 1500;

/** A picture in which every px tells where it is from, so that a shift or another scaling is seen. */
async function ruled(width: number, height: number, seed: number): Promise<Buffer> {
  const data = Buffer.alloc(width * height * 3);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      data[i++] = (x * 2 + seed * 40) % 256;
      data[i++] = (y * 3) % 256;
      data[i++] = ((x >> 4) + (y >> 4)) % 2 ? 60 : 190;
    }
  return sharp(data, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
}

/** Sends a picture for a slot, by the site’s own interface, and lets its page show it. */
async function show(slot: string, name: string, png: Buffer): Promise<void> {
  const body = new FormData();
  for (const [key, value] of Object.entries({ name, slot, alt: 'Ruled', graphicId: 'g', graphicName: 'Ruled' }))
    body.set(key, value);
  body.set('file', new File([new Uint8Array(png)], name, { type: 'image/png' }));
  const headers = { Origin: app.app };
  const sent = await fetch(`${app.site}/api/pictures`, { method: 'POST', headers, body });
  const { id } = (await sent.json()) as { id: string };
  await fetch(`${app.site}/api/slots/${slot}`, {
    method: 'PUT',
    headers: { ...headers, 'Content-Type': 'application/json' },
    body: JSON.stringify({ picture: id }),
  });
}

interface Place {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** The places of a page in a window as wide as a device’s, and how it is painted. `root` is where its markup stands. */
async function painted(root: string, file: string): Promise<{ places: Place[]; pixels: Buffer; width: number }> {
  await browser.driver.wait(
    () =>
      browser.run<boolean>(
        `const root = ${root};
         const images = [...root.querySelectorAll('img')];
         return images.length > 0 && images.every((i) => i.complete && i.naturalWidth > 0) && document.fonts.status === 'loaded';`,
      ),
    15_000,
    `The pictures of ${file} do not come`,
  );
  const places = await browser.run<Place[]>(
    `return [...(${root}).querySelectorAll('.slot')].map((s) => { const r = s.getBoundingClientRect(); return { x: r.x, y: r.y, width: r.width, height: r.height }; });`,
  );
  const path = join(tmpdir(), `visitor-${process.pid}-${file}.png`);
  await browser.screenshot(path);
  const { data, info } = await sharp(path).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  return { places, pixels: data, width: info.width };
}

/** The largest difference of two paintings within a place, levels of 255. */
function apart(a: Awaited<ReturnType<typeof painted>>, b: Awaited<ReturnType<typeof painted>>, at: Place): number {
  let most = 0;
  const [left, top] = [Math.max(0, Math.ceil(at.x)), Math.max(0, Math.ceil(at.y))];
  const [right, bottom] = [
    Math.min(a.width, Math.floor(at.x + at.width)),
    Math.min(HIGH, Math.floor(at.y + at.height)),
  ];
  for (let y = top; y < bottom; y++)
    for (let i = (y * a.width + left) * 3; i < (y * a.width + right) * 3; i++)
      most = Math.max(most, Math.abs(a.pixels[i]! - b.pixels[i]!));
  return most;
}

it('shows what On the page shows: all pages of the site, at three widths, to a px and two levels', async () => {
  const { pages } = demo.site;
  expect(pages).toHaveLength(14);
  const slots = new Map(demo.slots.map((s) => [s.id, s]));
  let seed = 0;
  for (const id of new Set(pages.flatMap((p) => p.slots))) {
    const { width, height } = slots.get(id)!;
    await show(id, `ruled-${id}.png`, await ruled(Math.round(width), Math.round(height), seed++));
  }
  const seen = new Map<string, Awaited<ReturnType<typeof painted>>>();
  const widthOf = (path: string, device: Device) =>
    windowWidth(slots.get(pages.find((p) => p.path === path)!.slots[0]!)!, device);
  try {
    await browser.go(`${app.app}/sites`);
    await browser.find('bs-stand-in-pages .page');
    for (const [i, { path }] of pages.entries())
      for (const device of devices) {
        await browser.size(widthOf(path, device), HIGH);
        // The likeness at its own size, with nothing before it; it inherits what the app’s own page gives it.
        await browser.run(
          `document.querySelectorAll('[data-lifted]').forEach((e) => { e.style.cssText = e.dataset.lifted; delete e.dataset.lifted; });
           const e = document.querySelectorAll('bs-page-likeness')[arguments[0]];
           e.dataset.lifted = e.style.cssText;
           e.style.cssText = 'position:fixed;left:0;top:0;z-index:9999;transform:none;width:' + innerWidth + 'px;height:' + innerHeight + 'px;background:#fff';
           for (let p = e.parentElement; p; p = p.parentElement) { p.style.overflow = 'visible'; p.style.transform = 'none'; p.style.contain = 'none'; }
           for (const p of [document.documentElement, document.body]) p.style.overflow = 'hidden';`,
          i,
        );
        const root = `document.querySelectorAll('bs-page-likeness')[${i}].shadowRoot`;
        seen.set(`${path} ${device}`, await painted(root, `${i}-${device}`));
      }
    const worst = { px: 0, levels: 0, at: '' };
    for (const { path } of pages)
      for (const device of devices) {
        await browser.size(widthOf(path, device), HIGH);
        await browser.go(`${app.site}${path}`);
        const visitor = await painted('document', `visitor-${device}`);
        const own = seen.get(`${path} ${device}`)!;
        expect([path, device, visitor.places.length]).toEqual([path, device, own.places.length]);
        for (const [n, place] of visitor.places.entries()) {
          const off = (['x', 'y', 'width', 'height'] as const).map((k) => Math.abs(place[k] - own.places[n]![k]));
          const levels = apart(visitor, own, place);
          if (Math.max(...off) > worst.px || levels > worst.levels) worst.at = `${path}, ${device}`;
          worst.px = Math.max(worst.px, ...off);
          worst.levels = Math.max(worst.levels, levels);
        }
      }
    console.log(`worst of 42 pages: ${worst.px} px, ${worst.levels} levels (${worst.at})`);
    expect(worst.px).toBeLessThanOrEqual(1);
    expect(worst.levels).toBeLessThanOrEqual(2);
  } finally {
    await browser.size(1280, 800);
  }
});

it('the site misbehaves as it is told to on Sites, and a page takes its settings and goes back', async () => {
  await browser.go(`${app.app}/sites`);
  await browser.find('bs-stand-in-pages .page');
  const faults = async () => (await fetch(`${app.site}/api/faults`)).json() as Promise<Record<string, unknown>>;
  await (await browser.find('.faults summary')).click();
  for (const name of ['Full', 'Darkens']) await (await browser.named('label', name)).click();
  await browser.driver.wait(async () => (await faults())['full'] === true, 5000);
  expect(await faults()).toMatchObject({ full: true, darkening: 0.3, slow: 0 });
  for (const name of ['Full', 'Darkens']) await (await browser.named('label', name)).click();
  await browser.driver.wait(async () => (await faults())['darkening'] === 0, 5000);

  const css = async () => (await fetch(`${app.site}/blog.css`)).text();
  const plain = await css();
  const within = (text: string) =>
    browser.run(
      `const card = document.querySelector('section[data-slot="blog-header"]');
       [...card.querySelectorAll('summary, button')].find((s) => s.textContent.includes(arguments[0])).click()`,
      text,
    );
  await within('The page’s settings');
  await within('Send them to the page');
  await browser.seeText('has them now.');
  expect(await css()).not.toBe(plain);
  await within('The page’s own again');
  await browser.seeText('has its own again.');
  expect(await css()).toBe(plain);
});
