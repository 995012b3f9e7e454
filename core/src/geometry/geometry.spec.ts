import { random } from '../testing/samples';
import { contains, outward, without, type Box } from './box';
import { containBox, coverBox, coverIntent, resizedByCorner } from './fit';

const frame = { x: 0, y: 0, width: 940, height: 198 };

describe('coverBox', () => {
  it('covers, whatever the picture, focus and zoom', () => {
    const r = random(1);
    for (let i = 0; i < 2000; i++) {
      const box = coverBox(
        { width: 1 + r() * 9000, height: 1 + r() * 9000 },
        { x: 0, y: 0, width: 1 + r() * 2000, height: 1 + r() * 2000 },
        { x: r(), y: r() },
        1 + r() * 5,
      );
      expect(box.width / box.height).toBeGreaterThan(0);
    }
    for (let i = 0; i < 2000; i++) {
      const f = { x: r() * 50, y: r() * 50, width: 1 + r() * 2000, height: 1 + r() * 2000 };
      const box = coverBox({ width: 1 + r() * 9000, height: 1 + r() * 9000 }, f, { x: r(), y: r() }, 1 + r() * 5);
      expect(contains(box, f, 1e-6)).toBe(true);
    }
  });
  it('keeps proportions to a millionth', () => {
    const box = coverBox({ width: 3500, height: 2332 }, frame);
    expect(box.width / box.height).toBeCloseTo(3500 / 2332, 6);
  });
  // CSS Images 3, section 5.5: `object-fit: cover` of 3500 × 2332 in 940 × 198, centred, gives 940 × 626.32 at -214.16.
  it('is what CSS calls cover', () => {
    const box = coverBox({ width: 3500, height: 2332 }, frame);
    expect(box.x).toBe(0);
    expect(box.y).toBeCloseTo((198 - (940 * 2332) / 3500) / 2, 9);
  });
  it('goes back to its intent', () => {
    const r = random(2);
    for (let i = 0; i < 500; i++) {
      const picture = { width: 500 + r() * 4000, height: 500 + r() * 4000 };
      const box = coverBox(picture, frame, { x: r(), y: r() }, 1 + r() * 3);
      const intent = coverIntent(box, frame)!;
      const again = coverBox(picture, frame, intent.focus, intent.zoom);
      for (const k of ['x', 'y', 'width', 'height'] as const) expect(again[k]).toBeCloseTo(box[k], 6);
    }
  });
  it('has no intent for a box that leaves a gap', () => {
    expect(coverIntent({ x: -10, y: -10, width: 948, height: 400 }, frame)).toBeNull();
  });
});

it('containBox holds the picture whole and centred', () => {
  expect(containBox({ width: 400, height: 100 }, { x: 0, y: 0, width: 200, height: 200 })).toEqual({
    x: 0,
    y: 75,
    width: 200,
    height: 50,
  });
});

describe('resizedByCorner', () => {
  const box = { x: 100, y: 50, width: 200, height: 100 };
  it.each([
    ['bottom-right', { x: 500, y: 250 }, { x: 100, y: 50, width: 400, height: 200 }],
    ['top-left', { x: 200, y: 100 }, { x: 200, y: 100, width: 100, height: 50 }],
    ['top-right', { x: 200, y: 100 }, { x: 100, y: 100, width: 100, height: 50 }],
    ['bottom-left', { x: 200, y: 100 }, { x: 200, y: 50, width: 100, height: 50 }],
  ] as const)('%s keeps proportion and the other corner', (corner, to, expected) => {
    expect(resizedByCorner(box, corner, to)).toEqual(expected);
  });
  it('stops at a least width', () => expect(resizedByCorner(box, 'bottom-right', { x: 0, y: 0 }).width).toBe(8));
});

it('outward gives whole edges around, without float noise', () => {
  expect(outward({ x: 0.2, y: -0.2, width: 9.5, height: 10.2 })).toEqual({ x: 0, y: -1, width: 10, height: 11 });
  expect(outward({ x: 1e-9, y: 0, width: 10 - 1e-9, height: 10.0000000001 })).toEqual({
    x: 0,
    y: 0,
    width: 10,
    height: 10,
  });
});

it('without leaves exactly the area outside the hole', () => {
  const r = random(3);
  const area = (boxes: Box[]) => boxes.reduce((s, b) => s + b.width * b.height, 0);
  for (let i = 0; i < 500; i++) {
    const a = { x: r() * 10, y: r() * 10, width: 1 + r() * 10, height: 1 + r() * 10 };
    const b = { x: r() * 10, y: r() * 10, width: 1 + r() * 10, height: 1 + r() * 10 };
    const across = Math.max(0, Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x));
    const down = Math.max(0, Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y));
    expect(area(without(a, b))).toBeCloseTo(a.width * a.height - across * down, 6);
  }
});
