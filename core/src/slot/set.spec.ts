import { demo } from '../../../demo/src/index';
import { renderPage } from '../page/page';
import { random, slotOf } from '../testing/samples';
import { mosaicOf } from './mosaic';
import { SlotSet, placesOf, setSize, setText, setWith, slotsIn } from './set';
import { slotFrom } from './slots-to-start';

const [window, five, menu] = demo.sets as [SlotSet, SlotSet, SlotSet];
const own = { version: 1, id: 's', name: 'S', site: '', source: 'typed by you' } as const;

it('the demo’s mosaic has its slots’ own sizes, to the hundredth', () => {
  const places = placesOf(window, null);
  expect(setSize(places)).toEqual({ width: 1050, height: 600 });
  for (const { slot, box } of places)
    expect([slot, box.width, box.height]).toEqual([slot, slotOf(slot).width, slotOf(slot).height]);
});

it('a strip and a row stand side by side with their gaps', () => {
  const square = slotOf('strip-square');
  expect(placesOf(five, square).map((p) => p.box.x)).toEqual([0, 154, 308, 462, 616]);
  expect(setSize(placesOf(five, square))).toEqual({ width: 750, height: 134 });
  // Shown at half its size.
  expect(setSize(placesOf(menu, slotOf('menu-tile')))).toEqual({ width: 1240, height: 100 });
  const grid: SlotSet = { ...own, kind: 'row', slot: 'x', columns: 3, rows: 2, gap: { across: 10, down: 30 } };
  const shown = { width: 100, height: 50, shownWidth: 100 };
  expect(placesOf(grid, shown).map((p) => [p.box.x, p.box.y])).toEqual([
    [0, 0],
    [110, 0],
    [220, 0],
    [0, 80],
    [110, 80],
    [220, 80],
  ]);
});

it('is found with each of its slots, and not where one of them is gone', () => {
  for (const set of demo.sets) for (const slot of slotsIn(set)) expect(setWith(slot, demo.sets, () => true)).toBe(set);
  expect(setWith('blog-header', demo.sets, () => true)).toBeNull();
  expect(setWith('mosaic-tall', demo.sets, (id) => id !== 'mosaic-upper')).toBeNull();
});

it('says in words what it is', () => {
  expect(demo.sets.map(setText)).toEqual([
    'Mosaic of 4, gaps of 15 px',
    'Strip of 5, the picture skips gaps of 20 px',
    'Row of 7, gaps of 20 px',
  ]);
  expect(setText({ ...own, kind: 'strip', slot: 'x', count: 3, gap: 0, behind: 'runs-on' })).toBe(
    'Strip of 3, no gaps',
  );
  expect(setText({ ...own, kind: 'row', slot: 'x', columns: 2, rows: 3, gap: { across: 4, down: 8 } })).toBe(
    '2 across and 3 down, gaps of 4 and 8 px',
  );
});

it('a page shows all cells of a mosaic at its own figures: 60 random ones, what is not ours drawn', () => {
  const r = random(41);
  for (let i = 0; i < 60; i++) {
    const columns = 1 + Math.floor(r() * 5);
    const rows = 2 + Math.floor(r() * 3);
    const cells = Array.from({ length: columns * rows }, (_, k) => ({ slot: `c${k}`, columns: 1, rows: 1 }));
    const set = SlotSet.parse({
      ...own,
      kind: 'mosaic',
      width: 300 + 900 * r(),
      height: 300 + 900 * r(),
      gap: { across: 20 * r(), down: 20 * r() },
      columns,
      rows,
      cells,
    });
    if (set.kind !== 'mosaic') throw new Error();
    const { across, down } = set.gap;
    const laid = mosaicOf({ ...set, gap: across, gapDown: down, outerGap: false, spans: cells });
    const { width, height } = laid.ok ? laid.value.cells[0]!.box : { width: 0, height: 0 };
    const slot = slotFrom({ id: 'c1', name: 'C', group: 'Mosaics and strips', width, height, page: 'mosaic' });
    const { html, css } = renderPage('mosaic', { slots: [{ slot, picture: { url: '/a.png', alt: '' } }], set });
    expect(html.match(/class="place/g)).toHaveLength(cells.length);
    expect(html.match(/<img/g)).toHaveLength(1);
    expect(html).toMatch(/class="place at-1" data-slot="c1"><figure class="slot"[^>]*><img/);
    const at = (k: number, side: string) => Number(new RegExp(`\\.at-${k}\\{[^}]*?${side}:([\\d.]+)%`).exec(css)![1]);
    if (!laid.ok) throw new Error();
    laid.value.cells.forEach(({ box }, k) => {
      expect((at(k, 'left') / 100) * set.width).toBeCloseTo(box.x, 1);
      expect((at(k, 'height') / 100) * set.height).toBeCloseTo(box.height, 1);
    });
  }
});

it('figures that do not go together place nothing, and the page shows the slot alone', () => {
  const set = { ...window, gap: { across: 900, down: 0 } } as SlotSet;
  expect(placesOf(set, null)).toEqual([]);
  const slot = slotOf('mosaic-wide');
  expect(renderPage('mosaic', { slots: [{ slot, picture: null }], set }).html.match(/class="place/g)).toHaveLength(1);
  expect(SlotSet.safeParse({ ...five, count: 1 }).success).toBe(false);
  expect(SlotSet.safeParse({ ...window, cells: [] }).success).toBe(false);
});
