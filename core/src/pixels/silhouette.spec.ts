import { readFileSync } from 'node:fs';
import sharp, { type Sharp } from 'sharp';
import { hasFewTones, hasFlatBorder, silhouetteOf, silhouetteRuns, silhouetteSize } from './silhouette';
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
  const runs = silhouetteRuns(silhouetteOf(mug), { x: 100, y: 50, width: mug.width * 2, height: mug.height * 2 });
  const points = runs.flatMap((r) => [
    { x: r.x, y: r.y + r.height / 2 },
    { x: r.x + r.width, y: r.y + r.height / 2 },
  ]);
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

describe('a mark on a sheet and a thing before a wall', () => {
  const sampled = async (picture: Sharp) => {
    const { data, info } = await sharp(await picture.jpeg({ quality: 85 }).toBuffer())
      .resize(256, 256, { fit: 'inside', kernel: 'nearest' })
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    return { data: new Uint8ClampedArray(data), width: info.width, height: info.height };
  };
  it.each(['mug', 'jug', 'bowl', 'bottle', 'bowls', 'sponge', 'jug-tall'])(
    'a %s before a plain wall is no mark',
    async (name) => {
      const file = readFileSync(new URL(`../../../demo/pictures/cutout-${name}.png`, import.meta.url));
      const clear = { r: 0, g: 0, b: 0, alpha: 0 };
      const thing = await sharp(file)
        .resize(700, 500, { fit: 'contain', background: clear })
        .extend({ top: 60, bottom: 60, left: 100, right: 100, background: clear })
        .flatten({ background: '#e8e2d6' })
        .png()
        .toBuffer();
      expect(hasFewTones(await sampled(sharp(thing)))).toBe(false);
    },
  );
  it.each([
    [
      'two colours',
      '<circle cx="160" cy="200" r="110" fill="#1f6f5c"/><rect x="310" y="150" width="420" height="90" fill="#1f2a30"/>',
    ],
    ['one, in thin lines', '<path d="M60 200h700M60 240h600M60 280h650" stroke="#555" stroke-width="5"/>'],
  ])('a mark in %s is one', async (_name, drawing) => {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="400"><rect width="900" height="400" fill="#fff"/>${drawing}</svg>`;
    expect(hasFewTones(await sampled(sharp(Buffer.from(svg))))).toBe(true);
  });
});

// Walls are hardly ever of one light: falling off to one side, and towards the corners, by so many of 255.
describe.each([0, 4, 8, 14, 30])('a wall whose light falls off by %i', (by) => {
  const tone = (n: number) => `rgb(${232 - n} ${226 - n} ${214 - n})`;
  const wall = Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="700"><defs>
     <linearGradient id="a"><stop offset="0" stop-color="${tone(0)}"/><stop offset="1" stop-color="${tone(by)}"/></linearGradient>
     <radialGradient id="b" r="0.75"><stop offset="0.4" stop-opacity="0"/><stop offset="1" stop-opacity="${by / 400}"/></radialGradient>
     </defs><rect width="900" height="700" fill="url(#a)"/><rect width="900" height="700" fill="url(#b)"/></svg>`,
  );
  it.each(['bottle', 'bowl', 'bowls', 'jug-tall', 'jug', 'mug'])('a %s before it is a photograph', async (name) => {
    const pot = await sharp(readFileSync(new URL(`../../../demo/pictures/cutout-${name}.png`, import.meta.url)))
      .resize(420, 420, { fit: 'inside' })
      .toBuffer();
    const made = await sharp(wall)
      .composite([{ input: pot, gravity: 'centre' }])
      .jpeg({ quality: 85 })
      .toBuffer();
    const { data, info } = await sharp(made)
      .resize(256, 256, { fit: 'inside', kernel: 'nearest' })
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const pixels = { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
    expect(hasFlatBorder(pixels) && hasFewTones(pixels)).toBe(false);
  });
});
