import { gradientEnds } from '../geometry/gradient-line';
import { blank, photo, random, shape, withLayers, words } from '../testing/samples';
import { anyLayers } from '../testing/any';
import { checkGraphic, heldWithin } from './check';
import { applyEdit, type Edit } from './edit';
import { Graphic, Layer } from './graphic';
import { withText } from './runs';
import { commit, current, readStep, readSteps, startHistory } from './history';
import { limits } from '../limits';
import { textOf, wordsTaken } from '../words/words';

const start = () => startHistory(withLayers(blank(), words('Hello')), 's0', 0);
const after = (edit: Edit) => {
  const done = commit(start(), edit, 's1', 1);
  return done.ok ? done.value : done.problem.code;
};
const opens = (graphic: unknown) => Graphic.safeParse(JSON.parse(JSON.stringify(graphic))).success;

describe('whatever is committed can be opened again', () => {
  const long = 'x'.repeat(300);
  const far = { from: { x: -200, y: 0.5 }, to: { x: 300, y: 0.5 } };
  it.each<[string, Edit]>([
    [
      'a band with a gradient at 45° on 1600 × 400',
      {
        type: 'add-layer',
        name: 'x',
        layer: shape({
          place: { mode: 'band', side: 'bottom', size: 4 },
          fill: {
            kind: 'gradient',
            form: 'linear',
            ...gradientEnds({ width: 1600, height: 4 }, 45),
            stops: [
              { at: 0, colour: '#000000', opacity: 1 },
              { at: 1, colour: '#ffffff', opacity: 1 },
            ],
          },
        }),
      },
    ],
    ['a fade dragged far out', { type: 'add-layer', name: 'x', layer: photo({ fades: [{ kind: 'line', ...far }] }) }],
    ['a picture with a long file name', { type: 'add-layer', name: long, layer: photo({ name: long }) }],
    ['a rename with a long step name', { type: 'rename', to: long, name: `Renamed to ${long}` }],
    [
      'a drawing of ten million px',
      { type: 'add-layer', name: 'x', layer: photo({ natural: { width: 1e7, height: 10 } }) },
    ],
    ['501 lines', { type: 'replace-layer', name: 'x', layer: withText(words('a'), 'a\n'.repeat(501)) }],
    ['20 001 letters', { type: 'replace-layer', name: 'x', layer: withText(words('a'), 'a'.repeat(20_001)) }],
    [
      'a description of 600 letters',
      { type: 'set-export', frame: 'main', name: 'x', choices: { alt: 'x'.repeat(600) } },
    ],
    [
      'a size of nothing',
      { type: 'add-layer', name: 'x', layer: photo({ place: { mode: 'free', x: 0, y: 0, width: 0 } }) },
    ],
    ['half a character', { type: 'replace-layer', name: '😀'.repeat(150), layer: withText(words('a'), '\ud83d') }],
  ])('%s', (_what, edit) => {
    const done = after(edit);
    if (typeof done === 'string') throw new Error(done);
    expect(opens(current(done.history))).toBe(true);
    expect(readStep(JSON.parse(JSON.stringify(done.history.steps.get('s1'))))).not.toBeNull();
  });

  it('what is no figure, or of another shape, is refused and changes nothing', () => {
    expect(after({ type: 'add-layer', name: 'x', layer: photo({ turn: NaN }) })).toBe('unsound');
    expect(after({ type: 'add-layer', name: 'x', layer: { role: 'photo' } as never })).toBe('unsound');
    expect(after({ type: 'set-backdrop', name: 'x', backdrop: { kind: 'colour', colour: 'red' } })).toBe('unsound');
    const many = Array.from({ length: limits.layers }, (_, i) => photo({ id: `p${i}` }));
    expect(after({ type: 'add-layers', name: 'x', layers: many })).toBe('too-many');
  });

  it('says what it left out of words, and nothing of names', () => {
    const layer = { ...words('a'), name: 'y'.repeat(400), paragraphs: [{ ...words('a').paragraphs[0]! }] };
    layer.paragraphs[0]!.runs[0]!.text = 'z'.repeat(30_000);
    const done = after({ type: 'replace-layer', name: 'x', layer });
    expect(typeof done !== 'string' && done.told).toEqual([
      'One block of words holds 20,000 letters; what came after them was left out.',
    ]);
  });

  it('keeps the very same layers where they are sound', () => {
    const graphic = withLayers(blank(), words('Hello'), photo());
    const checked = checkGraphic(graphic);
    expect(checked.ok && checked.value.value).toBe(graphic);
    const next = applyEdit(graphic, { type: 'rename', to: 'Other' });
    const again = checkGraphic(next);
    expect(again.ok && again.value.value.layers[1]).toBe(graphic.layers[1]);
  });
});

it('a layer whose figures were made wild at random is held so that it opens, 400 times (seed 21)', () => {
  const r = random(21);
  const make = anyLayers(r);
  const wild = (value: unknown, key = ''): unknown => {
    if (typeof value === 'number')
      return r() < 0.3 ? value * 10 ** Math.floor(r() * 12 - 2) * (r() < 0.3 ? -1 : 1) : value;
    if (Array.isArray(value)) return value.map((v) => wild(v));
    if (typeof value === 'object' && value !== null)
      return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, wild(v, k)]));
    return typeof value === 'string' && (key === 'name' || key === 'text') && r() < 0.3 ? value.repeat(9000) : value;
  };
  let held = 0;
  for (let i = 0; i < 400; i++) {
    const layer = wild(make.layer(`l${i}`, 'w0'));
    const found = heldWithin(Layer, layer);
    if (!found) {
      // Only a step that has to be whole may be refused: it is no figure that can be held.
      const issues = Layer.safeParse(layer).error?.issues ?? [];
      expect(issues.some((x) => x.code !== 'too_big' && x.code !== 'too_small')).toBe(true);
      continue;
    }
    held++;
    expect(Layer.safeParse(found.value).success).toBe(true);
  }
  expect(held).toBeGreaterThan(300);
});

describe('words that are pasted', () => {
  it('are cut before anything is laid out, with a word', () => {
    const start = performance.now();
    const million = wordsTaken('wort '.repeat(250_000));
    expect(performance.now() - start).toBeLessThan(1000);
    expect(million.text).toHaveLength(limits.letters);
    expect(million.left).toContain('20,000 letters');
    expect(wordsTaken('a\r\n'.repeat(501)).left).toBe(
      'One block of words holds 500 lines; 2 after them were left out.',
    );
    expect(wordsTaken('Two\r\nlines\u2028and\tone').text).toBe('Two\nlines\nand  one');
    expect(wordsTaken('fine').left).toBe('');
    expect(wordsTaken(`${'a'.repeat(limits.letters - 1)}😀`).text).toHaveLength(limits.letters - 1);
  });
  it('and the layer says the same', () => {
    expect(textOf(withText(words('a'), 'b\n'.repeat(900))).split('\n')).toHaveLength(limits.lines);
  });
});

describe('stored steps', () => {
  const step = (id: string, parent: string | null, own: object = {}) => ({
    id,
    graphicId: 'g',
    parent,
    name: id,
    at: Number(id.slice(1)) || 0,
    graphic: { ...blank(), id: 'g' },
    ...own,
  });
  it('that are beyond a limit are held within it, so that what was saved once opens', () => {
    const big = step('s1', null, { name: 'x'.repeat(900), graphic: { ...blank(), name: 'y'.repeat(500) } });
    expect(readStep(big)?.graphic.name).toHaveLength(limits.name);
  });
  it('that cannot be read are passed over: what came after them follows what came before', () => {
    const { steps, passed } = readSteps([step('s1', null), step('s2', 's1', { graphic: 3 }), step('s3', 's2')], 'g');
    expect([steps.map((s) => [s.id, s.parent]), passed]).toEqual([
      [
        ['s1', null],
        ['s3', 's1'],
      ],
      1,
    ]);
  });
});
