import { computed, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { ActivatedRoute, convertToParamMap } from '@angular/router';
import { slotsToStart, type Slot, type SlotSet } from '@bright-slot/core';
import { SlotBook } from '../../storage/slot-book.service';
import { Mounted } from '../../testing/mounted';
import { MosaicFinder } from './mosaic-finder';
import { RatioFinder } from './ratio-finder';
import { StripFinder } from './strip-finder';
import { TypeFinder } from './type-finder';

/** The book, and what was put into it. */
function book() {
  const slots = signal<readonly Slot[]>(slotsToStart);
  const sets: SlotSet[] = [];
  return {
    slots,
    sets,
    byId: computed(() => new Map(slots().map((s) => [s.id, s]))),
    putTogether: (more: readonly Slot[], together: readonly SlotSet[]) => {
      slots.update((all) => [...all, ...more]);
      sets.push(...together);
      return Promise.resolve(true);
    },
    remove: (...ids: string[]) => {
      slots.update((all) => all.filter((s) => !ids.includes(s.id)));
      return Promise.resolve(true);
    },
  };
}
let inBook: ReturnType<typeof book>;
beforeEach(() => {
  inBook = book();
  TestBed.configureTestingModule({
    providers: [
      { provide: SlotBook, useValue: inBook },
      { provide: ActivatedRoute, useValue: { snapshot: { queryParamMap: convertToParamMap({}) } } },
    ],
  });
});

describe('typed', () => {
  // 96 px an inch: CSS Values and Units 4, section 6.2.
  it('1600 × 400 is 16.667 × 4.167 in; 16.67 × 4.17 typed back is 1600.32 × 400.32', async () => {
    const on = await Mounted.of(TypeFinder);
    expect(on.text).toContain('16.667 × 4.167');
    expect(on.text).toContain('typed back as 16.67 × 4.17 it is 1600.32 × 400.32 px');
    expect(on.text).toContain('change nothing on a screen');
    const units = on.find<HTMLSelectElement>('select');
    units.value = 'in';
    units.dispatchEvent(new Event('change'));
    await on.fixture.whenStable();
    await on.type(on.field('Width'), '16,67');
    await on.type(on.field('Height'), '4,17');
    expect(on.text).toContain('1600.32 × 400.32');
  });
  for (const [text, said] of [
    ['-2', 'above 0'],
    ['NaN', 'no length'],
    ['99999', '8192 px at most'],
    ['99999 in', 'larger than any page'],
  ] as const)
    it(`“${text}” is told as ${said}, and nothing can be added`, async () => {
      const on = await Mounted.of(TypeFinder);
      await on.type(on.field('Width'), text);
      expect(on.find('[role=alert]').textContent).toContain(said);
      expect(on.all('bs-add-slot')).toEqual([]);
    });
  it('goes into the book under a name of its own', async () => {
    const on = await Mounted.of(TypeFinder);
    await on.type(on.field('Name'), slotsToStart[0]!.name);
    on.find<HTMLFormElement>('form').requestSubmit();
    await on.fixture.whenStable();
    const added = inBook.slots().at(-1)!;
    expect([added.width, added.height]).toEqual([1600, 400]);
    expect(inBook.slots().filter((s) => s.name === added.name).length).toBe(1);
  });
});

describe('from a ratio', () => {
  const cover: Slot = { ...slotsToStart[0]!, id: 'a-cover', width: 851, height: 315 };
  it('851 × 315 at 900 wide is 333.14, so 333; 335 is 0.56 % too tall', async () => {
    const on = await Mounted.of(RatioFinder, { slot: cover });
    expect(on.text).toContain('900 × 315 ÷ 851 = 333.14 px high');
    const rows = on.all('tbody tr').map((r) => r.innerText.replace(/\s+/g, ' '));
    expect(rows[0]).toMatch(/^900 × 333 0.041 % too flat 0.35 px/);
    expect(rows.find((r) => r.startsWith('900 × 335'))).toContain('0.56 % too tall');
    await on.type(on.field('Length'), '0');
    expect(on.find('[role=alert]').textContent).toContain('above 0');
  });
  it('the other side of whole pixels that is taken is the slot', async () => {
    const on = await Mounted.of(RatioFinder, { slot: cover });
    await on.press('Take 900 × 335');
    on.find<HTMLFormElement>('form').requestSubmit();
    await on.fixture.whenStable();
    expect(inBook.slots().at(-1)).toEqual(jasmine.objectContaining({ width: 900, height: 335 }));
  });
});

describe('a strip', () => {
  it('666 for 5 × 134 is 4 short, and the fifth tile suffers', async () => {
    const on = await Mounted.of(StripFinder);
    expect(on.text).toContain('5 × 134 = 670');
    await on.type(on.field('Total'), '666');
    expect(on.text).toContain('666 is 4 px short: tile 5 would be 130 instead of 134.');
    await on.type(on.field('Total'), '670');
    expect(on.text).toContain('come to the total exactly');
  });
});

describe('a mosaic', () => {
  it('of 1050 × 600 with gaps of 15: its sums', async () => {
    const on = await Mounted.of(MosaicFinder);
    for (const said of [
      '517.5 × 600',
      '251.25 × 600',
      '251.25 × 292.5',
      '517.5 + 15 + 251.25 + 15 + 251.25 = 1050',
      '1035 × 1200',
      'run over by at most 0.75 px',
    ])
      expect(on.text).toContain(said);
    on.find('input[type="checkbox"]').click();
    await on.fixture.whenStable();
    expect(on.text).toContain('502.5 × 570');
  });
  it('all four cells are slots, together', async () => {
    const on = await Mounted.of(MosaicFinder);
    await on.press('Add 4 slots');
    expect(
      inBook
        .slots()
        .slice(-4)
        .map((s) => `${s.name}, ${s.width} × ${s.height}`),
    ).toEqual([
      'Mosaic, cell 1, 517.5 × 600',
      'Mosaic, cell 2, 251.25 × 600',
      'Mosaic, cell 3, 251.25 × 292.5',
      'Mosaic, cell 4, 251.25 × 292.5',
    ]);
    expect(inBook.sets.map((s) => [s.kind, s.name])).toEqual([['mosaic', 'Mosaic']]);
    expect(document.body.innerText).toContain('4 slots are in the book.');
  });
});
