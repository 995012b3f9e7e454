import { anyLayers } from '../testing/any';
import { blank, photo, random, shape, veil, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import { enclosing, right } from '../geometry/box';
import { middleOf } from '../geometry/turn';
import type { Graphic, Layer } from './graphic';
import { layerBounds } from './shape-geometry';
import {
  aligned,
  alignments,
  centredIn,
  movedUnits,
  nudgeStep,
  sameSize,
  spread,
  turnedAbout,
  unitsOf,
} from './several';

const shaper = await realShaper();
const canvas = blank().canvas;
const after = (g: Graphic, changed: readonly Layer[]): Graphic => ({
  ...g,
  layers: g.layers.map((l) => changed.find((c) => c.id === l.id) ?? l),
});
const boxes = (g: Graphic, ids: readonly string[]) => unitsOf(g, ids, shaper).map((u) => u.box);

/** Graphics of what people make: some of each kind, some of them grouped. */
function anyGraphic(seed: number): { graphic: Graphic; ids: string[] } {
  const any = anyLayers(random(seed));
  const r = random(seed + 1);
  const layers = Array.from({ length: 3 + Math.floor(r() * 5) }, (_, i) => any.layer(`l${i}`));
  if (r() < 0.5) layers.splice(1, 2, ...layers.slice(1, 3).map((l) => ({ ...l, group: { id: 'G', name: 'G' } })));
  const graphic = withLayers(blank(), ...layers);
  return { graphic, ids: layers.map((l) => l.id) };
}
const seeds = Array.from({ length: 150 }, (_, i) => 400 + i);

describe('arranging several', () => {
  it('takes groups as one, a note with its words, and leaves veils, bands and what is locked', () => {
    const g = withLayers(
      blank(),
      words('Autumn', { id: 'w' }),
      shape({
        id: 'note',
        place: { mode: 'around', words: 'w', across: 8, down: 4, last: { x: 0, y: 0, width: 9, height: 9 } },
      }),
      veil(),
      shape({ id: 'band', place: { mode: 'band', side: 'bottom', size: 30 } }),
      shape({ id: 'a', group: { id: 'G', name: 'G' } }),
      shape({ id: 'b', group: { id: 'G', name: 'G' } }),
      shape({ id: 'locked', locked: true }),
    );
    const units = unitsOf(g, ['w', 'note', 'v', 'band', 'a', 'b', 'locked'], shaper);
    expect(units.map((u) => u.layers.map((l) => l.id))).toEqual([['w'], ['a', 'b']]);
    expect(units[0]!.box).toEqual(
      enclosing([layerBounds(g.layers[0]!, g, shaper), layerBounds(g.layers[1]!, g, shaper)]),
    );
  });

  it('brings an edge or a middle of each onto that of a box', () => {
    let worst = 0;
    for (const seed of seeds) {
      const { graphic, ids } = anyGraphic(seed);
      const to = { x: 28, y: 20, width: 884, height: 158 };
      for (const by of alignments) {
        const g = after(graphic, aligned(unitsOf(graphic, ids, shaper), by, to, canvas));
        for (const b of boxes(g, ids)) {
          const off = {
            left: b.x - to.x,
            centre: middleOf(b).x - middleOf(to).x,
            right: right(b) - right(to),
            top: b.y - to.y,
            middle: middleOf(b).y - middleOf(to).y,
            bottom: b.y + b.height - to.y - to.height,
          }[by];
          worst = Math.max(worst, Math.abs(off));
          if (Math.abs(off) > 1e-6) throw new Error(`${by} off by ${off}, seed ${seed}`);
        }
      }
    }
    expect(worst).toBeLessThan(1e-6);
  });

  it('makes gaps equal, the outer two staying, or over all of a box', () => {
    for (const seed of seeds)
      for (const axis of ['x', 'y'] as const)
        for (const within of [null, { x: 0, y: 0, ...canvas }]) {
          const { graphic, ids } = anyGraphic(seed);
          const units = unitsOf(graphic, ids, shaper);
          if (units.length < 3) continue;
          const side = axis === 'x' ? 'width' : 'height';
          const g = after(graphic, spread(units, axis, canvas, within));
          const order = units.map((u) => middleOf(u.box)[axis]);
          const row = boxes(g, ids)
            .map((b, i) => ({ b, at: order[i]! }))
            .sort((p, q) => p.at - q.at)
            .map(({ b }) => b);
          const gaps = row.slice(1).map((b, i) => b[axis] - row[i]![axis] - row[i]![side]);
          if (Math.max(...gaps) - Math.min(...gaps) > 1e-6) throw new Error(`gaps ${gaps.join()}, seed ${seed}`);
          if (within) {
            expect(row[0]![axis]).toBeCloseTo(0, 6);
            expect(row.at(-1)![axis] + row.at(-1)![side]).toBeCloseTo(canvas[side], 6);
          }
        }
  });

  it('centres what is arranged as it stands', () => {
    const g = withLayers(
      blank(),
      shape({ id: 'a' }),
      shape({ id: 'b', place: { mode: 'box', box: { x: 10, y: 5, width: 30, height: 9 } } }),
    );
    const before = boxes(g, ['a', 'b']);
    const now = boxes(after(g, centredIn(unitsOf(g, ['a', 'b'], shaper), { x: 0, y: 0, ...canvas }, canvas)), [
      'a',
      'b',
    ]);
    expect(middleOf(enclosing(now)!)).toEqual({ x: 470, y: 99 });
    expect(now[0]!.x - now[1]!.x).toBe(before[0]!.x - before[1]!.x);
  });

  it('makes things as wide or as high as another, pictures in proportion', () => {
    let worst = 0;
    for (const seed of seeds)
      for (const axis of ['x', 'y'] as const) {
        const { graphic, ids } = anyGraphic(seed);
        const side = axis === 'x' ? 'width' : 'height';
        const units = unitsOf(graphic, ids, shaper).filter((u) => u.layers.length === 1);
        for (const unit of units) {
          const [layer] = unit.layers;
          if (unit.box.width < 4 || unit.box.height < 4) continue;
          const [next] = sameSize([unit], axis, 77, graphic, shaper);
          if (!next) continue;
          const g = after(graphic, [next]);
          const now = layerBounds(next, g, shaper)[side];
          if (next.role === 'photo' && layer!.role === 'photo') {
            const [was, is] = [layerBounds(layer!, graphic, shaper), layerBounds(next, g, shaper)];
            expect(is.width / is.height).toBeCloseTo(was.width / was.height, 6);
            worst = Math.max(worst, Math.abs(now - 77));
          }
        }
      }
    expect(worst).toBeLessThan(1e-6);
    // Type comes in tenths of a px.
    const g = withLayers(blank(), words('Autumn glazes'));
    const [w] = sameSize(unitsOf(g, ['w'], shaper), 'x', 300, g, shaper);
    expect(Math.abs(layerBounds(w!, g, shaper).width - 300)).toBeLessThan(1.5);
    expect(middleOf(layerBounds(w!, g, shaper)).x).toBeCloseTo(470, 6);
  });

  it('turns things about a point and back', () => {
    for (const layer of [
      photo({ place: { mode: 'free', x: 40, y: 20, width: 120 } }),
      words('Autumn'),
      shape({ turn: 20 }),
    ]) {
      const g = withLayers(blank(), layer);
      const there = turnedAbout(layer, 35, { x: 300, y: 20 }, g, shaper);
      const back = turnedAbout(there, -35, { x: 300, y: 20 }, withLayers(blank(), there), shaper);
      const [was, is] = [layerBounds(layer, g, shaper), layerBounds(back, g, shaper)];
      for (const side of ['x', 'y', 'width', 'height'] as const) expect(is[side]).toBeCloseTo(was[side], 6);
    }
  });

  it('moves nothing by nothing, and by half a px where the slot has halves', () => {
    const { graphic, ids } = anyGraphic(3);
    expect(movedUnits(unitsOf(graphic, ids, shaper), { x: 0, y: 0 }, canvas)).toEqual([]);
    expect([nudgeStep({ width: 470.5, height: 198 }, 'x'), nudgeStep({ width: 470.5, height: 198 }, 'y')]).toEqual([
      0.5, 1,
    ]);
  });
});
