import { createCanvas } from '@napi-rs/canvas';
import type { PaintContext, Surfaces } from '../paint/context';
import { paint } from '../paint/paint';
import { plan } from '../paint/plan';
import { anyLayers } from '../testing/any';
import { blank, committed, random, withLayers } from '../testing/samples';
import { realShaper } from '../testing/type';
import type { Shaper } from '../words/shaper';
import { scaledLayer } from './arrange';
import { applyEdit, type Edit } from './edit';
import { adaptToSlot } from './adapt-to-slot';
import { Graphic, type Layer } from './graphic';
import { frameOf } from './frame';
import { current, redo, startHistory, undo } from './history';
import { layerBounds } from './shape-geometry';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

const contextOf = (w: number, h: number) => createCanvas(w, h).getContext('2d');
const surfaces: Surfaces<never> = {
  exact: () => undefined,
  rough: () => undefined,
  scratch(width, height) {
    const sheet = contextOf(width, height);
    return { context: sheet as unknown as PaintContext<never>, image: sheet.canvas as never };
  },
};

/** Painted at ratio 1 by Skia. */
function painted(graphic: Graphic, options: Parameters<typeof plan>[4] = {}) {
  const p = plan(graphic, frameOf(graphic), 1, shaper, options);
  const context = contextOf(p.width, p.height);
  paint(p, surfaces, context as unknown as PaintContext<never>);
  const { data, width, height } = context.getImageData(0, 0, p.width, p.height);
  return { data, width, height };
}

/** With everything there is in it: 2 to 8 layers. */
function anyGraphic(r: () => number): Graphic {
  const make = anyLayers(r);
  const layers: Layer[] = [make.words('w0')];
  for (let i = 1 + Math.floor(r() * 7); i > 0; i--) layers.push(make.layer(`l${i}`, 'w0'));
  return { ...withLayers(blank(), ...layers), backdrop: make.fill() };
}

it('100 random graphics are what their schema says, and come back from JSON the same', () => {
  const r = random(11);
  for (let i = 0; i < 100; i++) {
    const graphic = anyGraphic(r);
    expect(Graphic.parse(JSON.parse(JSON.stringify(graphic)))).toEqual(graphic);
  }
});

it('200 random edits of words, shapes, veils and backdrop, undone, give the first state byte for byte; redone, the last', () => {
  const r = random(12);
  const make = anyLayers(r);
  const start = anyGraphic(r);
  let history = startHistory(start, 'start', 0);
  for (let i = 0; i < 200; i++) {
    const { layers } = current(history);
    const one = layers.length ? make.pick(layers) : null;
    const edits: Edit[] = [
      { type: 'add-layer', name: 'Added', layer: make.layer(`n${i}`, 'w0'), at: Math.floor(r() * 9) },
      { type: 'set-backdrop', name: 'Backdrop', backdrop: make.fill() },
    ];
    if (one)
      edits.push(
        { type: 'replace-layer', name: 'Changed', layer: make.layer(one.id, 'w0') },
        { type: 'replace-layer', name: 'Hidden', layer: { ...one, visible: !one.visible } },
        { type: 'move-layer', name: 'Moved', id: one.id, to: Math.floor(r() * layers.length) },
        { type: 'remove-layer', name: 'Removed', id: one.id },
      );
    history = committed(history, make.pick(edits), `s${i}`, i + 1);
  }
  const last = JSON.stringify(current(history));
  expect(last).not.toBe(JSON.stringify(start));
  let back = history;
  while (back.head !== 'start') back = undo(back);
  expect(JSON.stringify(current(back))).toBe(JSON.stringify(start));
  while (back.head !== history.head) back = redo(back);
  expect(JSON.stringify(current(back))).toBe(last);
});

it('however large or small its layers are made, and on any other canvas, it is still what its schema says', () => {
  const r = random(15);
  for (let i = 0; i < 200; i++) {
    const one = anyGraphic(r);
    const by = 10 ** (r() * 4 - 2);
    const graphic = { ...one, layers: one.layers.map((l) => scaledLayer(l, by, one.canvas)) };
    const { id, slot } = frameOf(graphic);
    const length = () => Math.round(16 * 512 ** r());
    const followed = adaptToSlot(graphic, id, { ...slot, width: length(), height: length() });
    expect(Graphic.safeParse(followed).error?.issues).toBeUndefined();
  }
});

it('the selection encloses all that is drawn but the shadow: 150 random words and shapes', () => {
  const r = random(13);
  const make = anyLayers(r);
  let drawn = 0;
  for (let i = 0; i < 150; i++) {
    const held = make.words('w0');
    const layer = { ...(i % 2 ? held : make.shape('s', 'w0')), shadow: null };
    const graphic = withLayers(blank(), ...(layer.id === 's' ? [{ ...held, visible: false }, layer] : [layer]));
    const b = layerBounds(layer, graphic, shaper);
    const { data, width, height } = painted(graphic);
    const out: string[] = [];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        if (data[(y * width + x) * 4 + 3]! < 8) continue;
        drawn++;
        // A px counts as without when all of it is.
        if (x + 1 <= b.x || x >= b.x + b.width || y + 1 <= b.y || y >= b.y + b.height) out.push(`${x}, ${y}`);
      }
    expect({ layer, out: out.slice(0, 3) }).toEqual({ layer, out: [] });
  }
  expect(drawn).toBeGreaterThan(100_000);
});

it('what lies below the last layer is the graphic without it: 40 random ones', () => {
  const r = random(14);
  let differ = 0;
  for (let i = 0; i < 40; i++) {
    const graphic = anyGraphic(r);
    const top = graphic.layers.at(-1)!;
    // A veil or a note follows words, which are there for it even where they are not painted.
    if (top.role === 'words') continue;
    const below = Buffer.from(painted(graphic, { below: top.id }).data);
    const hidden = { ...top, visible: false };
    const without = painted(applyEdit(graphic, { type: 'replace-layer', layer: hidden }));
    expect(below.equals(Buffer.from(without.data))).toBe(true);
    if (!below.equals(Buffer.from(painted(graphic).data))) differ++;
  }
  expect(differ).toBeGreaterThan(15);
});
