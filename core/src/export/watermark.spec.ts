import { intersection, type Box } from '../geometry/box';
import { newGraphic, Graphic, type Layer } from '../graphic/graphic';
import { frameOf } from '../graphic/frame';
import { layerBounds, shapeBox } from '../graphic/shape-geometry';
import { plainHouseStyle } from '../house/house-style';
import { painted } from '../testing/reader';
import { blank, everySlot, random, shape, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import type { Shaper } from '../words/shaper';
import { Watermark, watermarkPlaces, withWatermark } from './watermark';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

const face = plainHouseStyle.type.heading;
const usual: Watermark = {
  mark: { kind: 'words', text: '© Ottermill Pottery', face },
  place: 'room',
  size: 0.24,
  strength: 0.6,
  repeated: false,
};
const logo: Watermark['mark'] = {
  kind: 'logo',
  asset: 'b'.repeat(64),
  natural: { width: 300, height: 120 },
  vector: true,
  opaque: false,
};

function marked(graphic: Graphic, own: Partial<Watermark> = {}) {
  const done = withWatermark(graphic, frameOf(graphic), { ...usual, ...own }, shaper);
  if (!done.ok) throw new Error(done.problem.message);
  const { graphic: now, covers } = done.value;
  const layers = now.layers.slice(graphic.layers.length);
  return { now, covers, layers, boxes: layers.map((l) => boxOf(l, now)) };
}
const boxOf = (l: Layer, g: Graphic): Box => (l.role === 'shape' ? shapeBox(l, g, shaper) : layerBounds(l, g, shaper));
const area = (b: Box | null) => (b ? b.width * b.height : 0);

describe('a watermark', () => {
  it('is cut by no slot’s outline at any of its places, whatever its size', () => {
    const r = random(7);
    for (const slot of everySlot) {
      const g = newGraphic({ id: 'g', name: 'x', created: '', slot });
      for (const place of watermarkPlaces) {
        const own = { place, size: 0.05 + r() * 0.35, ...(r() < 0.5 ? { mark: logo } : {}) };
        const [b] = marked(g, own).boxes;
        const [w, h] = [slot.width, slot.height];
        const all = [b!.x, b!.x + b!.width].flatMap((x) => [b!.y, b!.y + b!.height].map((y) => ({ x, y })));
        for (const { x, y } of all) {
          expect(x >= 0 && y >= 0 && x <= w && y <= h).toBe(true);
          // The ellipse within the box: (x/a)² + (y/b)² ≤ 1.
          if (slot.shape.kind === 'ellipse')
            expect(((x - w / 2) / (w / 2)) ** 2 + ((y - h / 2) / (h / 2)) ** 2).toBeLessThanOrEqual(1.0001);
        }
      }
    }
  });

  it('that stands where there is room covers no more of words than at any fixed place: 150 random graphics', () => {
    const r = random(11);
    let worst = 0;
    for (let i = 0; i < 150; i++) {
      const plain = { ...everySlot[Math.floor(r() * everySlot.length)]!, covered: [], safe: { kind: 'all' as const } };
      const g0 = newGraphic({ id: 'g', name: 'x', created: '', slot: plain });
      const [w, h] = [g0.canvas.width, g0.canvas.height];
      const said = Array.from({ length: 1 + Math.floor(r() * 3) }, (_, k) =>
        words('Open on Saturday', { id: `w${k}`, place: { x: r() * w, y: r() * h } }, { size: 8 + r() * h * 0.2 }),
      );
      const g = withLayers(g0, ...said);
      const over = (b: Box) => said.reduce((n, l) => n + area(intersection(b, layerBounds(l, g, shaper))), 0);
      const [room] = marked(g).boxes;
      for (const place of watermarkPlaces) {
        const [b] = marked(g, { place }).boxes;
        worst = Math.max(worst, over(room!) - over(b!));
        expect(over(room!)).toBeLessThanOrEqual(over(b!) + 1);
      }
    }
    expect(worst).toBeLessThanOrEqual(1);
  });

  it('says what it lies over', () => {
    const title = words('Autumn glazes', { name: 'Title', place: { x: 470, y: 60 } });
    const g = withLayers(blank(), title);
    expect(marked(g, { place: 'middle' }).covers).toEqual(['Title']);
    expect(marked(g, { place: 'room' }).covers).toEqual([]);
    expect(marked(g, { repeated: true }).covers).toEqual(['Title']);
    expect(marked(withLayers(blank(), { ...title, visible: false }), { place: 'middle' }).covers).toEqual([]);
  });

  it('says what it lies over as it is painted, however words are turned, outlined and placed: 100 random graphics', () => {
    const r = random(2026);
    const g0 = blank();
    const { width, height } = g0.canvas;
    const ink = (...layers: Layer[]) => painted(withLayers(g0, ...layers), shaper).pixels.data;
    const ground = ink();
    const differs = (data: Uint8ClampedArray, p: number) =>
      [0, 3].some((c) => Math.abs(data[p + c]! - ground[p + c]!) > 96);
    let [over, free] = [0, 0];
    for (let i = 0; i < 100; i++) {
      const outline = r() < 0.3 ? { width: 2 + r() * 8, colour: '#000000', opacity: 1 } : null;
      const title = words(
        ['Autumn', 'Open on Saturday', 'Glazes\nand pots', '“'][Math.floor(r() * 4)]!,
        {
          name: 'Title',
          place: { x: r() * width, y: r() * height },
          turn: r() < 0.3 ? 0 : Math.round(r() * 360 - 180),
          outline,
        },
        { size: 12 + r() * 60, colour: '#000000' },
      );
      const g = withLayers(g0, title);
      const own = {
        place: watermarkPlaces[Math.floor(r() * watermarkPlaces.length)]!,
        size: 0.05 + r() * 0.5,
        repeated: r() < 0.25,
        strength: 1,
      };
      const { covers, layers } = marked(g, own);
      // The boxes that the marks stand in, filled; the words a little larger, for what smoothing adds.
      const boxes = layers.map((l): Layer =>
        l.role === 'shape' && l.form.kind === 'path'
          ? { ...l, form: { kind: 'rectangle' }, shadow: null, opacity: 1 }
          : l,
      );
      const [said, laid] = [ink(title), ink(...boxes)];
      let both = 0;
      for (let p = 0; p < said.length; p += 4) if (differs(said, p) && differs(laid, p)) both++;
      // Letters are taken for the boxes around them, so that a corner of one may be counted that has no ink.
      const near = boxes.some((l) => intersection(layerBounds(l, g, shaper), layerBounds(title, g, shaper)));
      if (both > 3 && !covers.length) throw new Error(`Graphic ${i}: ${both} px of words lie under it unsaid`);
      if (covers.length && !near) throw new Error(`Graphic ${i}: said to lie on words that are elsewhere`);
      if (both > 3) over++;
      else if (!covers.length) free++;
    }
    // Both happen often enough for the comparison to mean something.
    expect(over).toBeGreaterThan(15);
    expect(free).toBeGreaterThan(15);
  });

  it('in the corner beside words that are turned does not lie over them', () => {
    const slanted = words('Autumn glazes', { name: 'Title', place: { x: 330, y: 90 }, turn: -35 }, { size: 40 });
    const g = withLayers(blank(), slanted);
    const bounds = layerBounds(slanted, g, shaper);
    const [mark] = marked(g, { place: 'bottom-right', size: 0.5 }).boxes;
    expect(intersection(bounds, mark!)).not.toBeNull();
    expect(marked(g, { place: 'bottom-right', size: 0.5 }).covers).toEqual([]);
  });

  it('that is repeated leaves no quarter of the file without one', () => {
    for (const slot of everySlot) {
      const g = newGraphic({ id: 'g', name: 'x', created: '', slot });
      const { boxes, now } = marked(g, { repeated: true });
      expect(boxes.length).toBeLessThanOrEqual(60);
      for (const x of [0, 0.5])
        for (const y of [0, 0.5]) {
          const quarter = {
            x: x * g.canvas.width,
            y: y * g.canvas.height,
            width: g.canvas.width / 2,
            height: g.canvas.height / 2,
          };
          const there = now.layers.some((l) => intersection(layerBounds(l, now, shaper), quarter));
          expect(there).toBe(true);
        }
    }
  });

  it.each(['#ffffff', '#000000', '#808080', '#a4512f'])('is to be seen on a ground of %s, as painted', (colour) => {
    const g = withLayers({ ...blank(), backdrop: { kind: 'colour', colour } });
    const before = painted(g, shaper).pixels.data;
    const { now, boxes } = marked(g, { place: 'bottom-right' });
    const after = painted(now, shaper).pixels;
    const [b] = boxes;
    let [most, elsewhere] = [0, 0];
    for (let i = 0; i < after.data.length; i += 4) {
      const change = Math.abs(after.data[i + 1]! - before[i + 1]!);
      const [x, y] = [(i / 4) % after.width, Math.floor(i / 4 / after.width)];
      // Only there, and in its own shade around it.
      const near = x > b!.x - 40 && x < b!.x + b!.width + 40 && y > b!.y - 40 && y < b!.y + b!.height + 40;
      if (!near) elsewhere += change;
      most = Math.max(most, change);
    }
    expect(elsewhere).toBe(0);
    expect(most).toBeGreaterThan(40);
  });

  it('holds what a graphic’s schema asks for, and its strength and size are as they are said', () => {
    const r = random(5);
    for (let i = 0; i < 60; i++) {
      const own = {
        mark: r() < 0.5 ? logo : usual.mark,
        size: 0.03 + r() * 0.97,
        strength: 0.05 + r() * 0.95,
        repeated: r() < 0.3,
        place: watermarkPlaces[Math.floor(r() * watermarkPlaces.length)]!,
      };
      expect(Watermark.safeParse({ ...usual, ...own }).success).toBe(true);
      const g = withLayers(blank(), shape(), words('Autumn'));
      const { now, layers, boxes } = marked(g, own);
      expect(Graphic.safeParse(now).success).toBe(true);
      expect(new Set(now.layers.map((l) => l.id)).size).toBe(now.layers.length);
      const [first] = layers;
      expect(first && 'opacity' in first && first.opacity).toBeCloseTo(own.strength, 6);
      if (!own.repeated) {
        expect(boxes[0]!.height).toBeLessThanOrEqual(g.canvas.height / 2 + 1e-6);
        expect(boxes[0]!.width).toBeLessThanOrEqual(own.size * g.canvas.width + 1e-6);
      }
    }
  });

  it('of letters that cannot be drawn, or on a graphic that is full, is refused in a sentence', () => {
    const g = blank();
    const of = (text: string) => ({ ...usual, mark: { kind: 'words' as const, text, face } });
    expect(withWatermark(g, frameOf(g), of('🦦'), shaper)).toMatchObject({ ok: false });
    expect(withWatermark(g, frameOf(g), of(' '), shaper)).toMatchObject({ ok: false });
    const full = withLayers(g, ...Array.from({ length: 500 }, (_, i) => shape({ id: `s${i}` })));
    expect(withWatermark(full, frameOf(full), usual, shaper)).toMatchObject({ ok: false });
    const nearly = withLayers(g, ...full.layers.slice(0, 490));
    const { length } = marked(nearly, { repeated: true }).now.layers;
    expect(length > 490 && length <= 500).toBe(true);
  });
});
