import { checkGraphic, readGraphic } from './check';
import { applyEdit } from './edit';
import { changedByHand, derivedOf, followed, followingAgain, type Derived } from './follows';
import { Graphic, type Layer } from './graphic';
import { commit, current, startHistory, undo } from './history';
import { anyLayers } from '../testing/any';
import { blank, photo, random, shape, withLayers, words } from '../testing/samples';

/** What is derived, what is made of that by hand, and what is derived later: each as random as people are. */
function anyThree(seed: number) {
  const r = random(seed);
  const any = anyLayers(random(seed + 7));
  const derive = (from: readonly Layer[]): Derived => {
    const kept = from.filter(() => r() < 0.85).map((l) => (r() < 0.4 ? changed(l) : l));
    const added = r() < 0.4 ? [any.layer(`d${seed}-${Math.floor(r() * 1e6)}`)] : [];
    return {
      layers: r() < 0.3 ? [...added, ...kept] : [...kept, ...added],
      backdrop: r() < 0.3 ? any.fill() : { kind: 'none' },
    };
  };
  const changed = (l: Layer): Layer => {
    const other = any.layer(l.id);
    if (other.role === l.role && r() < 0.5) return { ...other, name: l.name };
    return { ...l, name: `${l.name}!`, visible: r() < 0.5 };
  };
  const last: Derived = { layers: Array.from({ length: 5 }, (_, i) => any.layer(`l${i}`)), backdrop: { kind: 'none' } };
  const hand = (from: Derived): Derived => {
    const d = derive(from.layers);
    return { ...d, layers: r() < 0.2 ? [...d.layers].reverse() : d.layers };
  };
  return { last, mine: hand(last), fresh: derive(last.layers) };
}
const seeds = Array.from({ length: 300 }, (_, i) => 3000 + i);

describe('what follows', () => {
  it('is what is derived where nothing was changed by hand', () => {
    for (const seed of seeds) {
      const { last, fresh } = anyThree(seed);
      expect(followed(last, last, fresh)).toEqual(fresh);
      expect(changedByHand(last, last)).toEqual([]);
    }
  });

  it('is as it was where nothing changed in its source', () => {
    for (const seed of seeds) {
      const { last, mine } = anyThree(seed);
      expect(followed(last, mine, last)).toEqual(mine);
    }
  });

  it('is the same each time, and followed again it stays', () => {
    for (const seed of seeds) {
      const { last, mine, fresh } = anyThree(seed);
      const once = followed(last, mine, fresh);
      expect(followed(last, mine, fresh)).toEqual(once);
      const again = followed(fresh, once, fresh);
      expect(again).toEqual(once);
    }
  });

  it('loses nothing made by hand, and brings back nothing taken away', () => {
    for (const seed of seeds) {
      const { last, mine, fresh } = anyThree(seed);
      const now = followed(last, mine, fresh);
      const ids = now.layers.map((l) => l.id);
      expect(new Set(ids).size).toBe(ids.length);
      for (const { layer, how } of changedByHand(last, mine)) {
        if (how === 'removed') expect(ids).not.toContain(layer);
        else expect(ids).toContain(layer);
      }
    }
  });

  it('goes setting by setting', () => {
    const last = derivedOf(withLayers(blank(), photo(), words('Autumn', {}, { size: 40 })));
    const mine = { ...last, layers: [{ ...photo(), opacity: 0.5 }, words('Autumn', { turn: 5 }, { size: 40 })] };
    const fresh = {
      ...last,
      layers: [{ ...photo(), asset: 'b'.repeat(64) }, words('Autumn', { lineSpacing: 2 }, { size: 40 })],
    };
    expect(followed(last, mine, fresh).layers).toEqual([
      { ...photo(), asset: 'b'.repeat(64), opacity: 0.5 },
      words('Autumn', { turn: 5, lineSpacing: 2 }, { size: 40 }),
    ]);
  });

  it('follows again where that is asked for, layer by layer', () => {
    const last = derivedOf(withLayers(blank(), photo(), shape(), words('Autumn')));
    const mine = { ...last, layers: [{ ...photo(), opacity: 0.5 }, words('Autumn'), shape({ id: 'own' })] };
    expect(changedByHand(last, mine).map((c) => [c.layer, c.how])).toEqual([
      ['p', 'changed'],
      ['own', 'added'],
      ['s', 'removed'],
    ]);
    let now: Derived = mine;
    for (const { layer } of changedByHand(last, mine)) now = followingAgain(last, now, layer);
    expect(now).toEqual(last);
  });
});

describe('a graphic that follows another', () => {
  const follows = {
    of: 'source',
    name: 'Autumn',
    way: 'left',
    roles: { p: 'photo' },
    last: { backdrop: { kind: 'none' as const }, layers: [photo()] },
  };

  it('is kept, read and undone as any other', () => {
    const g: Graphic = { ...withLayers(blank(), photo()), follows };
    expect(checkGraphic(g)).toMatchObject({ ok: true });
    expect(readGraphic(JSON.parse(JSON.stringify(g)))).toEqual(g);
    expect(Graphic.parse(JSON.parse(JSON.stringify(g)))).toEqual(g);
    const h = startHistory(g, 'a', 1);
    const fresh = { layers: [photo({ opacity: 0.2 })], backdrop: g.backdrop };
    const done = commit(
      h,
      { type: 'follow', derived: fresh, follows: { ...follows, last: fresh }, name: 'Followed' },
      'b',
      2,
    );
    if (!done.ok) throw new Error(done.problem.message);
    expect(current(done.value.history).layers).toEqual(fresh.layers);
    expect(current(undo(done.value.history))).toEqual(g);
  });

  it('stops where that is asked for', () => {
    const g: Graphic = { ...withLayers(blank(), photo()), follows };
    expect(applyEdit(g, { type: 'stop-following' })).toEqual(withLayers(blank(), photo()));
  });

  it('is not read where what it follows is none', () => {
    expect(readGraphic({ ...withLayers(blank(), photo()), follows: { of: 3 } })).toBeNull();
  });
});
