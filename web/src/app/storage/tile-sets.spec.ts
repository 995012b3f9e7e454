import { Injector, runInInjectionContext } from '@angular/core';
import { IDBFactory, IDBKeyRange } from 'fake-indexeddb';
import {
  layoutLook,
  newGraphic,
  plainHouseStyle,
  slotsToStart,
  startHistory,
  type Edition,
  type Graphic,
  type TileSet,
} from '@bright-slot/core';
import { Database } from './database';
import { GraphicsRepository } from './graphics-repository';
import { SETS_DATABASE, TileSets } from './tile-sets.service';

let db: Database;
let repository: GraphicsRepository;
let sets: TileSets;
beforeEach(() => {
  db = new Database('test', { indexedDB: new IDBFactory(), IDBKeyRange });
  repository = new GraphicsRepository(db);
  const injector = Injector.create({
    providers: [
      { provide: GraphicsRepository, useValue: repository },
      { provide: SETS_DATABASE, useValue: db },
    ],
  });
  sets = runInInjectionContext(injector, () => new TileSets());
});
afterEach(() => db.close());

const slot = slotsToStart.find((s) => s.id === 'common-tile-320x200')!;
const graphic = (id: string, name = id): Graphic => newGraphic({ id, name, created: '2026-11-30T00:00:00Z', slot });
const set: TileSet = {
  version: 1,
  id: 's',
  name: 'What we make',
  created: '2026-11-30T00:00:00Z',
  slot,
  layout: 'band',
  look: layoutLook(plainHouseStyle),
  logo: null,
  graphics: ['a', 'b'],
};
const edition = (graphics: readonly Graphic[], id = 'e', until = '2026-11-30T10:00:00Z'): Edition => ({
  version: 1,
  id,
  of: 's',
  name: 'Until today',
  until,
  set,
  graphics: [...graphics],
});
const names = async () => (await repository.entries(['a', 'b', 'c'])).map((e) => e.name);

it('writes a set and its tiles in one step, and each change of them as one step more', async () => {
  expect(await sets.write({ sets: [set], graphics: [graphic('a'), graphic('b')], step: 'Made' })).toBeNull();
  expect(await sets.set('s')).toEqual(set);
  expect(await names()).toEqual(['a', 'b']);
  await sets.write({ sets: [set], graphics: [graphic('a', 'A')], step: 'Word' });
  expect(await names()).toEqual(['A', 'b']);
  const opened = await repository.open('a', 't');
  const earlier = await repository.earlier('a');
  expect(opened.ok && opened.value.history.steps.size).toBe(1);
  expect(earlier.ok && earlier.value.steps.map((s) => s.name)).toEqual(['Made', 'Word']);
});

it('writes more tiles at once than Dexie keeps a transaction waiting for, twice: what is new, and what changed', async () => {
  const ids = Array.from({ length: 150 }, (_, i) => `t${i}`);
  const many = { ...set, graphics: ids };
  const all = (name: (id: string) => string) => ids.map((id) => graphic(id, name(id)));
  expect(await sets.write({ sets: [many], graphics: all((id) => id), step: 'Made' })).toBeNull();
  expect(await sets.write({ sets: [many], graphics: all((id) => `${id} more`), step: 'Words' })).toBeNull();
  expect((await repository.entries(ids)).map((e) => e.name)).toEqual(ids.map((id) => `${id} more`));
  const earlier = await repository.earlier('t149');
  expect(earlier.ok && earlier.value.steps.map((s) => [s.name, s.graphic.name])).toEqual([
    ['Made', 't149'],
    ['Words', 't149 more'],
  ]);
  // Where redo leads is only written where it is not to the latest.
  expect(await db.redo.count()).toBe(0);
});

it('takes a tile out and back: its graphic is deleted, and there again when it is written', async () => {
  await sets.write({ sets: [set], graphics: [graphic('a'), graphic('b')], step: 'Made' });
  await sets.write({ sets: [{ ...set, graphics: ['a'] }], graphics: [], step: 'Out', removed: ['b'] });
  expect(await names()).toEqual(['a']);
  await sets.write({ sets: [set], graphics: [graphic('b', 'B')], step: 'Back' });
  expect(await names()).toEqual(['a', 'B']);
});

it('leaves the last edition whole where a next one breaks off in the middle', async () => {
  const first = [graphic('a'), graphic('b')];
  await sets.write({ sets: [set], graphics: first, step: 'Made' });
  // What cannot be read back is refused, and with it all that goes along.
  const unsound = { ...graphic('b', 'B'), frames: [] };
  const told = await sets.write({
    sets: [{ ...set, name: 'Next' }],
    graphics: [graphic('a', 'A'), unsound, graphic('c')],
    step: 'New edition',
    edition: edition(first),
  });
  expect(told?.code).toBe('unsound');
  expect(await names()).toEqual(['a', 'b']);
  expect(await sets.set('s')).toEqual(set);
  expect(await sets.editions('s')).toEqual([]);
});

it('leaves it whole too where the page goes before the last write', async () => {
  const first = [graphic('a'), graphic('b')];
  await sets.write({ sets: [set], graphics: first, step: 'Made' });
  const put = db.tileSets.put.bind(db.tileSets);
  db.tileSets.put = (() => Promise.reject(new Error('gone'))) as unknown as typeof put;
  const told = await sets.write({
    sets: [{ ...set, name: 'Next' }],
    graphics: [graphic('a', 'A')],
    step: 'New edition',
    edition: edition(first),
  });
  db.tileSets.put = put;
  expect(told).not.toBeNull();
  expect(await names()).toEqual(['a', 'b']);
  expect(await sets.editions('s')).toEqual([]);
});

it('keeps editions, the latest first, takes one up, and no more than it holds', async () => {
  const first = [graphic('a'), graphic('b')];
  await sets.write({ sets: [set], graphics: first, step: 'Made' });
  for (let i = 0; i < 62; i++)
    await sets.write({
      sets: [set],
      graphics: [],
      step: 'New edition',
      edition: edition(first, `e${i}`, new Date(Date.UTC(2026, 0, 1 + i)).toISOString()),
    });
  const all = await sets.editions('s');
  expect(all).toHaveLength(60);
  expect(all[0]!.id).toBe('e61');
  expect(all[0]!.graphics).toEqual(first);
  await sets.write({ sets: [set], graphics: first, step: 'Put back', taken: 'e61' });
  expect((await sets.editions('s'))[0]!.id).toBe('e60');
});

it('counts what editions use: their pictures are not swept', async () => {
  const hash = 'a'.repeat(64);
  const used = { ...set, logo: null };
  const held: Graphic = { ...graphic('a'), name: hash };
  await sets.write({ sets: [used], graphics: [], step: 'Made', edition: edition([held]) });
  expect(await db.uses.where('what').equals(hash).count()).toBe(1);
  await sets.write({ sets: [used], graphics: [], step: 'Put back', taken: 'e' });
  expect(await db.uses.where('what').equals(hash).count()).toBe(0);
});

it('goes with its tiles, and comes back with them', async () => {
  await repository.create(startHistory(graphic('c'), 'c1', 1), 1);
  await sets.write({ sets: [set], graphics: [graphic('a'), graphic('b')], step: 'Made' });
  expect(await sets.remove(set)).toBeNull();
  expect(await names()).toEqual(['c']);
  expect(await sets.set('s')).toBeNull();
  await sets.bringBack(set);
  expect(await names()).toEqual(['a', 'b', 'c']);
});
