import { createCanvas } from '@napi-rs/canvas';
import { drawnStops } from '../colour/gradient';
import { type Graphic, type Layer } from '../graphic/graphic';
import { frameOf } from '../graphic/frame';
import { applyEdit } from '../graphic/edit';
import { layerBounds, removing, shapeBox } from '../graphic/shape-geometry';
import type { ShapeLayer, VeilForm } from '../graphic/shape';
import { blank, shape, veil, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import type { Shaper } from '../words/shaper';
import type { PaintContext, Surfaces } from './context';
import { paint } from './paint';
import { plan } from './plan';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

const contextOf = (w: number, h: number) => createCanvas(w, h).getContext('2d');

function painted(graphic: Graphic, scale = 1) {
  const p = plan(graphic, frameOf(graphic), scale, shaper);
  const context = contextOf(p.width, p.height);
  const surfaces: Surfaces<never> = {
    exact: () => undefined,
    rough: () => undefined,
    scratch(width, height) {
      const sheet = contextOf(width, height);
      return { context: sheet as unknown as PaintContext<never>, image: sheet.canvas as never };
    },
  };
  paint(p, surfaces, context as unknown as PaintContext<never>);
  return (x: number, y: number) => [...context.getImageData(x, y, 1, 1).data];
}
const on = (...layers: Layer[]) =>
  withLayers({ ...blank(), backdrop: { kind: 'colour', colour: '#ffffff' } }, ...layers);
const alone = (...layers: Layer[]) => withLayers(blank(), ...layers);

describe('shapes', () => {
  it('a rectangle fills exactly its box, at any scale', () => {
    const g = alone(shape());
    for (const scale of [1, 2]) {
      const at = painted(g, scale);
      expect(at(100 * scale, 40 * scale)).toEqual([242, 176, 30, 255]);
      expect(at(300 * scale - 1, 140 * scale - 1)).toEqual([242, 176, 30, 255]);
      expect(at(100 * scale - 1, 40 * scale)[3]).toBe(0);
      expect(at(300 * scale, 140 * scale - 1)[3]).toBe(0);
    }
  });
  it('a border lies within the box, its corners round with it', () => {
    const at = painted(
      alone(
        shape({
          border: { width: 10, colour: '#0000ff', style: 'solid' },
          corners: { kind: 'rounded', radii: [30, 30, 30, 30] },
        }),
      ),
    );
    expect(at(200, 41)).toEqual([0, 0, 255, 255]);
    expect(at(200, 52)).toEqual([242, 176, 30, 255]);
    expect(at(101, 41)[3]).toBe(0);
    expect(at(200, 39)[3]).toBe(0);
  });
  it('dashes are three widths long with two between, dots are round', () => {
    const line = (style: 'dashed' | 'dotted') =>
      painted(
        alone(
          shape({
            form: { kind: 'line' },
            place: { mode: 'line', from: { x: 100, y: 100 }, to: { x: 400, y: 100 } },
            border: { width: 10, colour: '#000000', style },
          }),
        ),
      );
    const dashed = line('dashed');
    expect([105, 125, 135, 145, 155].map((x) => dashed(x, 100)[3])).toEqual([255, 255, 0, 0, 255]);
    const dotted = line('dotted');
    expect([100, 110, 120].map((x) => dotted(x, 100)[3]! > 200)).toEqual([true, false, true]);
  });
  it('a level line of one px is one px, at any scale', () => {
    for (const scale of [1, 2, 1.5]) {
      const at = painted(
        alone(
          shape({
            form: { kind: 'line' },
            place: { mode: 'line', from: { x: 100, y: 100 }, to: { x: 400, y: 100 } },
            border: { width: 1 / scale, colour: '#000000', style: 'solid' },
          }),
        ),
        scale,
      );
      const rows = Array.from({ length: 9 }, (_, i) => at(200 * scale, Math.round(100 * scale) - 4 + i)[3]!);
      expect(rows.filter((a) => a > 0)).toEqual([255]);
    }
  });
  it('an ellipse reaches its box’s sides and not its corners', () => {
    const at = painted(alone(shape({ form: { kind: 'ellipse' } })));
    expect(at(200, 41)[3]).toBeGreaterThan(200);
    expect(at(104, 43)[3]).toBe(0);
  });
  it('a bubble’s tail meets its tip, and the selection encloses it', () => {
    const bubble = shape({
      form: { kind: 'bubble', tip: { x: 0.2, y: 1.6 } },
      corners: { kind: 'rounded', radii: [16, 16, 16, 16] },
    });
    const at = painted(alone(bubble));
    expect(at(141, 190)[3]).toBeGreaterThan(0);
    expect(at(250, 160)[3]).toBe(0);
    const b = layerBounds(bubble, blank(), shaper);
    expect(b).toMatchObject({ x: 100, y: 40, width: 200 });
    expect(b.height).toBeCloseTo(160);
  });
  it('a bubble whose tip lies within is a plain rounded box', () => {
    const at = painted(alone(shape({ form: { kind: 'bubble', tip: { x: 0.5, y: 0.5 } } })));
    expect(at(200, 141)[3]).toBe(0);
    expect(at(200, 90)[3]).toBe(255);
  });
  it('a band keeps to its side, whatever the canvas', () => {
    const band = shape({ place: { mode: 'band', side: 'bottom', size: 30 } });
    expect(shapeBox(band, blank(), shaper)).toEqual({ x: 0, y: 168, width: 940, height: 30 });
    expect(shapeBox(band, { layers: [], canvas: { width: 500, height: 500 } }, shaper)).toEqual({
      x: 0,
      y: 470,
      width: 500,
      height: 30,
    });
  });
  it('a note grows with its words, and stays when they are gone', () => {
    const note = shape({
      place: { mode: 'around', words: 'w', across: 20, down: 10, last: { x: 1, y: 2, width: 3, height: 4 } },
    });
    const box = (text: string) => shapeBox(note, alone(note, words(text)), shaper);
    const [short, long] = [box('Tea'), box('Tea and the first of the glazes')];
    expect(long.width).toBeGreaterThan(short.width + 100);
    expect(box('Tea\nand cake').height).toBeCloseTo(short.height + 52 * 1.2);
    expect(shapeBox(note, alone(note), shaper)).toEqual({ x: 1, y: 2, width: 3, height: 4 });
  });
  it('a note stays where it was seen when its words are deleted', () => {
    const note = shape({
      place: { mode: 'around', words: 'w', across: 20, down: 10, last: { x: 1, y: 2, width: 3, height: 4 } },
    });
    const graphic = alone(note, words('Tea and the first of the glazes'));
    const before = shapeBox(note, graphic, shaper);
    const after = applyEdit(graphic, removing(graphic.layers[1]!, graphic, shaper));
    expect(after.layers).toHaveLength(1);
    expect(shapeBox(after.layers[0] as ShapeLayer, after, shaper)).toEqual(before);
    expect(removing(note, graphic, shaper)).toEqual({ type: 'remove-layer', id: 's' });
  });
  it('a path lies in its box as its sheet does', () => {
    const at = painted(alone(shape({ form: { kind: 'path', data: 'M0 0L10 0L10 10Z', width: 10, height: 10 } })));
    expect(at(290, 60)[3]).toBe(255);
    expect(at(110, 130)[3]).toBe(0);
  });
  it('fill and border let through the ground, not one another', () => {
    const half: ShapeLayer = shape({
      opacity: 0.5,
      fill: { kind: 'colour', colour: '#000000' },
      border: { width: 10, colour: '#0000ff', style: 'solid' },
    });
    const at = painted(on(half));
    expect(at(200, 90)[0]).toBeCloseTo(128, -1);
    // Were they mixed, the border would be darker than blue over white.
    expect(at(200, 45)[0]! - 127).toBeLessThanOrEqual(2);
    expect(at(200, 45)[2]).toBe(255);
  });
  it('a shadow falls once, from what is drawn first', () => {
    const shadow = { distance: 40, angle: 90, blur: 0, colour: '#ff0000', strength: 1 };
    const at = painted(alone(shape({ shadow, border: { width: 4, colour: '#0000ff', style: 'solid' } })));
    expect(at(200, 170)).toEqual([255, 0, 0, 255]);
    expect(at(200, 90)).toEqual([242, 176, 30, 255]);
  });
  it('turns about its middle, and the selection turns along', () => {
    const turned = shape({ turn: 90 });
    const at = painted(alone(turned));
    expect(at(200, 30)[3]).toBe(255);
    expect(at(110, 90)[3]).toBe(0);
    expect(layerBounds(turned, blank(), shaper)).toEqual({ x: 150, y: -10, width: 100, height: 200 });
  });
});

describe('gradients', () => {
  const stops = [
    { at: 0, colour: '#ff0000', opacity: 1 },
    { at: 1, colour: '#0000ff', opacity: 0 },
  ];
  it('premultiplied: red to nothing stays red on its way', () => {
    // CSS Images 4, section 3.4.2: premultiplied mixing. Halfway: half of red and none of blue.
    const middle = drawnStops(stops).find((s) => s.at === 0.5)!;
    expect(middle.css).toBe('rgb(255 0 0 / 0.5)');
  });
  it('needs no stops between equal opacities', () => {
    expect(drawnStops(stops.map((s) => ({ ...s, opacity: 0.4 })))).toHaveLength(2);
  });
  it('a ring’s last colour lies on the ring through its end', () => {
    const at = painted(
      alone(
        shape({
          fill: {
            kind: 'gradient',
            form: 'radial',
            from: { x: 0.5, y: 0.5 },
            to: { x: 0.75, y: 0.5 },
            stops: [
              { at: 0, colour: '#000000', opacity: 1 },
              { at: 1, colour: '#ffffff', opacity: 1 },
            ],
          },
        }),
      ),
    );
    // 50 px to the right and, the ring being round, 49 px upwards.
    expect(at(249, 90)[0]).toBeGreaterThan(245);
    expect(at(200, 42)[0]).toBeGreaterThan(240);
    expect(at(225, 90)[0]).toBeCloseTo(128, -1);
    expect(at(290, 90)[0]).toBe(255);
  });
});

describe('veils', () => {
  const over = (form: VeilForm, strength = 255, own: Partial<Parameters<typeof veil>[0]> = {}) =>
    painted(on(veil({ form, strength, ...own }), words('Glaze')));
  it('a whole one is source-over of its colour in 255 steps', () => {
    // Compositing and Blending 1, section 5.1, in encoded sRGB.
    for (const strength of [1, 64, 128, 254])
      expect(Math.abs(over({ kind: 'whole' }, strength)(2, 2)[0]! - (255 - strength))).toBeLessThanOrEqual(1);
  });
  it('one of no strength is not there', () => {
    expect(over({ kind: 'whole' }, 0)(2, 2)).toEqual([255, 255, 255, 255]);
  });
  it('a band is whole in its middle and gone at its edges', () => {
    const at = over({ kind: 'band', way: 'across', at: 20, size: 100, soft: 40 });
    expect([at(5, 22)[0]! > 240, at(5, 70)[0], at(5, 117)[0]! > 240, at(5, 140)[0]]).toEqual([true, 0, true, 255]);
    const down = over({ kind: 'band', way: 'down', at: 20, size: 100, soft: 0 });
    expect([down(19, 5)[0], down(20, 5)[0], down(119, 5)[0], down(120, 5)[0]]).toEqual([255, 0, 0, 255]);
  });
  it('one from a side is whole there and gone at its reach', () => {
    const at = over({ kind: 'side', side: 'right', reach: 400 });
    expect(at(939, 5)[0]).toBeLessThan(3);
    expect(at(545, 5)[0]).toBeGreaterThan(250);
    expect(at(740, 5)[0]).toBeCloseTo(128, -1);
  });
  it('one that reaches past the canvas fades as if that went on', () => {
    const at = over({ kind: 'band', way: 'down', at: -300, size: 900, soft: 300 });
    expect([at(0, 5)[0], at(290, 5)[0], at(601, 5)[0]]).toEqual([0, 0, 255]);
    expect(at(450, 5)[0]).toBeCloseTo(128, -1);
    const side = over({ kind: 'side', side: 'left', reach: 1880 });
    expect(side(939, 5)[0]).toBeCloseTo(128, -1);
  });
  it('one behind words is whole there, gone further off, and follows them', () => {
    const form: VeilForm = { kind: 'behind', grow: 20, soft: 30 };
    const at = over(form);
    expect(at(385, 100)[0]).toBeLessThan(12);
    expect(at(20, 100)[0]).toBe(255);
    const b = layerBounds(veil({ form }), on(veil({ form }), words('Glaze')), shaper);
    expect(b.x).toBeGreaterThan(260);
    expect(b.width).toBeLessThan(460);
  });
  it('one that is for chosen words leaves others alone', () => {
    const form: VeilForm = { kind: 'behind', grow: 10, soft: 10 };
    const away = words('Line', { id: 'x', place: { x: 80, y: 10 } });
    const at = painted(
      on(veil({ form, strength: 255, words: ['w'] }), words('Glaze', { place: { x: 700, y: 100 } }), away),
    );
    expect(at(20, 30)[0]).toBe(255);
    expect(at(700, 105)[0]).toBeLessThan(60);
  });
});
