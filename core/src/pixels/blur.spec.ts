import { readFile } from 'node:fs/promises';
import { createCanvas, loadImage } from '@napi-rs/canvas';
import { random } from '../testing/samples';
import { edgeBlurs, sharpestBlur } from './blur';
import { smoothed, type Field } from './luminance';

/** Discs and bars, drawn finely and averaged down: edges as a sharp lens and sensor give them. */
function drawn(seed: number, side = 192): Field {
  const r = random(seed);
  const canvas = createCanvas(side * 4, side * 4);
  const c = canvas.getContext('2d');
  c.fillStyle = '#808080';
  c.fillRect(0, 0, side * 4, side * 4);
  for (let i = 0; i < 14; i++) {
    c.fillStyle = `hsl(0 0% ${Math.round(r() * 100)}%)`;
    c.beginPath();
    c.arc(r() * side * 4, r() * side * 4, 60 + r() * 140, 0, 7);
    c.fill();
  }
  const { data } = c.getImageData(0, 0, side * 4, side * 4);
  const out = new Float32Array(side * side);
  for (let y = 0; y < side * 4; y++)
    for (let x = 0; x < side * 4; x++) out[(y >> 2) * side + (x >> 2)]! += data[(y * side * 4 + x) * 4]! / 255 / 16;
  return { width: side, height: side, data: out };
}

const edgeBlur = (fields: readonly Field[]) => sharpestBlur(fields.flatMap(edgeBlurs));

describe('how far a picture is blurred', () => {
  it('tells the σ by which sharp drawings were blurred: never more than a tenth too much, seldom a third too little (our own truth; the blur is a Gaussian)', () => {
    const told: string[] = [];
    for (const sigma of [1, 1.5, 2, 3, 4])
      for (const seed of [1, 2, 3]) {
        const found = edgeBlur([smoothed(drawn(seed), sigma)])!;
        told.push(`${sigma} ${found.toFixed(2)}`);
        // The sharpest tenth decides, so it errs towards sharp.
        expect([seed, sigma, found < sigma * 1.1, found > sigma * 0.6]).toEqual([seed, sigma, true, true]);
      }
    console.log(`σ and what was told of it: ${told.join(', ')}`);
  });
  it('tells sharp drawings as sharp, also under noise (seed 5)', () => {
    const r = random(5);
    for (const seed of [4, 5, 6]) {
      const field = drawn(seed);
      expect(edgeBlur([field])).toBeLessThan(0.7);
      const noisy = { ...field, data: field.data.map((v) => v + (r() - 0.5) * 0.06) };
      expect(edgeBlur([noisy])).toBeLessThan(0.8);
    }
  });
  it('says nothing of what has no edges', () => {
    expect(edgeBlur([{ width: 64, height: 64, data: new Float32Array(64 * 64).fill(0.4) }])).toBeNull();
  });
  it('ranks a photograph by how far it was blurred, and takes it for sharp as it came', async () => {
    const file = await readFile(new URL('../../../demo/pictures/shelf.jpg', import.meta.url));
    const image = await loadImage(file);
    const canvas = createCanvas(512, 512);
    const c = canvas.getContext('2d');
    c.drawImage(image, -Math.round(image.width / 2 - 256), -Math.round(image.height / 2 - 256));
    const { data } = c.getImageData(0, 0, 512, 512);
    const grey: Field = {
      width: 512,
      height: 512,
      data: Float32Array.from({ length: 512 * 512 }, (_, i) => data[i * 4 + 1]! / 255),
    };
    const found = [0, 1.5, 3, 6].map((sigma) => edgeBlur([sigma ? smoothed(grey, sigma) : grey])!);
    console.log(`a photograph blurred by 0, 1.5, 3, 6: ${found.map((f) => f.toFixed(2)).join(', ')}`);
    expect(found).toEqual([...found].sort((a, b) => a - b));
    expect(found[1]! - found[0]!).toBeGreaterThan(0.3);
  });
});
