import { ApplicationRef, signal, type Injector } from '@angular/core';
import { provideEffects } from '@ngrx/effects';
import { Store, provideStore } from '@ngrx/store';
import { Dexie } from 'dexie';
import { IDBFactory, IDBKeyRange } from 'fake-indexeddb';
import { Subject } from 'rxjs';
import {
  current,
  newGraphic,
  plainHouseStyle,
  slotsToStart,
  startHistory,
  withEarlier,
  type WordsLayer,
} from '@bright-slot/core';
import { PixelsService } from '../pixels/pixels.service';
import { Database, listedOf } from '../storage/database';
import { GraphicsRepository } from '../storage/graphics-repository';
import { HouseStyleService } from '../storage/house-style.service';
import { Refused } from '../storage/storage-problem';
import { StorageHealth } from '../storage/storage-health.service';
import { rootInjector } from '../testing/root-injector';
import { FieldsService } from './fields.service';
import { GraphicLock } from './graphic-lock';
import { LastWordsService } from './last-words.service';
import { wordsLayer } from './new-layers';
import { OpenGraphic } from './open-graphic';
import { PersistenceEffects } from './persistence.effects';
import { Workbench } from './workbench';
import { WorkbenchActions, workbenchFeature } from './workbench.store';
import { giveGlobalsBack, putGlobals } from '../testing/globals';

const graphicOf = (id: string) =>
  newGraphic({ id, name: `Graphic ${id}`, created: '2026-11-29T00:00:00Z', slot: slotsToStart[0]! });

let db: Database;
let repository: GraphicsRepository;
let injector: Injector & { destroy(): void };
/** A lock that is always to be had, and what it was told. */
let lock: { held: string | null; writing: boolean; told: string[] };
const style = signal({ ...plainHouseStyle, business: 'Ottermill Pottery' });
let stale: Subject<string>;
let left: Subject<string>;

afterEach(giveGlobalsBack);
beforeEach(async () => {
  putGlobals({
    addEventListener: () => undefined,
    localStorage: { length: 0, key: () => null, setItem: () => undefined },
  });
  db = new Database(`test-${Math.random()}`, { indexedDB: new IDBFactory(), IDBKeyRange });
  repository = new GraphicsRepository(db);
  lock = { held: null, writing: true, told: [] };
  [stale, left] = [new Subject(), new Subject()];
  for (const id of ['a', 'b']) await repository.create(startHistory(graphicOf(id), `${id}-0`, 1), 1);
  injector = rootInjector([
    provideStore({ [workbenchFeature.name]: workbenchFeature.reducer }),
    { provide: GraphicsRepository, useValue: repository },
    { provide: StorageHealth, useValue: { look: () => Promise.resolve(), askToKeep: () => Promise.resolve() } },
    { provide: PixelsService, useValue: { forget: () => undefined } },
    { provide: LastWordsService, useValue: { written: Promise.resolve() } },
    { provide: HouseStyleService, useValue: { style, loaded: signal(true) } },
    {
      provide: GraphicLock,
      useValue: {
        stale,
        left,
        hold: (id: string) => {
          lock.held = id;
          return Promise.resolve();
        },
        leave: (id: string) => left.next(id),
        writes: (id?: string) => lock.writing && id !== undefined && lock.held === id,
        changed: (id: string) => lock.told.push(id),
      },
    },
    provideEffects(PersistenceEffects),
  ]);
});
afterEach(async () => {
  injector.destroy();
  db.close();
  await Dexie.delete(db.name).catch(() => undefined);
});

const state = () => injector.get(Store).selectSignal(workbenchFeature.selectWorkbenchState)();
const settled = async () => {
  for (let i = 0; i < 200 && (i < 3 || state().saving > 0 || state().partly); i++)
    await new Promise((r) => setTimeout(r, 5));
  expect(state().saving).toBe(0);
};
const stored = async (id: string) => {
  const opened = await repository.open(id, null);
  if (!opened.ok) throw new Error(opened.problem.message);
  const earlier = await repository.earlier(id);
  return earlier.ok ? withEarlier(opened.value.history, earlier.value.steps) : opened.value.history;
};
const rename = (to: string) => injector.get(Workbench).edit({ type: 'rename', to, name: `Renamed to ${to}` });

describe('opening', () => {
  it('takes the lock, notes the session’s token, and shows what is stored', async () => {
    expect(await injector.get(OpenGraphic).open('a')).toEqual({ ok: true, value: null });
    expect(current(state().history!).name).toBe('Graphic a');
    expect(lock.held).toBe('a');
    expect((await db.graphics.get('a'))!.writer).toBe(state().token);
  });

  it('only reads where another tab has the lock: no token, and no edit is made', async () => {
    lock.writing = false;
    await injector.get(OpenGraphic).open('a');
    expect(state().token).toBeNull();
    rename('Mine');
    await settled();
    expect(current(state().history!).name).toBe('Graphic a');
    expect((await stored('a')).steps.size).toBe(1);
  });

  it('says what is not there, and shows the latest asked for', async () => {
    const opener = injector.get(OpenGraphic);
    expect(await opener.open('c')).toMatchObject({ ok: false, problem: { code: 'no-graphic' } });
    const [first] = await Promise.all([opener.open('a'), opener.open('b')]);
    expect(first).toMatchObject({ ok: false, problem: { code: 'superseded' } });
    expect(current(state().history!).id).toBe('b');
  });

  it('reads anew what another tab changed, and drops its history when it is let go', async () => {
    await injector.get(OpenGraphic).open('a');
    const history = await stored('a');
    const step = { ...history.steps.get('a-0')!, id: 'a-1', parent: 'a-0', name: 'Elsewhere' };
    const changed = { ...step, graphic: { ...step.graphic, name: 'Changed elsewhere' } };
    await db.steps.put(changed);
    await db.heads.put({ id: 'a', step: changed, depth: 0, weight: 0 });
    await db.listed.put(listedOf(changed));
    await db.graphics.update('a', { head: 'a-1' });
    stale.next('a');
    for (let i = 0; i < 100 && state().history!.head !== 'a-1'; i++) await new Promise((r) => setTimeout(r, 5));
    expect(current(state().history!).name).toBe('Changed elsewhere');
    injector.get(OpenGraphic).close('a');
    expect([state().history, state().token]).toEqual([null, null]);
  });
});

describe('the steps before the head, which are read after it', () => {
  const later = async () => {
    await injector.get(OpenGraphic).open('a');
    for (const name of ['One', 'Two']) rename(name);
    await settled();
    injector.get(OpenGraphic).close('a');
    let go = (): void => undefined;
    const held = new Promise<void>((resolve) => (go = resolve));
    const earlier = repository.earlier.bind(repository);
    jest.spyOn(repository, 'earlier').mockImplementation((id) => held.then(() => earlier(id)));
    await injector.get(OpenGraphic).open('a');
    return () => go();
  };
  it('are waited for by undo, and by what is done after it; an edit alone waits for nothing', async () => {
    const go = await later();
    expect(state().history!.steps.size).toBe(1);
    rename('Three');
    expect(current(state().history!).name).toBe('Three');
    injector.get(Workbench).undo();
    expect(current(state().history!).name).toBe('Two');
    injector.get(Workbench).undo();
    rename('Four');
    expect(current(state().history!).name).toBe('Two');
    go();
    await settled();
    injector.get(ApplicationRef).tick();
    await settled();
    expect(current(state().history!).name).toBe('Four');
    const names = [...(await stored('a')).steps.values()].map((s) => [s.graphic.name, s.parent]);
    const one = [...state().history!.steps.values()].find((s) => s.graphic.name === 'One')!;
    expect(names).toContainEqual(['Four', one.id]);
    expect(names).toHaveLength(5);
  });
  it('that cannot be read are no obstacle: it is said, and undo ends where it was opened', async () => {
    jest.spyOn(repository, 'earlier').mockRejectedValue(new Error('gone'));
    await injector.get(OpenGraphic).open('a');
    await settled();
    expect(state().told?.message).toContain('undo goes back to here and no further');
    rename('One');
    injector.get(Workbench).undo();
    injector.get(Workbench).undo();
    expect(current(state().history!).name).toBe('Graphic a');
  });
});

describe('saving', () => {
  it('writes each step, says “saved” only then, and tells the other tabs', async () => {
    await injector.get(OpenGraphic).open('a');
    rename('One');
    expect(state().saving).toBe(1);
    rename('Two');
    await settled();
    expect(state().savedAt).not.toBeNull();
    const there = await stored('a');
    expect([current(there).name, there.steps.size]).toEqual(['Two', 3]);
    expect(lock.told).toContain('a');
  });

  it('a hundred edits in a row are a few writes, and all are there', async () => {
    await injector.get(OpenGraphic).open('a');
    const save = jest.spyOn(repository, 'save');
    for (let i = 0; i < 100; i++) rename(`Name ${i}`);
    await settled();
    expect(save.mock.calls.length).toBeLessThan(20);
    expect((await stored('a')).steps.size).toBe(101);
    expect(current(await stored('a')).name).toBe('Name 99');
  });

  it('what could not be written is written with the next change', async () => {
    await injector.get(OpenGraphic).open('a');
    const full = { code: 'disk-full', message: 'Full.' };
    jest.spyOn(repository, 'save').mockRejectedValueOnce(new Refused(full));
    rename('One');
    await settled();
    expect(state().problem).toEqual(full);
    expect((await stored('a')).steps.size).toBe(1);
    rename('Two');
    await settled();
    expect(state().problem).toBeNull();
    expect((await stored('a')).steps.size).toBe(3);
  });

  it('is tried again when asked, and undone steps stay stored', async () => {
    await injector.get(OpenGraphic).open('a');
    jest.spyOn(repository, 'save').mockRejectedValueOnce(new Error('gone'));
    rename('One');
    await settled();
    injector.get(Store).dispatch(WorkbenchActions.retried());
    await settled();
    expect((await stored('a')).steps.size).toBe(2);
    injector.get(Workbench).undo();
    await settled();
    const there = await stored('a');
    expect([current(there).name, there.steps.size, there.head]).toEqual(['Graphic a', 2, 'a-0']);
  });

  it('never writes over what another session wrote since', async () => {
    await injector.get(OpenGraphic).open('a');
    await repository.open('a', 'another-session');
    rename('Mine');
    await settled();
    expect(state().problem?.code).toBe('elsewhere');
    expect(current(await stored('a')).name).toBe('Graphic a');
  });
});

describe('fields', () => {
  it('follow the house style as no step of their own, until they were sent', async () => {
    await injector.get(OpenGraphic).open('a');
    const fields = injector.get(FieldsService);
    const words: WordsLayer = { ...wordsLayer(graphicOf('a'), '{business}'), id: 'w' };
    injector.get(Workbench).edit({ type: 'add-layer', layer: words, name: 'Words' });
    await settled();
    const now = () => current(state().history!).layers[0] as WordsLayer;
    // Effects run with change detection, which there is none of here: what they call is the amending itself.
    const values = { business: 'Ottermill Pottery' };
    const graphic = injector.get(Workbench).graphic()!;
    injector
      .get(Workbench)
      .amend({ type: 'replace-layer', layer: { ...now(), fields: { values, frozen: false } } }, graphic);
    await settled();
    expect(state().history!.steps.size).toBe(2);
    expect((current(await stored('a')).layers[0] as WordsLayer).fields.values).toEqual(values);
    fields.freeze('b');
    expect(now().fields.frozen).toBe(false);
    fields.freeze('a');
    await settled();
    expect(now().fields).toEqual({ values, frozen: true });
    expect(state().history!.steps.size).toBe(3);
    fields.freeze('a');
    expect(state().history!.steps.size).toBe(3);
  });
});

describe('versions', () => {
  it('are kept with their names, also of a step that is not shown, and lose them again', async () => {
    await injector.get(OpenGraphic).open('a');
    rename('Two');
    await settled();
    const first = state().history!.head;
    const bench = injector.get(Workbench);
    bench.call(first, 'First');
    rename('Three');
    await settled();
    bench.call('a-0', 'As it came');
    await settled();
    const called = async () => [...(await stored('a')).steps.values()].map((s) => [s.graphic.name, s.called]).sort();
    expect(await called()).toEqual([
      ['Graphic a', 'As it came'],
      ['Three', undefined],
      ['Two', 'First'],
    ]);
    bench.call(first, '');
    await settled();
    expect((await called()).map(([, name]) => name)).toEqual(['As it came', undefined, undefined]);
  });
});

describe('several selected', () => {
  const at = (id: string, colour: string) => {
    const layer = wordsLayer(graphicOf('a'), id);
    return {
      ...layer,
      id,
      paragraphs: layer.paragraphs.map((p) => ({ ...p, runs: p.runs.map((r) => ({ ...r, colour })) })),
    };
  };
  const colours = () => current(state().history!).layers.map((l) => (l as WordsLayer).paragraphs[0]!.runs[0]!.colour);

  it('a change of one is a change of all, one step; one that is locked, and one that is not selected, stay', async () => {
    await injector.get(OpenGraphic).open('a');
    const bench = injector.get(Workbench);
    const layers = [
      at('one', '#111111'),
      at('two', '#222222'),
      { ...at('three', '#333333'), locked: true },
      at('four', '#444444'),
    ];
    bench.edit({ type: 'add-layers', layers, name: 'Added' }, ['one', 'two', 'three']);
    expect(bench.several().map((l) => l.id)).toEqual(['one', 'two', 'three']);
    const steps = state().history!.steps.size;
    bench.change({ ...layers[1]!, ...at('two', '#ff0000') }, 'two: colour', 'colour:two');
    expect(colours()).toEqual(['#ff0000', '#ff0000', '#333333', '#444444']);
    expect(state().history!.steps.size).toBe(steps + 1);
    // What is done to one in the list is done to that one alone.
    bench.changeAll([{ ...current(state().history!).layers[0]!, visible: false }], 'one hidden');
    expect(current(state().history!).layers.map((l) => l.visible)).toEqual([false, true, true, true]);
    // What is shown while it is dragged is shown for all.
    bench.draft.set({ type: 'replace-layer', layer: at('two', '#00ff00'), name: 'two: colour' });
    expect(bench.working()!.layers.map((l) => (l as WordsLayer).paragraphs[0]!.runs[0]!.colour)).toEqual([
      '#00ff00',
      '#00ff00',
      '#333333',
      '#444444',
    ]);
    await settled();
  });

  it('is taken hold of by groups, gone into, and let go with its layers', async () => {
    await injector.get(OpenGraphic).open('a');
    const bench = injector.get(Workbench);
    const group = { id: 'G', name: 'Badge' };
    const layers = [{ ...at('one', '#111111'), group }, { ...at('two', '#222222'), group }, at('four', '#444444')];
    bench.edit({ type: 'add-layers', layers, name: 'Added' }, null);
    bench.pick('one');
    expect(bench.selection()).toEqual(['one', 'two']);
    bench.pick('four', true);
    bench.pick('one', true);
    expect(bench.selection()).toEqual(['four']);
    bench.pick('two');
    bench.open(current(state().history!).layers[1]!);
    expect(bench.selectedId()).toBe('two');
    // Inside, another of its own is taken by itself.
    bench.pick('one');
    expect(bench.selection()).toEqual(['one']);
    bench.selectAll();
    bench.edit({ type: 'remove-layer', id: 'two', name: 'two deleted' });
    expect(bench.selection()).toEqual(['one', 'four']);
    await settled();
  });
});
