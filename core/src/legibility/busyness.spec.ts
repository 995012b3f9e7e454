import { converter } from 'culori';
import { lightness } from '../colour/contrast';
import { applyEdit } from '../graphic/edit';
import { withLayer, type Graphic, type Layer, type WordsLayer } from '../graphic/graphic';
import { createReporter } from '../report/report';
import { contextOf } from '../testing/context';
import { readerOf } from '../testing/reader';
import { blank, random, shape, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import type { Shaper } from '../words/shaper';
import { busyness } from './busyness';
import { faintestLetter } from './legibility';
import { outlinedWords } from './outlined';
import { readWords } from './ways';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

const title = (own: Partial<WordsLayer> = {}, colour = '#101417') =>
  words('Notes from the Wheel', { place: { x: 470, y: 70 }, ...own }, { size: 40, colour });

/** Squares of a side in greys of a span about a middle (encoded, of 255): a ground as busy as it is asked for. */
function squares(side: number, middle: number, span: number, seed = 3): Layer[] {
  const r = random(seed);
  const layers: Layer[] = [];
  for (let y = 20; y < 170; y += side)
    for (let x = 220; x < 720; x += side) {
      const grey = Math.round(middle + (r() - 0.5) * span)
        .toString(16)
        .padStart(2, '0');
      const box = { x, y, width: side, height: side };
      layers.push(
        shape({
          id: `s${layers.length}`,
          place: { mode: 'box', box },
          fill: { kind: 'colour', colour: `#${grey}${grey}${grey}` },
        }),
      );
    }
  return layers;
}

const on = (colour: string, layers: Layer[], layer = title()): Graphic => ({
  ...withLayers(blank(), ...layers, layer),
  backdrop: { kind: 'colour', colour },
});
const wordsOf = (g: Graphic) => g.layers.find((l): l is WordsLayer => l.role === 'words')!;
const read = (g: Graphic) => readWords(g, wordsOf(g), readerOf(g, shaper));
const busyIn = async (g: Graphic) => busyness(await read(g));
/** The words as they are, in a graphic whose ground is another. */
const found = async (g: Graphic, rule: string) => {
  const legibility = [{ layer: 'w', letters: await read(g) }];
  return createReporter()(contextOf(g, shaper, { legibility })).findings.filter((f) => f.id.startsWith(rule));
};

it('lightness is CIE’s L* (reference: culori’s own conversion of greys)', () => {
  const lab = converter('lab65');
  const linear = converter('lrgb');
  for (let v = 0; v <= 255; v += 5) {
    const grey = { mode: 'rgb' as const, r: v / 255, g: v / 255, b: v / 255 };
    expect(lightness(linear(grey).r)).toBeCloseTo(lab(grey).l, 3);
  }
});

it('grounds of a known order: flat, a slope, pale squares, large ones, strong ones', async () => {
  const slope: Graphic = {
    ...on('#c0c0c0', []),
    backdrop: {
      kind: 'gradient',
      form: 'linear',
      from: { x: 0, y: 0.5 },
      to: { x: 1, y: 0.5 },
      stops: [
        { at: 0, colour: '#808080', opacity: 1 },
        { at: 1, colour: '#f0f0f0', opacity: 1 },
      ],
    },
  };
  const grounds: [string, Graphic][] = [
    ['flat', on('#c0c0c0', [])],
    ['a slope', slope],
    ['pale squares', on('#c0c0c0', squares(16, 192, 40))],
    ['squares', on('#c0c0c0', squares(16, 192, 90))],
    ['strong squares', on('#c0c0c0', squares(16, 170, 170))],
  ];
  const spans: number[] = [];
  for (const [, g] of grounds) spans.push(await busyIn(g));
  console.log(`busy: ${grounds.map(([name], i) => `${name} ${spans[i]!.toFixed(1)}`).join(', ')}`);
  expect(spans).toEqual([...spans].sort((a, b) => a - b));
  expect(spans[0]).toBe(0);
  expect(spans[4]).toBeGreaterThan(30);
  // Grain much finer than a letter's stroke is no busier than its mean: it is smoothed at half a stroke.
  expect(await busyIn(on('#c0c0c0', squares(2, 192, 90)))).toBeLessThan(spans[3]! / 2);
}, 60_000);

it('what is busy and still read is told, and one press makes it calm: judged again by its pixels', async () => {
  const g = on('#c8c8c8', squares(16, 186, 138), title({}, '#000000'));
  const [finding] = await found(g, 'busy');
  expect(finding).toMatchObject({ group: 'time', id: 'busy:w' });
  const after = applyEdit(g, finding!.fixes[0]!.edit);
  expect(await found(after, 'busy')).toEqual([]);
  expect(await found(after, 'faint')).toEqual([]);
  expect(await found(on('#c8c8c8', []), 'busy')).toEqual([]);
}, 60_000);

it('a line around letters that are too faint: offered where they are read with it, and they are then (seed 12)', async () => {
  const r = random(12);
  let offered = 0;
  for (let n = 0; n < 12; n++) {
    const grey = Math.round(60 + r() * 140)
      .toString(16)
      .padStart(2, '0');
    const g = on(
      `#${grey}${grey}${grey}`,
      n % 2 ? squares(18, 128, 200, n) : [],
      title({}, n % 3 ? '#ffffff' : '#1f2a30'),
    );
    const layer = wordsOf(g);
    const before = faintestLetter({ letters: await read(g) }, 0.39)!;
    if (before.contrast >= before.needed) continue;
    const got = await outlinedWords(g, layer, readerOf(g, shaper), 0.39);
    if (!got) continue;
    offered++;
    const there = withLayer(g, { ...layer, outline: got.outline });
    const after = faintestLetter({ letters: await read(there) }, 0.39)!;
    expect([n, after.contrast >= after.needed, after.contrast >= before.contrast]).toEqual([n, true, true]);
  }
  expect(offered).toBeGreaterThan(3);
}, 60_000);
