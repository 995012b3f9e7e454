// Covers: web/page, core/page, core/slot, core/paint
import { readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  beyondPoint,
  darkeningAt,
  fitted,
  pageFits,
  renderPage,
  shownAt,
  slotFrom,
  type Fitted,
  type PageFit,
  type Slot,
} from '@bright-slot/core';
import sharp from 'sharp';
import { withApp } from './harness/suite';

// What core says a page does to a picture, held against the pixels that Chromium paints of the page’s own CSS
// (CSS Images Module Level 3, section 5.5; CSS Backgrounds and Borders Level 3, section 5; Compositing 1, section 5.1).

const { browser } = withApp();

/** Every px tells where it is from: red and green rise by 4 a px and begin anew every 64. */
const TOOTH = 64;
const RISE = 4;
async function ruled(width: number, height: number): Promise<string> {
  const data = Buffer.alloc(width * height * 3);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      data[i++] = (x % TOOTH) * RISE;
      data[i++] = (y % TOOTH) * RISE;
      data[i++] = 128;
    }
  const png = await sharp(data, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
  return `data:image/png;base64,${png.toString('base64')}`;
}

interface Painted {
  readonly width: number;
  readonly height: number;
  readonly at: (x: number, y: number) => readonly [number, number, number];
}

/** The colour of a corner of the window, another for each page: by it a screenshot is known to be of that one. */
let page = 0;
const CORNER = { x: 1270, y: 790 };

/** A slot’s figure as Chromium paints it on its page at a width, one px a CSS px. */
async function paintedAt(slot: Slot, url: string, pageWidth: number): Promise<Painted> {
  const { html, css } = renderPage(slot.page, { slots: [{ slot, picture: { url, alt: '' } }] });
  const mark = [(++page * 37) % 256, (page * 101) % 256, 77];
  const box = await browser.run<{ x: number; y: number; width: number; height: number }>(
    `const [html, css, width, mark] = arguments;
     document.body.replaceChildren();
     document.body.style.cssText = 'margin:0;height:800px;overflow:hidden';
     const host = document.createElement('div');
     host.style.width = width + 'px';
     const corner = document.createElement('div');
     corner.style.cssText = 'position:fixed;right:0;bottom:0;width:20px;height:20px;background:rgb(' + mark.join(' ') + ')';
     document.body.append(host, corner);
     const root = host.attachShadow({ mode: 'open' });
     root.innerHTML = '<style>' + css + '</style>' + html;
     const figure = root.querySelector('.slot');
     const img = figure.querySelector('img');
     img.decoding = 'sync';
     // Without what it stands among: only the figure, on whole px.
     const place = figure.parentElement.getBoundingClientRect();
     host.style.transform = 'translate(' + (-place.x) + 'px,' + (-place.y) + 'px)';
     return img.decode().then(() => {
       const r = figure.getBoundingClientRect();
       return { x: r.x, y: r.y, width: r.width, height: r.height };
     });`,
    html,
    css,
    pageWidth,
    mark,
  );
  const file = join(tmpdir(), `page-pixels-${process.pid}.png`);
  for (let tries = 0; ; tries++) {
    await browser.screenshot(file);
    const { data, info } = await sharp(readFileSync(file)).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    const px = (x: number, y: number): [number, number, number] => {
      const i = (y * info.width + x) * 3;
      return [data[i]!, data[i + 1]!, data[i + 2]!];
    };
    // The frame before may still be on the screen.
    if (px(CORNER.x, CORNER.y).join() !== mark.join()) {
      if (tries === 40) throw new Error('The page was never painted.');
      continue;
    }
    return {
      width: Math.round(box.width),
      height: Math.round(box.height),
      at: (x, y) => px(Math.round(box.x) + x, Math.round(box.y) + y),
    };
  }
}

const base = (own: Partial<Slot>): Slot => ({
  ...slotFrom({ id: 'tried', name: 'Tried', group: 'Headers', width: 640, height: 320, page: 'plain' }),
  shownWidth: 640,
  ...own,
});

/** Where a px of the page comes from in a picture that is fitted into a frame, as core has it; null where the page’s ground is. */
function sourceOf(
  { part, scale }: Fitted,
  frame: { width: number; height: number },
  fit: PageFit,
  x: number,
  y: number,
): { x: number; y: number; by: number } | null {
  // What is smaller than its frame stands in the middle of it, or at its corner.
  const spare = (room: number, own: number) => (fit === 'top-left' ? 0 : Math.max(0, (room - own) / 2));
  const sx = part.x + (x + 0.5 - spare(frame.width, part.width * scale.x)) / scale.x;
  const sy = part.y + (y + 0.5 - spare(frame.height, part.height * scale.y)) / scale.y;
  const within = sx > part.x && sy > part.y && sx < part.x + part.width && sy < part.y + part.height;
  return within ? { x: sx, y: sy, by: Math.max(scale.x, scale.y) } : null;
}

interface Off {
  /** Px of the page, and of 255, by which the worst place is off. */
  readonly px: number;
  readonly level: number;
  readonly seen: number;
  readonly ground: number;
}

/** How far what Chromium paints is from what core says it paints. */
function offBy(painted: Painted, how: Fitted, frame: { width: number; height: number }, fit: PageFit): Off {
  let [px, level, seen, ground] = [0, 0, 0, 0];
  for (let y = 2; y < painted.height - 2; y += 3)
    for (let x = 2; x < painted.width - 2; x += 3) {
      const from = sourceOf(how, frame, fit, x, y);
      const got = painted.at(x, y);
      if (!from) {
        // Beside the picture the page’s own ground is to be seen.
        if (got.every((c) => c > 250)) ground++;
        continue;
      }
      // Near the end of a tooth a reduced px is of two teeth; near the picture’s edge of the ground too.
      const near = (v: number) => v % TOOTH < 4 / from.by + 2 || TOOTH - (v % TOOTH) < 4 / from.by + 2;
      const edge = from.x < 4 / from.by || from.y < 4 / from.by || from.x > 636 || from.y > 316;
      if (near(from.x) || near(from.y) || edge) continue;
      seen++;
      const off = [
        Math.abs(got[0] - ((from.x % TOOTH) - 0.5) * RISE),
        Math.abs(got[1] - ((from.y % TOOTH) - 0.5) * RISE),
      ];
      level = Math.max(level, ...off);
      px = Math.max(px, ...off.map((o) => (o / RISE) * from.by));
    }
  return { px, level, seen, ground };
}

const told = ({ px, level, seen, ground }: Off) =>
  `${px.toFixed(2)} px, ${level.toFixed(1)} of 255 (${seen} places, ${ground} of ground)`;

beforeAll(async () => {
  // A page without a content policy of its own, so that pictures can be given as data.
  await browser.driver.get('data:text/html,<!doctype html><body></body>');
});

it.each(pageFits.map((fit): [PageFit] => [fit]))(
  'what a page that %s cuts is what core says, at three widths, to a px; at true size to 2 of 255',
  async (fit) => {
    const slot = base({
      fit,
      tablet: { mode: 'size', width: 420, height: 400 },
      phone: { mode: 'height', height: 150 },
    });
    const url = await ruled(640, 320);
    const lines: string[] = [];
    for (const width of [1280, 768, 390]) {
      const painted = await paintedAt(slot, url, width);
      const shown = shownAt(slot, width)!;
      expect([painted.width, painted.height]).toEqual([Math.round(shown.width), Math.round(shown.height)]);
      const off = offBy(painted, shown, shown, fit);
      lines.push(`${width}: ${told(off)}`);
      expect(off.seen).toBeGreaterThan(300);
      expect([width, off.px <= 1]).toEqual([width, true]);
      if (Math.abs(shown.scale.x - 1) < 1e-9 && Math.abs(shown.scale.y - 1) < 1e-9)
        expect([width, off.level <= 2]).toEqual([width, true]);
    }
    console.log(`${fit}: ${lines.join('; ')}`);
  },
);

it.each(pageFits.map((fit): [PageFit] => [fit]))(
  'a picture of another size than its slot, on a page that %s, is cut and scaled as core says, to a px',
  async (fit) => {
    const url = await ruled(640, 320);
    for (const [width, height] of [
      [500, 300],
      [600, 150],
      [700, 400],
    ] as const) {
      const painted = await paintedAt(base({ fit, width, height, shownWidth: width }), url, 1280);
      expect([painted.width, painted.height]).toEqual([width, height]);
      const off = offBy(painted, fitted({ width: 640, height: 320 }, { width, height }, fit), { width, height }, fit);
      console.log(`${fit}, 640 × 320 in ${width} × ${height}: ${told(off)}`);
      expect(off.seen).toBeGreaterThan(300);
      expect([width, off.px <= 1]).toEqual([width, true]);
    }
  },
);

it.each([
  ['all', 0.45],
  ['foot', 0.7],
] as const)(
  'a darkening (%s, %d) is as dark as core says, row by row, to 2 of 255; switched off it is none',
  async (kind, strength) => {
    const sheet = await sharp({ create: { width: 640, height: 320, channels: 3, background: '#c8a078' } })
      .png()
      .toBuffer();
    const url = `data:image/png;base64,${sheet.toString('base64')}`;
    let worst = 0;
    for (const on of [true, false]) {
      const slot = base({ darkening: { kind, strength, switchable: true, on } });
      const painted = await paintedAt(slot, url, 1280);
      for (let y = 0; y < 320; y++) {
        const dark = darkeningAt(slot, 1 - (y + 0.5) / 320);
        const got = painted.at(300, y);
        [0xc8, 0xa0, 0x78].forEach((c, i) => (worst = Math.max(worst, Math.abs(got[i]! - c * (1 - dark)))));
      }
    }
    console.log(`darkening of ${kind}: ${worst.toFixed(2)} of 255 off at most`);
    expect(worst).toBeLessThanOrEqual(2);
  },
);

it.each<[string, Slot['shape']]>([
  ['round', { kind: 'ellipse' }],
  ['rounded by 40', { kind: 'rounded', radius: 40 }],
  ['rounded by more than half', { kind: 'rounded', radius: 400 }],
])('a %s slot: what core takes for cut off is what border-radius leaves unpainted', async (_, shape) => {
  const sheet = await sharp({ create: { width: 640, height: 320, channels: 3, background: '#000000' } })
    .png()
    .toBuffer();
  const slot = base({ shape, ground: '#ffffff' });
  const painted = await paintedAt(slot, `data:image/png;base64,${sheet.toString('base64')}`, 1280);
  let [wrong, inside, sum] = [0, 0, 0];
  for (let y = 0; y < 320; y++)
    for (let x = 0; x < 640; x++) {
      const coverage = 1 - painted.at(x, y)[0] / 255;
      sum += coverage;
      const beyond = beyondPoint({ x: x + 0.5, y: y + 0.5 }, slot, shape);
      // Within half a px of the rim a px is painted in part.
      if (beyond <= 0) inside++;
      // Beyond an ellipse it is told along the ray from its middle, which is a little more than the true distance.
      if (beyond > 1 && coverage > 0.02) wrong++;
      if (beyond <= 0 && coverage < 0.25) wrong++;
    }
  console.log(`px on the wrong side: ${wrong}; covered ${sum.toFixed(0)} px, core has ${inside}`);
  expect(wrong).toBe(0);
  expect(Math.abs(sum - inside) / inside).toBeLessThan(0.005);
});
