import { atRatio } from './ratio';
import { arrangements, mosaicOf, readSpans, type Mosaic } from './mosaic';
import { stripOf } from './strip';
import { random } from '../testing/samples';
import { figure } from './slot';

const cover = { width: 851, height: 315 };

describe('ratio and one side', () => {
  it('851 × 315 at 900 wide is 333.14, so 333; 335 is 0.56 % too tall', () => {
    const a = atRatio(cover, 'width', 900);
    if (!a.ok) throw new Error(a.problem.message);
    expect(figure(a.value.exact)).toBe('333.14');
    expect(a.value.here[0]).toMatchObject({ width: 900, height: 333 });
    const tall = a.value.here.find((c) => c.height === 335)!;
    expect(figure(tall.error * 100)).toBe('0.56');
  });
  it('ranks by the error, says what the page cuts, and finds better pairs close by', () => {
    const a = atRatio(cover, 'width', 900);
    if (!a.ok) throw new Error();
    const errors = a.value.here.map((c) => Math.abs(c.error));
    expect(errors).toEqual([...errors].sort((x, y) => x - y));
    for (const c of a.value.near) expect(Math.abs(c.error)).toBeLessThan(errors[0]!);
    const [best] = a.value.here;
    // Filled by 900 × 333: the picture is scaled to the slot's height or width, whichever is larger.
    const scale = Math.max(851 / 900, 315 / 333);
    expect(best!.cut).toBeCloseTo(Math.max(900 * scale - 851, 333 * scale - 315), 10);
  });
  it('works from the height too', () => {
    const a = atRatio(cover, 'height', 630);
    expect(a.ok && a.value.exact).toBeCloseTo(1702, 9);
    expect(a.ok && a.value.here[0]).toMatchObject({ width: 1702, height: 630, cut: 0 });
  });
  it.each([0, -1, NaN, Infinity, 9000])('refuses %d', (n) => expect(atRatio(cover, 'width', n).ok).toBe(false));
});

const mosaic = (own: Partial<Mosaic> & { text?: string } = {}): Mosaic => {
  const spans = readSpans(own.text ?? '2x2 1x2 1x1 1x1');
  if (!spans.ok) throw new Error(spans.problem.message);
  return { width: 1050, height: 600, columns: 4, rows: 2, gap: 15, outerGap: false, spans: spans.value, ...own };
};

describe('mosaic', () => {
  it('1050 × 600 with gaps of 15 gives 517.5 × 600, 251.25 × 600 and 251.25 × 292.5, and the sums close', () => {
    const a = mosaicOf(mosaic());
    if (!a.ok) throw new Error(a.problem.message);
    expect(a.value.cells.map((c) => [c.box.width, c.box.height])).toEqual([
      [517.5, 600],
      [251.25, 600],
      [251.25, 292.5],
      [251.25, 292.5],
    ]);
    expect(a.value.sums).toContain('517.5 + 15 + 251.25 + 15 + 251.25 = 1050');
    expect(a.value.sums).toContain('292.5 + 15 + 292.5 = 600');
    expect(a.value.empty).toBe(0);
  });
  it('changes with a gap around the outside', () => {
    const a = mosaicOf(mosaic({ outerGap: true }));
    expect(a.ok && a.value.cells[0]!.box).toEqual({ x: 15, y: 15, width: 502.5, height: 570 });
    expect(a.ok && a.value.sums[0]).toBe('15 + 502.5 + 15 + 243.75 + 15 + 243.75 + 15 = 1050');
  });
  it.each(arrangements.map((a) => [a.name, a] as const))('“%s” fills its grid', (_name, { columns, rows, spans }) => {
    const a = mosaicOf(mosaic({ columns, rows, text: spans }));
    expect(a.ok && a.value.empty).toBe(0);
    expect(a.ok && a.value.sums.length).toBeGreaterThan(0);
  });
  it.each([
    [{ width: 0 }, 'width'],
    [{ width: NaN }, 'width'],
    [{ height: -3 }, 'height'],
    [{ width: 1e9 }, '8192'],
    [{ gap: -1 }, 'gap'],
    [{ gap: 400 }, 'no room'],
    [{ columns: 0 }, 'columns'],
    [{ columns: 2.5 }, 'columns'],
    [{ columns: 1 }, 'does not fit'],
    [{ text: '2x2 2x2 1x1' }, 'do not fit'],
  ])('refuses %j: %s', (own, said) => {
    const a = mosaicOf(mosaic(own));
    expect(!a.ok && a.problem.message).toContain(said);
  });
  it('reads spans in several hands, and refuses others', () => {
    expect(readSpans('2 × 2, 1x2;1 1')).toEqual({
      ok: true,
      value: [
        { columns: 2, rows: 2 },
        { columns: 1, rows: 2 },
        { columns: 1, rows: 1 },
        { columns: 1, rows: 1 },
      ],
    });
    for (const text of ['', '0x1', 'two', '1x', '<b>']) expect(readSpans(text).ok).toBe(false);
  });
});

describe('strip', () => {
  const strip = { count: 5, tile: 134, gap: 0, total: 666, behind: 'runs-on' } as const;
  it('666 for 5 × 134 is 4 short, and the fifth tile suffers', () => {
    const a = stripOf(strip);
    expect(a.ok && a.value).toMatchObject({ needs: 670, short: 4, sum: '5 × 134 = 670' });
    expect(a.ok && a.value.suffers).toBe('666 is 4 px short: tile 5 would be 130 instead of 134.');
  });
  it('with gaps the picture runs on behind them, or skips them', () => {
    const on = stripOf({ ...strip, gap: 20, total: 750 });
    expect(on.ok && [on.value.picture, on.value.suffers, on.value.tiles[4]!.from]).toEqual([750, null, 616]);
    const over = stripOf({ ...strip, gap: 20, total: 750, behind: 'skips' });
    expect(over.ok && [over.value.picture, over.value.tiles[4]!.from, over.value.tiles[4]!.on]).toEqual([
      670, 536, 616,
    ]);
  });
  it('finds the tile from the total, to a fraction', () => {
    const a = stripOf({ ...strip, tile: null });
    expect(a.ok && [a.value.tile, a.value.suffers]).toEqual([133.2, null]);
  });
  it('names tiles that are not seen at all, and room that is left', () => {
    const few = stripOf({ ...strip, total: 300 });
    expect(few.ok && few.value.suffers).toContain('tile 3 would be 32 instead of 134, and tiles 4 to 5');
    const wide = stripOf({ ...strip, total: 700 });
    expect(wide.ok && wide.value.suffers).toContain('30 px more');
  });
  it.each([
    { count: 0 },
    { count: 2.5 },
    { count: NaN },
    { gap: -1 },
    { gap: NaN },
    { tile: -1 },
    { total: NaN },
    { tile: null, total: null },
    { tile: null, total: 10, gap: 20 },
  ])('refuses %j', (own) => expect(stripOf({ ...strip, ...own }).ok).toBe(false));
});

describe('sums close when they are done with the figures printed', () => {
  /** The value of a printed figure: a decimal, a fraction, or a whole and a fraction. */
  const valueOf = (text: string) =>
    text
      .split(' ')
      .map((part) => {
        const [over, under] = part.split('/').map(Number);
        return under ? over! / under : over!;
      })
      .reduce((a, b) => a + b, 0);
  const closes = (sum: string) => {
    const [left, right] = sum.replace(/ \(.*\)$/, '').split(' = ');
    const added = left!
      .split(' + ')
      .map((part) =>
        part
          .split(' × ')
          .map(valueOf)
          .reduce((a, b) => a * b, 1),
      )
      .reduce((a, b) => a + b, 0);
    return Math.abs(added - Number(right)) < 1e-6;
  };
  it('of 2 000 random mosaics and 2 000 random strips (seed 617)', () => {
    const r = random(617);
    let sums = 0;
    for (let n = 0; n < 2000; n++) {
      const whole = n % 3 > 0;
      const number = (least: number, most: number) => {
        const v = least + r() * (most - least);
        return whole ? Math.round(v) : Math.round(v * 100) / 100;
      };
      const [columns, rows] = [1 + Math.floor(r() * 7), 1 + Math.floor(r() * 4)];
      const mosaic = mosaicOf({
        width: number(200, 1600),
        height: number(200, 900),
        columns,
        rows,
        gap: number(0, 24),
        outerGap: n % 2 === 0,
        spans: Array.from({ length: columns * rows }, () => ({ columns: 1, rows: 1 })),
      });
      if (mosaic.ok) for (const sum of mosaic.value.sums) if (++sums && !closes(sum)) throw new Error(sum);
      const strip = stripOf({
        count: 1 + Math.floor(r() * 12),
        tile: n % 2 ? number(40, 300) : null,
        gap: number(0, 30),
        total: number(500, 1500),
        behind: 'runs-on',
      });
      if (strip.ok && ++sums && !closes(strip.value.sum)) throw new Error(strip.value.sum);
    }
    expect(sums).toBeGreaterThan(5000);
  });
  it('as fractions where three places do not: thirds of 1000', () => {
    const thirds = mosaicOf({
      width: 1000,
      height: 300,
      columns: 3,
      rows: 1,
      gap: 0,
      outerGap: false,
      spans: [1, 2, 3].map(() => ({ columns: 1, rows: 1 })),
    });
    expect(thirds.ok && thirds.value.sums[0]).toBe('333 1/3 + 333 1/3 + 333 1/3 = 1000');
  });
  it('one tile is one tile: 2 × 100 in 105', () => {
    const strip = stripOf({ count: 2, tile: 100, gap: 10, total: 105, behind: 'skips' });
    expect(strip.ok && strip.value.suffers).toBe('105 is 105 px short: tile 2 would not be seen.');
  });
});
