import { IDBFactory, IDBKeyRange } from 'fake-indexeddb';
import {
  commit,
  current,
  headOf,
  newGraphic,
  plainAppearance,
  slotsToStart,
  startHistory,
  undo,
  withEarlier,
  type Edit,
  type Graphic,
  type History,
  type Step,
} from '@bright-slot/core';
import { Database, type AssetRecord } from './database';
import { GraphicsRepository, type Writer } from './graphics-repository';
import { HistoryStore } from './history-store';
import { keepLastWords, takeLastWords, type LastWords } from './last-words';
import { storageProblem } from './storage-problem';

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
const committed = (h: History, edit: Edit, id: string, at: number): History => {
  const done = commit(h, edit, id, at);
  if (!done.ok) throw new Error(done.problem.message);
  return done.value.history;
};
const rename = (to: string): Edit => ({ type: 'rename', to, name: 'Renamed' });
const opened = async (id: string, token: string | null = 't') => {
  const found = await repository.open(id, token);
  if (!found.ok) throw new Error(found.problem.message);
  const rest = await repository.earlier(id);
  if (!rest.ok) throw new Error(rest.problem.message);
  return {
    ...found.value,
    history: withEarlier(found.value.history, rest.value.steps),
    told: found.value.told || rest.value.told,
  };
};
/** As a step stands in the database, whole, with its graphic changed. */
const put = async (id: string, graphic: (g: Graphic) => unknown) => {
  const step = (await new HistoryStore(db).step(id))!;
  const now = { ...step, graphic: graphic(step.graphic) } as Step;
  await db.steps.put(now);
  const head = await db.heads.get(step.graphicId);
  if (head?.step.id !== id) return;
  await db.heads.put({ ...head, step: now });
  const { version, name, frames } = (typeof now.graphic === 'object' ? now.graphic : {}) as Graphic;
  await db.listed.put({ id: now.graphicId, head: id, version, name, frames });
};
const made = (id: string, picture?: string): History => {
  const graphic = newGraphic({ id, name: id, created: '2026-11-25T00:00:00Z', slot: slotsToStart[0]! });
  const start = startHistory(graphic, `${id}-1`, 1);
  if (!picture) return start;
  return committed(
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
const save = (h: History, at = 1) => repository.create(h, at);

it('gives a history back as it was saved, its head included', async () => {
  const history = made('a', hash('1'));
  await save(history);
  const loaded = await opened('a', null);
  expect(current(loaded.history)).toEqual(current(history));
  expect(loaded.history.next).toEqual(history.next);
  expect((await repository.list()).entries.map((e) => e.id)).toEqual(['a']);
});

it('lists what a newer version wrote apart, refuses to open it, and leaves it as it is', async () => {
  await save(made('a'));
  await put('a-1', (g) => ({ ...g, version: 9, layers: 'later' }));
  const { entries, unreadable } = await repository.list();
  expect(entries).toEqual([]);
  expect(unreadable).toEqual([{ id: 'a', name: 'a', why: expect.stringContaining('newer Bright Slot') as string }]);
  const loaded = await repository.open('a', null);
  expect(!loaded.ok && loaded.problem.code).toBe('newer');
  expect(await db.steps.get('a-1')).toMatchObject({ graphic: { version: 9 } });
});

it('knows a graphic that nobody did anything with; what was done and undone again is work too', async () => {
  await save(made('a'));
  expect(await repository.untouched('a')).toBe(true);
  const { history, writer } = await opened('a');
  const done = committed(history, rename('Worked on'), 'a-2', 2);
  const after = await repository.save(done, [headOf(done)], 2, writer!);
  await repository.save(undo(done), [], 3, after);
  expect((await db.graphics.get('a'))!.head).toBe('a-1');
  expect(await repository.untouched('a')).toBe(false);
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
    expect((await repository.open('late', null)).ok).toBe(true);
    expect(await db.assets.count()).toBe(1);
  });
  it('keeps pictures that only an earlier step uses, that only unreadable steps use, or that came in just now', async () => {
    const history = made('a', hash('1'));
    await save(committed(history, { type: 'remove-layer', id: 'p', name: 'Deleted' }, 'a-3', 3));
    await save(made('b'));
    // As a newer version writes it: the index is kept by whoever writes.
    await put('b-1', (g) => ({ ...g, version: 9, later: hash('2') }));
    await db.uses.put({ graphicId: 'b', what: hash('2') });
    await repository.addAsset(asset(hash('1'), 0));
    await repository.addAsset(asset(hash('2'), 0));
    await repository.addAsset(asset(hash('3'), now - MINUTE));
    await repository.addAsset(asset(hash('4'), 0));
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

describe('one session writes', () => {
  const change = async (from: History, writer: Writer, name: string) => {
    const next = committed(from, rename(name), crypto.randomUUID(), 5);
    await repository.save(next, [headOf(next)], 5, writer);
    return next;
  };
  const codeOf = (work: Promise<unknown>) =>
    work.then(
      () => 'saved',
      (e: unknown) => storageProblem(e).code,
    );

  it('who opened it last is the writer; a stale history is refused and nothing of it written', async () => {
    await save(made('a'));
    const first = await opened('a', 'one');
    const second = await opened('a', 'two');
    await change(second.history, second.writer!, 'Second');
    const steps = await db.steps.count();
    expect(await codeOf(change(first.history, first.writer!, 'First'))).toBe('elsewhere');
    expect(await db.steps.count()).toBe(steps);
    expect(current((await opened('a', null)).history).name).toBe('Second');
    // Reading takes nothing from the writer.
    const third = await change(
      (await opened('a', null)).history,
      { token: 'two', head: (await db.graphics.get('a'))!.head, next: new Map() },
      'Third',
    );
    expect(current(third).name).toBe('Third');
  });
  it('with the right token, but over another head, is refused too', async () => {
    await save(made('a', hash('1')));
    const { history, writer } = await opened('a');
    await db.graphics.update('a', { head: 'a-1' });
    expect(await codeOf(change(history, writer!, 'Late'))).toBe('elsewhere');
  });
  it('a deleted graphic is not listed again by a save that comes late, nor one that was removed', async () => {
    await save(made('a'));
    const { history, writer } = await opened('a');
    await repository.setDeleted('a', 9);
    expect(await codeOf(change(history, writer!, 'Late'))).toBe('gone');
    expect((await repository.list()).entries).toEqual([]);
    await repository.removeForGood('a');
    expect(await codeOf(change(history, writer!, 'Late'))).toBe('gone');
    expect(await db.graphics.count()).toBe(0);
  });
  it('what could not be opened again is not written', async () => {
    await save(made('a'));
    const { history, writer } = await opened('a');
    const head = headOf(history);
    const broken = {
      ...head,
      id: 'a-9',
      graphic: { ...head.graphic, backdrop: { kind: 'colour', colour: 'red' } },
    } as Step;
    const next = { ...history, steps: new Map(history.steps).set('a-9', broken), head: 'a-9' };
    expect(await codeOf(repository.save(next, [broken], 3, writer!))).toBe('unsound');
    expect(await db.steps.get('a-9')).toBeUndefined();
    await expect(repository.create({ ...next, steps: new Map([['a-9', broken]]) }, 3)).rejects.toThrow(
      'could not be opened',
    );
  });
});

describe('what cannot be read', () => {
  it('is passed over: the latest state that can be read is listed, opened and said', async () => {
    const history = committed(made('a', hash('1')), rename('Last'), 'a-3', 3);
    await save(history);
    await put('a-3', () => 'torn');
    expect((await repository.list()).entries.map((e) => e.name)).toEqual(['a']);
    const found = await opened('a');
    expect(current(found.history).layers).toHaveLength(1);
    expect(found.told).toContain('latest that can: “Added”');
    // And can be worked on.
    const next = committed(found.history, rename('Onwards'), 'a-4', 4);
    await repository.save(next, [headOf(next)], 4, found.writer!);
    expect(current((await opened('a')).history).name).toBe('Onwards');
  });
  it('can be saved as a file and deleted', async () => {
    await save(made('a'));
    await put('a-1', () => 'torn');
    expect((await repository.list()).unreadable.map((u) => u.id)).toEqual(['a']);
    expect((JSON.parse(await repository.raw('a')) as { steps: unknown[] }).steps).toHaveLength(1);
    await repository.removeForGood('a');
    expect([await db.graphics.count(), await db.steps.count()]).toEqual([0, 0]);
  });
});

describe('what pages had not written when they went', () => {
  const kept = async (over: Partial<LastWords> = {}) => {
    await save(made('a'));
    const { history, writer } = await opened('a');
    const next = committed(history, rename('Typed'), 'a-2', 2);
    const words: LastWords = {
      graphicId: 'a',
      token: writer!.token,
      head: 'a-2',
      next: [...next.next],
      steps: [headOf(next)],
      at: 3,
      ...over,
    };
    return words;
  };
  it('is written at the next start', async () => {
    expect(await repository.recover([await kept()])).toBe(1);
    expect(current((await opened('a')).history).name).toBe('Typed');
  });
  it('stands back behind what another wrote, and is nothing where it cannot be read', async () => {
    const words = await kept();
    await opened('a', 'another');
    expect(await repository.recover([words, { ...words, token: 'another', steps: ['torn'] }])).toBe(0);
    expect(current((await opened('a')).history).name).toBe('a');
  });
  it('goes through the browser’s small store and comes out once', async () => {
    const map = new Map<string, string>();
    const storage = {
      get length() {
        return map.size;
      },
      key: (i: number) => [...map.keys()][i] ?? null,
      getItem: (k: string) => map.get(k) ?? null,
      setItem: (k: string, v: string) => void map.set(k, v),
      removeItem: (k: string) => void map.delete(k),
    } as Storage;
    const words = await kept();
    map.set('bright-slot-last-words/torn', '{');
    map.set('other', 'x');
    expect(keepLastWords(words, storage)).toBe(true);
    expect(takeLastWords(storage)).toEqual([JSON.parse(JSON.stringify(words))]);
    expect([...map.keys()]).toEqual(['other']);
    const full = {
      ...storage,
      setItem: () => {
        throw new Error('full');
      },
    } as unknown as Storage;
    expect(keepLastWords(words, full)).toBe(false);
  });
});
