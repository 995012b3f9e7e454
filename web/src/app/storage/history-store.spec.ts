import { Dexie } from 'dexie';
import { IDBFactory, IDBKeyRange } from 'fake-indexeddb';
import {
  amend,
  commit,
  current,
  goTo,
  headOf,
  isPatch,
  newGraphic,
  redo,
  slotsToStart,
  startHistory,
  undo,
  withEarlier,
  type Edit,
  type History,
  type Step,
} from '@bright-slot/core';
import { Database } from './database';
import { GraphicsRepository, type Writer } from './graphics-repository';
import { HistoryStore, redoToWrite } from './history-store';

const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
/** mulberry32, Tommy Ettinger, public domain. */
const random = (seed: number) => () => {
  let t = (seed += 0x6d2b79f5);
  t = Math.imul(t ^ (t >>> 15), t | 1);
  t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
};
const open = (factory = new IDBFactory()) => new Database('test', { indexedDB: factory, IDBKeyRange });
const blank = (id: string) => newGraphic({ id, name: id, created: '', slot: slotsToStart[0]! });
const committed = (h: History, edit: Edit, id: string, at: number): History => {
  const done = commit(h, edit, id, at);
  if (!done.ok) throw new Error(done.problem.message);
  return done.value.history;
};

/** A session as the workbench has it: what is in hand, what of it is on disk. */
class Session {
  constructor(
    readonly repository: GraphicsRepository,
    public history: History,
    private writer: Writer,
  ) {}

  static async of(repository: GraphicsRepository, id: string, token: string): Promise<Session> {
    const opened = await repository.open(id, token);
    if (!opened.ok) throw new Error(opened.problem.message);
    return new Session(repository, opened.value.history, opened.value.writer!);
  }

  async readEarlier(): Promise<void> {
    const rest = await this.repository.earlier(current(this.history).id);
    if (!rest.ok) throw new Error(rest.problem.message);
    const all = withEarlier(this.history, rest.value.steps);
    const next = new Map([...all.next].filter(([from]) => !this.history.next.has(from)));
    for (const [from, to] of this.writer.next) next.set(from, to);
    this.writer = { ...this.writer, next };
    this.history = all;
  }

  async to(next: History): Promise<void> {
    const changed = headOf(next) === this.history.steps.get(next.head) ? [] : [headOf(next)];
    this.writer = await this.repository.save(next, changed, 1, this.writer);
    this.history = next;
  }
}

it.each([1, 2, 3])(
  'a walk of 250 acts, reopened every 25 (seed %i), is stored step for step as it is in hand',
  async (seed) => {
    const r = random(seed);
    const db = open();
    const repository = new GraphicsRepository(db);
    await repository.create(startHistory(blank('a'), 's', 0), 0);
    let session = await Session.of(repository, 'a', 'one');
    let whole: History = session.history;
    for (let i = 1; i <= 250; i++) {
      if (i % 25 === 0) {
        session = await Session.of(repository, 'a', `t${i}`);
        // Now and then something is done before the rest is read, as someone quick does.
        if (r() < 0.5)
          await session.to(
            committed(session.history, { type: 'rename', to: `Quick ${i}`, name: 'Renamed' }, `q${i}`, i),
          );
        else if (r() < 0.5) await session.to(amend(session.history, { type: 'set-backdrop', backdrop: colour(r) }));
        await session.readEarlier();
        for (const [id, step] of whole.steps)
          if (id !== session.history.head) expect(plain(session.history.steps.get(id))).toEqual(plain(step));
      }
      const h = session.history;
      const ids = [...h.steps.keys()];
      const draw = r();
      if (draw < 0.2) await session.to(undo(h));
      else if (draw < 0.3) await session.to(redo(h));
      else if (draw < 0.4) await session.to(goTo(h, ids[Math.floor(r() * ids.length)]!));
      else if (draw < 0.55) await session.to(amend(h, { type: 'set-backdrop', backdrop: colour(r) }));
      else {
        const text = 'x'.repeat(Math.floor(r() * 40));
        const edit: Edit =
          r() < 0.5
            ? { type: 'rename', to: `Name ${i} ${text}`, name: 'Renamed', ...(r() < 0.5 ? { merge: 'name' } : {}) }
            : { type: 'set-backdrop', backdrop: colour(r), name: 'Backdrop' };
        await session.to(committed(h, edit, `s${i}`, i));
      }
      whole = session.history;
    }
    const again = await Session.of(repository, 'a', 'last');
    expect(plain(current(again.history))).toEqual(plain(current(whole)));
    await again.readEarlier();
    expect(again.history.head).toBe(whole.head);
    expect(again.history.next).toEqual(whole.next);
    for (const [id, step] of whole.steps) expect(plain(again.history.steps.get(id))).toEqual(plain(step));
    expect((await db.steps.toArray()).filter(isPatch).length).toBeGreaterThan(whole.steps.size / 2);
    // What a backup would hold.
    const told: unknown[] = [];
    for await (const step of new HistoryStore(db).wholes('a')) told.push(step);
    expect(told).toHaveLength(whole.steps.size);
    for (const step of told as Step[]) expect(plain(step.graphic)).toEqual(plain(whole.steps.get(step.id)!.graphic));
    db.close();
  },
);

const colour = (r: () => number) =>
  ({
    kind: 'colour',
    colour: `#${Math.floor(r() * 0xffffff)
      .toString(16)
      .padStart(6, '0')}`,
  }) as const;

it('what could not be written is written with the next, as a patch of what is there', async () => {
  const db = open();
  const repository = new GraphicsRepository(db);
  await repository.create(startHistory(blank('a'), 's0', 0), 0);
  const opened = await repository.open('a', 't');
  if (!opened.ok || !opened.value.writer) throw new Error();
  const one = committed(opened.value.history, { type: 'rename', to: 'One', name: 'Renamed' }, 's1', 1);
  jest.spyOn(db.graphics, 'put').mockImplementationOnce(() => Promise.reject(new Error('no room')) as never);
  await expect(repository.save(one, [headOf(one)], 1, opened.value.writer)).rejects.toThrow('no room');
  const two = committed(one, { type: 'rename', to: 'Two', name: 'Renamed' }, 's2', 2);
  await repository.save(two, [headOf(one), headOf(two)], 2, opened.value.writer);
  const rest = await repository.earlier('a');
  expect(rest.ok && rest.value.steps.map((s) => s.graphic.name)).toEqual(['a', 'One', 'Two']);
  expect((await db.steps.toArray()).map(isPatch)).toEqual([false, true, true]);
  db.close();
});

it('a step in the middle that cannot be read takes what stands on it along, up to the next whole one, and it is said', async () => {
  const db = open();
  const repository = new GraphicsRepository(db);
  let h = startHistory(blank('a'), 's0', 0);
  for (let i = 1; i <= 5; i++) h = committed(h, { type: 'rename', to: `N${i}`, name: 'Renamed' }, `s${i}`, i);
  await repository.create(h, 0);
  await db.steps.put({ ...h.steps.get('s4')! });
  await db.steps.update('s2', { patch: 'torn' } as never);
  const session = await Session.of(repository, 'a', 't');
  expect(current(session.history).name).toBe('N5');
  await session.readEarlier();
  expect([...session.history.steps.keys()].sort()).toEqual(['s0', 's1', 's4', 's5']);
  expect(current(undo(undo(session.history))).name).toBe('N1');
  const rest = await repository.earlier('a');
  expect(rest.ok && rest.value.told).toContain('2 earlier steps');
  db.close();
});

it('a database of version 4 is brought over: heads apart, redo where it led, what is used in an index', async () => {
  const factory = new IDBFactory();
  const old = new Dexie('test', { indexedDB: factory, IDBKeyRange });
  old.version(4).stores({
    graphics: 'id, changed',
    steps: 'id, graphicId',
    assets: 'hash, added',
    previews: 'graphicId',
    settings: 'key',
    exports: 'name, graphicId',
    slots: 'id',
    fonts: 'hash, family',
  });
  const hash = 'a'.repeat(64);
  const words = { id: 'w', role: 'words', paragraphs: [{ runs: [{ text: 'x', face: { family: 'Lora' } }] }], hash };
  const graphic = { ...blank('a') };
  const steps = [
    { id: 's0', graphicId: 'a', parent: null, name: 'Made', at: 0, graphic: { ...graphic, layers: [words] } },
    { id: 's1', graphicId: 'a', parent: 's0', name: 'Renamed', at: 1, graphic: { ...graphic, name: 'One' } },
    { id: 's2', graphicId: 'a', parent: 's0', name: 'Renamed', at: 2, graphic: { ...graphic, name: 'Two' } },
  ];
  await old.table('steps').bulkAdd(steps);
  await old.table('graphics').add({ id: 'a', head: 's1', next: { s0: 's1' }, created: '', changed: 1 });
  old.close();
  const db = open(factory);
  const repository = new GraphicsRepository(db);
  expect((await repository.list()).entries.map((e) => e.name)).toEqual(['One']);
  expect(await new HistoryStore(db).redo('a')).toEqual(new Map([['s0', 's1']]));
  expect((await db.uses.toArray()).map((u) => u.what).sort()).toEqual([hash, 'font/Lora'].sort());
  const session = await Session.of(repository, 'a', 't');
  await session.to(committed(session.history, { type: 'rename', to: 'Three', name: 'Renamed' }, 's3', 3));
  expect(isPatch(await db.steps.get('s3'))).toBe(true);
  db.close();
});

it('redo is written where it cannot be told from what was made last', () => {
  const before = new Map([['a', 'b']]);
  const now = new Map([...before, ['b', 'c'], ['d', 'e']]);
  expect(redoToWrite(before, now, new Set(['c']))).toEqual([['d', 'e']]);
  expect(redoToWrite(before, new Map([['a', 'x']]), new Set(['x']))).toEqual([['a', 'x']]);
});
