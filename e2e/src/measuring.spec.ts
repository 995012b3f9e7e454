// Covers: core/slot
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import type { Measured } from '@bright-slot/core';
import { root } from './harness/app';
import { Browser } from './harness/browser';

// Outside: pages that Chromium rendered, with slots whose place its own getBoundingClientRect tells
// (CSSOM View Module, section 5.2), photographed at three device-pixel ratios and dragged around roughly, at random.

interface Rect {
  x: number;
  y: number;
  width: number;
  height: number;
}
type Outline = 'straight' | 'rounded' | 'circle' | 'row' | 'grid';
interface Shot {
  outline: Outline;
  bordered: boolean;
  density: number;
  gap: number;
  count: number;
  png: string;
  /** What is dragged around, and how. */
  drags: { of: Rect; box: Rect }[];
}

/** Numbers that look random and are the same each time: a linear congruential generator (Numerical Recipes, from memory). */
function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
}
const random = seeded(20261125);
const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;

let browser: Browser;
let folder: string;
let photos: string[];
const shots: Shot[] = [];

function html(outline: Outline, ground: string, bordered: string): { page: string; gap: number; count: number } {
  const gap = pick([8, 15, 20]);
  const [columns, rows] = outline === 'row' ? [5, 1] : outline === 'grid' ? [3, 2] : [1, 1];
  const side = pick([64, 96, 128, 160]);
  const [w, h] =
    outline === 'circle'
      ? [side, side]
      : outline === 'row'
        ? [134, 134]
        : outline === 'grid'
          ? [pick([200, 180, 251.25]), pick([120, 150, 146.25])]
          : [pick([940, 851, 750, 600, 320, 500.5]), pick([198, 315, 90, 200, 120, 250.25])];
  const radius = outline === 'circle' ? '50%' : outline === 'rounded' ? `${pick([6, 12, 20, 32])}px` : '0';
  const [left, top] = [60 + random() * 120, 60 + random() * 80];
  const pictures = Array.from({ length: columns * rows }, () => `<img src="${pick(photos)}">`).join('');
  const behind = ground === 'photo' ? `url(${pick(photos)}) center/cover` : ground;
  return {
    gap,
    count: columns * rows,
    page: `<!doctype html><style>body{margin:0;height:1000px;background:${behind}}
.slots{position:absolute;left:${left}px;top:${top}px;display:grid;grid-template-columns:repeat(${columns},${w}px);gap:${gap}px}
img{width:${w}px;height:${h}px;object-fit:cover;border-radius:${radius};display:block${bordered ? ';border:1px solid ' + bordered : ''}}
p{position:absolute;left:${left}px;top:${top + rows * (h + gap) + 12}px;width:600px;margin:0;font:16px sans-serif}</style>
<div class="slots">${pictures}</div><p>The shelf nearest the burner came out a shade greener than the rest, which is what we hoped for.</p>`,
  };
}

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'measuring-'));
  photos = await Promise.all(
    ['kiln', 'pano', 'shelf', 'sill', 'tiles', 'wheel', 'pots-tall'].map(async (name) => {
      // Larger than any slot here, small enough to be decoded at once.
      await sharp(join(root, `demo/pictures/${name}.jpg`))
        .resize(1400)
        .jpeg({ quality: 85 })
        .toFile(join(folder, `${name}.jpg`));
      return `${name}.jpg`;
    }),
  );
  browser = await Browser.open();
  const grounds = ['#ffffff', '#fbf8f2', '#2f2a26', '#e9e2d3', 'linear-gradient(160deg,#fff,#cfd8d0)'];
  const outlines: Outline[] = ['straight', 'rounded', 'circle', 'row', 'grid'];
  for (let i = 0; i < 50; i++) {
    const density = [1, 1.5, 2][i % 3]!;
    const outline = outlines[Math.floor(i / 3) % 5]!;
    // The last twenty have a border of a px; a round one is mixed with what is beside it and told within two.
    const bordered = i < 30 ? '' : pick(['#c9c4ba', '#d9d2c3', '#1f2a30', '#a4512f', '#cccccc']);
    const { page, gap, count } = html(outline, i % 4 === 3 ? 'photo' : pick(grounds), bordered);
    writeFileSync(join(folder, 'page.html'), page);
    await browser.driver.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
      width: 1280,
      height: 800,
      deviceScaleFactor: density,
      mobile: false,
    });
    await browser.go(`file://${folder}/page.html`);
    await browser.run(`return Promise.all([...document.images].map((i) => i.decode()))`);
    const png = join(folder, `${i}.png`);
    await browser.screenshot(png);
    const rects = await browser.run<Rect[]>(
      `return [...document.images].map((i) => { const r = i.getBoundingClientRect(); const b = parseFloat(getComputedStyle(i).borderLeftWidth); return { x: r.x + b, y: r.y + b, width: r.width - 2 * b, height: r.height - 2 * b }; })`,
    );
    const drags = Array.from({ length: 6 }, () => {
      const r = pick(rects);
      const off = () => (random() * 2 - 1) * Math.min(24, 0.12 * Math.min(r.width, r.height) + 6) * density;
      const [x, y] = [r.x * density + off(), r.y * density + off()];
      const [right, bottom] = [(r.x + r.width) * density + off(), (r.y + r.height) * density + off()];
      return { of: r, box: { x, y, width: right - x, height: bottom - y } };
    });
    shots.push({ outline, bordered: !!bordered, density, gap, count, png, drags });
  }
});
afterAll(async () => {
  await browser?.close();
  rmSync(folder, { recursive: true, force: true });
});

it('snaps random rough drags to within 1 device px in at least 95 of 100, whatever the outline and the ground', () => {
  const missed: string[] = [];
  let all = 0;
  let shapes = 0;
  let grids = 0;
  let gridsAll = 0;
  const jobs = join(folder, 'jobs.json');
  writeFileSync(
    jobs,
    JSON.stringify(shots.map(({ png, density, drags }) => ({ png, density, drags: drags.map((d) => d.box) }))),
  );
  const answer = execFileSync('npx', ['tsx', join(root, 'e2e/src/harness/measure-shots.ts'), jobs], {
    cwd: root,
    maxBuffer: 64e6,
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  const measured = JSON.parse(answer.toString()) as Measured[][];
  const bordersMissed: string[] = [];
  const borders = { all: 0, found: 0 };
  const far = { all: 0, flagged: 0, falsely: 0 };
  shots.forEach(({ outline, bordered, density, gap, count, drags }, i) =>
    drags.forEach(({ of: r }, k) => {
      const m = measured[i]![k]!;
      const errors = [
        m.box.x - r.x * density,
        m.box.y - r.y * density,
        m.box.x + m.box.width - (r.x + r.width) * density,
        m.box.y + m.box.height - (r.y + r.height) * density,
      ];
      const worst = Math.max(...errors.map(Math.abs));
      if (worst > 2.2) {
        far.all++;
        if (m.unsure.length || m.blurred) far.flagged++;
      } else if (m.unsure.length) far.falsely++;
      if (bordered) {
        borders.all++;
        // Chromium puts a border on whole device px, a fraction from where its box is; at 1.5 it mixes it with what is beside it.
        if (worst <= (outline === 'circle' ? 2.2 : density === 1.5 ? 1.5 : 1.3)) borders.found++;
        else bordersMissed.push(`bordered ${outline} at ${density}: ${errors.map((e) => e.toFixed(1)).join(' ')}`);
        return;
      }
      all++;
      if (!errors.every((e) => Math.abs(e) <= 1.001))
        missed.push(`${outline} at ${density}: ${errors.map((e) => e.toFixed(1)).join(' ')}`);
      const expected = outline === 'circle' ? 'ellipse' : outline === 'rounded' ? 'rounded' : 'rectangle';
      if (m.outline.kind === expected) shapes++;
      if (count > 1) {
        gridsAll++;
        const right = m.grid.boxes.length === count && Math.abs(m.grid.gapX - gap * density) <= 1;
        if (right) grids++;
      }
    }),
  );
  const share = (n: number, of: number) => `${n} of ${of} (${((100 * n) / of).toFixed(1)} %)`;
  console.log(
    `Measured within 1 device px: ${share(all - missed.length, all)}; outline told: ${share(shapes, all)}; rows and grids whole: ${share(grids, gridsAll)}`,
    `with a border of 1 px: ${share(borders.found, borders.all)}; further off than 2 px: ${far.all}, said to be unsure ${far.flagged}; unsure without need: ${far.falsely}`,
    missed,
    bordersMissed,
  );
  expect(borders.found / borders.all).toBeGreaterThanOrEqual(0.93);
  expect(far.flagged).toBeGreaterThanOrEqual(far.all * 0.95 - 1);
  expect((all - missed.length) / all).toBeGreaterThanOrEqual(0.95);
  expect(shapes / all).toBeGreaterThanOrEqual(0.95);
  expect(grids / gridsAll).toBeGreaterThanOrEqual(0.85);
});
