import fc from 'fast-check';
import { blank, photo, shape, veil, withLayers, words } from '../testing/samples';
import { textOf, withRuns } from '../words/words';
import { checkGraphic } from './check';
import { replacedEverywhere, placesUsed, type Used } from './everywhere';
import { changedByHand } from './follows';
import { layerOf, type Graphic, type PictureLayer, type WordsLayer } from './graphic';
import { withLook } from './runs';

const other = {
  asset: 'e'.repeat(64),
  name: 'Kiln',
  natural: { width: 2000, height: 3000 },
  opaque: true,
  vector: false,
  focus: { x: 0.5, y: 0.5 },
  subject: null,
};
const says = (g: Graphic, id = 'w') => textOf(layerOf(g, id) as WordsLayer);
const word = (text: string): Used => ({ kind: 'words', text });

describe('a picture', () => {
  const before = withLayers(
    blank(),
    photo(),
    photo({ id: 'q', opacity: 0.4 }),
    photo({ id: 'r', asset: 'd'.repeat(64) }),
  );
  const what = { kind: 'picture', asset: 'a'.repeat(64) } as const;
  it('is replaced in every layer that shows it, each in its own frame and look', () => {
    expect(placesUsed(before, what)).toBe(2);
    const after = replacedEverywhere(before, what, { kind: 'picture', picture: other });
    expect(after.layers.map((l) => (l as PictureLayer).asset[0])).toEqual(['e', 'e', 'd']);
    expect(after.layers[1]).toMatchObject({ opacity: 0.4, place: { mode: 'cover' } });
    expect(placesUsed(after, what)).toBe(0);
  });
  it('that is not used changes nothing, nor does something of another kind', () => {
    const none = { kind: 'picture', asset: 'f'.repeat(64) } as const;
    expect(replacedEverywhere(before, none, { kind: 'picture', picture: other })).toBe(before);
    expect(replacedEverywhere(before, what, { kind: 'colour', colour: '#123456' })).toBe(before);
  });
});

describe('a colour', () => {
  it('is replaced in words, shapes, veils and the ground, in whatever case it was written', () => {
    const g = {
      ...withLayers(
        blank(),
        shape({ fill: { kind: 'colour', colour: '#AA2200' } }),
        veil({ colour: '#aa2200' }),
        withRuns(words('Jugs'), { colour: '#aa2200' }),
        photo({ name: '#aa2200' }),
      ),
      backdrop: { kind: 'colour' as const, colour: '#aa2200' },
    };
    const after = replacedEverywhere(g, { kind: 'colour', colour: '#aa2200' }, { kind: 'colour', colour: '#00AA22' });
    expect(after.layers[0]).toMatchObject({ fill: { colour: '#00aa22' } });
    expect(after.layers[1]).toMatchObject({ colour: '#00aa22' });
    expect(after.layers[2]).toMatchObject({ paragraphs: [{ runs: [{ colour: '#00aa22' }] }] });
    expect(after.backdrop).toEqual({ kind: 'colour', colour: '#00aa22' });
    // Words are no colours, whatever they say.
    expect(after.layers[3]!.name).toBe('#aa2200');
    expect(placesUsed(g, { kind: 'colour', colour: '#AA2200' })).toBe(4);
  });
});

describe('words', () => {
  it('are replaced whatever their case, not as a part of longer ones, in their own look', () => {
    const plain = words('Mug and mugs, a MUG; smug');
    const coloured = withLook(plain, { colour: '#aa2200' }, { from: 0, to: 3 });
    const after = replacedEverywhere(withLayers(blank(), coloured), word('mug'), { kind: 'words', text: 'cup' });
    expect(says(after)).toBe('cup and mugs, a cup; smug');
    expect((after.layers[0] as WordsLayer).paragraphs[0]!.runs[0]).toMatchObject({ text: 'cup', colour: '#aa2200' });
  });
  it('go from descriptions too, and from what is followed, so that nobody is said to have changed them', () => {
    const made = withLayers(blank(), words('Jugs from the mill'));
    const g: Graphic = {
      ...made,
      frames: [{ ...made.frames[0]!, export: { ...made.frames[0]!.export, alt: 'Jugs from the mill' } }],
      follows: { of: 's', name: 'S', way: 'x', roles: {}, last: { backdrop: made.backdrop, layers: made.layers } },
    };
    const after = replacedEverywhere(g, word('the mill'), { kind: 'words', text: 'Ottermill' });
    expect(after.frames[0]!.export.alt).toBe('Jugs from Ottermill');
    expect(changedByHand(after.follows!.last, after)).toEqual([]);
  });
  it('of any kind leave a graphic that can be written, and none of what was replaced', () => {
    const text = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(text, text, fc.array(text, { minLength: 1, maxLength: 4 }), (what, by, parts) => {
        const g = withLayers(blank(), words(parts.join(` ${what} `)));
        const after = replacedEverywhere(g, word(what), { kind: 'words', text: by });
        expect(checkGraphic(after).ok).toBe(true);
        if (
          !by.toLowerCase().includes(what.toLowerCase()) &&
          parts.every((p) => !p.toLowerCase().includes(what.toLowerCase())) &&
          what.trim() === what
        )
          expect(placesUsed(after, word(what))).toBeLessThanOrEqual(placesUsed(g, word(what)));
      }),
      { numRuns: 300 },
    );
  });
  it('are found over lines, and the break goes with them', () => {
    const g = withLayers(blank(), words('Notes from\nthe Wheel, 2026'));
    expect(placesUsed(g, word('notes from the wheel'))).toBe(1);
    const after = replacedEverywhere(g, word('Notes from the Wheel'), { kind: 'words', text: 'Letters from the Mill' });
    expect(says(after)).toBe('Letters from the Mill, 2026');
  });
  it('are what they are, not patterns', () => {
    const g = withLayers(blank(), words('from 18 (+ 2) a.c abc'));
    expect([word('(+ 2)'), word('a.c'), word('.*')].map((w) => placesUsed(g, w))).toEqual([1, 1, 0]);
  });
  it('that are nothing are nowhere', () => {
    expect(placesUsed(withLayers(blank(), words('a b')), word(' '))).toBe(0);
  });
});
