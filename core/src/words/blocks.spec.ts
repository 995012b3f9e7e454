import { readFileSync } from 'node:fs';
import { createCanvas } from '@napi-rs/canvas';
import { painted } from '../testing/reader';
import { blank, random, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import type { WordsLayer } from '../graphic/graphic';
import { breakOpportunities, lineRanges } from './breaking';
import { fieldsIn, layoutWords, withFields } from './layout';
import type { BrowserWidth, Shaper } from './shaper';

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

describe('nothing leaves a filled box', () => {
  // Outside: widths and pixels of Skia (by @napi-rs/canvas), whose fonts also draw what no shipped face has.
  const pen = createCanvas(8, 8).getContext('2d');
  const measured: BrowserWidth = (text, { size, weight, italic }) => {
    pen.font = `${italic ? 'italic ' : ''}${Math.round(weight)} ${size}px sans-serif`;
    return pen.measureText(text).width;
  };
  it('ink included, at tight line spacing, in Latin, Greek and Cyrillic: 120 random blocks (seed 1616)', async () => {
    const own = await realShaper(measured);
    const r = random(1616);
    const texts = ['Autumn glazes', 'Åre, jig fly', 'Осенняя глазурь', 'Φθινόπωρο στο μύλο', 'Kiln № 4: глина', 'WAVE'];
    let worst = { past: 0, number: 0 };
    let blocks = 0;
    for (let n = 0; n < 120; n++) {
      const sizing = { kind: 'fill' as const, width: 60 + r() * 400, height: 40 + r() * 120 };
      const layer = words(
        texts[n % texts.length]!,
        { place: { x: 470, y: 20 }, sizing, lineSpacing: 0.55 + r() * 0.8 },
        {
          size: 20 + r() * 60,
          tracking: n % 4 === 0 ? 0.05 : 0,
          face: { family: 'Lora', weight: 500, italic: n % 3 === 0 },
        },
      );
      const layout = layoutWords(layer, own);
      // As small as words get: a box that holds none has nothing to keep in.
      if (layout.by * layer.paragraphs[0]!.runs[0]!.size < 2.5) continue;
      blocks++;
      const { data, width, height } = painted(withLayers(blank(), layer), own, 2, { only: 'w' }).pixels;
      const [left, top] = [(470 - sizing.width / 2) * 2, 40];
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          if (data[(y * width + x) * 4 + 3]! < 24) continue;
          const past =
            Math.max(left - x - 1, x - left - sizing.width * 2, top - y - 1, y - top - sizing.height * 2) / 2;
          if (past > worst.past) worst = { past, number: n };
        }
    }
    console.info('worst of', blocks, worst);
    expect(blocks).toBeGreaterThan(80);
    expect(worst.past).toBeLessThan(1.5);
  });
  it('lines of other scripts are broken where they are drawn to end: no line is wider than its block', async () => {
    const own = await realShaper(measured);
    const r = random(16);
    for (let n = 0; n < 60; n++) {
      const width = 120 + r() * 300;
      const text = 'Осенняя глазурь на мельнице, вторник и четверг в шесть';
      const layer = words(text, { sizing: { kind: 'wrap', width } }, { size: 14 + r() * 20 });
      const { items, box } = layoutWords(layer, own);
      const rows = new Map<number, number>();
      for (const i of items)
        if (i.kind === 'fallback') rows.set(i.y, Math.max(rows.get(i.y) ?? 0, i.x + i.width - box.x));
      for (const end of rows.values()) expect(end).toBeLessThanOrEqual(width + 1);
    }
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
