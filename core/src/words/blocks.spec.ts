import { readFileSync } from 'node:fs';
import { words } from '../testing/samples';
import { realShaper } from '../testing/type';
import type { WordsLayer } from '../graphic/graphic';
import { breakOpportunities, lineRanges } from './breaking';
import { fieldsIn, layoutWords, withFields } from './layout';
import type { Shaper } from './shaper';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

const wrapped = (text: string, width: number, own: Partial<WordsLayer> = {}) =>
  layoutWords(words(text, { sizing: { kind: 'wrap', width }, ...own }), shaper);

describe('where lines may end', () => {
  // Unicode Character Database, auxiliary/LineBreakTest.txt (UAX 14), as Debian’s `unicode-data` has it.
  const file = '/usr/share/unicode/auxiliary/LineBreakTest.txt';
  /** What is claimed: Latin letters, digits, spaces, hyphens, dashes, quotes and the commonest punctuation. */
  const claimed = (text: string) => /^[\p{Script=Latin}\d .,;:!?'"“”‘’()\-–—…/\u00a0\u00ad\u200b]+$/u.test(text);
  const cases = () =>
    readFileSync(file, 'utf8')
      .split('\n')
      .flatMap((line) => {
        const marks = line.split('#')[0]!.trim().split(/\s+/).filter(Boolean);
        if (marks.length < 3) return [];
        let text = '';
        const breaks: number[] = [];
        for (const mark of marks) {
          if (mark === '÷' || mark === '×') {
            if (mark === '÷') breaks.push(text.length);
          } else text += String.fromCodePoint(parseInt(mark, 16));
        }
        return [{ text, breaks: breaks.filter((b) => b > 0) }];
      });

  it('agrees with Unicode’s own cases in the scripts our families are made for', () => {
    const all = cases().filter((c) => claimed(c.text));
    expect(all.length).toBeGreaterThan(100);
    const wrong = all.filter((c) => JSON.stringify(breakOpportunities(c.text)) !== JSON.stringify(c.breaks));
    // Not claimed: a mark before a figure (“/0”, “a.2”) is held to it, which only breaks less.
    const held = wrong.filter((c) => /[,./]\d/.test(c.text));
    expect(wrong.filter((c) => !held.includes(c)).map((c) => c.text)).toEqual([]);
    expect(held.length).toBeLessThan(all.length / 50);
    for (const c of held) expect(c.breaks).toEqual(expect.arrayContaining(breakOpportunities(c.text)));
  });
});

describe('a block that wraps', () => {
  it('keeps within its width, however long the text, and loses no letter', () => {
    const text = 'We open the kiln on Saturday at four, with tea and the first of the autumn glazes';
    for (const width of [120, 260, 400, 900]) {
      const layout = wrapped(text, width);
      expect(layout.ink!.width).toBeLessThanOrEqual(width + 4);
      expect(layout.items.map((i) => i.text).join('')).toBe(text.replaceAll(' ', ''));
      expect(layout.box.width).toBeCloseTo(width);
    }
    expect(wrapped(text, 120).lines).toBeGreaterThan(wrapped(text, 400).lines);
  });
  it('breaks a word that is wider than its lines between letters, and says all of it', () => {
    const layout = wrapped('Donaudampfschifffahrtsgesellschaft', 160);
    expect(layout.lines).toBeGreaterThan(3);
    expect(layout.items.map((i) => i.text).join('')).toBe('Donaudampfschifffahrtsgesellschaft');
  });
  it('stays where its anchor is, whichever way it is aligned', () => {
    for (const [align, left] of [
      ['left', 100],
      ['centre', -100],
      ['right', -300],
    ] as const) {
      const layer = words('Two lines of words', { sizing: { kind: 'wrap', width: 400 }, place: { x: 100, y: 0 } });
      const box = layoutWords({ ...layer, paragraphs: layer.paragraphs.map((p) => ({ ...p, align })) }, shaper).box;
      expect(box.x).toBeCloseTo(left);
    }
  });
  it('lets spaces at a line’s end hang over', () => {
    expect(lineRanges('ab   cd', [1, 1, 1, 1, 1, 1, 1], 2)).toEqual([
      { from: 0, to: 2, width: 2 },
      { from: 5, to: 7, width: 2 },
    ]);
  });
  it('gives each letter a line of its own where there is room for none', () => {
    expect(lineRanges('abc', [5, 5, 5], 2).map((r) => r.to - r.from)).toEqual([1, 1, 1]);
  });
  it('puts room between paragraphs, not above the first', () => {
    const plain = layoutWords(words('one\ntwo\nthree'), shaper).box.height;
    const apart = layoutWords(words('one\ntwo\nthree', { paragraphSpacing: 0.5 }), shaper).box.height;
    expect(apart - plain).toBeCloseTo(2 * 0.5 * 52);
  });
});

describe('words that fill a box', () => {
  const filling = (text: string, width: number, height: number) =>
    layoutWords(words(text, { sizing: { kind: 'fill', width, height } }), shaper);
  it.each([
    ['Autumn glazes', 600, 120],
    ['Autumn glazes', 200, 300],
    ['Notes from the Wheel', 300, 300],
    ['A', 50, 500],
  ])('%s: as large as %d × %d px allow, and no larger', (text, width, height) => {
    const layout = filling(text, width, height);
    const size = 52 * layout.by;
    const at = (px: number) => {
      const laid = layoutWords(words(text, { sizing: { kind: 'wrap', width } }, { size: px }), shaper);
      const whole = Math.max(...text.split(' ').map((w) => layoutWords(words(w, {}, { size: px }), shaper).box.width));
      return laid.box.height <= height + 0.01 && whole <= width + 0.05;
    };
    expect(at(size)).toBe(true);
    expect(at(size + 0.3)).toBe(false);
    expect(layout.box).toMatchObject({ width, height });
  });
  it('stands in the middle of its box, up and down', () => {
    const { ink, box } = filling('xxx', 200, 400);
    expect(ink!.y - box.y).toBeGreaterThan(100);
    expect(box.y + box.height - ink!.y - ink!.height).toBeGreaterThan(100);
  });
  it('has nothing to size when it is empty', () => {
    expect(filling('', 300, 100).by).toBe(1);
  });
  it('takes ten thousand letters', () => {
    const layout = filling('abcde fghi '.repeat(1000).slice(0, 10_000), 800, 600);
    expect(layout.box).toMatchObject({ width: 800, height: 600 });
    expect(layout.items.length).toBeGreaterThan(8000);
  });
});

describe('words from right to left', () => {
  // Unicode Standard Annex 9: a Hebrew word within Latin text keeps its place, its letters run the other way.
  it('go to the browser in one piece, so that they are joined and turned as they should be', () => {
    const { items } = layoutWords(words('pots שלום pots'), shaper);
    expect(items.filter((i) => i.kind === 'fallback').map((i) => i.text)).toEqual(['שלום']);
  });
  it('stand in the order they are read', () => {
    const { items } = layoutWords(words('שלום עולם'), shaper);
    const [first, second] = ['שלום', 'עולם'].map((t) => items.find((i) => i.text === t)!.x);
    // The first word is at the right.
    expect(first).toBeGreaterThan(second!);
    const mixed = layoutWords(words('glaze 12 שלום'), shaper).items;
    expect(mixed.map((i) => i.text).join('')).toBe('glaze12שלום');
  });
  it('wrap without losing a word', () => {
    const { items } = wrapped('שלום עולם שלום עולם', 150);
    expect(items.map((i) => i.text).sort()).toEqual(['עולם', 'עולם', 'שלום', 'שלום']);
  });
});

describe('fields', () => {
  const values = { business: 'Ottermill Pottery', date: '25 November 2026' };
  it('are said in the words; what is not known stays as it is written', () => {
    expect(withFields('{business}, {date}, {address}, {nothing}', values)).toBe(
      'Ottermill Pottery, 25 November 2026, {address}, {nothing}',
    );
  });
  it('are laid out as what they say, in the case of their run', () => {
    const layer = words('{business}', { fields: { values, frozen: false } }, { case: 'upper' });
    const text = layoutWords(layer, shaper)
      .items.map((i) => i.text)
      .join('');
    expect(text).toBe('OTTERMILLPOTTERY');
    expect(fieldsIn(layer)).toEqual(['business']);
  });
});
