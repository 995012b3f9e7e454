import { createCanvas } from '@napi-rs/canvas';
import { converter } from 'culori';
import { type Graphic } from '../graphic/graphic';
import { frameOf, wholeCanvas } from '../graphic/frame';
import type { PaintContext } from '../paint/context';
import { paint } from '../paint/paint';
import { plan } from '../paint/plan';
import { uncoveredParts } from '../report/uncovered';
import { blank } from '../testing/samples';
import { realShaper } from '../testing/type';
import { gradientEnds, gradientLine } from '../geometry/gradient-line';
import { twoShades } from './gradient';

const box = { x: 0, y: 0, width: 200, height: 100 };

describe('a gradient’s line', () => {
  // CSS Images 3, section 3.1: "to top", "to right", and the example of 45° in a box.
  it.each([
    [0, { x: 100, y: 100 }, { x: 100, y: 0 }],
    [90, { x: 0, y: 50 }, { x: 200, y: 50 }],
    [180, { x: 100, y: 0 }, { x: 100, y: 100 }],
    [270, { x: 200, y: 50 }, { x: 0, y: 50 }],
  ])('at %d°', (angle, from, to) => {
    expect(gradientLine(box, angle)).toEqual({ from, to });
  });

  it('at a slant reaches so far that the corners have the end colours exactly', () => {
    const { from, to } = gradientLine(box, 45);
    const along = (p: { x: number; y: number }) =>
      ((p.x - from.x) * (to.x - from.x) + (p.y - from.y) * (to.y - from.y)) /
      ((to.x - from.x) ** 2 + (to.y - from.y) ** 2);
    expect(along({ x: 0, y: 100 })).toBeCloseTo(0);
    expect(along({ x: 200, y: 0 })).toBeCloseTo(1);
  });
});

describe('two shades', () => {
  const oklch = converter('oklch');
  it.each(['#1f6f5c', '#c04020', '#f4e7cb', '#101010', '#ffffff', '#0000ff'])(
    'of %s: one hue, 0.16 apart in lightness',
    (hex) => {
      const [darker, lighter] = twoShades(hex).map((h) => oklch(h)!);
      expect(lighter!.l - darker!.l).toBeCloseTo(0.16, 1);
      for (const shade of [darker!, lighter!])
        if (shade.c > 0.03) expect(Math.abs(shade.h! - oklch(hex)!.h!)).toBeLessThan(4);
    },
  );
});

it('a gradient backdrop covers the canvas, its ends where they belong', async () => {
  const graphic: Graphic = {
    ...blank(),
    backdrop: {
      kind: 'gradient',
      form: 'linear',
      ...gradientEnds(blank().canvas, 90),
      stops: [
        { at: 0, colour: '#000000', opacity: 1 },
        { at: 1, colour: '#ffffff', opacity: 1 },
      ],
    },
  };
  expect(uncoveredParts([], graphic.backdrop, graphic.canvas, wholeCanvas(graphic).rect)).toEqual([]);
  const p = plan(graphic, frameOf(graphic), 1, await realShaper());
  const context = createCanvas(p.width, p.height).getContext('2d');
  paint(p, { exact: () => undefined, rough: () => undefined }, context as unknown as PaintContext<never>);
  const row = context.getImageData(0, 50, p.width, 1).data;
  let last = -1;
  for (let x = 0; x < p.width; x++) {
    // Skia strews the rounding, by one step at most.
    expect(row[x * 4]!).toBeGreaterThanOrEqual(last - 1);
    expect(Math.abs(row[x * 4]! - (255 * (x + 0.5)) / p.width)).toBeLessThanOrEqual(1.5);
    last = row[x * 4]!;
  }
});
