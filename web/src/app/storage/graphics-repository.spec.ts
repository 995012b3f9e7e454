import { IDBFactory, IDBKeyRange } from 'fake-indexeddb';
import {
  commit,
  current,
  newGraphic,
  plainAppearance,
  slotsToStart,
  startHistory,
  type History,
} from '@bright-slot/core';
import { Database, type AssetRecord } from './database';
import { GraphicsRepository, storageProblem } from './graphics-repository';

let db: Database;
let repository: GraphicsRepository;
beforeEach(() => {
  db = new Database('test', { indexedDB: new IDBFactory(), IDBKeyRange });
  repository = new GraphicsRepository(db);
});
afterEach(() => db.close());

const MINUTE = 60_000;
const hash = (digit: string) => digit.repeat(64);
const asset = (h: string, added: number): AssetRecord => ({
  hash: h,
  blob: new Blob(['x']),
  type: 'png',
  width: 1,
  height: 1,
  opaque: true,
  silhouette: null,
  name: 'Dot',
  added,
  credit: '',
});
const made = (id: string, picture?: string): History => {
  const graphic = newGraphic({ id, name: id, created: '2026-11-25T00:00:00Z', slot: slotsToStart[0]! });
  const start = startHistory(graphic, `${id}-1`, 1);
  if (!picture) return start;
  return commit(
    start,
    {
      type: 'add-layer',
      name: 'Added',
      layer: {
        id: 'p',
        name: 'Dot',
        visible: true,
        locked: false,
        role: 'photo',
        asset: picture,
        natural: { width: 1, height: 1 },
        opaque: true,
        vector: false,
        place: { mode: 'cover', focus: { x: 0.5, y: 0.5 }, zoom: 1 },
        crop: null,
        ...plainAppearance,
      },
    },
    `${id}-2`,
    2,
  );
};
const save = (h: History, at = 1) => repository.save(h, Object.values(h.steps), at);

it('gives a history back as it was saved, its head included', async () => {
  const history = made('a', hash('1'));
  await save(history);
  const loaded = await repository.load('a');
  expect(loaded.ok && current(loaded.value)).toEqual(current(history));
  expect(loaded.ok && loaded.value.next).toEqual(history.next);
  expect((await repository.list()).entries.map((e) => e.graphic.id)).toEqual(['a']);
});

it('lists what a newer version wrote apart, refuses to open it, and leaves it as it is', async () => {
  await save(made('a'));
  const step = (await db.steps.get('a-1'))!;
  await db.steps.put({ ...step, graphic: { ...step.graphic, version: 9 as never, layers: 'later' as never } });
  const { entries, unreadable } = await repository.list();
  expect(entries).toEqual([]);
  expect(unreadable).toEqual([{ id: 'a', name: 'a', why: expect.stringContaining('newer Bright Slot') as string }]);
  const loaded = await repository.load('a');
  expect(!loaded.ok && loaded.problem.code).toBe('newer');
  expect((await db.steps.get('a-1'))!.graphic.version).toBe(9);
});

describe('sweeping', () => {
  const now = 100 * MINUTE;
  it('removes what was deleted before, with its steps, and pictures nothing uses', async () => {
    await save(made('gone', hash('1')));
    await save(made('kept', hash('2')));
    await repository.addAsset(asset(hash('1'), 0));
    await repository.addAsset(asset(hash('2'), 0));
    await repository.setDeleted('gone', 10 * MINUTE);
    expect(await repository.sweep(20 * MINUTE, now)).toBe(1);
    expect(await db.steps.where('graphicId').equals('gone').count()).toBe(0);
    expect(await db.assets.toCollection().primaryKeys()).toEqual([hash('2')]);
  });
  it('leaves what was deleted lately, and its pictures, so that Undo still works', async () => {
    await save(made('late', hash('1')));
    await repository.addAsset(asset(hash('1'), 0));
    await repository.setDeleted('late', 30 * MINUTE);
    expect(await repository.sweep(20 * MINUTE, now)).toBe(0);
    await repository.setDeleted('late', undefined);
    expect((await repository.load('late')).ok).toBe(true);
    expect(await db.assets.count()).toBe(1);
  });
  it('keeps pictures that only an earlier step uses, that only unreadable steps use, or that came in just now', async () => {
    const history = made('a', hash('1'));
    await save(commit(history, { type: 'remove-layer', id: 'p', name: 'Deleted' }, 'a-3', 3));
    await save(made('b'));
    const step = (await db.steps.get('b-1'))!;
    await db.steps.put({ ...step, graphic: { ...step.graphic, version: 9 as never, later: hash('2') } as never });
    await repository.addAsset(asset(hash('1'), 0));
    await repository.addAsset(asset(hash('2'), 0));
    await repository.addAsset(asset(hash('3'), now - MINUTE));
    await repository.addAsset(asset(hash('4'), 0));
    await db.steps.bulkPut(Object.values(history.steps));
    await repository.sweep(now, now);
    expect((await db.assets.toCollection().primaryKeys()).sort()).toEqual([hash('1'), hash('2'), hash('3')]);
  });
});

it('stores a picture once, under its hash', async () => {
  await repository.addAsset(asset(hash('1'), 1));
  await repository.addAsset({ ...asset(hash('1'), 2), name: 'Another name' });
  expect((await repository.asset(hash('1')))!.name).toBe('Dot');
});

it('lists pictures latest first with the graphics that use them, masks left out, and keeps what is told of them', async () => {
  await save(made('a', hash('1')));
  await repository.addAsset(asset(hash('1'), 1));
  await repository.addAsset(asset(hash('2'), 2));
  await repository.addAsset({ ...asset(hash('3'), 3), mask: true });
  await repository.describeAsset(hash('1'), { credit: 'M. Wren', showCredit: true, focus: { x: 0.2, y: 0.3 } });
  const pictures = await repository.pictures();
  expect(pictures.map((p) => [p.asset.hash, p.usedIn])).toEqual([
    [hash('2'), []],
    [hash('1'), [{ id: 'a', name: 'a' }]],
  ]);
  expect(pictures[1]!.asset).toMatchObject({ credit: 'M. Wren', showCredit: true, focus: { x: 0.2, y: 0.3 } });
});

it.each([
  [{ name: 'QuotaExceededError' }, 'disk-full'],
  [{ name: 'AbortError', inner: { name: 'QuotaExceededError' } }, 'disk-full'],
  [{ name: 'UnknownError' }, 'storage'],
  [null, 'storage'],
])('turns %j into a sentence of its own kind', (error, code) => {
  expect(storageProblem(error)).toMatchObject({ code, message: expect.stringMatching(/stays open here/) as string });
});
