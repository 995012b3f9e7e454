import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { differenceEuclidean } from 'culori';
import { averageColour } from '../pixels/average';
import { colourOf, figuresOf, readColour, type Notation } from './notation';
import { paletteOf } from '../pixels/palette';
import { random } from '../testing/samples';

const apart = differenceEuclidean('oklab');

describe('notations', () => {
  // CSS Color 4: section 7 (hsl(120 100% 25%) is green), section 9.4 (sample oklch(51.975% 0.17686 142.495) is green),
  // section 5; the named colours of section 6.1.
  it.each<[string, Notation, readonly [number, number, number]]>([
    ['#008000', 'hsl', [120, 100, 25.1]],
    ['#008000', 'oklch', [51.975, 0.17686, 142.495]],
    ['#008000', 'rgb', [0, 128, 0]],
    ['#663399', 'hsl', [270, 50, 40]],
    ['#ffffff', 'oklch', [100, 0, 0]],
    ['#ff0000', 'oklch', [62.796, 0.25768, 29.234]],
  ])('%s in %s', (hex, notation, figures) => {
    const found = figuresOf(hex, notation);
    figures.forEach((f, i) =>
      expect(Math.abs(found[i]! - f)).toBeLessThan(notation === 'oklch' && i === 1 ? 0.001 : 0.2),
    );
    expect(colourOf(notation, found)).toBe(hex);
  });
  it('bring any colour back as it was', () => {
    const r = random(5);
    for (let i = 0; i < 300; i++) {
      const hex = `#${Math.floor(r() * 0x1000000)
        .toString(16)
        .padStart(6, '0')}`;
      for (const n of ['rgb', 'hsl', 'oklch'] as const) expect(colourOf(n, figuresOf(hex, n))).toBe(hex);
    }
  });
  it('keep to sRGB: more chroma than it has is as much as it has', () => {
    const found = figuresOf(colourOf('oklch', [60, 0.4, 150]), 'oklch');
    expect(found[1]).toBeLessThan(0.3);
    expect(Math.abs(found[2] - 150)).toBeLessThan(3);
  });
  it.each([
    ['a4512f', '#a4512f'],
    ['#ABC', '#aabbcc'],
    [' rgb(255, 0, 0) ', '#ff0000'],
    ['hsl(120 100% 25.1%)', '#008000'],
    ['rebeccapurple', '#663399'],
    ['12345', null],
    ['', null],
    ['url(x)', null],
  ])('reads “%s”', (text, hex) => {
    expect(readColour(text)).toBe(hex);
  });
});

describe('a picture’s own colours', () => {
  const flat = (...colours: [string, number][]) => {
    const data = colours.flatMap(([hex, count]) =>
      Array.from({ length: count }, () => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16)).concat(255)).flat(),
    );
    return { data: Uint8ClampedArray.from(data), width: data.length / 4, height: 1 };
  };
  it('of flat areas are those areas’, most of it first', () => {
    const found = paletteOf(flat(['#a4512f', 500], ['#f4e7cb', 300], ['#1f6f5c', 200]));
    expect(found.map((f) => f.colour)).toEqual(['#a4512f', '#f4e7cb', '#1f6f5c']);
    expect(found.map((f) => Math.round(f.share * 10))).toEqual([5, 3, 2]);
  });
  it('leave out what cannot be seen, and are none where nothing can', () => {
    const picture = flat(['#a4512f', 10], ['#00ff00', 90]);
    for (let i = 10; i < 100; i++) picture.data[i * 4 + 3] = 0;
    expect(paletteOf(picture).map((f) => f.colour)).toEqual(['#a4512f']);
    expect(paletteOf({ data: new Uint8ClampedArray(40), width: 10, height: 1 })).toEqual([]);
  });
  it.each(['tiles.jpg', 'shelf.jpg', 'kiln.jpg', 'sill.jpg'])(
    'of %s: five to eight, apart, and near all of it',
    async (name) => {
      const file = readFileSync(new URL(`../../../demo/pictures/${name}`, import.meta.url));
      const { data, info } = await sharp(file)
        .resize(64, 64, { fit: 'inside' })
        .ensureAlpha()
        .raw()
        .toBuffer({ resolveWithObject: true });
      const found = paletteOf({ data: new Uint8ClampedArray(data), width: info.width, height: info.height });
      expect(found.length).toBeGreaterThanOrEqual(5);
      expect(found.length).toBeLessThanOrEqual(8);
      for (const [i, a] of found.entries())
        for (const b of found.slice(i + 1)) expect(apart(a.colour, b.colour)).toBeGreaterThan(0.045);
      // Most pixels have a near one among them.
      let near = 0;
      for (let i = 0; i < data.length; i += 16) {
        const own = `#${[0, 1, 2].map((c) => data[i + c]!.toString(16).padStart(2, '0')).join('')}`;
        if (Math.min(...found.map((f) => apart(f.colour, own))) < 0.1) near++;
      }
      expect(near / (data.length / 16)).toBeGreaterThan(0.8);
    },
  );
});

describe('an average of pixels', () => {
  const pixels = (data: number[][]) => ({ data: Uint8ClampedArray.from(data.flat()), width: 3, height: 3 });
  const black = [0, 0, 0, 255];
  const white = [255, 255, 255, 255];
  it('of one pixel is that pixel', () => {
    const p = pixels([black, white, black, white, [10, 20, 30, 255], white, black, white, black]);
    expect(averageColour(p, 1, 1, 1)).toBe('#0a141e');
  });
  it('is of light, not of its encoding: half black, half white is 188', () => {
    // sRGB (IEC 61966-2-1): 0.5 of the light is encoded as 0.7354, 187.5 of 255. 4 black and 4 white with a grey of 188.
    const p = pixels([black, white, black, white, [188, 188, 188, 255], black, white, black, white]);
    expect(averageColour(p, 1, 1, 3)).toBe('#bcbcbc');
  });
  it('counts each by what it shows', () => {
    const p = pixels([[255, 0, 0, 255], ...Array.from({ length: 8 }, () => [0, 0, 255, 0])]);
    expect(averageColour(p, 1, 1, 3)).toBe('#ff0000');
    expect(averageColour(p, 2, 2, 1)).toBeNull();
  });
  it('takes at a border what there is', () => {
    const p = pixels(Array.from({ length: 9 }, () => [40, 50, 60, 255]));
    expect(averageColour(p, 0, 0, 7)).toBe('#28323c');
  });
});
