import fc from 'fast-check';
import type { PlacedPicture } from '../graphic/contents';
import { applyEdit } from '../graphic/edit';
import { checkGraphic } from '../graphic/check';
import { isPicture, layerOf, withLayer, type Graphic, type PictureLayer, type WordsLayer } from '../graphic/graphic';
import { withText } from '../graphic/runs';
import { plainHouseStyle } from '../house/house-style';
import { layoutLook } from '../layouts/look';
import { places } from '../layouts/stage';
import { slotOf } from '../testing/samples';
import { realShaper } from '../testing/type';
import { withRuns, textOf } from '../words/words';
import { tilesAlike } from './alike';
import { readEdition, type Edition } from './edition';
import { editionChanges, withPhotos } from './next-edition';
import { newTile, tileAnew, tileChangesText } from './tile';
import { enoughTiles, movedRow, rowContents, rowOf, seenInRow, type TileRow } from './rows';
import { readTileSet, type TileSet } from './tile-set';

const shaper = await realShaper();
const photo = (letter: string): PlacedPicture => ({
  asset: letter.repeat(64),
  name: `Photo ${letter}`,
  natural: { width: 3500, height: 2332 },
  opaque: true,
  vector: false,
  focus: { x: 0.5, y: 0.5 },
  subject: { x: 0.3, y: 0.3, width: 0.4, height: 0.4 },
});
const set: TileSet = {
  version: 1,
  id: 's',
  name: 'What we make',
  created: '2026-11-30T00:00:00Z',
  slot: slotOf('menu-tile'),
  layout: 'band',
  look: layoutLook(plainHouseStyle),
  logo: null,
  graphics: [],
};
const row = (word: string, of: PlacedPicture | null = photo('a'), line = ''): TileRow => ({ word, line, photo: of });
const none = new Map<string, PlacedPicture['subject']>();

/** A set's tiles made of rows: those that were there anew. */
function made(rows: readonly TileRow[], before: readonly Graphic[] = [], own = set): Graphic[] {
  const contents = rows.map((r) => rowContents(r, own));
  const alike = tilesAlike(own.layout, contents, own.look, own.slot, shaper);
  return contents.map((c, i) => {
    const tile = { contents: c, derived: alike.derived[i]! };
    return before[i]
      ? tileAnew(before[i], own, tile)
      : newTile({ id: `g${i}`, created: '2026-11-30T00:00:00Z' }, own, tile);
  });
}
const title = (g: Graphic) => layerOf(g, places.title) as WordsLayer;
const picture = (g: Graphic) => layerOf(g, places.photo) as PictureLayer;

describe('a tile', () => {
  it('is called and described by its word, and both follow it', () => {
    const [first] = made([row('Bowls')]);
    expect(first).toMatchObject({ name: 'Bowls', frames: [{ export: { alt: 'Bowls' } }] });
    const [next] = made([row('Jugs')], [first!]);
    expect(next).toMatchObject({ id: 'g0', name: 'Jugs', frames: [{ export: { alt: 'Jugs' } }] });
    expect(rowOf(next!, none)).toEqual({ word: 'Jugs', line: '', photo: photo('a') });
  });

  it('keeps a name and a description of its own', () => {
    const [first] = made([row('Bowls')]);
    const own = applyEdit(applyEdit(first!, { type: 'rename', to: 'The large bowl' }), {
      type: 'set-export',
      frame: first!.frames[0]!.id,
      choices: { alt: 'A bowl on the wheel', quality: 60 },
    });
    const [longer] = made([row('Bowls'), row('Teapots, lids and all')], [own]);
    expect(longer).toMatchObject({
      name: 'The large bowl',
      frames: [{ export: { alt: 'A bowl on the wheel', quality: 60 } }],
    });
  });

  it('without a word yet has its place for one, and no description', () => {
    const [bare] = made([row('')]);
    expect(textOf(title(bare!))).toBe('Your words');
    expect(bare).toMatchObject({ name: 'What we make', frames: [{ export: { alt: '' } }] });
    expect(rowOf(bare!, none)!.word).toBe('');
  });

  it('changed by hand keeps its change while the others, its word and its photo follow', () => {
    const all = made([row('Bowls'), row('Jugs', photo('b'))]);
    const moved: PictureLayer = { ...picture(all[0]!), opacity: 0.5 };
    const coloured = withRuns(title(all[0]!), { colour: '#aa2200' });
    const mine = withLayer(withLayer(all[0]!, moved), coloured);
    const next = made([row('Bowls and dishes'), row('Jugs', photo('b'))], [mine, all[1]!]);
    expect(picture(next[0]!).opacity).toBe(0.5);
    expect(title(next[0]!).paragraphs[0]!.runs[0]).toMatchObject({ colour: '#aa2200', text: 'Bowls and dishes' });
    const other = made([row('Bowls', photo('c')), row('Jugs', photo('b'))], next);
    expect(picture(other[0]!)).toMatchObject({ opacity: 0.5, asset: 'c'.repeat(64) });
    expect(tileChangesText(other[0]!)).not.toBe('');
    expect(tileChangesText(other[1]!)).toBe('');
  });

  it('as the layout has it again has nothing of a hand left', () => {
    const [first] = made([row('Bowls')]);
    const mine = withLayer(first!, { ...picture(first!), opacity: 0.5 });
    expect(tileChangesText(mine)).toBe('Photo a’s look');
    const contents = rowContents(row('Bowls'), set);
    const derived = tilesAlike(set.layout, [contents], set.look, set.slot, shaper).derived[0]!;
    expect(tileAnew(mine, set, { contents, derived }, true).layers).toEqual(first!.layers);
  });

  it('in another layout keeps words, photo and what was changed', () => {
    const all = made([row('Bowls'), row('Jugs', photo('b'))]);
    const mine = withLayer(all[0]!, { ...picture(all[0]!), opacity: 0.5 });
    const next = made([row('Bowls'), row('Jugs', photo('b'))], [mine, all[1]!], { ...set, layout: 'quiet' });
    expect(next.map((g) => g.follows!.way)).toEqual(['quiet', 'quiet']);
    expect(picture(next[0]!).opacity).toBe(0.5);
    expect(textOf(title(next[0]!))).toBe('Bowls');
  });

  it('can be written, whatever is typed: emoji, nothing, far too much', () => {
    const typed = fc.oneof(
      fc.string({ unit: 'grapheme', maxLength: 40 }),
      fc.constantFrom('', ' ', '🏺'.repeat(90), 'x'.repeat(400), '{date}', '\ud800'),
    );
    fc.assert(
      fc.property(
        fc.array(typed, { minLength: 1, maxLength: 3 }),
        fc.array(typed, { minLength: 3, maxLength: 3 }),
        (before, after) => {
          const first = made(before.map((w) => row(w)));
          const next = made(
            before.map((_, i) => row(after[i]!, photo('b'))),
            first,
          );
          for (const g of [...first, ...next]) {
            const checked = checkGraphic(g);
            expect(checked.ok && checked.value.told).toEqual([]);
          }
        },
      ),
      { numRuns: 25 },
    );
  });

  it('says what it was made to say on its own canvas', () => {
    const [first] = made([row('Bowls')]);
    const mine = withLayer(first!, withText(title(first!), 'Large bowls'));
    expect(rowOf(mine, none)!.word).toBe('Large bowls');
  });
});

describe('a set', () => {
  it('is read as it was written, and not at all where it is damaged', () => {
    expect(readTileSet(JSON.parse(JSON.stringify(set)))).toEqual(set);
    expect(readTileSet({ ...set, name: '' })).toBeNull();
    expect(readTileSet(null)).toBeNull();
  });

  it('holds so many and no more; of a row so many are seen', () => {
    expect(enoughTiles(500).ok).toBe(true);
    expect(enoughTiles(501)).toMatchObject({ ok: false, problem: { code: 'too-many' } });
    expect([seenInRow(8, 7), seenInRow(5, 7), seenInRow(8, undefined)]).toEqual([7, 5, 8]);
  });

  it('has its rows put elsewhere', () => {
    expect(movedRow(['a', 'b', 'c'], 0, 2)).toEqual(['b', 'c', 'a']);
    const list = ['a', 'b'];
    expect(movedRow(list, 0, 2)).toBe(list);
  });
});

describe('an edition', () => {
  it('is read back whole, and not where one of its graphics cannot be', () => {
    const edition: Edition = {
      version: 1,
      id: 'e',
      of: 's',
      name: '28 Nov',
      until: '2026-11-28T10:00:00Z',
      set,
      graphics: made([row('Bowls')]),
    };
    expect(readEdition(JSON.parse(JSON.stringify(edition)))).toEqual(edition);
    expect(readEdition({ ...edition, graphics: [{}] })).toBeNull();
    expect(readEdition({ ...edition, until: 3 })).toBeNull();
  });

  it('takes other photos for its own, each once, in their order, and tells what changed', () => {
    const [first] = made([row('Bowls')]);
    const twice = { ...first!, layers: [...first!.layers, { ...picture(first!), id: 'again' }] };
    const next = withPhotos(twice, [photo('d')]);
    expect(next.layers.filter(isPicture).map((l) => l.asset[0])).toEqual(['d', 'd']);
    expect(editionChanges(twice, next)[0]).toEqual({ what: 'photo', before: 'Photo a', after: 'Photo d' });
    expect(withPhotos(twice, []).layers).toEqual(twice.layers);
    const [said] = made([row('Dishes')], [first!]);
    expect(editionChanges(first!, said!)).toContainEqual({ what: 'words', before: 'Bowls', after: 'Dishes' });
  });
});
