import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  duplicateSlot,
  filterSlots,
  freeSlotName,
  noFilter,
  readSlotFile,
  slotFileSchema,
  slotsToAdd,
  writeSlotFile,
} from './book';
import { demo } from '../../../demo/src/index';
import { slotAtSize } from './at-size';
import { everySlot } from '../testing/samples';
import { slotOf } from '../testing/samples';

describe('a file of slots', () => {
  it('comes back as it went out', () => {
    const read = readSlotFile(writeSlotFile(everySlot, demo.sets));
    expect(read).toEqual({ ok: true, value: { slots: everySlot, sets: demo.sets, problems: [] } });
    expect(readSlotFile(writeSlotFile(everySlot))).toMatchObject({ value: { sets: [] } });
  });
  it('brings sets in whose slots are in it; one that cannot be read is named', () => {
    const few = everySlot.filter((s) => s.id !== 'mosaic-tall');
    const read = readSlotFile(writeSlotFile(few, [...demo.sets, { ...demo.sets[0]!, cells: 7 } as never]));
    expect(read.ok && read.value.sets.map((s) => s.id)).toEqual(['five', 'menu']);
    expect(read.ok && read.value.problems).toHaveLength(1);
  });
  it('takes an entry of version 1 along', () => {
    const old = readFileSync(join(import.meta.dirname, 'fixtures/slot-v1.json'), 'utf8');
    const read = readSlotFile(`{"format":"bright-slot-book","version":1,"slots":[${old}]}`);
    expect(read.ok && read.value.slots[0]).toMatchObject({ version: 2, shape: { kind: 'ellipse' } });
  });
  const file = (slots: string) => `{"format":"bright-slot-book","version":1,"slots":${slots}}`;
  it.each([
    ['broken JSON', '{"format":"bright', 'no JSON'],
    ['other JSON', '[1,2,3]', 'no book of slots'],
    ['null', 'null', 'no book of slots'],
    ['a newer file', '{"format":"bright-slot-book","version":9,"slots":[]}', 'newer'],
    ['too many', file(`[${'0,'.repeat(3000)}0]`), 'at most'],
    ['far too long', ' '.repeat(9_000_000), 'too large'],
  ])('refuses %s', (_what, text, said) => {
    const read = readSlotFile(text);
    expect(!read.ok && read.problem.message).toContain(said);
  });
  it('names what it leaves out, and lets no prototype or odd value in', () => {
    const good = JSON.stringify(slotOf('logo'));
    const bad = (change: object) => JSON.stringify({ ...slotOf('blog-header'), ...change });
    const read = readSlotFile(
      file(
        `[${good},${good},${bad({ id: 'w', width: -5 })},${bad({ id: 'g', ground: 'url(//evil)' })},7,{"__proto__":{"polluted":1},"version":2}]`,
      ),
    );
    expect(read.ok && read.value.slots.map((s) => s.id)).toEqual(['logo']);
    expect(read.ok && read.value.problems).toEqual([
      '“Logo, transparent” was left out: another entry has the same id.',
      '“Blog header” was left out: width is not as it should be.',
      '“Blog header” was left out: ground is not as it should be.',
      'Entry 5 was left out: the entry is not as it should be.',
      expect.stringContaining('Entry 6 was left out'),
    ]);
    expect(({} as { polluted?: number }).polluted).toBeUndefined();
  });
  it('has a published schema, and that is the current one', () => {
    const published: unknown = JSON.parse(
      readFileSync(join(import.meta.dirname, '../../../docs/slot-book.schema.json'), 'utf8'),
    );
    // Made anew by `npx tsx tools/schemas.mjs`.
    expect(published).toEqual(JSON.parse(JSON.stringify(slotFileSchema())));
  });
  it('never writes over an entry that differs', () => {
    const [a, b] = everySlot as [(typeof everySlot)[0], (typeof everySlot)[0]];
    const fresh = slotsToAdd([a, b], [a, { ...b, width: 7 }, { ...b, id: 'new' }], () => 'fresh-id');
    expect(slotsToAdd([a, b, { ...b, id: 'fresh-id' }], [{ ...b, width: 7 }], () => 'fresh-id')).toEqual([]);
    expect(fresh.map((s) => [s.id, s.name])).toEqual([
      ['fresh-id', `${b.name}, brought in`],
      ['new', b.name],
    ]);
  });
});

describe('finding slots', () => {
  const ids = (change: Partial<typeof noFilter>) => filterSlots(everySlot, { ...noFilter, ...change }).map((s) => s.id);
  it.each(['1584x396', '1584 x 396', '1584 × 396', 'banner 1584x396'])('“%s” finds the banners', (words) => {
    expect(ids({ words })).toEqual(['profile-banner', 'common-banner-1584x396']);
  });
  it('filters by kind, shape and site, together', () => {
    expect(ids({ shape: 'ellipse' })).toEqual(['chat-avatar', 'common-avatar-128']);
    expect(ids({ shape: 'ellipse', site: 'ottermill.example' })).toEqual(['chat-avatar']);
    expect(ids({ group: 'Logos', site: '' })).toEqual(['common-logo-512']);
    expect(ids({ words: 'nothing like it' })).toEqual([]);
  });
  it('gives copies names of their own', () => {
    const [first] = everySlot;
    const copy = duplicateSlot(first!, 'c', everySlot);
    expect([copy.name, copy.id]).toEqual([`${first!.name}, copy`, 'c']);
    expect(freeSlotName(copy.name, [...everySlot, copy])).toBe(`${first!.name}, copy 2`);
  });
});

it('a slot at another size takes its zones, safe area and corners along', () => {
  const half = slotAtSize(slotOf('class-header'), { width: 560, height: 140 });
  expect(half).toMatchObject({
    width: 560,
    shownWidth: 1120,
    shape: { kind: 'rounded', radius: 6 },
    covered: [{ x: 14, y: 94, width: 280, height: 36 }],
  });
});
