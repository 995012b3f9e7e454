import { BitmapCache } from './bitmap-cache';

const closed: unknown[] = [];
const bitmap = (width: number, height = 10): ImageBitmap => ({
  width,
  height,
  close() {
    closed.push(this);
  },
});
beforeEach(() => closed.splice(0));
const keysOf = (cache: BitmapCache) => ['a', 'b', 'c', 'd'].filter((k) => cache.has(k));

it('keeps what fits its budget, and lets go of what was used longest ago', () => {
  const cache = new BitmapCache(300);
  for (const key of ['a', 'b', 'c']) cache.set(key, bitmap(10));
  expect(keysOf(cache)).toEqual(['a', 'b', 'c']);
  cache.get('a');
  cache.set('d', bitmap(10));
  expect(keysOf(cache)).toEqual(['a', 'c', 'd']);
});

it('asking whether it is there does not count as using it', () => {
  const cache = new BitmapCache(200);
  cache.set('a', bitmap(10));
  cache.set('b', bitmap(10));
  cache.has('a');
  cache.set('c', bitmap(10));
  expect(keysOf(cache)).toEqual(['b', 'c']);
});

it('what came last stays, however large', () => {
  const cache = new BitmapCache(200);
  cache.set('a', bitmap(10));
  cache.set('b', bitmap(500));
  expect(keysOf(cache)).toEqual(['b']);
});

it('a key that comes again takes the place of the one before, and counts once', () => {
  const cache = new BitmapCache(200);
  cache.set('a', bitmap(10));
  cache.set('b', bitmap(10));
  const later = bitmap(10);
  cache.set('a', later);
  expect(keysOf(cache)).toEqual(['a', 'b']);
  expect(cache.get('a')).toBe(later);
});

it('closes what it lets go of, once, and nothing that is still held or was taken out', () => {
  const cache = new BitmapCache(200);
  const [a, b, c, d] = [bitmap(10), bitmap(10), bitmap(10), bitmap(10)] as const;
  cache.set('a', a);
  cache.set('a', a);
  cache.set('b', b);
  cache.set('c', c);
  expect(closed).toEqual([a]);
  expect(cache.take('b')).toBe(b);
  expect([cache.has('b'), closed]).toEqual([false, [a]]);
  cache.set('c', d);
  expect(closed).toEqual([a, c]);
  cache.clear();
  expect(closed).toEqual([a, c, d]);
});

it('hands what it lets go of to whoever closes it later', () => {
  const later: ImageBitmap[] = [];
  const cache = new BitmapCache(100, (b) => later.push(b));
  const a = bitmap(10);
  cache.set('a', a);
  cache.set('b', bitmap(10));
  expect([later, closed]).toEqual([[a], []]);
});
