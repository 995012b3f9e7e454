import { converter, wcagLuminance } from 'culori';
import { plainLook, type Look } from './appearance';
import { at, pixelsBy } from '../testing/pixels';
import { random } from '../testing/samples';
import { applyLook, applyTint, sharpen } from './look';

const r = random(5);
const noise = () =>
  pixelsBy(16, 16, () => [Math.floor(r() * 256), Math.floor(r() * 256), Math.floor(r() * 256)] as const);
const look = (own: Partial<Look>): Look => ({ ...plainLook, ...own });
const clamp = (n: number) => Math.min(1, Math.max(0, n));

/** One filter of Filter Effects 1 on 0…1 channels, written straight from its text. */
function filtered(c: readonly number[], own: Partial<Look>): number[] {
  let [x, y, z] = c as [number, number, number];
  // Section 6.1.2: brightness(a) is feComponentTransfer linear, slope a.
  const a = own.brightness ?? 1;
  [x, y, z] = [clamp(x * a), clamp(y * a), clamp(z * a)];
  // Section 6.1.4: contrast(k) is linear, slope k, intercept -(0.5 × k) + 0.5.
  const k = own.contrast ?? 1;
  [x, y, z] = [x, y, z].map((v) => clamp(v * k - 0.5 * k + 0.5)) as [number, number, number];
  // Section 9.4: feColorMatrix saturate.
  const s = own.saturation ?? 1;
  return [
    (0.213 + 0.787 * s) * x + (0.715 - 0.715 * s) * y + (0.072 - 0.072 * s) * z,
    (0.213 - 0.213 * s) * x + (0.715 + 0.285 * s) * y + (0.072 - 0.072 * s) * z,
    (0.213 - 0.213 * s) * x + (0.715 - 0.715 * s) * y + (0.072 + 0.928 * s) * z,
  ].map(clamp);
}

describe('light and colour, against Filter Effects 1 (sections 6.1 and 9.4)', () => {
  it.each<Partial<Look>>([
    { brightness: 0.4 },
    { brightness: 1.7 },
    { contrast: 0.3 },
    { contrast: 1.9 },
    { saturation: 0 },
    { saturation: 1.8 },
    { brightness: 1.2, contrast: 0.8, saturation: 0.5 },
  ])('%j, within one step of 255 for each filter in the chain', (own) => {
    const before = noise();
    const after = { ...before, data: before.data.slice() };
    applyLook(after, look(own));
    const steps = Object.keys(own).length;
    for (let i = 0; i < before.data.length; i += 4) {
      const want = filtered(
        [...before.data.subarray(i, i + 3)].map((v) => v / 255),
        own,
      );
      want.forEach((v, c) => expect(Math.abs(after.data[i + c]! - v * 255)).toBeLessThanOrEqual(steps));
    }
  });

  it('warmth scales red light up and blue light down by the same factor, green held', () => {
    const grey = pixelsBy(1, 1, () => [128, 128, 128]);
    applyLook(grey, look({ warmth: 1 }));
    const [red, green, blue] = at(grey, 0, 0);
    const linear = converter('lrgb');
    const own = linear({ mode: 'rgb', r: 128 / 255, g: 128 / 255, b: 128 / 255 });
    const now = linear({ mode: 'rgb', r: red! / 255, g: green! / 255, b: blue! / 255 });
    expect(green).toBe(128);
    expect(now.r / own.r).toBeCloseTo(1.35, 1);
    expect(own.b / now.b).toBeCloseTo(1.35, 1);
  });

  it('leaves what is clear alone', () => {
    const clear = pixelsBy(2, 1, () => [10, 20, 30, 0]);
    applyLook(clear, look({ brightness: 2 }));
    expect(at(clear, 0, 0)).toEqual([10, 20, 30, 0]);
  });
});

describe('sharpening', () => {
  it('changes nothing where nothing changes, and steepens a step without moving it', () => {
    const flat = pixelsBy(8, 8, () => [90, 90, 90]);
    sharpen(flat, 1);
    expect(at(flat, 3, 3)).toEqual([90, 90, 90, 255]);
    const step = pixelsBy(8, 4, (x) => (x < 4 ? [80, 80, 80] : [160, 160, 160]));
    sharpen(step, 0.5);
    expect(at(step, 0, 1)[0]).toBe(80);
    expect(at(step, 3, 1)[0]).toBeLessThan(80);
    expect(at(step, 4, 1)[0]).toBeGreaterThan(160);
    // As much below as above: the edge stays where it is.
    expect(Math.abs(80 - at(step, 3, 1)[0]! - (at(step, 4, 1)[0]! - 160))).toBeLessThanOrEqual(1);
  });

  it('keeps hue: all channels move alike', () => {
    const p = pixelsBy(5, 5, (x) => (x < 2 ? [100, 60, 40] : [140, 100, 80]));
    sharpen(p, 0.6);
    const [red, green, blue] = at(p, 2, 2);
    expect(red! - green!).toBe(40);
    expect(green! - blue!).toBe(20);
  });
});

describe('tints', () => {
  const oklab = converter('oklab');
  it('one colour keeps how light each grey is (OKLab lightness), black and white untouched', () => {
    const ramp = pixelsBy(256, 1, (x) => [x, x, x]);
    applyTint(ramp, { kind: 'one', colour: '#1f6f5c' });
    for (let x = 0; x < 256; x += 5) {
      const [red, green, blue] = at(ramp, x, 0);
      const want = oklab({ mode: 'rgb', r: x / 255, g: x / 255, b: x / 255 }).l;
      const got = oklab({ mode: 'rgb', r: red! / 255, g: green! / 255, b: blue! / 255 }).l;
      expect(Math.abs(got - want)).toBeLessThan(0.012);
    }
    expect(at(ramp, 0, 0)).toEqual([0, 0, 0, 255]);
    expect(at(ramp, 255, 0)).toEqual([255, 255, 255, 255]);
  });

  it('two colours: the darkest is one, the lightest the other, and lighter stays lighter', () => {
    const ramp = pixelsBy(256, 1, (x) => [x, x, x]);
    applyTint(ramp, { kind: 'two', dark: '#203040', light: '#f4e7cb' });
    expect(at(ramp, 0, 0)).toEqual([0x20, 0x30, 0x40, 255]);
    expect(at(ramp, 255, 0)).toEqual([0xf4, 0xe7, 0xcb, 255]);
    let last = 0;
    for (let x = 0; x < 256; x += 8) {
      const [red, green, blue] = at(ramp, x, 0);
      const y = wcagLuminance({ mode: 'rgb', r: red! / 255, g: green! / 255, b: blue! / 255 });
      expect(y).toBeGreaterThanOrEqual(last);
      last = y;
    }
  });

  it('flat takes the colour and keeps each pixel’s alpha', () => {
    const p = pixelsBy(3, 1, (x) => [x * 90, 0, 0, x * 100]);
    applyTint(p, { kind: 'flat', colour: '#f2b01e' });
    expect(at(p, 1, 0)).toEqual([0xf2, 0xb0, 0x1e, 100]);
  });
});
