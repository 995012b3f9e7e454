import { applyPatch } from 'rfc6902';
import { anyLayers } from '../testing/any';
import { blank, committed, random, withLayers, words } from '../testing/samples';
import { GRAPHIC_VERSION } from './graphic';
import { headOf, historyFrom, readSteps, startHistory, withEarlier, type History, type Step } from './history';
import { patchBetween, patched } from './json-patch';
import { Unpacking, inOrder, isPatch, packStep, unpackStep, type Stored } from './stored-step';

/** A walk as people make it: things added, replaced, put elsewhere, taken away, now and then from an earlier step on. */
function walk(seed: number, count: number): History {
  const r = random(seed);
  const make = anyLayers(r);
  let h = startHistory({ ...blank(), layers: [make.layer('l0', 'w')] }, 's0', 0);
  for (let i = 1; i <= count; i++) {
    if (r() < 0.05) h = { ...h, head: [...h.steps.keys()][Math.floor(r() * h.steps.size)]! };
    const layers = headOf(h).graphic.layers;
    const pick = layers[Math.floor(r() * layers.length)];
    const draw = r();
    if (!pick || (draw < 0.25 && layers.length < 20))
      h = committed(h, { type: 'add-layer', layer: make.layer(`l${i}`, 'w'), name: 'Added' }, `s${i}`, i);
    else if (draw < 0.35) h = committed(h, { type: 'remove-layer', id: pick.id, name: 'Deleted' }, `s${i}`, i);
    else if (draw < 0.5) {
      const to = [...layers].sort(() => r() - 0.5);
      const graphic = { ...headOf(h).graphic, layers: to };
      const step: Step = { ...headOf(h), id: `s${i}`, parent: h.head, at: i, graphic };
      h = { steps: new Map(h.steps).set(step.id, step), head: step.id, next: h.next };
    } else if (draw < 0.6)
      h = committed(h, { type: 'set-backdrop', backdrop: make.fill(), name: 'Backdrop' }, `s${i}`, i);
    else {
      const { id } = pick;
      const layer = draw < 0.75 ? { ...pick, name: `N${i}` } : { ...make.layer(id, 'w') };
      h = committed(h, { type: 'replace-layer', layer, name: 'Changed' }, `s${i}`, i);
    }
  }
  return h;
}

/** A history's steps as they would be stored, in the order they were made. */
function packed(h: History) {
  const stored = new Map<string, Stored>();
  return [...h.steps.values()].map((step) => {
    const made = packStep(step, step.parent === null ? undefined : stored.get(step.parent));
    stored.set(step.id, made.stored);
    return made.record;
  });
}
const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
const wholes = (records: readonly unknown[]) => {
  const unpacking = new Unpacking();
  return [...inOrder(records)].map((r) => unpacking.whole(r));
};

it.each([1, 2, 3, 4])('a random walk (seed %i) comes back step for step, whatever order it is read in', (seed) => {
  const h = walk(seed, 400);
  const records = plain(packed(h));
  expect(records.filter(isPatch).length).toBeGreaterThan(200);
  const r = random(seed);
  const { steps, passed } = readSteps(wholes(records.sort(() => r() - 0.5)), 'g');
  expect(passed).toBe(0);
  const back = historyFrom(steps, h.head, h.next)!;
  expect(back.steps.size).toBe(h.steps.size);
  for (const [id, step] of h.steps) expect(plain(back.steps.get(id))).toEqual(plain(step));
});

it('the patches are RFC 6902’s: the package rfc6902 applies them to the same outcome', () => {
  const h = walk(5, 400);
  let tried = 0;
  for (const record of packed(h)) {
    if (!('patch' in record)) continue;
    const document = plain(h.steps.get(record.parent)!.graphic);
    expect(applyPatch(document, plain(record.patch)).filter((e) => e !== null)).toEqual([]);
    expect(document).toEqual(plain(h.steps.get(record.id)!.graphic));
    tried++;
  }
  expect(tried).toBeGreaterThan(200);
});

it('5 000 steps of a graphic with 20 layers take under 3 MB as JSON, and no step stands on more than 200 patches', () => {
  const r = random(6);
  const layers = Array.from({ length: 20 }, (_, i) => words(`w${i}`, { name: `Line ${i}` }));
  const h = startHistory(withLayers(blank(), ...layers), 's0', 0);
  const steps = new Map(h.steps);
  let last = headOf(h);
  for (let i = 1; i <= 5000; i++) {
    const { graphic } = last;
    const at = Math.floor(r() * 20);
    const moved = graphic.layers.map((l, k) => (k === at && 'x' in l ? { ...l, x: 1000 * r(), y: 400 * r() } : l));
    const id = `${String(i).padStart(8, '0')}-0000-4000-8000-000000000000`;
    last = { ...last, id, parent: last.id, at: i, graphic: { ...graphic, layers: moved } };
    steps.set(id, last);
  }
  const records = packed({ ...h, steps });
  const letters = JSON.stringify(records).length;
  expect(letters).toBeLessThan(3_000_000);
  expect(Math.max(...records.map((s) => ('depth' in s ? s.depth : 0)))).toBeLessThanOrEqual(200);
});

describe('what a patch stands on', () => {
  const start = startHistory(blank(), 's0', 0);
  const h = committed(start, { type: 'rename', to: 'Two', name: 'Renamed' }, 's1', 1);
  const [first, second] = packed({ ...h, steps: new Map(h.steps) }) as [unknown, unknown];
  it('may be gone or another: then it is passed over, and what it is stays as it is stored', () => {
    expect(isPatch(second)).toBe(true);
    expect(unpackStep(second, undefined)).toBe(second);
    expect(wholes([second])).toEqual([second]);
    expect(readSteps(wholes([first, { ...(second as object), parent: 's9' }]), 'g')).toMatchObject({ passed: 1 });
  });
  it('is of the same version; what is to stand on an older one is whole', () => {
    const older = { ...blank(), version: GRAPHIC_VERSION - 1 } as never;
    expect(packStep(headOf(h), { graphic: older, depth: 0, weight: 0 }).record).toBe(headOf(h));
    expect(unpackStep(second, older)).toBe(second);
  });
  it('never reaches what every object inherits, and is none where it is no patch', () => {
    for (const path of ['/__proto__/x', '/constructor', '/layers/0/prototype'])
      expect(unpackStep({ ...(second as object), patch: [{ op: 'add', path, value: 1 }] }, blank())).not.toHaveProperty(
        'graphic',
      );
    expect(({} as { x?: unknown }).x).toBeUndefined();
    expect(patched(blank(), [{ op: 'remove', path: '/layers/7/name' }])).toBeNull();
  });
  it('may be itself, or a ring: each comes once and none is whole', () => {
    const ring = [
      { ...(second as object), id: 'a', parent: 'b' },
      { ...(second as object), id: 'b', parent: 'a' },
    ];
    expect([...inOrder(ring)]).toHaveLength(2);
    expect(readSteps(wholes(ring), 'g').steps).toEqual([]);
  });
});

it('a stroke of 5 000 points is patched by what changed in it, and quickly enough to be drawn again and again', () => {
  const points = Array.from({ length: 5000 }, (_, i) => ({ x: i / 5000, y: 0.5 }));
  const before = { strokes: [{ points }] };
  const moved = points.map((p, i) => (i === 7 ? { ...p, y: 0.6 } : p));
  expect(patchBetween(before, { strokes: [{ points: moved }] })).toEqual([
    { op: 'replace', path: '/strokes/0/points/7/y', value: 0.6 },
  ]);
  const longer = [...points, { x: 1, y: 1 }];
  expect(patchBetween(before, { strokes: [{ points: longer }] })).toHaveLength(1);
});

describe('a head that was read first', () => {
  it('goes into the rest: what is in hand is newer, redo leads where it did', () => {
    const h = walk(7, 60);
    const alone: History = { steps: new Map([[h.head, headOf(h)]]), head: h.head, next: h.next };
    const next = committed(alone, { type: 'rename', to: 'Newer', name: 'Renamed' }, 'new', 100);
    const joined = withEarlier(next, [...h.steps.values()]);
    expect(joined.steps.size).toBe(h.steps.size + 1);
    expect(joined.head).toBe('new');
    expect(headOf(joined)).toBe(headOf(next));
    expect(joined.next.get(h.head)).toBe('new');
  });
  it('follows what its parent followed where that cannot be read', () => {
    let h = startHistory(blank(), 's0', 0);
    for (const i of [1, 2]) h = committed(h, { type: 'rename', to: `N${i}`, name: 'Renamed' }, `s${i}`, i);
    const alone: History = { steps: new Map([['s2', headOf(h)]]), head: 's2', next: new Map() };
    const records = [...h.steps.values()].map((s) => (s.id === 's1' ? { ...s, graphic: 'torn' } : s));
    expect(headOf(withEarlier(alone, readSteps(records, 'g').steps)).parent).toBe('s0');
  });
});
