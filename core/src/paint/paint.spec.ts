import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { blank, photo, veil, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import { usualCutout } from '../pixels/appearance';
import { newGraphic } from '../graphic/graphic';
import { frameOf } from '../graphic/frame';
import { typedSlot } from '../slot/slots-to-start';
import type { Shaper } from '../words/shaper';
import type { PaintContext, Surfaces } from './context';
import { paint } from './paint';
import { plan, surfacesOf } from './plan';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

const none: Surfaces<Canvas> = { exact: () => undefined, rough: () => undefined };
const contextOf = (c: Canvas) => c.getContext('2d') as unknown as PaintContext<Canvas>;
const pixel = (c: Canvas, x: number, y: number) => [...c.getContext('2d').getImageData(x, y, 1, 1).data];

describe('plan', () => {
  it('has exactly the file’s pixels, rounded up for a fractional slot, and the picture bleeds over', () => {
    const slot = typedSlot(251.25, 292.5);
    const g = newGraphic({ id: 'g', name: 'x', created: '', slot: slot.ok ? slot.value : (null as never) });
    const p = plan(withLayers(g, photo()), frameOf(g), 1, shaper);
    expect([p.width, p.height]).toEqual([252, 293]);
    const [need] = surfacesOf(p);
    expect(need!.image.x + need!.image.width).toBeGreaterThanOrEqual(252);
    expect(need!.image.y + need!.image.height).toBeGreaterThanOrEqual(293);
  });
  it('puts a frame around what is seen of a covering photo, at whatever zoom and quarter turn, so that no side of it is cut', () => {
    for (const turn of [0, 90, 180, 270])
      for (const zoom of [1, 2.3]) {
        const layer = photo({
          turn,
          border: { width: 12, colour: '#ffffff' },
          place: { mode: 'cover', focus: { x: 0.3, y: 0.8 }, zoom },
        });
        const g = withLayers(blank(), layer);
        const [need] = surfacesOf(plan(g, frameOf(g), 1, shaper));
        const { x, y, width, height } = need!.finish!.frame;
        expect([x, y, width, height].map((n) => Math.round(n * 1e6) / 1e6)).toEqual([0, 0, 940, 198]);
      }
  });
  it('leaves a framed photo’s frame as it is under a veil', () => {
    const framed = photo({ border: { width: 12, colour: '#ffffff' } });
    const g = withLayers(blank(), framed, veil());
    const sheets = plan(g, frameOf(g), 1, shaper).operations.flatMap((o) => (o.kind === 'veil' ? [o.sheet] : []));
    expect(sheets).toEqual([{ kind: 'even', box: { x: 12, y: 12, width: 916, height: 174 } }]);
    const plain = withLayers(blank(), photo(), veil());
    expect(plan(plain, frameOf(plain), 1, shaper).operations.at(-1)).toMatchObject({
      sheet: { kind: 'even', box: { x: 0, y: 0, width: 940, height: 198 } },
    });
  });
  it('lists layers back to front, leaves out what is hidden, and stops below a layer', () => {
    const g = withLayers(blank(), photo(), words('Hello'), photo({ id: 'q', visible: false }));
    const kinds = (options = {}) => plan(g, frameOf(g), 1, shaper, options).operations.map((o) => o.kind);
    expect(kinds()).toEqual(['picture', 'words']);
    expect(kinds({ below: 'w' })).toEqual(['picture']);
    expect(kinds({ only: 'w' })).toEqual(['words']);
  });
  it('needs the same surface for the same place and another for another', () => {
    const key = (x: number) =>
      surfacesOf(
        plan(withLayers(blank(), photo({ place: { mode: 'free', x, y: 0, width: 400 } })), frameOf(blank()), 1, shaper),
      )[0]!.key;
    expect(key(10)).toBe(key(10));
    expect(key(10)).not.toBe(key(10.5));
  });
  it('needs nothing for a picture outside the frame', () => {
    const g = withLayers(blank(), photo({ place: { mode: 'free', x: 2000, y: 0, width: 100 } }));
    expect(plan(g, frameOf(g), 1, shaper).operations).toHaveLength(0);
  });
});

describe('paint', () => {
  it('puts an exact surface pixel for pixel and tells what was missing', () => {
    const g = withLayers(blank(), photo());
    const p = plan(g, frameOf(g), 1, shaper);
    const canvas = createCanvas(p.width, p.height);
    expect(paint(p, none, contextOf(canvas))).toHaveLength(1);
    expect(pixel(canvas, 5, 5)).toEqual([0, 0, 0, 0]);
    const surface = createCanvas(940, 198);
    surface.getContext('2d').fillStyle = '#a4512f';
    surface.getContext('2d').fillRect(0, 0, 940, 198);
    expect(paint(p, { ...none, exact: () => surface }, contextOf(canvas))).toHaveLength(0);
    expect(pixel(canvas, 939, 197)).toEqual([164, 81, 47, 255]);
  });

  it('fills letters inside their box and nowhere else', () => {
    const g = withLayers({ ...blank(), backdrop: { kind: 'colour', colour: '#1f2a30' } }, words('HIM'));
    const p = plan(g, frameOf(g), 1, shaper);
    const canvas = createCanvas(p.width, p.height);
    paint(p, none, contextOf(canvas));
    const operation = p.operations.find((o) => o.kind === 'words')!;
    const ink = operation.kind === 'words' ? operation.layout.ink! : null!;
    const { data } = canvas.getContext('2d').getImageData(0, 0, p.width, p.height);
    let left = 1e9;
    let top = 1e9;
    let right = -1;
    let bottom = -1;
    for (let y = 0; y < p.height; y++)
      for (let x = 0; x < p.width; x++)
        if (data[(y * p.width + x) * 4]! > 140) {
          left = Math.min(left, x);
          right = Math.max(right, x + 1);
          top = Math.min(top, y);
          bottom = Math.max(bottom, y + 1);
        }
    for (const [seen, said] of [
      [left, ink.x],
      [top, ink.y],
      [right, ink.x + ink.width],
      [bottom, ink.y + ink.height],
    ] as const)
      expect(Math.abs(seen - said)).toBeLessThanOrEqual(0.75);
  });

  it('paints alike at two scales', () => {
    const g = withLayers(blank(), words('Stoneware'));
    const ink = (scale: number) => {
      const p = plan(g, frameOf(g), scale, shaper);
      const canvas = createCanvas(p.width, p.height);
      paint(p, none, contextOf(canvas));
      const { data } = canvas.getContext('2d').getImageData(0, 0, p.width, p.height);
      let sum = 0;
      for (let i = 3; i < data.length; i += 4) sum += data[i]! / 255;
      return sum / scale / scale;
    };
    expect(ink(2) / ink(1)).toBeCloseTo(1, 1);
  });

  it('a rough picture has its frame, fade, border and shadow, and takes nothing along of what lies below', () => {
    const rough = createCanvas(40, 20);
    rough.getContext('2d').fillStyle = '#ff0000';
    rough.getContext('2d').fillRect(0, 0, 40, 20);
    const layer = photo({
      natural: { width: 400, height: 200 },
      place: { mode: 'free', x: 300, y: 40, width: 200 },
      corners: { kind: 'round' },
      fades: [{ kind: 'side', side: 'right', length: 0.5 }],
      shadow: { distance: 0, angle: 0, blur: 20, colour: '#0000ff', strength: 1 },
    });
    const g = withLayers({ ...blank(), backdrop: { kind: 'colour', colour: '#ffffff' } }, layer);
    const p = plan(g, frameOf(g), 1, shaper);
    const scratch = () => {
      const sheet = createCanvas(p.width, p.height);
      return { context: contextOf(sheet), image: sheet };
    };
    for (const sheets of [{ scratch }, {}]) {
      const canvas = createCanvas(p.width, p.height);
      expect(paint(p, { ...none, rough: () => rough, ...sheets }, contextOf(canvas))).toHaveLength(1);
      // The backdrop is whole everywhere; the picture stands in its oval.
      expect(pixel(canvas, 5, 5)).toEqual([255, 255, 255, 255]);
      expect(pixel(canvas, 302, 42)[1]).toBeGreaterThan(90);
      expect(pixel(canvas, 340, 90)).toEqual([255, 0, 0, 255]);
    }
    const canvas = createCanvas(p.width, p.height);
    paint(p, { ...none, rough: () => rough, scratch }, contextOf(canvas));
    // Fading to the right; the shadow just above the oval.
    expect(pixel(canvas, 470, 90)[1]).toBeGreaterThan(60);
    const above = pixel(canvas, 400, 36);
    expect(above[2]! - above[0]!).toBeGreaterThan(30);
  });
});

describe('surfaces', () => {
  const free = (own = {}) =>
    photo({ natural: { width: 400, height: 200 }, place: { mode: 'free', x: 300, y: 40, width: 200 }, ...own });
  const needOf = (own = {}) => {
    const g = withLayers(blank(), free(own));
    return surfacesOf(plan(g, frameOf(g), 1, shaper))[0]!;
  };

  it('share their reduction while only what is done after it differs', () => {
    const [plain, bright, shadowed] = [
      needOf(),
      needOf({ look: { brightness: 1.2, contrast: 1, saturation: 1, warmth: 0, sharpening: 0 } }),
      needOf({ shadow: { distance: 4, angle: 90, blur: 6, colour: '#000000', strength: 0.5 } }),
    ];
    expect(new Set([plain.base, bright.base, shadowed.base]).size).toBe(1);
    expect(new Set([plain.key, bright.key, shadowed.key]).size).toBe(3);
    expect(plain.finish).toBeNull();
    // Opacity is painted, and needs no surface of its own.
    expect(needOf({ opacity: 0.4 }).key).toBe(plain.key);
    expect(needOf({ cutout: usualCutout }).base).not.toBe(plain.base);
    expect(needOf({ flip: { across: true, down: false } }).base).not.toBe(plain.base);
  });

  it('a quarter turn is taken with the pixels, on whole boxes; only what is left of a turn is resampled', () => {
    const quarter = needOf({ turn: 90 });
    expect([quarter.orient.quarters, quarter.finish]).toEqual([1, null]);
    expect(quarter.out).toEqual({ x: 350, y: 0, width: 100, height: 190 });
    const slanted = needOf({ turn: 100 });
    expect(slanted.orient.quarters).toBe(1);
    expect(slanted.finish!.turn!.degrees).toBeCloseTo(10);
  });

  it('a shadow that falls onto the frame from outside it is painted', () => {
    const off = { place: { mode: 'free' as const, x: -205, y: 40, width: 200 } };
    const graphic = (own = {}) => withLayers(blank(), free({ ...off, ...own }));
    const count = (g: ReturnType<typeof graphic>) => surfacesOf(plan(g, frameOf(g), 1, shaper)).length;
    expect(count(graphic())).toBe(0);
    expect(count(graphic({ shadow: { distance: 20, angle: 0, blur: 4, colour: '#000000', strength: 1 } }))).toBe(1);
  });
});
