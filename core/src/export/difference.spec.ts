import sharp from 'sharp';
import { ssim as reference } from '@blazediff/ssim/ssim';
import type { Pixels } from '../pixels/reduce';
import { bandRows, comparable, fileDifference, fileDifferenceText, joinedDifference } from './difference';

const demo = (name: string) => new URL(`../../../demo/pictures/${name}`, import.meta.url).pathname;
const pixels = async (file: Buffer): Promise<Pixels> => {
  const { data, info } = await sharp(file).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
};
const photo = (name = 'sill.jpg', width = 480, height = 128) =>
  sharp(demo(name)).resize(width, height, { fit: 'cover' }).png().toBuffer();
const words = (ground: string, ink: string, size = 40) =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="480" height="128"><rect width="480" height="128" fill="${ground}"/><text x="20" y="80" font-family="DejaVu Sans" font-size="${size}" fill="${ink}">Autumn glazes</text></svg>`,
    ),
  )
    .png()
    .toBuffer();
const held = async (a: Buffer, b: Buffer) => fileDifference(comparable(await pixels(a)), comparable(await pixels(b)));
const jpeg = (file: Buffer, quality: number, chromaSubsampling: '4:4:4' | '4:2:0' = '4:4:4') =>
  sharp(file).jpeg({ quality, chromaSubsampling, mozjpeg: true }).toBuffer();

it('what is the same differs nowhere', async () => {
  const file = await photo();
  const found = await held(file, file);
  expect(found).toEqual({ ssim: 1, seen: false, worst: [] });
  expect(fileDifferenceText(found)).toBe('The same as the canvas');
});

it.each(['sill.jpg', 'kiln.jpg', 'pano.jpg', 'tiles.jpg'])(
  '%s: the better the quality, the less it differs; at 95 it looks the same, at 30 it does not',
  async (name) => {
    const file = await photo(name);
    const weights = [];
    for (const quality of [30, 55, 75, 95])
      weights.push((await held(file, await jpeg(file, quality))).worst[0]!.weight);
    for (let i = 1; i < weights.length; i++) expect(weights[i]!).toBeLessThan(weights[i - 1]!);
    expect([weights[0]! > 1, weights.at(-1)! > 1]).toEqual([true, false]);
  },
);

it('its SSIM is that of the package’s plain measure (Wang et al. 2004) over the same averaged pixels, near enough', async () => {
  const file = await photo('tiles.jpg', 512, 512);
  for (const quality of [40, 70, 90]) {
    const [a, b] = [await pixels(file), await pixels(await jpeg(file, quality))];
    // Of 512 px it averages 2 × 2 by itself.
    const other = reference(a.data, b.data, undefined, 512, 512);
    expect(Math.abs(fileDifference(comparable(a), comparable(b)).ssim - other)).toBeLessThan(0.02);
  }
});

it('colours that run out of their letters are seen although light and dark stay: 4:2:0 under coloured words', async () => {
  const file = await words('#c0392b', '#1d4ed8');
  const [fine, coarse] = [await held(file, await jpeg(file, 92)), await held(file, await jpeg(file, 92, '4:2:0'))];
  expect([fine.seen, coarse.seen]).toEqual([false, true]);
  expect(coarse.worst[0]!.colour).toBeGreaterThan(2.3);
});

it('one small place that is spoilt is found among all that is not, wherever it lies', async () => {
  const { width, height, data } = await pixels(await photo('pano.jpg', 333, 141));
  for (const [x, y] of [
    [0, 0],
    [300, 20],
    [321, 129],
    [150, 70],
  ] as const) {
    const spoilt = { width, height, data: data.slice() };
    for (let j = y; j < y + 12; j++)
      for (let i = x; i < x + 12; i++)
        spoilt.data.fill((i * 37 + j * 91) % 255, 4 * (j * width + i), 4 * (j * width + i) + 3);
    const found = fileDifference(comparable({ width, height, data }), comparable(spoilt));
    const { box } = found.worst[0]!;
    expect(found.seen).toBe(true);
    expect(Math.abs(box.x + box.width / 2 - x - 6)).toBeLessThanOrEqual(32);
    expect(Math.abs(box.y + box.height / 2 - y - 6)).toBeLessThanOrEqual(32);
    expect(fileDifferenceText(found)).toMatch(/^Can be seen at 100 %/);
  }
});

it('a picture that is only darker, or of another colour, is seen to be', async () => {
  const { width, height, data } = await pixels(await words('#1f6f5c', '#1f6f5c'));
  const darker = data.map((v, i) => (i % 4 === 3 ? v : Math.round(v * 0.9)));
  expect(fileDifference(comparable({ width, height, data }), comparable({ width, height, data: darker })).seen).toBe(
    true,
  );
});

it('the smallest pictures are held against each other too; the three places lie apart', async () => {
  for (const [width, height] of [
    [1, 1],
    [8, 3],
    [16, 16],
    [33, 90],
  ] as const) {
    const file = await photo('tiles.jpg', width, height);
    const found = await held(file, await jpeg(file, 20));
    expect(found.ssim).toBeLessThanOrEqual(1);
    for (const { box } of found.worst)
      expect([box.x + box.width <= width, box.y + box.height <= height]).toEqual([true, true]);
  }
  const wide = await photo('tiles.jpg', 640, 320);
  const { worst } = await held(wide, await jpeg(wide, 40));
  expect(worst).toHaveLength(3);
  for (const a of worst)
    for (const b of worst)
      if (a !== b) expect(Math.max(Math.abs(a.box.x - b.box.x), Math.abs(a.box.y - b.box.y))).toBeGreaterThan(32);
});

it('compared in bands it is what it is as a whole: verdict and worst parts the same, SSIM within a thousandth', async () => {
  const file = await photo('tiles.jpg', 320, 250);
  const [a, b] = [await pixels(file), await pixels(await jpeg(file, 60))];
  const whole = fileDifference(comparable(a), comparable(b));
  const rows = ({ width, data }: Pixels, y: number, n: number): Pixels => ({
    width,
    height: n,
    data: data.slice(y * width * 4, (y + n) * width * 4),
  });
  const bands = [];
  for (let y = 0; y < 250; y += 96) {
    const n = Math.min(96, 250 - y);
    bands.push({ y, rows: n, difference: fileDifference(comparable(rows(a, y, n)), comparable(rows(b, y, n))) });
  }
  const joined = joinedDifference(bands);
  expect(joined.seen).toBe(whole.seen);
  expect(joined.worst[0]!.box).toEqual(whole.worst[0]!.box);
  expect(Math.abs(joined.ssim - whole.ssim)).toBeLessThan(0.001);
  expect([bandRows(1600) % 32, bandRows(1_000_000)]).toEqual([0, 32]);
});
