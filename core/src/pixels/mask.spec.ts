import { createCanvas } from '@napi-rs/canvas';
import { fadeLine } from './finishing';
import { at, pixelsBy } from '../testing/pixels';
import { random } from '../testing/samples';
import { applyFades, applyShape, eased, fadeAt } from './mask';

const sheet = (width: number, height: number) => ({
  pixels: pixelsBy(width, height, () => [200, 100, 50]),
  x: 0,
  y: 0,
});

describe('corners', () => {
  /** The same shape as the canvas library fills it, its coverage in alpha. */
  function drawn(width: number, height: number, radii: number[] | 'round'): Uint8ClampedArray {
    const context = createCanvas(width, height).getContext('2d');
    context.beginPath();
    if (radii === 'round') context.ellipse(width / 2, height / 2, width / 2, height / 2, 0, 0, 2 * Math.PI);
    else context.roundRect(0, 0, width, height, radii);
    context.fill();
    return context.getImageData(0, 0, width, height).data;
  }

  it.each<[string, [number, number, number, number] | 'round', number, number]>([
    ['all alike', [12, 12, 12, 12], 60, 40],
    ['each its own', [0, 8, 16, 4], 60, 40],
    ['too large, made smaller together', [50, 50, 50, 50], 60, 40],
    ['a circle', 'round', 48, 48],
    ['an ellipse', 'round', 60, 30],
  ])('%s cover as a 2D canvas fills them (Skia, by @napi-rs/canvas)', (_name, radii, width, height) => {
    const lying = sheet(width, height);
    applyShape(lying, { x: 0, y: 0, width, height }, radii, null, true);
    const want = drawn(width, height, radii === 'round' ? radii : [...radii]);
    let sum = 0;
    for (let i = 3; i < want.length; i += 4) {
      const off = Math.abs(lying.pixels.data[i]! - want[i]!);
      sum += off;
      // One is a distance to the curve, the other its area: they differ by little, and on the rim only.
      expect(off).toBeLessThan(80);
    }
    // Skia draws an ellipse by few straight pieces; its area is asked for below.
    expect(sum / (want.length / 4)).toBeLessThan(width === 60 && radii === 'round' ? 3 : 1.2);
  });

  it('an ellipse’s area is π a b (0.1 %)', () => {
    const lying = sheet(60, 30);
    applyShape(lying, { x: 0, y: 0, width: 60, height: 30 }, 'round', null, true);
    let area = 0;
    for (let i = 3; i < lying.pixels.data.length; i += 4) area += lying.pixels.data[i]! / 255;
    expect(Math.abs(area / (Math.PI * 30 * 15) - 1)).toBeLessThan(0.001);
  });

  it('leave straight edges as the reduction cut them', () => {
    const lying = { pixels: pixelsBy(20, 20, (x) => [1, 2, 3, x === 19 ? 128 : 255]), x: 0, y: 0 };
    applyShape(lying, { x: 0, y: 0, width: 19.5, height: 20 }, [4, 4, 4, 4], null, true);
    expect(at(lying.pixels, 19, 10)[3]).toBe(128);
    expect(at(lying.pixels, 10, 10)).toEqual([1, 2, 3, 255]);
  });
});

describe('corners of every size, at whole and fractional places', () => {
  const r = random(313);
  it('80 random boxes and radii, larger than half a side too, cover as Skia fills them (seed 313)', () => {
    const worst = { rounded: 0, oval: 0 };
    for (let n = 0; n < 80; n++) {
      const [width, height] = [20 + r() * 60, 20 + r() * 60];
      const box = { x: n % 2 ? r() * 4 : 3, y: n % 2 ? r() * 4 : 3, width, height };
      const radii = [0, 0, 0, 0].map(() => (r() < 0.3 ? 0 : r() * Math.max(width, height))) as [
        number,
        number,
        number,
        number,
      ];
      const round = n % 5 === 0;
      // What a reduction gives: straight edges cut, a px half covered half there.
      const part = (at: number, from: number, long: number) =>
        Math.max(0, Math.min(1, Math.min(at + 1, from + long) - Math.max(at, from)));
      const pixels = pixelsBy(90, 90, (x, y) => [
        0,
        0,
        0,
        Math.round(255 * part(x, box.x, width) * part(y, box.y, height)),
      ]);
      applyShape({ pixels, x: 0, y: 0 }, box, round ? 'round' : radii, null, true);
      const big = createCanvas(90 * 8, 90 * 8).getContext('2d');
      big.scale(8, 8);
      big.beginPath();
      if (round) big.ellipse(box.x + width / 2, box.y + height / 2, width / 2, height / 2, 0, 0, 2 * Math.PI);
      else big.roundRect(box.x, box.y, width, height, radii);
      big.fill();
      const { data } = big.getImageData(0, 0, 720, 720);
      for (let y = 0; y < 90; y++)
        for (let x = 0; x < 90; x++) {
          let want = 0;
          for (let j = 0; j < 8; j++)
            for (let k = 0; k < 8; k++) want += data[((y * 8 + j) * 720 + x * 8 + k) * 4 + 3]!;
          const off = Math.abs(at(pixels, x, y)[3]! - want / 64);
          const kind = round ? 'oval' : 'rounded';
          worst[kind] = Math.max(worst[kind], off);
        }
    }
    console.info('worst of 80 corners, of 255', worst);
    // Skia draws curves by few straight pieces; what was wrong before was a step of 255.
    expect(worst.rounded).toBeLessThan(24);
    expect(worst.oval).toBeLessThan(24);
  });
});

describe('a border', () => {
  it('lies within the edge, of its width, in its colour', () => {
    const lying = sheet(20, 12);
    applyShape(lying, { x: 0, y: 0, width: 20, height: 12 }, null, { width: 3, colour: '#0000ff' }, true);
    expect(at(lying.pixels, 0, 6)).toEqual([0, 0, 255, 255]);
    expect(at(lying.pixels, 2, 6)).toEqual([0, 0, 255, 255]);
    expect(at(lying.pixels, 3, 6)).toEqual([200, 100, 50, 255]);
    expect(at(lying.pixels, 17, 6)).toEqual([0, 0, 255, 255]);
  });

  it('stands around what is clear too', () => {
    const lying = { pixels: pixelsBy(10, 10, () => [0, 0, 0, 0]), x: 0, y: 0 };
    applyShape(lying, { x: 0, y: 0, width: 10, height: 10 }, null, { width: 2, colour: '#ff0000' }, true);
    expect(at(lying.pixels, 0, 5)).toEqual([255, 0, 0, 255]);
    expect(at(lying.pixels, 5, 5)[3]).toBe(0);
  });
});

describe('fades', () => {
  it('are whole at one end and gone at the other, monotone, no step above 1.5 × 255 ÷ length + 1 (100 random lines)', () => {
    const r = random(9);
    for (let i = 0; i < 100; i++) {
      const length = 8 + r() * 150;
      const angle = r() * 2 * Math.PI;
      const from = { x: 100 + r() * 20, y: 4 };
      const to = { x: from.x + Math.cos(angle) * length, y: from.y + Math.sin(angle) * length };
      // Along the line, a px at a time, as it would be stored.
      let last = 255;
      for (let d = -3; d <= length + 3; d++) {
        const p = {
          x: from.x + (Math.cos(angle) * length * d) / length,
          y: from.y + (Math.sin(angle) * length * d) / length,
        };
        const a = Math.round(255 * fadeAt({ from, to }, p.x, p.y));
        expect(a).toBeLessThanOrEqual(last);
        expect(last - a).toBeLessThanOrEqual((1.5 * 255) / length + 1);
        last = a;
      }
      expect(Math.round(255 * fadeAt({ from, to }, from.x, from.y))).toBe(255);
      expect(last).toBe(0);
    }
  });

  it('the same as stored in a picture’s rows, whatever its side', () => {
    const lying = sheet(120, 3);
    applyFades(lying, [fadeLine({ kind: 'side', side: 'right', length: 0.5 }, { x: 0, y: 0, width: 120, height: 3 })]);
    const row = Array.from({ length: 120 }, (_, x) => at(lying.pixels, x, 1)[3]!);
    expect(row[0]).toBe(255);
    expect(row[59]).toBe(255);
    expect(row[119]).toBe(0);
    row.slice(1).forEach((a, i) => {
      expect(a).toBeLessThanOrEqual(row[i]!);
      expect(row[i]! - a).toBeLessThanOrEqual((1.5 * 255) / 60 + 1);
    });
  });

  it('several take their share each', () => {
    const lying = sheet(100, 1);
    const box = { x: 0, y: 0, width: 100, height: 1 };
    applyFades(lying, [
      fadeLine({ kind: 'side', side: 'left', length: 1 }, box),
      fadeLine({ kind: 'side', side: 'right', length: 1 }, box),
    ]);
    expect(at(lying.pixels, 50, 0)[3]! / 255).toBeCloseTo(0.25, 1);
  });

  it('ease from 1 to 0, half way at a half', () => {
    expect([eased(-1), eased(0), eased(0.5), eased(1), eased(2)]).toEqual([1, 1, 0.5, 0, 0]);
  });
});
