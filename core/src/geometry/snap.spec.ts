import { moved, type Box } from './box';
import { snap, snapResize, type SnapScene } from './snap';
import { random } from '../testing/samples';

const canvas = { x: 0, y: 0, width: 940, height: 198 };
const scene = (others: readonly Box[] = [], safe: Box | null = null): SnapScene => ({
  canvas,
  safe,
  others: others.map((box) => ({ box })),
});

describe('snapping', () => {
  it('meets the nearest edge within reach, each axis alone', () => {
    const s = snap({ box: { x: 4, y: 30, width: 100, height: 40 } }, scene(), 6);
    expect(s.offset).toEqual({ x: -4, y: 0 });
    expect(s.guides).toEqual([{ axis: 'x', at: 0, from: 0, to: 198, of: 'canvas' }]);
  });

  it('meets the middle', () => {
    expect(snap({ box: { x: 417, y: 0, width: 100, height: 10 } }, scene(), 6).offset.x).toBe(3);
  });

  it('meets the safe area, and says so', () => {
    const s = snap(
      { box: { x: 31, y: 60, width: 50, height: 20 } },
      scene([], { x: 28, y: 20, width: 884, height: 158 }),
      6,
    );
    expect(s.offset.x).toBe(-3);
    expect(s.guides).toContainEqual({ axis: 'x', at: 28, from: 20, to: 178, of: 'safe' });
  });

  it('meets another thing, and says how far it is', () => {
    const s = snap(
      { box: { x: 203, y: 110, width: 60, height: 30 } },
      scene([{ x: 200, y: 20, width: 90, height: 33 }]),
      6,
    );
    expect(s.offset.x).toBe(-3);
    expect(s.distances).toContainEqual({ axis: 'y', from: 53, to: 110, at: 200 });
  });

  it('brings words onto the baseline of others', () => {
    const others = [{ box: { x: 20, y: 50, width: 100, height: 61 }, baselines: [93] }];
    const s = snap(
      { box: { x: 400, y: 68, width: 80, height: 20 }, baselines: [91] },
      { canvas, safe: null, others },
      6,
    );
    expect(s.offset.y).toBe(2);
    expect(s.guides.map((g) => g.of)).toContain('baseline');
  });

  it('makes gaps equal: between two, and going on after two', () => {
    const row = [
      { x: 100, y: 40, width: 50, height: 50 },
      { x: 400, y: 50, width: 70, height: 50 },
    ];
    const between = snap({ box: { x: 236, y: 44, width: 73, height: 33 } }, scene(row), 6);
    // 150 to 400 less 73: 88.5 on either side.
    expect(between.offset.x).toBe(2.5);
    expect(between.distances.filter((d) => d.axis === 'x').map((d) => d.to - d.from)).toEqual([88.5, 88.5]);
    const after = snap({ box: { x: 717, y: 44, width: 33, height: 33 } }, scene(row), 6);
    expect(after.offset.x).toBe(3);
    expect(after.distances.filter((d) => d.axis === 'x').map((d) => d.to - d.from)).toEqual([250, 250]);
  });

  it('never moves a thing by more than its pull, and what it says has met has met', () => {
    const seed = 20261130;
    const r = random(seed);
    const any = (): Box => ({ x: r() * 900, y: r() * 190, width: 1 + r() * 300, height: 1 + r() * 90 });
    for (let i = 0; i < 3000; i++) {
      const box = any();
      const reach = r() * 12;
      const others = Array.from({ length: Math.floor(r() * 5) }, any);
      const s = snap({ box }, scene(others, r() < 0.5 ? any() : null), reach);
      if (Math.abs(s.offset.x) > reach || Math.abs(s.offset.y) > reach)
        throw new Error(`moved by ${s.offset.x}, ${s.offset.y}, pull ${reach}, case ${i} of seed ${seed}`);
      const at = moved(box, s.offset);
      for (const g of s.guides) {
        const mine =
          g.axis === 'x'
            ? [at.x, at.x + at.width / 2, at.x + at.width]
            : [at.y, at.y + at.height / 2, at.y + at.height];
        expect(Math.min(...mine.map((m) => Math.abs(m - g.at)))).toBeLessThan(1e-5);
      }
      // What stands is not moved again.
      const again = snap({ box: at }, scene(others), 0);
      expect(Math.abs(again.offset.x) + Math.abs(again.offset.y)).toBeLessThan(1e-9);
    }
  });
});

describe('snapping while something is made larger', () => {
  const from = { x: 100, y: 50, width: 100, height: 40 };

  it('moves the edge that is moved, and no other', () => {
    const s = snapResize(from, { ...from, width: 837 }, scene(), 6, false);
    expect(s.box).toEqual({ ...from, width: 840 });
    expect(s.guides).toContainEqual({ axis: 'x', at: 940, from: 0, to: 198, of: 'canvas' });
    expect(snapResize(from, { x: 4, y: 50, width: 196, height: 40 }, scene(), 6, false).box).toEqual({
      x: 0,
      y: 50,
      width: 200,
      height: 40,
    });
  });

  it('keeps proportions, and the corner that is held', () => {
    const s = snapResize(from, { x: 100, y: 50, width: 365, height: 146 }, scene(), 6, true);
    // The lower edge, at 196, meets 198; the middle of the canvas, 470, is 5 px from the right edge.
    expect(s.box.y + s.box.height).toBeCloseTo(198, 9);
    expect(s.box.x).toBe(100);
    expect(s.box.width / s.box.height).toBeCloseTo(2.5, 9);
  });

  it('leaves what is near nothing', () => {
    const to = { ...from, width: 230 };
    expect(snapResize(from, to, scene(), 6, false)).toEqual({ box: to, guides: [] });
  });
});
