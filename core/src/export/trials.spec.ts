import fc from 'fast-check';
import type { FileDifference } from './difference';
import { whatHelps } from './helps';
import {
  NEAR,
  bestUnder,
  lightestSame,
  nextForCurve,
  nextForLightest,
  nextUnder,
  proposedFile,
  secondsOnSlowLine,
  waysFor,
  type Next,
  type Trial,
  type FileWay,
} from './trials';

const SEED = 20261130;

/** How a way's files are: what they weigh at a quality, and from which on they look the same. */
interface Kind {
  readonly base: number;
  readonly growth: number;
  readonly from: number;
}
const differs = (weight: number): FileDifference => ({
  ssim: 0.99,
  seen: weight > 1,
  worst: [{ box: { x: 0, y: 0, width: 32, height: 32 }, weight, structure: 1, colour: 0 }],
});
const made = (next: Next, { base, growth, from }: Kind): Trial => ({
  ...next,
  bytes: Math.round(base * Math.exp(growth * next.quality)),
  difference:
    next.format === 'png' ? { ssim: 1, seen: false, worst: [] } : differs(1 + (from - next.quality - 0.5) / 20),
});
const ways = waysFor({ formats: ['jpeg', 'png', 'webp'], keepsTransparency: false });
const kinds = fc.record({
  base: fc.integer({ min: 300, max: 40_000 }),
  growth: fc.double({ min: 0.01, max: 0.06, noNaN: true }),
  from: fc.integer({ min: 30, max: 104 }),
});
const all = fc.array(kinds, { minLength: ways.length, maxLength: ways.length });
const kindOf = (of: readonly Kind[], way: FileWay) =>
  of[ways.findIndex((w) => w.format === way.format && w.chroma === way.chroma)]!;

function search(of: readonly Kind[], most: number): { trials: Trial[]; asked: number } {
  const trials: Trial[] = [];
  for (let next = nextForLightest(trials, ways); next; next = nextForLightest(trials, ways)) {
    trials.push(made(next, kindOf(of, next)));
    if (trials.length > most) throw new Error('It comes to no end');
  }
  return { trials, asked: trials.length };
}

it('JPEG is tried with fine and coarse colours, and not where transparency is kept', () => {
  expect(ways.map((w) => `${w.format} ${w.chroma}`)).toEqual(['jpeg 444', 'jpeg 420', 'png 444', 'webp 444']);
  expect(waysFor({ formats: ['jpeg', 'png'], keepsTransparency: true })).toEqual([{ format: 'png', chroma: '444' }]);
});

it('the lightest that looks the same is found, within two of its quality, in few tries', () => {
  let most = 0;
  fc.assert(
    fc.property(all, (of) => {
      const { trials, asked } = search(of, 30);
      most = Math.max(most, asked);
      const found = lightestSame(trials)!;
      // By trying everything.
      const every = ways.flatMap((way) =>
        (way.format === 'png' ? [100] : Array.from({ length: 57 }, (_, i) => 40 + i)).map((quality) =>
          made({ ...way, quality }, kindOf(of, way)),
        ),
      );
      const best = every.filter((t) => !t.difference.seen).reduce((a, b) => (b.bytes < a.bytes ? b : a));
      const { growth } = kindOf(of, best);
      expect(found.difference.seen).toBe(false);
      expect(found.bytes).toBeLessThanOrEqual(best.bytes * Math.exp(growth * 2) + 1);
    }),
    { seed: SEED, numRuns: 300 },
  );
  console.log(`at most ${most} files were tried`);
  expect(most).toBeLessThanOrEqual(20);
});

it('within a limit the best quality is found: within 2 % of it, or the next quality passes it', () => {
  let most = 0;
  const way: FileWay = { format: 'jpeg', chroma: '444' };
  fc.assert(
    fc.property(kinds, fc.integer({ min: 1000, max: 400_000 }), fc.boolean(), (kind, limit, seeded) => {
      // The faster encoder’s files are heavier, and grow a little otherwise.
      const fast = { ...kind, base: kind.base * 1.3, growth: kind.growth * 1.05 };
      const seed = seeded
        ? [30, 55, 75, 92].map((quality) => ({ quality, bytes: made({ ...way, quality }, fast).bytes }))
        : [];
      const trials: Trial[] = [];
      for (let q = nextUnder(trials, way, limit, seed); q !== null; q = nextUnder(trials, way, limit, seed)) {
        expect(trials.some((t) => t.quality === q)).toBe(false);
        trials.push(made({ ...way, quality: q }, kind));
        if (trials.length > 12) throw new Error('It comes to no end');
      }
      most = Math.max(most, trials.length);
      const best = Array.from({ length: 100 }, (_, i) => made({ ...way, quality: i + 1 }, kind))
        .filter((t) => t.bytes <= limit)
        .at(-1);
      const found = bestUnder(trials, limit);
      if (!best) expect(found).toBeNull();
      else expect(found!.bytes >= limit * NEAR || found!.quality === best.quality).toBe(true);
    }),
    { seed: SEED, numRuns: 500 },
  );
  console.log(`at most ${most} files were made for a limit`);
});

it('the curve has points of every lossy way, and none twice', () => {
  const kind = { base: 2000, growth: 0.03, from: 70 };
  const { trials } = search(
    ways.map(() => kind),
    30,
  );
  for (let next = nextForCurve(trials, ways); next; next = nextForCurve(trials, ways)) trials.push(made(next, kind));
  for (const way of ways.filter((w) => w.format !== 'png')) {
    const own = trials.filter((t) => t.format === way.format && t.chroma === way.chroma).map((t) => t.quality);
    expect(new Set(own).size).toBe(own.length);
    expect([Math.min(...own) <= 50, Math.max(...own) >= 85]).toEqual([true, true]);
  }
});

it('what is proposed keeps to the limit where anything can, and what helps is said where nothing looks the same', () => {
  const kind = { base: 4000, growth: 0.04, from: 80 };
  const { trials } = search(
    ways.map(() => kind),
    30,
  );
  const same = lightestSame(trials)!;
  expect(proposedFile(trials, null)).toBe(same);
  expect(proposedFile(trials, same.bytes)).toBe(same);
  expect(whatHelps(trials, same.bytes, null)).toBeNull();
  const tight = Math.round(same.bytes * 0.8);
  for (const way of ways)
    for (let q = nextUnder(trials, way, tight); q !== null; q = nextUnder(trials, way, tight))
      trials.push(made({ ...way, quality: q }, kind));
  const under = proposedFile(trials, tight)!;
  expect(under.bytes).toBeLessThanOrEqual(tight);
  const helps = whatHelps(trials, tight, { density: 1, bytes: Math.round(tight / 2) })!;
  expect(helps[0]).toContain('At 1× it has');
  expect(helps.join(' ')).toContain('a limit of that would do');
  expect(proposedFile(trials, 10)).toBeNull();
});

it('a slow phone line: 1.6 Mbit/s are 200 kB a second', () => expect(secondsOnSlowLine(200_000)).toBeCloseTo(1.15, 6));
