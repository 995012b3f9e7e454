import { type WordsLayer } from './graphic';
import { lineStretch, runAt, wholeStretch, withLook, withText } from './runs';
import { WordsLayer as Schema } from './graphic';
import { random, words } from '../testing/samples';
import { textOf, wordsTaken } from '../words/words';

const colours = (layer: WordsLayer) =>
  layer.paragraphs.map((p) => p.runs.map((r) => r.colour.slice(1, 3) + r.text.length).join(' ')).join(' | ');
const each = (layer: WordsLayer): string[] =>
  layer.paragraphs.flatMap((p, i) => [
    ...(i ? ['\n'] : []),
    ...p.runs.flatMap((r) => r.text.split('').map(() => r.colour)),
  ]);

it('gives a line a look of its own, and a selection within it another', () => {
  const block = words('Autumn glazes\nfrom Friday');
  const second = withLook(block, { colour: '#112233', size: 20 }, lineStretch(block, 1));
  expect(second.paragraphs.map((p) => p.runs.map((r) => r.size))).toEqual([[52], [20]]);
  const friday = withLook(second, { colour: '#445566' }, { from: 19, to: 25 });
  expect(friday.paragraphs[1]!.runs.map((r) => [r.text, r.colour, r.size])).toEqual([
    ['from ', '#112233', 20],
    ['Friday', '#445566', 20],
  ]);
  // And back: neighbours that look alike are one.
  expect(withLook(friday, { colour: '#112233' }, { from: 14, to: 25 }).paragraphs[1]!.runs).toHaveLength(1);
  expect(runAt(friday, { from: 20, to: 22 }).colour).toBe('#445566');
  expect(runAt(friday, null).text).toBe('Autumn glazes');
});

it('keeps every look through typing: what is typed looks as what stands before it', () => {
  const block = withLook(words('Autumn glazes\nfrom Friday'), { colour: '#112233' }, { from: 7, to: 13 });
  const typed = withText(block, 'Autumn new glazes\nfrom Friday');
  expect(colours(typed)).toBe('ff11 116 | ff11');
  const split = withText(block, 'Autumn gla\nzes\nfrom Friday');
  expect(split.paragraphs.map((p) => p.runs.at(-1)!.colour)).toEqual(['#112233', '#112233', '#ffffff']);
  const joined = withText(block, 'Autumn glazes from Friday');
  expect(colours(joined)).toBe('ff7 117 ff11');
  // New last lines look as the last one.
  const more = withText(
    withLook(block, { size: 20 }, lineStretch(block, 1)),
    'Autumn glazes\nfrom Friday\nat the mill',
  );
  expect(more.paragraphs[2]!.runs[0]!.size).toBe(20);
});

it('never splits a character or a field', () => {
  const layer = words('Open {date} 😀!');
  expect(wholeStretch(textOf(layer), { from: 6, to: 8 })).toEqual({ from: 5, to: 11 });
  expect(wholeStretch(textOf(layer), { from: 13, to: 14 })).toEqual({ from: 12, to: 14 });
  expect(wholeStretch('abc', { from: 9, to: -4 })).toEqual({ from: 0, to: 3 });
  expect(Schema.safeParse(withText(words('😀'), '😁')).success).toBe(true);
  expect(textOf(withText(words('😀a'), '😁a'))).toBe('😁a');
});

it('holds over 600 random texts and looks: the text is what was asked, untouched letters look as they did', () => {
  const seed = 2020;
  const next = random(seed);
  const pick = (from: string) => from[Math.floor(next() * from.length)]!;
  const text = () =>
    Array.from({ length: Math.floor(next() * 24) }, () => pick('ab \n\n{}é😀xyz'))
      .join('')
      .toWellFormed();
  let layer = words('Autumn glazes\nfrom Friday');
  for (let n = 0; n < 600; n++) {
    const before = textOf(layer);
    if (next() < 0.5) {
      const [a, b] = [Math.floor(next() * (before.length + 1)), Math.floor(next() * (before.length + 1))];
      const colour = `#${Math.floor(next() * 0xffffff)
        .toString(16)
        .padStart(6, '0')}`;
      const stretch = { from: Math.min(a, b), to: Math.max(a, b) };
      const was = each(layer);
      layer = withLook(layer, { colour }, stretch);
      const whole = wholeStretch(before, stretch);
      expect(textOf(layer)).toBe(before);
      const want = was.map((c, i) => (c !== '\n' && i >= whole.from && i < whole.to ? colour : c));
      // As one text: a list of three thousand is compared a thousand times as slowly.
      expect(each(layer).join(' ')).toBe(want.join(' '));
    } else {
      const at = Math.floor(next() * (before.length + 1));
      const after = (before.slice(0, at) + text() + before.slice(at + Math.floor(next() * 5))).toWellFormed();
      const was = each(layer);
      layer = withText(layer, after);
      expect([n, textOf(layer)]).toEqual([n, wordsTaken(after).text]);
      // Letters before what was typed look as they did (a character in two halves is taken whole).
      const now = textOf(layer);
      let same = 0;
      while (same < at && before[same] === now[same]) same++;
      if (same > 1)
        expect(
          each(layer)
            .slice(0, same - 1)
            .join(' '),
        ).toBe(was.slice(0, same - 1).join(' '));
    }
    expect([n, seed, Schema.safeParse(layer).success]).toEqual([n, seed, true]);
    expect(layer.paragraphs.every((p) => p.runs.length === 1 || p.runs.every((r) => r.text))).toBe(true);
  }
});
