import { intersection } from '../geometry/box';
import { potterySets } from '../../../demo/src/slots';
import { blank, photo, random, slotOf, withLayers } from '../testing/samples';
import type { SlotSet } from '../slot/set';
import { checkGraphic } from './check';
import { frameFor } from './frame';
import type { Graphic } from './graphic';
import { pictureGeometry } from './picture-geometry';
import { fillingFrame, framesForPhotos, seamSides, setFrames, setGraphic } from './set-graphic';

const own = { id: 'g', name: 'Set', created: '2026-11-30T00:00:00Z' };
const setOf = (id: string) => potterySets.find((s) => s.id === id)!;
const made = (set: SlotSet) => {
  const graphic = setGraphic(own, set, slotOf);
  if (!graphic.ok) throw new Error(graphic.problem.message);
  return graphic.value;
};
const five = setOf('five') as SlotSet & { kind: 'strip' };

describe('one canvas for a set', () => {
  it('that skips its gaps has its tiles edge to edge', () => {
    const { canvas, frames } = made(five);
    expect(canvas).toEqual({ width: 670, height: 134 });
    expect(frames.map((f) => f.rect.x)).toEqual([0, 134, 268, 402, 536]);
  });
  it('that runs on behind them has the gaps too', () => {
    const { canvas, frames } = made({ ...five, behind: 'runs-on' });
    expect(canvas).toEqual({ width: 750, height: 134 });
    expect(frames.map((f) => f.rect.x)).toEqual([0, 154, 308, 462, 616]);
  });
  it('wanted twice as large as it is shown has gaps twice as large', () => {
    const slot = { ...slotOf('strip-square'), width: 268, height: 268 };
    const frames = setFrames({ ...five, behind: 'runs-on' }, () => slot);
    expect(frames.ok && frames.value.map((f) => f.rect.x)).toEqual([0, 308, 616, 924, 1232]);
  });
  it('of a mosaic has its cells at half pixels, as the book has them', () => {
    const { canvas, frames } = made(setOf('window'));
    expect(canvas).toEqual({ width: 1050, height: 600 });
    expect(frames.map((f) => f.rect)).toEqual([
      { x: 0, y: 0, width: 517.5, height: 600 },
      { x: 532.5, y: 0, width: 251.25, height: 600 },
      { x: 798.75, y: 0, width: 251.25, height: 292.5 },
      { x: 798.75, y: 307.5, width: 251.25, height: 292.5 },
    ]);
  });
  it('is none for a row, nor where a slot is gone or wanted at another measure', () => {
    expect(setGraphic(own, setOf('menu'), slotOf)).toMatchObject({ ok: false });
    expect(setGraphic(own, five, () => undefined)).toMatchObject({ ok: false });
    const odd = (id: string) => (id === 'mosaic-tall' ? { ...slotOf(id), width: 502.5 } : slotOf(id));
    const found = setGraphic(own, setOf('window'), odd);
    expect(!found.ok && found.problem.message).toMatch(/Place 2 .* wanted 2 times/);
  });
  it('of any figures can be kept, its frames within the canvas, none on another', () => {
    const seed = 17;
    const r = random(seed);
    for (let i = 0; i < 200; i++) {
      const count = 2 + Math.floor(r() * 30);
      const slot = {
        ...slotOf('strip-square'),
        width: Math.ceil(r() * 300) / 2 + 20,
        shownWidth: 20 + Math.ceil(r() * 300),
      };
      const set: SlotSet = { ...five, count, gap: Math.round(r() * 40), behind: r() < 0.5 ? 'skips' : 'runs-on' };
      const graphic = setGraphic(own, set, () => slot);
      if (!graphic.ok) throw new Error(`seed ${seed}, case ${i}: ${graphic.problem.message}`);
      expect(checkGraphic(graphic.value)).toMatchObject({ ok: true });
      const { canvas, frames } = graphic.value;
      for (const [n, { rect }] of frames.entries()) {
        expect(rect.x + rect.width).toBeLessThanOrEqual(canvas.width + 1e-6);
        const next = frames[n + 1];
        const shared = next && intersection(rect, next.rect);
        expect(!shared || shared.width < 1e-6).toBe(true);
      }
    }
  });
});

describe('seams', () => {
  it('are where another frame lies beyond', () => {
    const { frames } = made(setOf('window'));
    const of = (n: number) => [...seamSides(frames[n]!.rect, frames)].sort();
    expect([of(0), of(1), of(2), of(3)]).toEqual([['right'], ['left', 'right'], ['bottom', 'left'], ['left', 'top']]);
    const strip = made(five).frames;
    expect([...seamSides(strip[0]!.rect, strip)]).toEqual(['right']);
    expect([...seamSides(strip[2]!.rect, strip)].sort()).toEqual(['left', 'right']);
  });
  it('are none where there is one frame', () => {
    const [frame] = made(five).frames;
    expect(seamSides(frame!.rect, [frame!]).size).toBe(0);
  });
});

describe('photos of a set', () => {
  const two = (): Graphic => ({
    ...blank(),
    canvas: { width: 200, height: 100 },
    frames: [
      frameFor('a', { x: 0, y: 0, width: 90.5, height: 100 }, slotOf('strip-square')),
      frameFor('b', { x: 109.5, y: 0, width: 90.5, height: 100 }, slotOf('strip-square')),
    ],
  });
  const filled = (id: string, at: number) => ({ ...fillingFrame(photo({ id }), two().frames[at]!.rect), id });

  it('fill a frame to its half px, in proportion, about their focus', () => {
    const layer = fillingFrame(photo({ focus: { x: 0.9, y: 0.5 } }), two().frames[1]!.rect);
    expect(layer.place).toEqual({ mode: 'free', x: 109.5, y: 0, width: 90.5 });
    expect(layer.crop!.width / layer.crop!.height).toBeCloseTo(0.905, 6);
    expect(layer.crop!.x + layer.crop!.width).toBeLessThanOrEqual(3500);
    const { shown } = pictureGeometry(layer, two().canvas);
    expect([shown.width, shown.height]).toEqual([90.5, expect.closeTo(100, 6)]);
  });

  it('that come together take the frames that are free, in their order', () => {
    expect(framesForPhotos(two(), 2, null).map((f) => f.id)).toEqual(['a', 'b']);
    expect(framesForPhotos(withLayers(two(), filled('p', 0)), 2, null).map((f) => f.id)).toEqual(['b']);
    expect(framesForPhotos(blank(), 3, null)).toEqual([]);
  });

  it('that come alone are one picture over all, or where they are let go on another', () => {
    expect(framesForPhotos(two(), 1, { x: 150, y: 50 })).toEqual([]);
    const covered = withLayers(two(), photo());
    expect(framesForPhotos(covered, 1, { x: 150, y: 50 }).map((f) => f.id)).toEqual(['b']);
    expect(framesForPhotos(covered, 1, { x: 100, y: 50 })).toEqual([]);
  });
});
