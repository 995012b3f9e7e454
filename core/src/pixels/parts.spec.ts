import { createCanvas, loadImage } from '@napi-rs/canvas';
import { readFileSync } from 'node:fs';
import { pixelsBy } from '../testing/pixels';
import { partNames, partsOf } from './parts';

const presence = (width: number, height: number, solid: (x: number, y: number) => boolean) => {
  const { data } = pixelsBy(width, height, (x, y) => [0, 0, 0, solid(x, y) ? 255 : 0]);
  return { width, height, data: Uint8Array.from({ length: width * height }, (_, i) => data[i * 4 + 3]!) };
};

describe('the parts of a logo', () => {
  it('a mark and a row of letters are two', () => {
    // A disc, a wide gap, five letters with narrow ones.
    const seen = presence(300, 80, (x, y) => {
      if ((x - 40) ** 2 + (y - 40) ** 2 < 30 ** 2) return true;
      return x >= 110 && x < 280 && y > 25 && y < 55 && (x - 110) % 34 < 26;
    });
    const parts = partsOf(seen);
    expect(parts).toHaveLength(2);
    expect(parts[0]!.x * 300).toBeCloseTo(11, -1);
    expect(parts[1]!.x * 300).toBeCloseTo(110);
    expect((parts[1]!.x + parts[1]!.width) * 300).toBeCloseTo(272);
    expect(partNames(parts, { width: 300, height: 80 }, 'Logo')).toEqual(['Mark', 'Wordmark']);
  });

  it('one thing is one part', () => {
    expect(partsOf(presence(50, 50, (x, y) => x > 10 && x < 40 && y > 10 && y < 40))).toHaveLength(1);
  });

  it('nothing has none', () => {
    expect(partsOf(presence(20, 20, () => false))).toEqual([]);
  });

  it('the pottery’s own logo comes apart into its mark and its wordmark', async () => {
    const svg = await loadImage(readFileSync(new URL('../../../demo/logos/ottermill.svg', import.meta.url)));
    const [width, height] = [320, Math.round((320 * svg.height) / svg.width)];
    const context = createCanvas(width, height).getContext('2d');
    context.drawImage(svg, 0, 0, width, height);
    const { data } = context.getImageData(0, 0, width, height);
    const parts = partsOf({
      width,
      height,
      data: Uint8Array.from({ length: width * height }, (_, i) => data[i * 4 + 3]!),
    });
    expect(partNames(parts, { width, height }, 'Logo')).toEqual(['Mark', 'Wordmark']);
    expect(parts[0]!.x + parts[0]!.width).toBeLessThan(parts[1]!.x);
  });
});
