import { Script } from 'node:vm';
import { fromPx, readLength, readNumber, readSum, roundingOf, toPx } from './units';
import { random } from '../testing/samples';
import { figure } from './slot';

describe('units', () => {
  // CSS Values and Units Module Level 4, section 6.2, "Absolute Lengths": what each unit equals.
  it.each([
    [1, 'in', 96],
    [2.54, 'cm', 96],
    [25.4, 'mm', 96],
    [72, 'pt', 96],
    [1, 'cm', 96 / 2.54],
    [1, 'pt', 96 / 72],
  ] as const)('%d%s is %d px', (n, unit, px) => expect(toPx(n, unit)).toBeCloseTo(px, 10));

  it('1600 × 400 px at 96 an inch is 16.667 × 4.167 in, and 16.67 × 4.17 typed back is 1600.32 × 400.32', () => {
    expect([fromPx(1600, 'in'), fromPx(400, 'in')].map((n) => figure(n, 3))).toEqual(['16.667', '4.167']);
    expect([toPx(16.67, 'in'), toPx(4.17, 'in')].map((n) => figure(n))).toEqual(['1600.32', '400.32']);
  });
  it('goes there and back at any density', () => {
    for (const unit of ['px', 'in', 'cm', 'mm', 'pt'] as const)
      for (const ppi of [72, 96, 144, 300]) expect(toPx(fromPx(940, unit, ppi), unit, ppi)).toBeCloseTo(940, 9);
  });
});

describe('typed numbers', () => {
  it.each([
    ['940', 940],
    ['16,67', 16.67],
    ['16.67', 16.67],
    ['1 600,5', 1600.5],
    ['1,600.5', 1600.5],
    ['1.600,5', 1600.5],
    [' .5 ', 0.5],
    ['-3', -3],
  ])('“%s” is %d', (text, n) => expect(readNumber(text)).toBe(n));
  it.each(['', 'abc', '1e3', 'NaN', 'Infinity', '0x10', '1,2,3', '--4', '9'.repeat(400) + 'x'])(
    '“%s” is none',
    (text) => expect(readNumber(text)).toBeNull(),
  );
  it('may carry a unit of their own', () => {
    const read = readLength('16,67 in', 'px');
    expect(read.ok && read.value).toBeCloseTo(1600.32, 9);
  });
  it.each([
    ['0', 'above 0'],
    ['-5', 'above 0'],
    ['wide', 'no length'],
    ['', 'no length'],
    ['NaN', 'no length'],
    ['20000 in', 'larger than any page'],
  ])('“%s” is refused: %s', (text, said) => {
    const read = readLength(text, 'px');
    expect(!read.ok && read.problem.message).toContain(said);
  });
});

it.each([
  [517.5, 1, 518, 0.5],
  [251.25, 1, 252, 0.75],
  [251.25, 2, 503, 0.25],
  [940, 3, 2820, 0],
])('%d px at %d× is a file of %d px and runs over by %d', (exact, density, file, over) => {
  expect(roundingOf(exact, density)).toEqual({ exact, file, over });
});

describe('typed sums', () => {
  it('are worth what they say', () => {
    const cases: [string, number | null][] = [
      ['940/2', 470],
      ['(940 − 2 × 24) / 3', 892 / 3],
      ['12,5 + 3', 15.5],
      ['1,584', readNumber('1,584')],
      ['-(4+1)*2', -10],
      ['940 : 2', 470],
      ['1/0', null],
      ['2 +', null],
      ['2 2', readNumber('2 2')],
      ['alert(1)', null],
      ['a+1', null],
      ['((((', null],
      ['', null],
    ];
    for (const [text, n] of cases) expect([text, readSum(text)]).toEqual([text, n]);
  });

  it('are worth what the JavaScript engine says of them', () => {
    const seed = 11;
    const r = random(seed);
    const sum = (deep: number): string =>
      deep === 0 || r() < 0.3
        ? String(Math.round(r() * 10000) / 100)
        : r() < 0.3
          ? `(${sum(deep - 1)})`
          : `${sum(deep - 1)} ${'+-*/'[Math.floor(r() * 4)]} ${sum(deep - 1)}`;
    for (let i = 0; i < 400; i++) {
      const text = sum(3);
      const n = Number(new Script(text).runInNewContext());
      if (text.length <= 200 && Number.isFinite(n)) expect([seed, text, readSum(text)]).toEqual([seed, text, n]);
    }
  });
});
