import { random } from '../testing/samples';
import { Collection, collectionLimits, collectionName, withMember } from './collection';

const blank: Collection = { version: 1, id: 'c', name: 'Spring', created: '2026-11-30', graphics: [] };

describe('a collection', () => {
  it('has each graphic once, and gives back what was taken out in no order of its own', () => {
    const r = random(30);
    let now = blank;
    const held = new Set<string>();
    for (let i = 0; i < 400; i++) {
      const [id, is] = [`g${Math.floor(r() * 30)}`, r() < 0.6];
      now = withMember(now, id, is);
      if (is) held.add(id);
      else held.delete(id);
      expect([...now.graphics].sort()).toEqual([...held].sort());
      expect(withMember(now, id, is)).toBe(now);
      expect(Collection.safeParse(now).success).toBe(true);
    }
  });
  it('that is full takes no more', () => {
    const full = { ...blank, graphics: Array.from({ length: collectionLimits.graphics }, (_, i) => `g${i}`) };
    expect(withMember(full, 'one more', true)).toBe(full);
  });
  it.each([
    ['', 'Collection'],
    ['  Spring \n sale ', 'Spring sale'],
    ['🫖'.repeat(300), null],
    ['\ud83e', null],
    ['Spring', 'Spring 2'],
    ['SPRING', 'SPRING 2'],
  ])('typed as %j has a name that can be kept', (typed, expected) => {
    const name = collectionName(typed, ['Spring']);
    if (expected !== null) expect(name).toBe(expected);
    expect(Collection.safeParse({ ...blank, name }).success).toBe(true);
    expect(name.isWellFormed()).toBe(true);
  });
});
