import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { hasFlatBorder, silhouetteOf, silhouettePoints, silhouetteSize } from './silhouette';
import type { Pixels } from './reduce';

async function small(file: string): Promise<Pixels> {
  const input = sharp(readFileSync(new URL(`../../../demo/${file}`, import.meta.url)));
  const meta = await input.metadata();
  const size = silhouetteSize({ width: meta.width, height: meta.height });
  const { data, info } = await input
    .resize(size.width, size.height, { fit: 'fill' })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
}

it('keeps proportion, 128 cells at most, one at least', () => {
  expect(silhouetteSize({ width: 4000, height: 1000 })).toEqual({ width: 128, height: 32 });
  expect(silhouetteSize({ width: 40, height: 10 })).toEqual({ width: 40, height: 10 });
  expect(silhouetteSize({ width: 9000, height: 3 })).toEqual({ width: 128, height: 1 });
});

it('encloses what is to be seen of a cut-out, and none of its empty corners', async () => {
  const mug = await small('pictures/cutout-mug.png');
  const points = silhouettePoints(silhouetteOf(mug), { x: 100, y: 50, width: mug.width * 2, height: mug.height * 2 });
  expect(points.length).toBeGreaterThan(20);
  for (const { x, y } of points) {
    expect(x).toBeGreaterThan(100);
    expect(y).toBeGreaterThan(50);
    expect(x).toBeLessThan(100 + mug.width * 2);
    const column = Math.floor((x - 100) / 2);
    const row = Math.floor((y - 50) / 2);
    expect(mug.data[(row * mug.width + column) * 4 + 3]).toBeGreaterThanOrEqual(64);
  }
});

it.each([
  ['logos/ottermill-padded.png', true],
  ['logos/old-header.jpg', false],
  ['pictures/kiln.jpg', false],
  ['pictures/sill.jpg', false],
  ['pictures/tiles.jpg', false],
])('%s has a flat border: %s', async (file, flat) => {
  expect(hasFlatBorder(await small(file))).toBe(flat);
});
