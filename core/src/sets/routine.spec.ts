import { proposedRoles } from '../compose/roles';
import { checkGraphic } from '../graphic/check';
import { layerOf, type Graphic, type PictureLayer, type WordsLayer } from '../graphic/graphic';
import { blank, photo, random, veil, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import { textOf, withRuns } from '../words/words';
import { Routine, routineOf, routineStep, withRoutine } from './routine';

const shaper = await realShaper();
const roles = (g: Graphic) => proposedRoles(g, shaper);
const usual = { distance: 8, angle: 60, blur: 14, colour: '#000000', strength: 0.45 };
const from = withLayers(
  blank(),
  photo(),
  words('Notes from the Wheel'),
  words('a diary', { id: 'l', place: { x: 470, y: 130 } }, { size: 20 }),
);

/** A routine of one step from a graphic to another. */
function routine(after: Graphic, before = from): Routine {
  const step = routineStep('Step', before, after, roles(after));
  return routineOf({ id: 'r', name: 'As on the header' }, after.canvas, [step!]);
}
/** Another graphic, of another slot, its layers of other ids and in other places. */
const to = withLayers(
  blank('link-card'),
  photo({ id: 'other', asset: 'b'.repeat(64) }),
  words('A pot a day', { id: 'big', place: { x: 600, y: 300 } }, { size: 90 }),
  words('from the mill', { id: 'small', place: { x: 600, y: 450 } }, { size: 30 }),
);

describe('a routine', () => {
  it('does to the title what was done to the title, wherever that lies and whatever it says', () => {
    const title = layerOf(from, 'w') as WordsLayer;
    const after = {
      ...from,
      layers: from.layers.map((l) =>
        l.id === 'w' ? withRuns({ ...title, place: { x: 1, y: 1 } }, { colour: '#aa2200', case: 'upper' as const }) : l,
      ),
    };
    const next = withRoutine(to, roles(to), routine(after));
    const [big, small] = [layerOf(next, 'big') as WordsLayer, layerOf(next, 'small') as WordsLayer];
    expect(big.paragraphs[0]!.runs[0]).toMatchObject({ colour: '#aa2200', case: 'upper', size: 90 });
    expect(big.place).toEqual({ x: 600, y: 300 });
    expect(textOf(big)).toBe('A pot a day');
    expect(small).toBe(layerOf(to, 'small'));
  });

  it('has lengths go by the canvas', () => {
    const after = { ...from, layers: from.layers.map((l) => (l.id === 'p' ? { ...l, shadow: usual } : l)) } as Graphic;
    const next = withRoutine(to, roles(to), routine(after));
    const { shadow } = layerOf(next, 'other') as PictureLayer;
    expect(shadow!.distance).toBeCloseTo((8 * 630) / 198, 6);
  });

  it('puts a veil behind the words where there is none, and another colour on one that is there', () => {
    const after = { ...from, layers: [from.layers[0]!, veil({ colour: '#223344' }), ...from.layers.slice(1)] };
    const next = withRoutine(to, roles(to), routine(after));
    expect(next.layers.map((l) => l.role)).toEqual(['photo', 'veil', 'words', 'words']);
    expect(withRoutine(next, roles(next), routine(after))).toBe(next);
    const recoloured = {
      ...after,
      layers: after.layers.map((l) => (l.role === 'veil' ? { ...l, colour: '#445566' } : l)),
    } as Graphic;
    const again = withRoutine(next, roles(next), routine(recoloured, after));
    expect(again.layers[1]).toMatchObject({ role: 'veil', colour: '#445566' });
  });

  it('of steps that only move, write or crop is none', () => {
    const moved = {
      ...from,
      layers: from.layers.map((l) => (l.role === 'words' ? { ...l, place: { x: 3, y: 3 } } : l)),
    };
    expect(routineStep('Moved', from, moved, roles(moved))).toBeNull();
    expect(routineStep('Nothing', from, from, roles(from))).toBeNull();
  });

  it('changes nothing where nothing is for the same, and is read back as it was written', () => {
    const after = { ...from, layers: from.layers.map((l) => (l.id === 'p' ? { ...l, opacity: 0.5 } : l)) } as Graphic;
    const made = routine(after);
    const bare = withLayers(blank('link-card'), words('Only words'));
    expect(withRoutine(bare, roles(bare), made)).toBe(bare);
    expect(Routine.parse(JSON.parse(JSON.stringify(made)))).toEqual(made);
  });

  it('leaves whatever it is taken with so that it can be written', () => {
    const next = random(5);
    for (let i = 0; i < 60; i++) {
      const size = 4 + next() * 400;
      const after = {
        ...from,
        backdrop: { kind: 'colour' as const, colour: '#102030' },
        layers: from.layers.map((l) =>
          l.role === 'words'
            ? { ...l, outline: { width: size / 4, colour: '#ffffff' }, shadow: { ...usual, blur: size } }
            : { ...l, border: { width: size, colour: '#000000' } },
        ),
      } as Graphic;
      const target = i % 2 ? to : withLayers(blank('common-avatar-128'), photo(), words('O'));
      const checked = checkGraphic(withRoutine(target, roles(target), routine(after)));
      expect(checked.ok && checked.value.told).toEqual([]);
    }
  });
});
