import { applyEdit } from './edit';
import { groupOf, settledGroups, ungrouped, wholeGroups } from './groups';
import { blank, random, shape, withLayers } from '../testing/samples';

const named = (...ids: string[]) => withLayers(blank(), ...ids.map((id) => shape({ id, name: id })));
const order = (g: { layers: readonly { id: string; group?: { id: string } | undefined }[] }) =>
  g.layers.map((l) => (l.group ? `${l.id}:${l.group.id}` : l.id)).join(' ');
const group = { id: 'G', name: 'Badge' };

describe('groups', () => {
  it('bring their layers together where the front one lies', () => {
    const made = applyEdit(named('a', 'b', 'c', 'd'), { type: 'group', ids: ['a', 'c'], group });
    expect(order(made)).toBe('b a:G c:G d');
    expect(wholeGroups(made.layers, ['a'])).toEqual(['a', 'c']);
    expect(groupOf(made.layers, ['c', 'a'])).toEqual(group);
    expect(groupOf(made.layers, ['a'])).toBeNull();
    expect(order(applyEdit(made, { type: 'ungroup', ids: ['a', 'c'] }))).toBe('b a c d');
  });

  it('are entered between two of theirs and left away from them', () => {
    const made = applyEdit(named('a', 'b', 'c', 'd'), { type: 'group', ids: ['b', 'c', 'd'], group });
    expect(order(applyEdit(made, { type: 'move-layer', id: 'a', to: 1 }))).toBe('b:G a:G c:G d:G');
    expect(order(applyEdit(made, { type: 'move-layer', id: 'c', to: 0 }))).toBe('c a b:G d:G');
  });

  it('are not parted by what is added among them', () => {
    const made = applyEdit(named('a', 'b', 'c'), { type: 'group', ids: ['a', 'b', 'c'], group });
    expect(order(applyEdit(made, { type: 'add-layer', layer: shape({ id: 'n' }), at: 1 }))).toBe('a:G n:G b:G c:G');
    expect(order(applyEdit(made, { type: 'add-layer', layer: shape({ id: 'n' }) }))).toBe('a:G b:G c:G n');
  });

  it('are no more once one is left', () => {
    const made = applyEdit(named('a', 'b', 'c'), { type: 'group', ids: ['a', 'b'], group });
    expect(order(applyEdit(made, { type: 'remove-layer', id: 'a' }))).toBe('b c');
    expect(ungrouped(made.layers, ['a']).some((l) => l.group)).toBe(false);
  });

  it('move whole, and hold together whatever is done', () => {
    const seed = 7;
    const r = random(seed);
    const pick = <T>(list: readonly T[]) => list[Math.floor(r() * list.length)]!;
    let g = named(...'abcdefgh');
    for (let i = 0; i < 600; i++) {
      const ids = g.layers.filter(() => r() < 0.4).map((l) => l.id);
      const before = g.layers.map((l) => l.id).sort();
      g = applyEdit(
        g,
        pick([
          { type: 'group', ids, group: { id: `g${i}`, name: 'x' } },
          { type: 'ungroup', ids },
          { type: 'move-layers', ids, to: Math.floor(r() * 9) },
          { type: 'move-layers', ids: wholeGroups(g.layers, ids.slice(0, 1)), to: Math.floor(r() * 9) },
          { type: 'move-layer', id: pick(g.layers).id, to: Math.floor(r() * 9) },
        ] as const),
      );
      expect(g.layers.map((l) => l.id).sort()).toEqual(before);
      // Settled: nothing is left to do.
      if (settledGroups(g.layers) !== g.layers) throw new Error(`step ${i} of seed ${seed}: ${order(g)}`);
    }
  });
});
