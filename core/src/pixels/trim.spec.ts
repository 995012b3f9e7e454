import sharp from 'sharp';
import { pixelsBy } from '../testing/pixels';
import { random } from '../testing/samples';
import { trimBox } from './trim';

describe('trimming, against sharp’s trim (libvips find_trim)', () => {
  const r = random(21);
  it.each([...Array(20).keys()])('random thing %i on a plain sheet', async () => {
    const [w, h] = [30 + Math.floor(r() * 60), 30 + Math.floor(r() * 60)];
    const [x0, y0] = [1 + Math.floor(r() * 10), 1 + Math.floor(r() * 10)];
    const [x1, y1] = [w - 2 - Math.floor(r() * 10), h - 2 - Math.floor(r() * 10)];
    const p = pixelsBy(w, h, (x, y) => (x >= x0 && x <= x1 && y >= y0 && y <= y1 ? [40, 30, 20] : [240, 240, 240]));
    const ours = trimBox(p, 10)!;
    const { info } = await sharp(p.data, { raw: { width: w, height: h, channels: 4 } })
      .trim({ background: '#f0f0f0', threshold: 10 })
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([ours.width, ours.height]).toEqual([info.width, info.height]);
    expect([0 - ours.x, 0 - ours.y]).toEqual([info.trimOffsetLeft ?? 0, info.trimOffsetTop ?? 0]);
  });
});

it('takes off what is clear, whatever colour it hides, and leaves breathing space within the picture', () => {
  const p = pixelsBy(40, 30, (x, y) => (x > 9 && x < 20 && y > 4 && y < 10 ? [1, 2, 3, 200] : [x * 5, 0, 0, 0]));
  expect(trimBox(p, 10)).toEqual({ x: 10, y: 5, width: 10, height: 5 });
  expect(trimBox(p, 10, 3)).toEqual({ x: 7, y: 2, width: 16, height: 11 });
  expect(trimBox(p, 10, 100)).toEqual({ x: 0, y: 0, width: 40, height: 30 });
});

it('knows when nothing would be left', () => {
  expect(
    trimBox(
      pixelsBy(5, 5, () => [9, 9, 9]),
      4,
    ),
  ).toBeNull();
});
