import { intersection } from '../geometry/box';
import { potterySets } from '../../../demo/src/slots';
import { random, slotOf } from '../testing/samples';
import type { SlotSet } from '../slot/set';
import { checkGraphic } from './check';
import { seamSides, setFrames, setGraphic } from './set-graphic';

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
