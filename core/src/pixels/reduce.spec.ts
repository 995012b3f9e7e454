import { readFileSync } from 'node:fs';
import sharp, { type Sharp } from 'sharp';
import { coverBox } from '../geometry/fit';
import { reference, ssim } from '../testing/reference';
import { random } from '../testing/samples';
import { byteOf, encoded, linearOf } from '../colour/srgb';
import { compiledRows, type CompiledRows } from './rows';
import { isOpaque, reduce, reducing, sourceNeeded, type Pixels, type Reduction, type SourceRows } from './reduce';

const picture = (name: string) => readFileSync(new URL(`../../../demo/pictures/${name}`, import.meta.url));

async function pixelsOf(input: Sharp): Promise<Pixels> {
  const { data, info } = await input.ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
}

/** Mean and greatest difference of encoded bytes, over the colour channels. */
function difference(a: Pixels, b: Pixels): { mean: number; worst: number } {
  let sum = 0;
  let worst = 0;
  for (let i = 0; i < a.data.length; i++) {
    if (i % 4 === 3) continue;
    const d = Math.abs(a.data[i]! - b.data[i]!);
    sum += d;
    worst = Math.max(worst, d);
  }
  return { mean: sum / (a.data.length * 0.75), worst };
}

describe('sRGB', () => {
  // CSS Color 4, section 10.2: sample values of the transfer function, worked by hand from its definition.
  it('is as CSS Color 4 defines it', () => {
    expect(linearOf[0]).toBe(0);
    expect(linearOf[255]).toBe(1);
    expect(linearOf[10]).toBeCloseTo(10 / 255 / 12.92, 7);
    expect(linearOf[188]).toBeCloseTo(0.50289, 4);
    expect(encoded(0.5)).toBeCloseTo(0.735357, 5);
  });
  it('gives every byte back, and the nearest one between bytes', () => {
    for (let b = 0; b < 256; b++) expect(byteOf(linearOf[b]!)).toBe(b);
    for (let l = 0; l <= 1; l += 0.0003) expect(Math.abs(byteOf(l) - encoded(l) * 255)).toBeLessThan(0.75);
  });
});

/** The compiled kernel, as tools/build.mjs makes it; what its memory held before is none of its business. */
const compiled = async () => {
  const { instance } = await WebAssembly.instantiate(
    readFileSync(new URL('../../../.cache/kernel/reduce.wasm', import.meta.url)),
    { env: { abort: () => undefined } },
  );
  const exports = instance.exports as unknown as CompiledRows;
  exports.memory.grow(64);
  // No numbers, as floats.
  new Uint8Array(exports.memory.buffer, 65_536).fill(0xff);
  return compiledRows(exports);
};

describe('the compiled kernel', () => {
  it.each([
    ['an opaque photo, reduced', 'shelf.jpg', true, { x: -20.3, y: -140.7, width: 641.5, height: 427.4 }],
    ['an opaque photo, enlarged', 'shelf.jpg', true, { x: -300, y: -900, width: 4000.5, height: 2665.3 }],
    ['a cut-out with soft edges', 'cutout-mug.png', false, { x: 100.25, y: 3.5, width: 170.3, height: 181.2 }],
  ])('gives the plain one’s pixels: %s', async (_what, name, opaque, image) => {
    const source = await pixelsOf(sharp(picture(name)).resize(900));
    const natural = { width: source.width, height: source.height };
    const r: Reduction = {
      image,
      shown: { ...image, height: image.height - 20.5 },
      out: { x: 0, y: 0, width: 600, height: 180 },
    };
    const whole = { x: 0, y: 0, ...natural };
    const kernel = await compiled();
    const plain = reduce(source, whole, natural, r, opaque);
    // Twice, since a kernel's memory is used again.
    for (let run = 0; run < 2; run++) {
      const fast = reduce(source, whole, natural, r, opaque, kernel);
      expect(difference(plain, fast).worst).toBeLessThanOrEqual(1);
      let alpha = 0;
      for (let i = 3; i < fast.data.length; i += 4) alpha = Math.max(alpha, Math.abs(fast.data[i]! - plain.data[i]!));
      expect(alpha).toBeLessThanOrEqual(1);
    }
    expect(plain.data.some((v, i) => i % 4 === 3 && v > 0)).toBe(true);
  });

  it('gives the plain one’s pixels at any size, one job after another in the same memory', async () => {
    const seed = 2026;
    const next = random(seed);
    const between = (low: number, high: number) => low + Math.floor(next() * (high - low + 1));
    const kernel = await compiled();
    let worst = { off: 0, what: '' };
    for (let run = 0; run < 80; run++) {
      const size = { width: between(1, 90), height: between(1, 60) };
      const opaque = next() < 0.5;
      const data = new Uint8ClampedArray(size.width * size.height * 4).map((_, i) =>
        opaque && i % 4 === 3 ? 255 : between(0, 255),
      );
      const image = {
        x: between(-9, 9) / 4,
        y: between(-9, 9) / 4,
        width: between(1, 400) / 3,
        height: between(1, 200) / 3,
      };
      const out = { x: 0, y: 0, width: between(1, 70), height: between(1, 50) };
      const r: Reduction = { image, shown: image, out };
      const part = { x: 0, y: 0, ...size };
      const plain = reduce({ ...size, data }, part, size, r, opaque);
      const fast = reduce({ ...size, data }, part, size, r, opaque, kernel);
      const what = `run ${run}: ${size.width} × ${size.height} to ${image.width} × ${image.height}, opaque ${opaque}`;
      for (let i = 0; i < plain.data.length; i++) {
        // Where nearly nothing is left of a px, its colour is a quotient of nearly noughts.
        if (i % 4 !== 3 && plain.data[i | 3]! < 8) continue;
        const off = Math.abs(plain.data[i]! - fast.data[i]!);
        if (off > worst.off) worst = { off, what };
      }
    }
    if (worst.off > 1) throw new Error(`seed ${seed}, ${worst.what}: off by ${worst.off}`);
  });

  it('goes on where it was left while another works, each with a memory of its own', async () => {
    const source = await pixelsOf(sharp(picture('shelf.jpg')).resize(600));
    const natural = { width: source.width, height: source.height };
    const whole = { x: 0, y: 0, ...natural };
    const to = (width: number): Reduction => {
      const image = { x: 0, y: 0, width, height: (width * natural.height) / natural.width };
      return { image, shown: image, out: { x: 0, y: 0, width, height: Math.floor(image.height) } };
    };
    const kernels = [await compiled(), await compiled()];
    const sizes = [310, 140];
    const going = sizes.map((width, i) => reducing(whole, natural, to(width), true, kernels[i]));
    const made: (Pixels | null)[] = [null, null];
    while (made.includes(null))
      for (const [i, parts] of going.entries()) {
        if (made[i]) continue;
        const { done, value } = parts.next({ ...source, from: 0 });
        if (done) made[i] = value;
      }
    for (const [i, width] of sizes.entries())
      expect(made[i]).toEqual(reduce(source, whole, natural, to(width), true, await compiled()));
  });
});

describe('reduce', () => {
  const whole = (p: { width: number; height: number }) => ({ x: 0, y: 0, width: p.width, height: p.height });

  it('matches a double-precision Lanczos-3 in linear light: SSIM ≥ 0.995', async () => {
    const source = await pixelsOf(sharp(picture('shelf.jpg')).resize(900));
    const image = coverBox(source, { x: 0, y: 0, width: 240, height: 70.5 });
    const out = { x: 0, y: 0, width: 240, height: 71 };
    const r: Reduction = { image, shown: image, out };
    const part = sourceNeeded(source, r)!;
    const cut = await pixelsOf(
      sharp(Buffer.from(source.data), { raw: { width: source.width, height: source.height, channels: 4 } }).extract({
        left: part.x,
        top: part.y,
        width: part.width,
        height: part.height,
      }),
    );
    const made = reduce(cut, part, source, r, true);
    const wanted = reference(source, image, out);
    expect(ssim(made, wanted)).toBeGreaterThanOrEqual(0.995);
    expect(difference(made, wanted).worst).toBeLessThanOrEqual(1);
  });

  // sharp (libvips) reduces in encoded light, so the mean may differ a little where contrasts are fine.
  it('agrees with sharp on the same exact region: mean difference ≤ 2.5 of 255', async () => {
    const source = await pixelsOf(sharp(picture('wheel.jpg')));
    const region = { left: 0, top: 700, width: 3500, height: 740 };
    const wanted = await pixelsOf(
      sharp(picture('wheel.jpg'))
        .extract(region)
        .resize(875, 185, { kernel: 'lanczos3', fit: 'fill', fastShrinkOnLoad: false }),
    );
    const image = { x: 0, y: -175, width: 875, height: 583 };
    const out = { x: 0, y: 0, width: 875, height: 185 };
    const made = reduce(source, whole(source), source, { image, shown: image, out }, true);
    expect(difference(made, wanted).mean).toBeLessThan(2.5);
  });

  it('gives a picture back unchanged at its own size', async () => {
    const source = await pixelsOf(sharp(picture('cutout-mug.png')).resize(90));
    const box = whole(source);
    const made = reduce(source, box, source, { image: box, shown: box, out: box }, false);
    for (let i = 0; i < source.data.length; i += 4) {
      expect(made.data[i + 3]).toBe(source.data[i + 3]);
      if (source.data[i + 3]! > 0)
        for (let c = 0; c < 3; c++) expect(Math.abs(made.data[i + c]! - source.data[i + c]!)).toBeLessThanOrEqual(1);
    }
  });

  it('mixes light, not code values: black and white lines become 188, not 128', () => {
    const data = new Uint8ClampedArray(64 * 64 * 4).map((_, i) =>
      i % 4 === 3 ? 255 : Math.floor(i / 4) % 2 ? 255 : 0,
    );
    const image = { x: 0, y: 0, width: 8, height: 8 };
    const made = reduce(
      { width: 64, height: 64, data },
      { x: 0, y: 0, width: 64, height: 64 },
      { width: 64, height: 64 },
      { image, shown: image, out: image },
      true,
    );
    // Linear 0.5 is encoded 0.7354 (CSS Color 4), 187.5 of 255.
    expect(Math.abs(made.data[(4 * 8 + 4) * 4]! - 188)).toBeLessThanOrEqual(2);
  });

  it('lets no colour of transparent pixels in', () => {
    const data = new Uint8ClampedArray(32 * 32 * 4);
    for (let i = 0; i < 32 * 32; i++) data.set(i % 32 < 16 ? [255, 0, 0, 255] : [0, 255, 0, 0], i * 4);
    const image = { x: 0, y: 0, width: 5, height: 5 };
    const made = reduce(
      { width: 32, height: 32, data },
      { x: 0, y: 0, width: 32, height: 32 },
      { width: 32, height: 32 },
      { image, shown: image, out: image },
      false,
    );
    for (let i = 0; i < made.data.length; i += 4) if (made.data[i + 3]! > 0) expect(made.data[i + 1]).toBe(0);
  });

  it('turns fractional edges into partial alpha', () => {
    const data = new Uint8ClampedArray(40 * 40 * 4).fill(255);
    const image = { x: 1.25, y: 2, width: 10, height: 10 };
    const made = reduce(
      { width: 40, height: 40, data },
      { x: 0, y: 0, width: 40, height: 40 },
      { width: 40, height: 40 },
      { image, shown: image, out: { x: 1, y: 2, width: 11, height: 10 } },
      true,
    );
    expect(made.data[3]).toBe(Math.round(0.75 * 255));
    expect(made.data[4 + 3]).toBe(255);
    expect(made.data[10 * 4 + 3]).toBe(Math.round(0.25 * 255));
  });

  it('fed in strips it gives the same, each row asked for once and in order: 60 random ones (seed 12)', () => {
    const r = random(12);
    for (let i = 0; i < 60; i++) {
      const natural = { width: 20 + Math.floor(r() * 60), height: 20 + Math.floor(r() * 60) };
      const data = Uint8ClampedArray.from({ length: natural.width * natural.height * 4 }, () => r() * 256);
      // Whole steps have taps of no weight in their midst.
      const span = r() < 0.4 ? 2 + Math.floor(r() * 3) : 0.6 + r() * 4;
      const image = { x: r(), y: -r() * 5, width: natural.width / span, height: natural.height / span };
      const out = { x: 0, y: 0, width: Math.ceil(image.width), height: Math.max(1, Math.floor(image.height * 0.7)) };
      const reduction = { image, shown: image, out };
      const part = sourceNeeded(natural, reduction)!;
      const rows = (from: number, height: number): SourceRows => {
        const line = (y: number) => {
          const at = ((part.y + y) * natural.width + part.x) * 4;
          return [...data.subarray(at, at + part.width * 4)];
        };
        const strip = Array.from({ length: height }, (_, k) => line(from + k)).flat();
        return { width: part.width, height, from, data: Uint8ClampedArray.from(strip) };
      };
      const parts = reducing(part, natural, reduction, false);
      let [next, last] = [parts.next(), -1];
      while (!next.done) {
        const from = next.value;
        if (from !== null) expect(from).toBeGreaterThan(last);
        const strip = from === null ? undefined : rows(from, Math.min(part.height - from, 1 + Math.floor(r() * 9)));
        if (strip) last = strip.from + strip.height - 1;
        next = parts.next(strip);
      }
      expect(next.value).toEqual(reduce(rows(0, part.height), part, natural, reduction, false));
    }
  });

  it('can rest every few rows, or be left, and reads no more of the source than it needs', () => {
    const data = new Uint8ClampedArray(100 * 100 * 4).fill(255);
    const box = { x: 0, y: 0, width: 50, height: 50 };
    const args = [
      { width: 100, height: 100, data },
      { x: 0, y: 0, width: 100, height: 100 },
      { width: 100, height: 100 },
      { image: box, shown: box, out: box },
      true,
    ] as const;
    const [source, ...rest] = args;
    const parts = reducing(...rest);
    const asked: (number | null)[] = [];
    for (let next = parts.next(); !next.done; next = parts.next({ ...source, from: 0 })) asked.push(next.value);
    expect(asked.filter((a) => a === null).length).toBeGreaterThanOrEqual(6);
    expect(asked.filter((a) => a !== null)).toEqual([0]);
    expect(reduce(...args).data.every((v) => v === 255)).toBe(true);
    const part = sourceNeeded(
      { width: 6000, height: 4000 },
      {
        image: { x: 0, y: -200, width: 600, height: 400 },
        shown: { x: 0, y: -200, width: 600, height: 400 },
        out: { x: 0, y: 0, width: 600, height: 50 },
      },
    )!;
    expect(part.height).toBeLessThan(600);
    expect(
      sourceNeeded(
        { width: 10, height: 10 },
        { image: box, shown: { x: 0, y: 0, width: 1, height: 1 }, out: { x: 20, y: 20, width: 5, height: 5 } },
      ),
    ).toBeNull();
  });

  it('knows an opaque picture', () => {
    expect(isOpaque({ width: 1, height: 2, data: new Uint8ClampedArray([0, 0, 0, 255, 9, 9, 9, 255]) })).toBe(true);
    expect(isOpaque({ width: 1, height: 2, data: new Uint8ClampedArray([0, 0, 0, 255, 9, 9, 9, 254]) })).toBe(false);
  });
});
