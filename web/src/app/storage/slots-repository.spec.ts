import { IDBFactory, IDBKeyRange } from 'fake-indexeddb';
import { setWith, slotsToStart, type Slot } from '@bright-slot/core';
import { demo } from '../../../../demo/src/index';
import { Database } from './database';
import { SlotsRepository } from './slots-repository';

let db: Database;
let book: SlotsRepository;
beforeEach(() => {
  db = new Database('test', { indexedDB: new IDBFactory(), IDBKeyRange });
  book = new SlotsRepository(db);
});
afterEach(() => db.close());
const [first, second, ...others] = slotsToStart as [Slot, Slot, ...Slot[]];

it('puts the entries that ship in once: what is deleted or changed stays so, what is new comes', async () => {
  await book.seed([first, second]);
  await book.put([{ ...first, width: 7 }]);
  await book.remove([second.id]);
  await book.seed([first, second, others[0]!]);
  const { slots } = await book.list();
  expect(slots.map((s) => [s.id, s.width]).sort()).toEqual(
    [
      [first.id, 7],
      [others[0]!.id, others[0]!.width],
    ].sort(),
  );
});

it('reads entries of version 1, and keeps what it cannot read', async () => {
  await db.slots.bulkPut([
    { ...first, version: 1, density: 1, shape: 'rectangle' },
    { id: 'later', version: 9 },
  ] as unknown as Slot[]);
  expect(await book.list()).toMatchObject({ unreadable: 1, newer: true, slots: [{ id: first.id, version: 2 }] });
  await book.put([second]);
  expect(await db.slots.get('later')).toEqual({ id: 'later', version: 9 });
});

it('keeps which slots stand together: a set goes with the last of its slots, and is whole again once one is back', async () => {
  await book.put(demo.slots, demo.sets);
  const ids = async () => (await book.list()).sets.map((s) => s.id).sort();
  expect(await ids()).toEqual(['five', 'menu', 'window']);
  await book.remove(['strip-square', 'mosaic-tall']);
  expect(await ids()).toEqual(['menu', 'window']);
  const { slots, sets } = await book.list();
  const has = (id: string) => slots.some((s) => s.id === id);
  expect(setWith('mosaic-wide', sets, has)).toBeNull();
  await book.put(demo.slots);
  expect(setWith('mosaic-wide', sets, () => true)?.id).toBe('window');
  await book.remove(['mosaic-wide', 'mosaic-tall', 'mosaic-upper', 'mosaic-lower']);
  expect(await ids()).toEqual(['menu']);
  await db.sets.put({ id: 'torn' } as never);
  expect(await ids()).toEqual(['menu']);
  await book.remove(['menu-tile']);
  expect(await db.sets.toCollection().primaryKeys()).toEqual(['torn']);
});
