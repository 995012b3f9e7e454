import fc from 'fast-check';
import { proposedPhotos, rowsForPhotos } from './photos';

const photos = (...names: string[]) => names.map((name, i) => ({ id: `p${i}`, name }));
const words = (...list: string[]) => list.map((word) => ({ word, photo: '' }));

describe('a photo for each row', () => {
  it('is the one it names, with its ending or without, in whatever case; what is missing or doubled is told', () => {
    const rows = [
      { word: 'Bowls', photo: 'WHEEL.JPG' },
      { word: 'Jugs', photo: 'C:\\photos\\sill' },
      { word: 'Mugs', photo: 'gone.jpg' },
      { word: 'Plates', photo: 'shelf.png' },
    ];
    const found = proposedPhotos(rows, photos('sill.jpg', 'wheel.jpg', 'shelf.jpg', 'shelf.png'));
    expect(found.photos).toEqual(['p1', 'p0', 'p3', 'p2']);
    expect(found.missing).toEqual(['gone.jpg']);
    expect(found.doubled).toEqual(['shelf.png']);
  });

  it('is the one of that file, or the only one that is called so among other words', () => {
    const named = [
      { id: 'a', name: 'Kiln at night' },
      { id: 'b', name: 'Evening', file: 'sill.jpg' },
      { id: 'c', name: 'Jug' },
      { id: 'd', name: 'Jug two' },
    ];
    const rows = ['kiln.jpg', 'sill.jpg', 'jug.jpg', 'two jug jug.png'].map((photo) => ({ word: '', photo }));
    expect(proposedPhotos(rows, named)).toEqual({ photos: ['a', 'b', 'c', 'd'], missing: [], doubled: [] });
  });

  it('is one whose name goes with the word, the likest first, in the singular or plural', () => {
    const found = proposedPhotos(
      words('Bowls', 'Teapots & lids', 'Dishes'),
      photos('shelf.jpg', 'dish blue.jpg', 'bowl-on-the-wheel.jpg', 'teapot.jpg'),
    );
    expect(found.photos).toEqual(['p2', 'p3', 'p1']);
  });

  it('is one of those left, in their order, and none where there are none', () => {
    expect(proposedPhotos(words('A1', 'B1', 'C1'), photos('one', 'two')).photos).toEqual(['p0', 'p1', null]);
  });

  it('is proposed no more than once, and none is left while a row has none', () => {
    const name = fc.constantFrom('bowl', 'jugs', 'mug blue', 'teapot lid', 'kiln', 'IMG_0012', '🏺', '');
    fc.assert(
      fc.property(fc.array(name, { maxLength: 9 }), fc.array(name, { maxLength: 9 }), (rows, names) => {
        const found = proposedPhotos(words(...rows), photos(...names)).photos;
        const given = found.filter((p) => p !== null);
        expect(new Set(given).size).toBe(given.length);
        expect(given).toHaveLength(Math.min(rows.length, names.length));
      }),
    );
  });
});

describe('photos that are dropped', () => {
  const list = ['Bowls', 'Jugs', 'Mugs', 'Plates'];
  it('go to the rows of their names', () => {
    expect(rowsForPhotos(list, [{ name: 'mug.jpg' }, { name: 'bowl-2.jpg' }, { name: 'new.jpg' }])).toEqual([2, 0, 1]);
  });
  it('go in their order from the row on where their names say nothing', () => {
    const dropped = ['IMG_1.jpg', 'IMG_2.jpg', 'IMG_3.jpg'].map((name) => ({ name }));
    expect(rowsForPhotos(list, dropped)).toEqual([0, 1, 2]);
    expect(rowsForPhotos(list, dropped, 2)).toEqual([2, 3, null]);
  });
});
