import { at, pixelsBy } from '../testing/pixels';
import { frameShape } from './frame-shape';
import { turnPixels } from './turn';

const box = (width: number, height: number) => ({ x: 0, y: 0, width, height });

it('a quarter turn puts each pixel where it belongs, unchanged', () => {
  const p = pixelsBy(8, 8, (x, y) => [x * 30, y * 30, 90]);
  const { pixels } = turnPixels({ pixels: p, x: 0, y: 0 }, 90, { x: 4, y: 4 }, frameShape(box(8, 8), null), box(8, 8));
  for (let y = 0; y < 8; y++)
    for (let x = 0; x < 8; x++) {
      // Clockwise: what was at (x, y) comes to (7 - y, x).
      const want = at(p, x, y);
      at(pixels, 7 - y, x).forEach((v, c) => expect(Math.abs(v - want[c]!)).toBeLessThanOrEqual(1));
    }
});

it('a smooth picture turned by an angle is the smooth picture there, in linear light', () => {
  // A plane in encoded values is no plane in linear light, so a gentle one is taken; within 2 of 255.
  const colour = (x: number, y: number) => 100 + x * 0.6 + y * 0.4;
  const p = pixelsBy(80, 80, (x, y) => [colour(x, y), colour(x, y), colour(x, y)]);
  const { pixels } = turnPixels(
    { pixels: p, x: 0, y: 0 },
    25,
    { x: 40, y: 40 },
    frameShape(box(80, 80), null),
    box(80, 80),
  );
  const [sin, cos] = [Math.sin((25 * Math.PI) / 180), Math.cos((25 * Math.PI) / 180)];
  for (let y = 20; y < 60; y += 3)
    for (let x = 20; x < 60; x += 3) {
      const [dx, dy] = [x + 0.5 - 40, y + 0.5 - 40];
      const [sx, sy] = [40 + dx * cos + dy * sin - 0.5, 40 - dx * sin + dy * cos - 0.5];
      expect(Math.abs(at(pixels, x, y)[0]! - colour(sx, sy))).toBeLessThanOrEqual(2);
    }
});

it('the frame’s edges are covered by their share: the area is the frame’s own', () => {
  const frame = { x: 20.5, y: 25, width: 39, height: 30 };
  const p = pixelsBy(80, 80, () => [10, 10, 10]);
  const { pixels } = turnPixels({ pixels: p, x: 0, y: 0 }, 33, { x: 40, y: 40 }, frameShape(frame, null), box(80, 80));
  let area = 0;
  for (let i = 3; i < pixels.data.length; i += 4) area += pixels.data[i]! / 255;
  expect(Math.abs(area - 39 * 30)).toBeLessThan(4);
});

it('colours beside what is clear do not bleed', () => {
  const p = pixelsBy(40, 40, (x) => (x < 20 ? [255, 0, 0, 255] : [0, 255, 0, 0]));
  const { pixels } = turnPixels(
    { pixels: p, x: 0, y: 0 },
    7,
    { x: 20, y: 20 },
    frameShape(box(40, 40), null),
    box(40, 40),
  );
  for (let i = 0; i < pixels.data.length; i += 4) if (pixels.data[i + 3]! > 0) expect(pixels.data[i + 1]).toBe(0);
});
