import { contrast, contrastOfLuminance, luminance } from '../colour/contrast';
import { squaredDistances } from '../pixels/distance';
import { luminanceField, smoothed } from '../pixels/luminance';
import type { Pixels } from '../pixels/reduce';
import { channelsOf } from '../colour/srgb';
import { random, words } from '../testing/samples';
import { letterSheet } from '../testing/reader';
import { realShaper } from '../testing/type';
import { layoutOf, type WordsLayout } from '../words/layout';
import { faintestLetter, groundSampler, letterContrast, type Manner } from './legibility';
import { LINE, MOVE, CLOSE, QUAD } from '../words/outline';
import { seenThrough } from './seen';
import type { Shaper } from '../words/shaper';
import { strokeWidth } from '../words/stroke';
import { rasteriser } from './ways';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

/** A part of a ground in one colour. */
function fill(ground: Pixels, colour: string, left = 0, top = 0, right = ground.width, bottom = ground.height): Pixels {
  for (let y = Math.max(0, top); y < Math.min(bottom, ground.height); y++)
    for (let x = Math.max(0, left); x < Math.min(right, ground.width); x++)
      ground.data.set([...channelsOf(colour), 255], (y * ground.width + x) * 4);
  return ground;
}

const flat = (colour: string, width = 940, height = 198): Pixels =>
  fill({ width, height, data: new Uint8ClampedArray(width * height * 4) }, colour);

function sampled(ground: Pixels, layout: WordsLayout, manner: Manner = {}) {
  const standing = { size: ground, scale: 1, origin: { x: 0, y: 0 }, turn: null };
  const sampler = groundSampler(layout, standing, rasteriser(standing, null, letterSheet), manner);
  return { letters: sampler ? sampler.sample(seenThrough(ground, null, [255, 255, 255], sampler.region)) : [] };
}

const sample = (ground: Pixels, layer = words('Notes from the Wheel')) => sampled(ground, layoutOf(layer, shaper));

describe('groundSampler', () => {
  it('on a flat ground gives just the contrast of the two colours, letter by letter (WCAG 2.2, contrast ratio)', () => {
    const found = sample(flat('#777777'));
    expect(found.letters.map((l) => l.letter).join('')).toBe('NotesfromtheWheel');
    for (const l of found.letters)
      expect(letterContrast(l, luminance('#ffffff'))).toBeCloseTo(contrast('#777777', '#ffffff'), 4);
  });

  it('is led by the faintest letter, not by the average', () => {
    const ground = flat('#1f2a30');
    const layer = words('Notes from the Wheel');
    const letters = layoutOf(layer, shaper).items;
    // Pale ground behind the last letter alone.
    const from = Math.floor(letters.at(-1)!.x) - 4;
    fill(ground, '#f4e7cb', from);
    const found = faintestLetter(sample(ground, layer), 1)!;
    expect(found.letter.letter).toBe('l');
    expect(found.contrast).toBeCloseTo(contrast('#ffffff', '#f4e7cb'), 1);
    expect(found.needed).toBe(3);
  });

  it('letters with an outline stand on that alone, whatever lies beyond it', () => {
    const layer = words('I');
    const { ink } = layoutOf(layer, shaper);
    const ground = flat('#ffffff');
    // Four px of ink around the letter, as its outline paints them.
    const [left, top] = [Math.floor(ink!.x) - 4, Math.floor(ink!.y) - 4];
    fill(ground, '#1f2a30', left, top, Math.ceil(ink!.x + ink!.width + 4), Math.ceil(ink!.y + ink!.height + 4));
    const seen = (ring?: number) =>
      sampled(ground, layoutOf(layer, shaper), ring === undefined ? {} : { ring }).letters[0]!;
    // White letters: plain, they meet white beyond; outlined, they stand on the ink.
    expect(letterContrast(seen(), 1)).toBeLessThan(1.5);
    expect(letterContrast(seen(2), 1)).toBeGreaterThan(12);
  });

  it('looks no further than one stroke from the outline', () => {
    const layer = words('I');
    const layout = layoutOf(layer, shaper);
    const item = layout.items[0]!;
    const stroke = item.kind === 'outline' ? strokeWidth(item.outline) * item.scale : 0;
    const ink = layout.ink!;
    const ground = flat('#1f2a30');
    // White from two strokes (one to look in, the rest out of the smoothing's reach) to the right on.
    const edge = Math.ceil(ink.x + ink.width + stroke + 1.5 * stroke + 2);
    fill(ground, '#ffffff', edge);
    expect(letterContrast(sample(ground, layer).letters[0]!, 1)).toBeCloseTo(contrast('#1f2a30', '#ffffff'), 3);
    const near = flat('#1f2a30');
    fill(near, '#ffffff', Math.ceil(ink.x + ink.width));
    expect(letterContrast(sample(near, layer).letters[0]!, 1)).toBeLessThan(1.2);
  });

  it('does not take a neighbouring letter for ground', () => {
    const layout = layoutOf(words('l', {}, { size: 80 }), shaper);
    const item = layout.items[0]!;
    const count = (items: (typeof item)[]) =>
      sampled(flat('#000000'), { ...layout, items }).letters.map((l) => l.samples);
    const [alone] = count([item]);
    for (const beside of count([item, { ...item, x: item.x + 6 }])) expect(beside).toBeLessThan(alone! * 0.85);
  });

  it('leaves out letters off the canvas, and counts what it sampled', () => {
    const off = words('Gone', { place: { x: 470, y: 900 } });
    expect(sample(flat('#000000'), off).letters).toHaveLength(0);
    expect(faintestLetter(sample(flat('#000000'), off), 1)).toBeNull();
    expect(sample(flat('#000000')).letters.reduce((n, l) => n + l.samples, 0)).toBeGreaterThan(5000);
  });
});

describe('letterContrast', () => {
  it('is the 5th percentile by nearest rank', () => {
    const ground = Float32Array.from({ length: 100 }, (_, i) => i / 100);
    const by = [...ground].map((g) => contrastOfLuminance(1, g)).sort((a, b) => a - b);
    expect(letterContrast({ ground }, 1)).toBe(by[4]);
  });

  it('is found without sorting what sorting finds: 300 random grounds and inks', () => {
    const r = random(5);
    for (let i = 0; i < 300; i++) {
      const [low, wide] = [r() * 0.9, r() ** 3];
      const ground = Float32Array.from({ length: 1 + Math.floor(r() * 256) }, () => low + r() * wide).sort();
      const ink = i % 3 === 0 ? ground[Math.floor(r() * ground.length)]! : r();
      const sorted = [...ground].map((g) => contrastOfLuminance(ink, g)).sort((a, b) => a - b);
      expect(letterContrast({ ground }, ink)).toBe(sorted[Math.ceil(ground.length * 0.05) - 1]);
    }
  });
});

it('asks of letters what their size as shown on the page asks (WCAG 2.2, 1.4.3)', () => {
  const found = sample(flat('#777777'), words('Bold', {}, { size: 30 }));
  expect(faintestLetter(found, 1)!.needed).toBe(3);
  // Shown at half its size, 30 px become 15, which is not large.
  expect(faintestLetter(found, 0.5)!.needed).toBe(4.5);
});

describe('strokeWidth', () => {
  it('is a long bar’s thickness', () => {
    const bar = [MOVE, 0, 0, LINE, 1000, 0, LINE, 1000, 10, LINE, 0, 10, CLOSE];
    expect(strokeWidth(bar)).toBeCloseTo(10, 0);
  });
  it('follows curves: half a disc’s radius twice over', () => {
    // A circle of radius 100 by eight quadratic arcs: 2A/P is its radius.
    const arc = [...Array(8).keys()].flatMap((i) => {
      const to = ((i + 1) * Math.PI) / 4;
      const mid = (i + 0.5) * (Math.PI / 4);
      const r = 100 / Math.cos(Math.PI / 8);
      return [QUAD, r * Math.cos(mid), r * Math.sin(mid), 100 * Math.cos(to), 100 * Math.sin(to)];
    });
    expect(strokeWidth([MOVE, 100, 0, ...arc, CLOSE])).toBeCloseTo(100, -0.5);
  });
  it('grows with the weight', () => {
    const at = (weight: number) => {
      const item = layoutOf(words('l', {}, { face: { family: 'Public Sans', weight, italic: false } }), shaper)
        .items[0]!;
      return item.kind === 'outline' ? strokeWidth(item.outline) : 0;
    };
    expect(at(700)).toBeGreaterThan(at(400) * 1.3);
  });
});

describe('smoothed', () => {
  it('turns a step into the Gaussian’s own integral (erf; Abramowitz and Stegun, 7.1.1)', () => {
    const width = 81;
    const data = Float32Array.from({ length: width }, (_, x) => (x < 40 ? 0 : 1));
    const sigma = 4;
    const out = smoothed({ width, height: 1, data }, sigma).data;
    // The step lies between the middles of px 39 and 40. Values of the normal distribution at ±0.125σ, ±1.125σ: from memory.
    expect(out[40]).toBeCloseTo(0.5497, 2);
    expect(out[44]).toBeCloseTo(0.8697, 2);
    expect(out[35]).toBeCloseTo(1 - 0.8697, 2);
  });
  it('leaves a flat field flat up to its borders', () => {
    const out = smoothed({ width: 9, height: 5, data: new Float32Array(45).fill(0.3) }, 3).data;
    for (const v of out) expect(v).toBeCloseTo(0.3, 6);
  });
});

it('squaredDistances equals the search of every pixel pair', () => {
  const next = random(3);
  const [width, height] = [23, 17];
  const solid = Uint8Array.from({ length: width * height }, () => Number(next() < 0.06));
  const found = squaredDistances(solid, width, height);
  for (let p = 0; p < solid.length; p++) {
    let best = Infinity;
    solid.forEach((s, q) => {
      if (s)
        best = Math.min(best, ((p % width) - (q % width)) ** 2 + (Math.floor(p / width) - Math.floor(q / width)) ** 2);
    });
    expect(found[p]).toBe(best);
  }
});

it('luminanceField mixes alpha over the page’s ground as browsers do', () => {
  const data = Uint8ClampedArray.from([255, 255, 255, 128, 0, 0, 0, 0, 200, 100, 50, 255]);
  const [half, none, full] = luminanceField({ width: 3, height: 1, data }, '#000000').data;
  expect(half).toBeCloseTo(luminance('#808080'), 3);
  expect(none).toBe(0);
  expect(full).toBeCloseTo(luminance('#c86432'), 5);
});
