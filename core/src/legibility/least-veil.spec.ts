import { contrast, contrastNeeded, luminance } from '../colour/contrast';
import type { Graphic } from '../graphic/graphic';
import type { VeilForm } from '../graphic/shape';
import type { Pixels } from '../pixels/reduce';
import { letterSheet, painted } from '../testing/reader';
import { blank, random, veil, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import { leastVeil, veiled, type VeiledWords } from './least-veil';
import { layoutOf } from '../words/layout';
import { faintestLetter, groundSampler } from './legibility';
import type { Shaper } from '../words/shaper';
import { rasteriser } from './ways';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

const seen = (pixels: Pixels) => ({ pixels, over: null });

const hex = (c: readonly number[]) => `#${c.map((n) => Math.round(n).toString(16).padStart(2, '0')).join('')}`;

/** Words over a busy ground, and that ground with a veil of a colour at full strength, soft from left to right. */
function region(r: () => number, own: { ink: string; size: number; colour: number[]; soft: boolean }): VeiledWords {
  const layer = words('o', { place: { x: 12, y: 2 } }, { size: own.size, colour: own.ink });
  const standing = { size: { width: 24, height: 24 }, scale: 1, origin: { x: 0, y: 0 }, turn: null };
  const sampler = groundSampler(layoutOf(layer, shaper), standing, rasteriser(standing, null, letterSheet))!;
  const { width, height } = sampler.region;
  const bare = { width, height, data: new Uint8ClampedArray(width * height * 4) };
  const full = { width, height, data: new Uint8ClampedArray(width * height * 4) };
  const base = [r() * 255, r() * 255, r() * 255];
  const busy = r() * 90;
  for (let i = 0; i < width * height; i++) {
    const mask = own.soft ? 0.5 + 0.5 * ((i % width) / width) : 1;
    const noise = (r() - 0.5) * busy;
    for (let c = 0; c < 3; c++) {
      bare.data[i * 4 + c] = base[c]! + noise;
      full.data[i * 4 + c] = bare.data[i * 4 + c]! + (own.colour[c]! - bare.data[i * 4 + c]!) * mask;
    }
    bare.data[i * 4 + 3] = full.data[i * 4 + 3] = 255;
  }
  return { sampler, bare: seen(bare), full: seen(full) };
}

/** What the fit report says of words over pixels. */
function judgedAt(w: VeiledWords, strength: number): number {
  const worst = faintestLetter({ letters: w.sampler.sample(veiled(w.bare, w.full, strength)) }, 1)!;
  return worst.contrast / worst.needed;
}
const even = (own: VeiledWords['bare'], g: number) =>
  seen({ ...own.pixels, data: own.pixels.data.map((_, i) => (i % 4 === 3 ? 255 : g)) });

it('just enough is just enough: 500 random grounds, inks, veils and sizes', () => {
  const r = random(7);
  const found = { passing: 0, none: 0, atOnce: 0 };
  for (let i = 0; i < 500; i++) {
    const ink = i % 3 === 0 ? hex([r() * 255, r() * 255, r() * 255]) : i % 3 === 1 ? '#ffffff' : '#1f2a30';
    const colour = i % 2 ? [0, 0, 0] : [r() * 255, r() * 255, r() * 255];
    const w = region(r, { ink, size: 10 + r() * 7, colour, soft: i % 4 === 0 });
    const { strength, best } = leastVeil([[w]], 1);
    if (strength !== null) {
      expect(judgedAt(w, strength)).toBeGreaterThanOrEqual(1);
      if (strength > 0) expect(judgedAt(w, strength - 1)).toBeLessThan(1);
      if (strength === 0) found.atOnce++;
      found.passing++;
    } else {
      expect(judgedAt(w, best.strength)).toBeLessThan(1);
      found.none++;
    }
    // All 256 strengths, one by one.
    if (i % 40 === 0) {
      const all = Array.from({ length: 256 }, (_, s) => judgedAt(w, s) >= 1);
      expect(strength).toBe(all.includes(true) ? all.indexOf(true) : null);
    }
  }
  // All outcomes have been met.
  expect(Math.min(found.passing, found.none, found.atOnce)).toBeGreaterThan(20);
});

it('passes through the ink’s own lightness: a black veil under mid-grey words on white helps only beyond it', () => {
  const r = random(1);
  const w = { ...region(r, { ink: '#b0b0b0', size: 26, colour: [0, 0, 0], soft: false }) };
  const [white, black] = [even(w.bare, 255), even(w.bare, 0)];
  const { strength } = leastVeil([[{ ...w, bare: white, full: black }]], 1);
  // Flat grounds: the contrast is that of two colours. WCAG 2.2, 1.4.3: 3 at 26 px.
  const least = Array.from({ length: 256 }, (_, s) => 255 - s).findIndex(
    (g) => contrast('#b0b0b0', hex([g, g, g])) >= 3,
  );
  expect(strength).toBe(least);
  expect(least).toBeGreaterThan(100);
  expect(contrast('#b0b0b0', '#b0b0b0')).toBe(1);
});

it('says where no strength passes: a mid-grey veil under mid-grey words', () => {
  const r = random(2);
  const w = region(r, { ink: '#777777', size: 14, colour: [119, 119, 119], soft: false });
  const { strength, best } = leastVeil([[{ ...w, bare: even(w.bare, 140), full: even(w.bare, 140) }]], 1);
  expect(strength).toBeNull();
  expect(best.margin).toBeCloseTo(
    (luminance('#8c8c8c') + 0.05) / (luminance('#777777') + 0.05) / contrastNeeded(14, 700),
    2,
  );
});

it('needs all words to stand out, and one reading of each', () => {
  const r = random(3);
  const [dark, pale] = ['#000000', '#ffffff'].map((ink) =>
    region(r, { ink, size: 20, colour: [0, 0, 0], soft: false }),
  ) as [VeiledWords, VeiledWords];
  const on = (w: VeiledWords, g: number): VeiledWords => ({ ...w, bare: even(w.bare, g), full: even(w.bare, 0) });
  // A black veil on white: white letters need much of it, black ones none of it; together none will do.
  const [onWhite, blackOnWhite] = [on(pale, 255), on(dark, 255)];
  expect(leastVeil([[onWhite]], 1).strength).toBeGreaterThan(60);
  expect(leastVeil([[blackOnWhite]], 1).strength).toBe(0);
  // Read by whichever stands out, as letters with a line around them are.
  expect(leastVeil([[onWhite, blackOnWhite]], 1).strength).toBe(0);
});

describe('a veil’s ground runs straight from none of it to all of it', () => {
  const forms: VeilForm[] = [
    { kind: 'whole' },
    { kind: 'band', way: 'across', at: 20, size: 120, soft: 30 },
    { kind: 'side', side: 'left', reach: 500 },
    { kind: 'behind', grow: 10, soft: 24 },
  ];
  it.each(forms)('$kind, as Skia paints it, within rounding', (form) => {
    const at = (strength: number) => {
      const graphic: Graphic = withLayers(
        { ...blank(), backdrop: { kind: 'colour', colour: '#d8b070' } },
        veil({ form, strength, colour: '#203040' }),
        words('Glaze', {}, { size: 60 }),
      );
      return seen(painted(graphic, shaper, 1, { below: 'w' }).pixels);
    };
    const [bare, full] = [at(0), at(255)];
    expect([...full.pixels.data].some((n, i) => n !== bare.pixels.data[i])).toBe(true);
    for (const strength of [60, 128, 201]) {
      const [real, mixed] = [at(strength).pixels, veiled(bare, full, strength).pixels];
      const worst = real.data.reduce((most, n, i) => Math.max(most, Math.abs(n - mixed.data[i]!)), 0);
      expect(worst).toBeLessThanOrEqual(2);
    }
  });
});
