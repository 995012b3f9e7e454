import { createCanvas } from '@napi-rs/canvas';
import { guessDensity } from './density';
import { measureSlot } from './measure';
import type { Raster } from './raster';
import { seeded } from './round';
import { cssLength, slotFromMeasured } from './to-slot';

// Pages drawn here, for what has one right answer; pages that Chromium rendered are measured in e2e/src/measuring.spec.ts.
type Paint = (context: ReturnType<ReturnType<typeof createCanvas>['getContext']>) => void;
function page(width: number, height: number, ground: string, paint: Paint): Raster {
  const context = createCanvas(width, height).getContext('2d');
  context.fillStyle = ground;
  context.fillRect(0, 0, width, height);
  paint(context);
  return { data: context.getImageData(0, 0, width, height).data, width, height };
}
/** Something like a photograph: blotches of many colours. */
const blotches = (seed: number, x: number, y: number, w: number, h: number): Paint => {
  return (c) => {
    const random = seeded(seed);
    c.save();
    c.beginPath();
    c.rect(x, y, w, h);
    c.clip();
    c.fillStyle = '#5b6f63';
    c.fillRect(x, y, w, h);
    for (let i = 0; i < 300; i++) {
      c.fillStyle = `rgb(${random() * 200},${random() * 180},${random() * 160})`;
      c.beginPath();
      c.arc(x + random() * w, y + random() * h, 4 + random() * 30, 0, 7);
      c.fill();
    }
    c.restore();
  };
};
const rough = (x: number, y: number, width: number, height: number) => ({ x, y, width, height });

describe('a slot on a screenshot', () => {
  it('is found to the pixel from a rough drag, and its ground is read', () => {
    const m = measureSlot(page(1200, 600, '#fbf8f2', blotches(1, 130, 90, 940, 198)), rough(118, 101, 960, 178));
    expect(m).toMatchObject({
      box: { x: 130, y: 90, width: 940, height: 198 },
      outline: { kind: 'rectangle' },
      unsure: [],
      blurred: false,
      ground: { colour: '#fbf8f2', even: true },
      border: null,
    });
    expect(m.grid.boxes).toHaveLength(1);
  });
  it('may be within a border, which is told apart from it', () => {
    const shot = page(900, 300, '#f4f1ea', (c) => {
      c.fillStyle = '#cfc6b4';
      c.fillRect(74, 99, 756, 96);
      blotches(2, 77, 102, 750, 90)(c);
    });
    const m = measureSlot(shot, rough(66, 92, 770, 108));
    expect(m.box).toEqual({ x: 77, y: 102, width: 750, height: 90 });
    expect(m.border).toEqual({ width: 3, colour: '#cfc6b4' });
    expect(m.ground?.colour).toBe('#f4f1ea');
  });
  it('may stand in a row of equals, or a grid', () => {
    const shot = page(1000, 500, '#ffffff', (c) => {
      for (let r = 0; r < 2; r++)
        for (let k = 0; k < 5; k++) blotches(10 + r * 5 + k, 60 + k * 154, 50 + r * 164, 134, 144)(c);
    });
    const m = measureSlot(shot, rough(206, 42, 150, 160));
    expect(m.box).toEqual({ x: 214, y: 50, width: 134, height: 144 });
    expect(m.grid).toMatchObject({ columns: 5, rows: 2, gapX: 20, gapY: 20 });
    expect(m.grid.boxes).toHaveLength(10);
  });
  it('whose picture is one flat colour is not taken for empty page', () => {
    const shot = page(600, 300, '#ffffff', (c) => {
      c.fillStyle = '#3f5a4f';
      c.fillRect(100, 80, 320, 120);
    });
    expect(measureSlot(shot, rough(92, 91, 340, 120)).box).toEqual({ x: 100, y: 80, width: 320, height: 120 });
  });
  it('may reach the rim of the screenshot', () => {
    const m = measureSlot(page(800, 400, '#ffffff', blotches(4, 0, 60, 800, 150)), rough(4, 50, 790, 165));
    expect(m.box).toEqual({ x: 0, y: 60, width: 800, height: 150 });
  });
  it('with a blurred edge is called blurred', () => {
    const sharp = page(500, 300, '#ffffff', blotches(5, 100, 80, 300, 140));
    const data = Uint8ClampedArray.from(sharp.data);
    // A box blur 7 px wide, both ways.
    for (const [dx, dy] of [
      [4, 0],
      [0, 2000],
    ] as const) {
      const from = Uint8ClampedArray.from(data);
      for (let i = 0; i < data.length; i++) {
        let sum = 0;
        for (let k = -3; k <= 3; k++)
          sum += from[Math.min(data.length - 4 + (i & 3), Math.max(i & 3, i + k * (dx + dy)))]!;
        data[i] = sum / 7;
      }
    }
    const m = measureSlot({ ...sharp, data }, rough(92, 74, 315, 150));
    expect(m.blurred).toBe(true);
    expect(Math.abs(m.box.width - 300)).toBeLessThanOrEqual(8);
  });
  it('says so where there is nothing', () => {
    const m = measureSlot(
      page(400, 300, '#ffffff', () => undefined),
      rough(100, 100, 120, 80),
    );
    expect(m.unsure).toHaveLength(4);
    expect(m.sure).toBe(0);
  });
  it('survives drags that lie outside, or are no larger than a point', () => {
    const shot = page(300, 200, '#ffffff', blotches(6, 50, 50, 200, 100));
    for (const box of [
      rough(-50, -50, 20, 20),
      rough(290, 190, 500, 500),
      rough(100, 100, 1, 1),
      rough(0, 0, 300, 200),
    ]) {
      const m = measureSlot(shot, box);
      expect([m.box.x, m.box.y, m.box.width, m.box.height].every(Number.isFinite)).toBe(true);
    }
  });
});

describe('CSS px out of device px', () => {
  it.each([
    [1410, 1.5, 940],
    [297, 1.5, 198],
    [503, 2, 251.5],
    [251, 1, 251],
    [1880, 2, 940],
    [389, 1.25, 311],
  ])('%d at %d is %d', (device, density, css) => expect(cssLength(device, density)).toBe(css));

  const own = { density: 2, screen: { width: 1440, height: 900 }, window: { width: 1280, height: 700 } };
  it.each([
    [2880, own, 2],
    [2560, own, 2],
    [1280, null, 1],
    [1920, null, 1],
    [780, null, 2],
    [1170, null, 3],
    [1137, null, 1],
  ] as const)('a screenshot %d wide was taken at %s', (width, screen, density) => {
    expect(guessDensity({ width, height: 700 }, screen).density).toBe(density);
  });

  it('a measured slot carries all that was seen', () => {
    const shot = page(900, 300, '#f4f1ea', blotches(2, 77, 102, 750, 90));
    const slot = slotFromMeasured(measureSlot(shot, rough(70, 96, 762, 100)), 1, {
      id: 'm',
      name: 'M',
      dated: '2026-11-25',
    });
    expect(slot.ok && slot.value).toMatchObject({
      width: 750,
      height: 90,
      ground: '#f4f1ea',
      group: 'Headers',
      source: 'measured on a screenshot, 750 × 90 px at 1 px a CSS px',
    });
  });
});
