import { startHistory } from '../graphic/history';
import { blank, committed, words, withLayers } from '../testing/samples';
import {
  Contents,
  planSteps,
  plannedStep,
  readContents,
  readFontLine,
  readGraphicLine,
  type BackupGraphic,
} from './backup';
import { linesIn, valueOf } from '../formats/lines';

async function* values(list: readonly unknown[]) {
  for (const v of list) yield await Promise.resolve(v);
}

describe('lines', () => {
  const pieces = async function* (text: string, size: number) {
    const bytes = new TextEncoder().encode(text);
    for (let i = 0; i < bytes.length; i += size) yield await Promise.resolve(bytes.subarray(i, i + size));
  };
  const read = async (text: string, size: number, most?: number) => {
    const found: (string | null)[] = [];
    for await (const line of linesIn(pieces(text, size), most)) found.push(line);
    return found;
  };
  it('come one by one, in whatever pieces the text comes', async () => {
    for (const size of [1, 2, 3, 7, 1000])
      expect(await read('{"a":"é€😀"}\n\n7\nlast', size)).toEqual(['{"a":"é€😀"}', '7', 'last']);
  });
  it('are left out where they are too long, and what is no JSON is told', async () => {
    expect(await read('1234567890\n12\n', 3, 5)).toEqual([null, '12']);
    expect([valueOf('{"a":1}'), valueOf('{'), valueOf(null)]).toEqual([{ a: 1 }, undefined, undefined]);
  });
});

describe('what a zip says it is', () => {
  const now = { format: 'bright-slot-backup', version: 2, saved: 'x', houseStyle: null };
  const code = (text: string | null) => {
    const read = readContents(text);
    return read.ok ? 'ok' : read.problem.code;
  };
  it('is read in both versions, refused where it is newer, damaged or none', () => {
    expect(code(JSON.stringify(now))).toBe('ok');
    const old = readContents(JSON.stringify({ ...now, version: 1, graphics: [{ id: 'g' }], assets: [] }));
    expect(old.ok && old.value.old).toMatchObject({ graphics: [{ id: 'g' }], slots: [], fonts: [] });
    expect(Contents.safeParse(now).success).toBe(true);
    expect(code(JSON.stringify({ ...now, version: 3 }))).toBe('newer');
    expect(code(JSON.stringify({ ...now, version: 1, graphics: 7 }))).toBe('damaged');
    expect([code(null), code('{"format":')]).toEqual(['not-a-backup', 'not-a-backup']);
  });
  it('lists graphics of both versions', () => {
    const own = { id: 'g', head: 'h', created: '', changed: 1 };
    expect(readGraphicLine({ ...own, next: { a: 'b' } })).toMatchObject({
      entry: 'graphics/g.json',
      next: [['a', 'b']],
    });
    expect(readGraphicLine({ ...own, entry: 'graphics/000001.ndjson', next: [['__proto__', 'b']] })?.next).toEqual([
      ['__proto__', 'b'],
    ]);
    for (const junk of [null, 7, {}, { ...own, head: '' }, { ...own, next: [['a']] }])
      expect(readGraphicLine(junk)).toBeNull();
    expect(readFontLine({ family: 'Lora' })).toBeNull();
  });
});

describe('a graphic’s steps', () => {
  const graphic = { ...withLayers(blank(), words('Hello')), id: 'g' };
  const rename = (to: string) => ({ type: 'rename', to, name: 'Renamed' }) as const;
  const history = committed(
    committed(startHistory(graphic, 's1', 1), rename('Two'), 's2', 2),
    rename('Three'),
    's3',
    3,
  );
  const [one, two, three] = [...history.steps.values()] as [object, object, object];
  const record: BackupGraphic = {
    id: 'g',
    name: 'x',
    entry: 'e',
    head: 's3',
    next: [
      ['s1', 's2'],
      ['s2', 's3'],
    ],
    created: '',
    changed: 3,
  };
  const planOf = async (steps: readonly unknown[], own: Partial<BackupGraphic> = {}) => {
    const plan = await planSteps(values(steps), { ...record, ...own });
    return plan.ok ? plan.value : plan.problem.code;
  };

  it('are planned and brought in under ids of their own, nothing else changed', async () => {
    const plan = await planOf([one, two, three]);
    if (typeof plan === 'string') throw new Error(plan);
    expect(plan).toMatchObject({ head: 's3', passed: 0, name: 'Three' });
    const copy = plannedStep(two, plan, { graphicId: 'n', idOf: (i) => `n-${i}`, rename: (n) => `${n}, again` });
    expect(copy).toMatchObject({
      id: 'n-s2',
      parent: 'n-s1',
      graphicId: 'n',
      graphic: { id: 'n', name: 'Two, again' },
    });
    expect(copy!.graphic.layers).toEqual(graphic.layers);
  });

  it.each<[string, unknown[], Partial<BackupGraphic>, [string, string | null][], string]>([
    [
      'a parent that is itself',
      [{ ...one, parent: 's1' }, two, three],
      {},
      [
        ['s1', null],
        ['s2', 's1'],
        ['s3', 's2'],
      ],
      's3',
    ],
    [
      'a ring',
      [{ ...one, parent: 's3' }, two, three],
      {},
      [
        ['s1', 's3'],
        ['s2', null],
        ['s3', 's2'],
      ],
      's3',
    ],
    [
      'a parent that is nowhere',
      [one, { ...two, parent: 'no' }, three],
      {},
      [
        ['s1', null],
        ['s2', null],
        ['s3', 's2'],
      ],
      's3',
    ],
    [
      'a damaged step between',
      [one, { ...two, graphic: 7 }, three],
      {},
      [
        ['s1', null],
        ['s3', 's1'],
      ],
      's3',
    ],
    [
      'ids that come twice',
      [one, { ...three, id: 's1' }, two],
      { head: 's2' },
      [
        ['s1', null],
        ['s2', 's1'],
      ],
      's2',
    ],
    [
      'a head that is nowhere',
      [one, two],
      { head: 'constructor' },
      [
        ['s1', null],
        ['s2', 's1'],
      ],
      's2',
    ],
    [
      'a head called __proto__',
      [one, { ...two, id: '__proto__' }],
      { head: '__proto__' },
      [
        ['s1', null],
        ['__proto__', 's1'],
      ],
      '__proto__',
    ],
    ['steps of another graphic', [one, { ...two, graphicId: 'h' }], {}, [['s1', null]], 's1'],
  ])('are mended: %s', async (_what, steps, own, parents, head) => {
    const plan = await planOf(steps, own);
    if (typeof plan === 'string') throw new Error(plan);
    expect([...plan.parents].sort()).toEqual([...parents].sort());
    expect(plan.head).toBe(head);
    for (const [id] of plan.parents) {
      // Every step leads to a beginning.
      let at: string | null = id;
      for (let n = 0; at !== null; n++) {
        expect(n).toBeLessThan(steps.length);
        at = plan.parents.get(at) ?? null;
      }
    }
  });

  it('are refused where a newer version wrote one, or none can be read', async () => {
    expect(await planOf([one, { ...two, graphic: { version: 9 } }])).toBe('newer');
    expect(await planOf([{}, null, 7])).toBe('damaged');
    expect(await planOf([])).toBe('damaged');
  });
});
