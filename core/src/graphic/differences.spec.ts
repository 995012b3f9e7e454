import { anyLayers } from '../testing/any';
import { blank, photo, random, shape, veil, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import { movedLayer } from './arrange';
import { differences } from './differences';

const shaper = await realShaper();
const title = words('Autumn glazes', { place: { x: 40, y: 30 } });
const base = () => withLayers(blank(), photo({ name: 'Shelf' }), title);

it('says what differs, in words and figures', () => {
  const now = withLayers(
    { ...blank(), backdrop: { kind: 'colour', colour: '#2b211b' } },
    movedLayer(
      photo({ name: 'Shelf', place: { mode: 'free', x: 0, y: -100, width: 940 } }),
      { x: 0, y: 12 },
      blank().canvas,
    ),
    words('Winter glazes', { place: { x: 40, y: 42 } }, { size: 48, colour: '#000000' }),
    veil(),
  );
  const was = withLayers(
    blank(),
    photo({ name: 'Shelf', place: { mode: 'free', x: 0, y: -100, width: 940 } }),
    title,
    shape(),
  );
  expect(differences(was, now, shaper)).toEqual([
    'Backdrop: none → #2b211b',
    'Shelf: 12 px lower',
    'Title: “Autumn glazes” → “Winter glazes”, 52 → 48 px, #ffffff → #000000, 12 px lower',
    'Veil: added',
    'Rectangle: taken away',
  ]);
});

it('says nothing of what is the same', () => {
  expect(differences(base(), base(), shaper)).toEqual([]);
});

it('says a picture’s size once it has another, and that layers lie in another order', () => {
  const a = withLayers(
    blank(),
    shape(),
    photo({ id: 'p', name: 'Mark', place: { mode: 'free', x: 10, y: 10, width: 350 } }),
  );
  const b = withLayers(
    blank(),
    photo({ id: 'p', name: 'Mark', place: { mode: 'free', x: 10, y: 10, width: 700 } }),
    shape(),
  );
  const [mark, order] = differences(a, b, shaper);
  expect(mark).toContain('350 × 233.2 → 700 × 466.4 px');
  expect(order).toBe('Layers in another order');
});

it('finds something to say of any change, and never of none', () => {
  for (let seed = 0; seed < 200; seed++) {
    const any = anyLayers(random(seed));
    const layer = any.layer('l');
    const from = withLayers(blank(), layer);
    expect(differences(from, withLayers(blank(), { ...layer }), shaper)).toEqual([]);
    const other = any.layer('l');
    const said = differences(from, withLayers(blank(), other), shaper);
    if (!said.length) throw new Error(`nothing is said, seed ${seed}: ${JSON.stringify([layer, other])}`);
  }
});
