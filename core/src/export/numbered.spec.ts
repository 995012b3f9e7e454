import { DEFAULT_PATTERN, isSafeName } from './name';
import { numberedName, type NumberedPart } from './numbered';

const part: NumberedPart = { graphic: 'From the kiln', slot: 'Strip square', format: 'jpeg', longest: 80 };
const numberedNames = (pattern: string, parts: readonly NumberedPart[], latestFirst = false) =>
  parts.map((p, i) => numberedName({ pattern, date: '2026-11-30', of: parts.length, latestFirst }, p, i));

describe('names of files that leave together', () => {
  it('are numbered in the order of the page', () => {
    const names = numberedNames(DEFAULT_PATTERN, [part, part, part]);
    expect(names).toEqual([
      '1-from-the-kiln-strip-square-2026-11-30a.jpg',
      '2-from-the-kiln-strip-square-2026-11-30a.jpg',
      '3-from-the-kiln-strip-square-2026-11-30a.jpg',
    ]);
  });
  it('from the end where the page shows the latest first', () => {
    const names = numberedNames('{slot}', [part, part, part], true);
    expect(names).toEqual(['3-strip-square.jpg', '2-strip-square.jpg', '1-strip-square.jpg']);
  });
  it('know their site, size and density where the pattern has them', () => {
    const known = { ...part, site: 'Ottermill Pottery', size: { width: 360, height: 360 }, density: 2 };
    const names = numberedNames('{site}-{size}-{density}-{number}', [known, known]);
    expect(names).toEqual(['ottermill-pottery-360x360-2x-1.jpg', 'ottermill-pottery-360x360-2x-2.jpg']);
  });
  it.each([2, 9, 10, 100])('are each once, safe, no longer than may be, and in order when sorted: %i', (count) => {
    const parts = Array.from({ length: count }, (_, i): NumberedPart => ({
      graphic: 'Öfen & Åre 🫖'.repeat(9),
      slot: 'Ein sehr langer Name für einen Platz '.repeat(1 + (i % 4)),
      format: i % 2 ? 'png' : 'webp',
      longest: 40,
    }));
    const names = numberedNames(DEFAULT_PATTERN, parts);
    expect(new Set(names).size).toBe(count);
    for (const name of names) {
      expect(isSafeName(name)).toBe(true);
      expect(name.length).toBeLessThanOrEqual(40);
    }
    expect([...names].sort()).toEqual(names);
  });
});
