import fc from 'fast-check';
import { merged } from './merge';
import { changedAlike } from './alike';
import type { Layer } from './graphic';
import { photo, shape, veil, words } from '../testing/samples';

const plain = fc.letrec((tie) => ({
  value: fc.oneof(
    { depthSize: 'small' },
    fc.integer({ min: 0, max: 5 }),
    fc.boolean(),
    fc.constant(null),
    tie('settings'),
  ),
  settings: fc.dictionary(fc.constantFrom('a', 'b', 'c', 'd'), tie('value'), { maxKeys: 4, noNullPrototype: true }),
})).settings;

describe('bringing two changes together', () => {
  it('is theirs where nothing was changed here, mine where nothing was there', () => {
    fc.assert(
      fc.property(plain, plain, (base, other) => {
        expect(merged(base, base, other)).toEqual(other);
        expect(merged(base, other, base)).toEqual(other);
        expect(merged(base, other, other)).toEqual(other);
      }),
    );
  });

  it('does not depend on how often it is done', () => {
    fc.assert(
      fc.property(plain, plain, plain, (base, mine, theirs) => {
        const once = merged(base, mine, theirs);
        expect(merged(base, mine, theirs)).toEqual(once);
        // Derived again from the same source, nothing changes any more.
        expect(merged(theirs, once, theirs)).toEqual(once);
      }),
    );
  });

  it('goes setting by setting, and mine stays where both changed one', () => {
    const base = { look: { light: 1, colour: 1 }, shadow: null, at: [1, 2] };
    const mine = { look: { light: 2, colour: 1 }, shadow: { blur: 3 }, at: [1, 2] };
    const theirs = { look: { light: 5, colour: 4 }, shadow: null, at: [3] };
    expect(merged(base, mine, theirs)).toEqual({ look: { light: 2, colour: 4 }, shadow: { blur: 3 }, at: [3] });
  });

  it('takes things of another kind whole', () => {
    const base = { fill: { kind: 'colour', colour: 'red' } };
    expect(merged(base, { fill: { kind: 'none' } }, { fill: { kind: 'colour', colour: 'blue' } })).toEqual({
      fill: { kind: 'none' },
    });
  });
});

describe('a change done to several', () => {
  it('carries how it looks, never what it is, says or where it lies', () => {
    const [a, b] = [
      words('One', { id: 'a' }),
      words('Two\nthree', { id: 'b', place: { x: 1, y: 2 } }, { size: 30, colour: '#ff0000' }),
    ];
    const to = { ...words('Changed', { id: 'a', place: { x: 9, y: 9 }, lineSpacing: 2 }, { size: 70 }) };
    const now = changedAlike(a, to, b);
    expect(now).toEqual({
      ...words('Two\nthree', { id: 'b', place: { x: 1, y: 2 }, lineSpacing: 2 }, { size: 70, colour: '#ff0000' }),
    });
  });

  it('goes into what holds several settings', () => {
    const a = photo({ id: 'a' });
    const b = photo({ id: 'b', look: { ...a.look, warmth: 0.4 } });
    const now = changedAlike(a, { ...a, look: { ...a.look, brightness: 1.2 }, opacity: 0.5 }, b);
    expect(now).toEqual({ ...b, look: { ...a.look, brightness: 1.2, warmth: 0.4 }, opacity: 0.5 });
  });

  it('is for what things of different kinds share only', () => {
    const s: Layer = shape({ id: 's' });
    const [p, v]: Layer[] = [photo({ id: 'p' }), veil()];
    expect(changedAlike(s, { ...s, opacity: 0.3, fill: { kind: 'none' } }, p!)).toEqual({ ...p, opacity: 0.3 });
    expect(changedAlike(s, { ...s, opacity: 0.3 }, v!)).toEqual(v);
    expect(changedAlike(s, { ...s, visible: false }, v!).visible).toBe(false);
  });
});
