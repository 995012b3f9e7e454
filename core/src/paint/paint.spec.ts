import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { blank, photo, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import { mainFrame, newGraphic } from '../graphic/graphic';
import { typedSlot } from '../slot/slots-to-start';
import type { Shaper } from '../words/shaper';
import { paint, type PaintContext, type Surfaces } from './paint';
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
    const p = plan(withLayers(g, photo()), mainFrame(g), 1, shaper);
    expect([p.width, p.height]).toEqual([252, 293]);
    const [need] = surfacesOf(p);
    expect(need!.image.x + need!.image.width).toBeGreaterThanOrEqual(252);
    expect(need!.image.y + need!.image.height).toBeGreaterThanOrEqual(293);
  });
  it('lists layers back to front, leaves out what is hidden, and stops below a layer', () => {
    const g = withLayers(blank(), photo(), words('Hello'), photo({ id: 'q', visible: false }));
    const kinds = (options = {}) => plan(g, mainFrame(g), 1, shaper, options).operations.map((o) => o.kind);
    expect(kinds()).toEqual(['picture', 'words']);
    expect(kinds({ below: 'w' })).toEqual(['picture']);
    expect(kinds({ only: 'w' })).toEqual(['words']);
  });
  it('needs the same surface for the same place and another for another', () => {
    const key = (x: number) =>
      surfacesOf(
        plan(
          withLayers(blank(), photo({ place: { mode: 'free', x, y: 0, width: 400 } })),
          mainFrame(blank()),
          1,
          shaper,
        ),
      )[0]!.key;
    expect(key(10)).toBe(key(10));
    expect(key(10)).not.toBe(key(10.5));
  });
  it('needs nothing for a picture outside the frame', () => {
    const g = withLayers(blank(), photo({ place: { mode: 'free', x: 2000, y: 0, width: 100 } }));
    expect(plan(g, mainFrame(g), 1, shaper).operations).toHaveLength(0);
  });
});

describe('paint', () => {
  it('puts an exact surface pixel for pixel and tells what was missing', () => {
    const g = withLayers(blank(), photo());
    const p = plan(g, mainFrame(g), 1, shaper);
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
    const p = plan(g, mainFrame(g), 1, shaper);
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
      const p = plan(g, mainFrame(g), scale, shaper);
      const canvas = createCanvas(p.width, p.height);
      paint(p, none, contextOf(canvas));
      const { data } = canvas.getContext('2d').getImageData(0, 0, p.width, p.height);
      let sum = 0;
      for (let i = 3; i < data.length; i += 4) sum += data[i]! / 255;
      return sum / scale / scale;
    };
    expect(ink(2) / ink(1)).toBeCloseTo(1, 1);
  });
});
