import { readFileSync } from 'node:fs';
import * as prettier from 'prettier';
import { luminance } from '../colour/contrast';
import { applyEdit } from '../graphic/edit';
import { frameOf, type Frame } from '../graphic/frame';
import type { Graphic, PictureLayer, WordsLayer } from '../graphic/graphic';
import type { Legibility } from '../legibility/legibility';
import { placedWords, type GroundMap } from '../placing/room';
import type { Slot } from '../slot/slot';
import { blank, everySlot, photo, random, shape, watermark, withLayers, words } from '../testing/samples';
import { contextOf } from '../testing/context';
import { realShaper } from '../testing/type';
import { layoutOf } from '../words/layout';
import type { Shaper } from '../words/shaper';
import type { AssetFacts } from './asset-facts';
import { createReporter } from './report';
import type { ReportContext } from './rule';
import { rulesTable } from './table';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

/** A graphic, and what is known of it besides. */
interface Case {
  readonly graphic: Graphic;
  readonly more?: Partial<ReportContext>;
}

/** What words on a backdrop of one colour stand on: that colour, all around every letter. */
function onBackdrop(graphic: Graphic): Legibility[] {
  const { backdrop } = graphic;
  const ground = Float32Array.of(
    luminance(backdrop.kind === 'colour' ? backdrop.colour : frameOf(graphic).slot.ground),
  );
  return graphic.layers.flatMap((layer) =>
    layer.role === 'words'
      ? [
          {
            layer: layer.id,
            letters: layoutOf(layer, shaper).items.map((item, index) => ({
              letter: item.text,
              index,
              box: { x: item.x, y: item.y, width: 1, height: 1 },
              colour: item.colour,
              size: item.size,
              weight: item.weight,
              samples: 1,
              ground,
              over: null,
            })),
          },
        ]
      : [],
  );
}

const report = ({ graphic, more = {} }: Case) =>
  createReporter()(
    contextOf(graphic, shaper, { legibility: onBackdrop(graphic), printed: ['Ottermill Pottery'], ...more }),
  );

const plain = (light: number): GroundMap => ({
  across: 1,
  down: 1,
  low: [light],
  high: [light],
  busy: [0],
  subject: [0],
});
const titles = [
  'Kiln opening',
  'Throw your first bowl',
  'New jugs, from Friday',
  'Autumn glazes',
  'Gifts from the mill',
];
const grounds = ['#ffffff', '#f4e7cb', '#2f2a26', '#35574a', '#1f2a30'];

/** A graphic in which nothing is wrong: a title, placed as the app places it, on a backdrop; described. */
function sound(r: () => number, slots: readonly Slot[] = everySlot): Graphic {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(r() * list.length)]!;
  const slot = pick(slots);
  const own = blank(slot.id);
  const backdrop = pick(grounds);
  const empty: Graphic = { ...own, backdrop: { kind: 'colour', colour: backdrop } };
  const size = Math.max(12, Math.round(Math.min(slot.height * 0.28, slot.width * 0.09)));
  // A long title has no room in an avatar.
  const said = slot.width < 200 ? 'Wren' : pick(titles);
  const title = placedWords(words(said, {}, { size }), empty, frameOf(empty), plain(luminance(backdrop)), shaper);
  const graphic = withLayers(empty, title);
  const alt = `${title.paragraphs[0]!.runs[0]!.text}, on a plain ground`;
  return applyEdit(graphic, { type: 'set-export', frame: 'main', choices: { alt } });
}

const withSlot = (graphic: Graphic, change: Partial<Slot>): Graphic => ({
  ...graphic,
  frames: graphic.frames.map((f): Frame => ({ ...f, slot: { ...f.slot, ...change } })),
});
const title = (g: Graphic) => g.layers[0] as WordsLayer;
const withTitle = (g: Graphic, own: Partial<WordsLayer>): Graphic => withLayers(g, { ...title(g), ...own });
const retyped = (g: Graphic, text: string): Graphic =>
  withTitle(g, { paragraphs: [{ ...title(g).paragraphs[0]!, runs: [{ ...title(g).paragraphs[0]!.runs[0]!, text }] }] });
const under = (g: Graphic, layer: PictureLayer): Graphic => withLayers(g, layer, ...g.layers);
const covering = (own: Partial<PictureLayer> = {}) => photo({ ...own });

/** Each makes one fault in a sound graphic, and names the rule that has to find it. */
const faults: readonly [string, (g: Graphic, r: () => number) => Case][] = [
  ['outside', (g, r) => ({ graphic: withTitle(g, { place: { x: -20 - r() * 100, y: title(g).place.y } }) })],
  ['covered', (g) => ({ graphic: withSlot({ ...g, backdrop: { kind: 'none' } }, { keepsTransparency: false }) })],
  [
    'faint',
    (g) => {
      const colour = g.backdrop.kind === 'colour' ? g.backdrop.colour : '#ffffff';
      const run = title(g).paragraphs[0]!.runs[0]!;
      return { graphic: withTitle(g, { paragraphs: [{ ...title(g).paragraphs[0]!, runs: [{ ...run, colour }] }] }) };
    },
  ],
  [
    'small',
    (g, r) => {
      const run = title(g).paragraphs[0]!.runs[0]!;
      return {
        graphic: withTitle(g, { paragraphs: [{ ...title(g).paragraphs[0]!, runs: [{ ...run, size: 4 + r() * 4 }] }] }),
      };
    },
  ],
  [
    'zones',
    (g) => {
      const box = layoutOf(title(g), shaper).ink!;
      return { graphic: withSlot(g, { covered: [{ what: 'Portrait', kind: 'portrait', ...box }] }) };
    },
  ],
  [
    'safe',
    (g) => {
      const box = layoutOf(title(g), shaper).ink!;
      const { width, height } = g.canvas;
      return {
        graphic: withSlot(g, {
          safe: { kind: 'insets', left: Math.min(width / 2 - 1, box.x + box.width / 4), right: 0, top: 0, bottom: 0 },
          height,
        }),
      };
    },
  ],
  [
    'enlarged',
    (g, r) => ({
      graphic: under(
        g,
        covering({
          natural: {
            width: Math.max(4, g.canvas.width * (0.2 + r() * 0.5)),
            height: Math.max(4, g.canvas.height * (0.2 + r() * 0.5)),
          },
        }),
      ),
    }),
  ],
  [
    'stretched',
    (g, r) => ({
      graphic: under(g, covering({ place: { mode: 'free', x: 0, y: 0, width: g.canvas.width, stretch: 1.05 + r() } })),
    }),
  ],
  [
    'hidden',
    (g) => ({
      graphic: withLayers(
        g,
        shape({ place: { mode: 'box', box: { x: g.canvas.width + 10, y: 0, width: 20, height: 20 } } }),
        ...g.layers,
      ),
    }),
  ],
  [
    'short',
    (g, r) => ({
      graphic: withLayers(
        g,
        shape({
          place: {
            mode: 'box',
            box: { x: 0, y: 0, width: g.canvas.width - 0.5 - r() * 2, height: g.canvas.height / 3 },
          },
        }),
        ...g.layers,
      ),
    }),
  ],
  ['placeholder', (g) => ({ graphic: retyped(g, 'Your words') })],
  ['doubled', (g) => ({ graphic: retyped(g, 'Made in the the mill') })],
  ['gone-by', (g) => ({ graphic: retyped(g, 'Until 12 November') })],
  ['straight-quotes', (g) => ({ graphic: retyped(g, "“Mugs” and 'jugs") })],
  [
    'undescribed',
    (g, r) => ({
      graphic: applyEdit(g, { type: 'set-export', frame: 'main', choices: { alt: r() < 0.5 ? '' : 'IMG_2041.jpg' } }),
    }),
  ],
  [
    'wasteful',
    (g) => ({
      graphic: withSlot(
        applyEdit(under(g, covering()), { type: 'set-export', frame: 'main', choices: { format: 'png' } }),
        { formats: ['jpeg', 'png'] },
      ),
    }),
  ],
  [
    'loss',
    (g, r) => ({
      graphic: applyEdit(g, { type: 'set-export', frame: 'main', choices: { format: 'jpeg', own: true } }),
      more: {
        weights: {
          chosen: { format: 'jpeg', quality: Math.round(1 + r() * 60), bytes: 9_000, seen: true },
          tried: [],
        },
      },
    }),
  ],
  [
    'transparency',
    (g) => ({
      graphic: withSlot(
        applyEdit(
          { ...g, backdrop: { kind: 'none' } },
          { type: 'set-export', frame: 'main', choices: { format: 'jpeg' } },
        ),
        { keepsTransparency: true, formats: ['jpeg', 'png'] },
      ),
    }),
  ],
  ['taken-size', (g) => ({ graphic: withSlot(g, { least: { width: g.canvas.width * 4, height: 1 } }) })],
  [
    'watermarked',
    (g, r) => ({
      graphic: applyEdit(g, { type: 'set-export', frame: 'main', choices: { watermark: true } }),
      more: { watermark: { ...watermark, repeated: r() < 0.5, place: 'middle', size: 1, strength: 0.3 + r() * 0.7 } },
    }),
  ],
  ['repeated', (g) => ({ graphic: retyped(g, 'Ottermill pottery') })],
  [
    'licensed',
    (g) => {
      const layer = covering();
      return {
        graphic: under(g, layer),
        more: {
          assets: new Map<string, AssetFacts>([
            [layer.asset, { silhouette: null, credit: 'Ida Fenn', showCredit: true, licence: 'CC BY 4.0' }],
          ]),
        },
      };
    },
  ],
  [
    'stray',
    (g) => {
      const layer = covering({ natural: { width: g.canvas.width * 3, height: g.canvas.height * 3 } });
      const stray = { top: 0, right: 1, bottom: 0, left: 0 };
      return { graphic: under(g, layer), more: { assets: new Map([[layer.asset, { silhouette: null, stray }]]) } };
    },
  ],
  [
    'soft',
    (g, r) => {
      const layer = covering({ natural: { width: g.canvas.width * 6, height: g.canvas.height * 6 } });
      const blur = 8 + 6 * r();
      return { graphic: under(g, layer), more: { assets: new Map([[layer.asset, { silhouette: null, blur }]]) } };
    },
  ],
  [
    'heavy',
    (g, r) => ({
      graphic: withSlot(g, { mostBytes: 100_000 }),
      more: { weights: { chosen: { format: 'jpeg', quality: 85, bytes: 100_001 + r() * 1e6 }, tried: [] } },
    }),
  ],
  [
    'resized',
    (g, r) => {
      const { slot } = frameOf(g);
      return { graphic: g, more: { slotNow: { ...slot, height: slot.height * (1.1 + r()) } } };
    },
  ],
  [
    'density',
    (g) => ({ graphic: withSlot(g, { densities: [1] }), more: { slotNow: { ...frameOf(g).slot, densities: [3] } } }),
  ],
  ['half-pixels', (g) => ({ graphic: withSlot(g, { height: g.canvas.height + 0.3, densities: [1, 2] }) })],
  ['row-full', (g) => ({ graphic: withSlot(g, { rowShows: 4, oneOfSeveral: false }), more: { alike: 5 } })],
  ['file-named', (g) => ({ graphic: { ...g, name: '☕' } })],
  [
    'nearly-ground',
    (g) => ({
      graphic: { ...withSlot(g, { ground: '#f4e7cb', border: null }), backdrop: { kind: 'colour', colour: '#ecdcb8' } },
    }),
  ],
];

it('thirty sound graphics raise nothing before they go up (seed 31)', () => {
  const r = random(31);
  const alarms: string[] = [];
  for (let n = 0; n < 30; n++) {
    const graphic = sound(r);
    for (const f of report({ graphic }).findings)
      if (f.group === 'before') alarms.push(`${n} ${frameOf(graphic).slot.id}: ${f.title}`);
  }
  console.log(`false alarms of 30 sound graphics: ${alarms.length}`);
  expect(alarms).toEqual([]);
});

it('of two hundred sound graphics with one fault each, at least 198 are found and named (seed 200)', () => {
  const r = random(200);
  const missed: string[] = [];
  for (let n = 0; n < 200; n++) {
    const [rule, spoil] = faults[n % faults.length]!;
    const spoilt = spoil(sound(r), r);
    const ids = report(spoilt).findings.map((f) => f.id);
    if (!ids.some((id) => id === rule || id.startsWith(`${rule}:`)))
      missed.push(`${n} ${rule} in ${frameOf(spoilt.graphic).slot.id}: ${ids.join(', ') || 'nothing'}`);
  }
  console.log(`faults found: ${200 - missed.length} of 200`);
  expect([missed.length <= 2, missed]).toEqual([true, missed]);
});

it('docs/fit-rules.md is what the rules say of themselves', async () => {
  const path = new URL('../../../docs/fit-rules.md', import.meta.url).pathname;
  const own = await prettier.format(rulesTable(), { ...(await prettier.resolveConfig(path)), parser: 'markdown' });
  expect(readFileSync(path, 'utf8')).toBe(own);
});
