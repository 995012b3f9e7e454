import { frameFor, slotsToStart } from '@bright-slot/core';
import type { GraphicEntry } from '../storage/graphics-repository';
import { cardRows, rowAt } from './card-rows';
import { cardOf } from './card-size';
import { groupedBySlot } from './grouped';

/** Numbers from 0 to 1, the same for a seed each time: Park and Miller’s minimal standard (CACM 31, 10). */
function random(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 48271) % 2147483647) / 2147483647;
}
const entries = (n: number, r: () => number): GraphicEntry[] =>
  Array.from({ length: n }, (_, i) => {
    const slot = slotsToStart[Math.floor(r() * slotsToStart.length)]!;
    const rect = { x: 0, y: 0, width: slot.width, height: slot.height };
    return { id: `g${i}`, name: `Graphic ${i}`, frames: [frameFor('main', rect, slot)], changed: i, state: 's' };
  });

it('every graphic stands in one row, none wider than the page, in their order', () => {
  const r = random(30);
  for (let i = 0; i < 20; i++) {
    const all = entries(80, r);
    const width = 600 + Math.round(r() * 1200);
    const groups = groupedBySlot(all, '', 'latest');
    const rows = cardRows(groups, width);
    const shown = rows.flatMap((row) => (row.kind === 'cards' ? row.entries : []));
    expect(shown).toEqual(groups.flatMap((g) => g.entries));
    expect(new Set(rows.map((row) => row.key)).size).toBe(rows.length);
    for (const row of rows) {
      if (row.kind === 'head') continue;
      const sizes = row.entries.map((e) => cardOf(e.frames));
      const taken = sizes.reduce((n, s) => n + s.width, 22 * (sizes.length - 1));
      expect(taken <= width || sizes.length === 1).toBe(true);
      expect(row.height).toBeGreaterThan(Math.max(...sizes.map((s) => s.height)) + 70);
    }
  }
});

it('are found by name, slot, size, and the collection they are in', () => {
  const all = entries(40, random(7));
  const holding = new Map([['g3', ['Spring']]]);
  const found = (query: string) =>
    groupedBySlot(all, query, 'name', holding).flatMap((g) => g.entries.map((e) => e.id));
  expect(found('spring')).toEqual(['g3']);
  expect(found('graphic 12')).toContain('g12');
  expect(found('nothing')).toEqual([]);
  expect(found('').length).toBe(40);
});

it('the row at a place is the last that begins at or above it', () => {
  const r = random(11);
  for (let i = 0; i < 200; i++) {
    const starts = [0];
    for (let n = Math.floor(r() * 30); n > 0; n--) starts.push(starts.at(-1)! + Math.round(r() * 90));
    const at = Math.round(r() * 2000) - 100;
    const linear = Math.max(
      0,
      starts.findLastIndex((s) => s <= at),
    );
    expect(rowAt(starts, at)).toBe(linear);
  }
});
