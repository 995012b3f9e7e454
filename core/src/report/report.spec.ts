import { applyEdit } from '../graphic/edit';
import { type Graphic } from '../graphic/graphic';
import { frameOf } from '../graphic/frame';
import { blank, photo, random, withLayers, words } from '../testing/samples';
import { contextOf } from '../testing/context';
import { realShaper } from '../testing/type';
import type { Shaper } from '../words/shaper';
import { createReporter, fitWord, fitWordOfAll, reportAtRest, rules } from './report';
import type { Finding, ReportContext, Rule } from './rule';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

const context = (graphic: Graphic): ReportContext => contextOf(graphic, shaper, { legibility: undefined });
const find = (graphic: Graphic, rule: string): Finding[] =>
  createReporter()(context(graphic)).findings.filter((f) => f.id.startsWith(rule));

describe('covered', () => {
  it('finds nothing under a covering photo, or a backdrop, or where transparency is kept', () => {
    expect(find(withLayers(blank(), photo()), 'covered')).toEqual([]);
    expect(find({ ...blank(), backdrop: { kind: 'colour', colour: '#ffffff' } }, 'covered')).toEqual([]);
    expect(find(blank('logo'), 'covered')).toEqual([]);
  });
  it('does not say that nothing covers a canvas which a photo with a fade or round corners covers in part', () => {
    const fading = photo({ fades: [{ kind: 'side', side: 'right', length: 0.3 }] });
    const round = photo({ corners: { kind: 'round' }, place: { mode: 'free', x: 0, y: 0, width: 470 } });
    for (const layer of [fading, round])
      expect(find(withLayers(blank(), layer), 'covered')[0]!.title).toBe('The canvas is not covered to the last pixel');
    expect(find(withLayers(blank(), words('x')), 'covered')[0]!.title).toBe('Nothing covers the canvas');
  });
  it('names the side and the px, and its fix covers', () => {
    const g = withLayers(blank(), photo({ place: { mode: 'free', x: -2, y: -100, width: 940 } }));
    const [finding, ...more] = find(g, 'covered');
    expect(more).toEqual([]);
    expect(finding).toMatchObject({
      title: 'The photo stops 2 px short at the right',
      at: { x: 938, y: 0, width: 2, height: 198 },
      layer: 'p',
    });
    expect(find(applyEdit(g, finding!.fixes[0]!.edit), 'covered')).toEqual([]);
  });
  it('offers the page’s ground where only words or a logo stand, which mends it', () => {
    const g = withLayers(blank(), words('Ottermill'));
    const fix = find(g, 'covered')[0]!.fixes.find((f) => f.label.includes('page’s ground'))!;
    const after = applyEdit(g, fix.edit);
    expect(after.backdrop).toEqual({ kind: 'colour', colour: frameOf(g).slot.ground });
    expect(find(after, 'covered')).toEqual([]);
    expect(find(blank(), 'covered')[0]!.fixes).toEqual([]);
  });
  it('sees half a pixel, and nothing in rounding noise', () => {
    expect(
      find(withLayers(blank(), photo({ place: { mode: 'free', x: 0.5, y: -100, width: 940 } })), 'covered')[0]?.title,
    ).toBe('The photo stops 0.5 px short at the left');
    expect(
      find(withLayers(blank(), photo({ place: { mode: 'free', x: 1e-7, y: -100, width: 940 } })), 'covered'),
    ).toEqual([]);
  });
  it('adds photos up: two halves cover', () => {
    const left = photo({ id: 'l', place: { mode: 'free', x: 0, y: 0, width: 480 } });
    const right = photo({ id: 'r', place: { mode: 'free', x: 470, y: -10, width: 470 } });
    expect(find(withLayers(blank(), left, right), 'covered')).toEqual([]);
    expect(find(withLayers(blank(), left, { ...right, visible: false }), 'covered')[0]?.title).toContain(
      '460 px short at the right',
    );
  });
  it('calls an empty canvas empty, and a picture with holes no cover', () => {
    expect(find(blank(), 'covered')[0]?.title).toBe('The canvas is empty');
    expect(find(withLayers(blank(), photo({ opaque: false })), 'covered')).toHaveLength(1);
  });
});

describe('enlarged', () => {
  it('finds a photo drawn larger than its own pixels, in figures, and its fix mends it', () => {
    const small = photo({ natural: { width: 470, height: 300 } });
    const [finding] = find(withLayers(blank(), small), 'enlarged');
    expect(finding).toMatchObject({ title: 'Shelf is drawn at 200 % of its own pixels', group: 'before' });
    const free = photo({ natural: { width: 100, height: 50 }, place: { mode: 'free', x: 0, y: 0, width: 150 } });
    const [second] = find(withLayers(blank(), free), 'enlarged');
    expect(find(applyEdit(withLayers(blank(), free), second!.fixes[0]!.edit), 'enlarged')).toEqual([]);
  });
  it('is quiet at its own pixels and for drawings', () => {
    expect(find(withLayers(blank(), photo({ natural: { width: 940, height: 198 } })), 'enlarged')).toEqual([]);
    expect(find(withLayers(blank(), photo({ natural: { width: 10, height: 10 }, vector: true })), 'enlarged')).toEqual(
      [],
    );
  });
  it('counts the densest file’s pixels, and its fix leaves nothing to find: 200 random pictures at 1×, 2× and 3× (seed 52)', () => {
    const r = random(52);
    let fixed = 0;
    for (let n = 0; n < 200; n++) {
      const density = ([1, 2, 3] as const)[n % 3]!;
      const own = blank();
      const g: Graphic = {
        ...own,
        frames: [{ ...frameOf(own), slot: { ...frameOf(own).slot, densities: [density] } }],
      };
      const natural = { width: Math.round(100 + r() * 4000), height: Math.round(100 + r() * 3000) };
      const cropped = n % 4 === 1;
      const layer = photo({
        natural,
        crop: cropped ? { x: 5, y: 5, width: natural.width / 2, height: natural.height / 2 } : null,
        place:
          n % 2 && !cropped
            ? { mode: 'cover', focus: { x: r(), y: r() }, zoom: 1 + r() * 3 }
            : { mode: 'free', x: r() * 100, y: r() * 100, width: 20 + r() * 1800, ...(n % 5 ? {} : { stretch: 1.2 }) },
      });
      const [finding] = find(withLayers(g, layer), 'enlarged');
      for (const fix of finding?.fixes ?? []) {
        expect(find(applyEdit(withLayers(g, layer), fix.edit), 'enlarged')).toEqual([]);
        fixed++;
      }
    }
    expect(fixed).toBeGreaterThan(60);
  });
  it('counts only a crop’s own pixels', () => {
    const g = withLayers(
      blank(),
      photo({ place: { mode: 'free', x: 0, y: 0, width: 940 }, crop: { x: 0, y: 0, width: 470, height: 99 } }),
    );
    expect(find(g, 'enlarged')[0]?.title).toContain('200 %');
  });
});

/** What the table of rules says of one. */
const told = { about: 'Words', what: '', by: [], mends: '' } as const;

it('while a rule waits for a fact, what it found last stands, for layers that are there still, and for this graphic only', () => {
  const words: Rule = {
    ...told,
    id: 'words',
    passed: 'Words were judged',
    needs: ['layers', 'legibility'],
    judge: ({ legibility }) =>
      legibility?.map(({ layer }) => ({
        id: `words:${layer}`,
        group: 'before' as const,
        title: layer,
        detail: '',
        at: null,
        layer,
        fixes: [],
      })) ?? null,
  };
  const judge = createReporter([words]);
  const g = withLayers(blank(), photo({ id: 'a' }), photo({ id: 'b' }));
  const titles = (graphic: Graphic, legibility?: ReportContext['legibility']) => {
    const { findings, waiting } = judge({ ...context(graphic), legibility });
    return [findings.map((f) => f.title).join(), waiting];
  };
  expect(
    titles(g, [
      { layer: 'a', letters: [] },
      { layer: 'b', letters: [] },
    ]),
  ).toEqual(['a,b', false]);
  expect(titles(g)).toEqual(['a,b', true]);
  expect(titles({ ...g, layers: g.layers.slice(1) })).toEqual(['b', true]);
  expect(titles({ ...g, id: 'another' })).toEqual(['', true]);
  expect(titles(g)).toEqual(['', true]);
});

it('a rule runs again only when something it needs changed', () => {
  let runs = 0;
  const rule: Rule<'layers'> = {
    ...told,
    id: 'count',
    passed: 'Counted',
    needs: ['layers'],
    judge: () => (runs++, []),
  };
  const judge = createReporter([rule]);
  const g = withLayers(blank(), words('x'));
  judge(context(g));
  judge(context({ ...g, name: 'Another name' }));
  expect(runs).toBe(1);
  judge(context({ ...g, layers: [...g.layers] }));
  expect(runs).toBe(2);
});

it('says the same where it rests between one rule and the next, and goes on only then', async () => {
  const g = withLayers(blank(), photo({ id: 'a' }), words('“Autumn glazes'));
  const asked: number[] = [];
  let go = (): void => undefined;
  const rest = () => {
    asked.push(asked.length);
    return asked.length === 3 ? new Promise<void>((done) => (go = done)) : undefined;
  };
  const judged = reportAtRest(context(g), rest);
  await new Promise((done) => setTimeout(done));
  expect(asked).toHaveLength(3);
  go();
  const report = await judged;
  expect(report.findings.length).toBeGreaterThan(0);
  expect(report).toEqual(createReporter()(context(g)));
  expect(asked).toHaveLength(rules.length);
});

it('says the fit in a word', () => {
  const at = (...groups: ('before' | 'time')[]) =>
    fitWord({
      passed: [],
      left: [],
      waiting: false,
      findings: groups.map((group, i) => ({ id: `${i}`, group, title: '', detail: '', at: null, fixes: [] })),
    });
  expect([at(), at('time'), at('before', 'time', 'before')]).toEqual(['fits', '1 to look at', '2 to fix']);
});

describe('the fit word of several', () => {
  it('is of those to be mended first, then of those to be looked at', () => {
    expect(fitWordOfAll(['fits', '1 to fix', '12 to look at', '3 to fix'])).toBe('2 of 4 to fix');
    expect(fitWordOfAll(['fits', '1 to look at', 'fits'])).toBe('1 of 3 to look at');
    expect(fitWordOfAll(['fits', 'fits'])).toBe('all fit');
  });
  it('is none while one is not known, cannot be painted, or there are none', () => {
    expect([fitWordOfAll(['fits', undefined]), fitWordOfAll(['fits', 'cannot be painted']), fitWordOfAll([])]).toEqual([
      '',
      '',
      '',
    ]);
  });
});
