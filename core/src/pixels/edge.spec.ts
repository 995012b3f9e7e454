import { differenceCiede2000 } from 'culori';
import { at, pixelsBy } from '../testing/pixels';
import { random } from '../testing/samples';
import { applyFades } from './mask';
import { edgeAlpha, edgeColour, edgeColours, openSides, runOn, seamDifference } from './edge';

const whole = (width: number, height: number) => ({ x: 0, y: 0, width, height });

/**
 * The published pairs of Sharma, Wu and Dalal, "The CIEDE2000 Color-Difference Formula: Implementation Notes,
 * Supplementary Test Data, and Mathematical Observations" (2005), table 1; the figures from memory.
 */
const pairs: [number, number, number, number, number, number, number][] = [
  [50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425],
  [50, 3.1571, -77.2803, 50, 0, -82.7485, 2.8615],
  [50, 2.8361, -74.02, 50, 0, -82.7485, 3.4412],
  [50, -1.3802, -84.2814, 50, 0, -82.7485, 1],
  [50, -1.1848, -84.8006, 50, 0, -82.7485, 1],
  [50, -0.9009, -85.5211, 50, 0, -82.7485, 1],
  [50, 0, 0, 50, -1, 2, 2.3669],
  [50, -1, 2, 50, 0, 0, 2.3669],
  [50, 2.49, -0.001, 50, -2.49, 0.0009, 7.1792],
  [50, 2.49, -0.001, 50, -2.49, 0.001, 7.1792],
  [50, 2.49, -0.001, 50, -2.49, 0.0011, 7.2195],
  [50, 2.49, -0.001, 50, -2.49, 0.0012, 7.2195],
  [50, -0.001, 2.49, 50, 0.0009, -2.49, 4.8045],
  [50, -0.001, 2.49, 50, 0.001, -2.49, 4.8045],
  [50, -0.001, 2.49, 50, 0.0011, -2.49, 4.7461],
  [50, 2.5, 0, 50, 0, -2.5, 4.3065],
  [50, 2.5, 0, 73, 25, -18, 27.1492],
  [50, 2.5, 0, 61, -5, 29, 22.8977],
  [50, 2.5, 0, 56, -27, -3, 31.903],
  [50, 2.5, 0, 58, 24, 15, 19.4535],
  [50, 2.5, 0, 50, 3.1736, 0.5854, 1],
  [50, 2.5, 0, 50, 3.2972, 0, 1],
  [50, 2.5, 0, 50, 1.8634, 0.5757, 1],
  [50, 2.5, 0, 50, 3.2592, 0.335, 1],
  [60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644],
  [63.0109, -31.0961, -5.8663, 62.8187, -29.7946, -4.0864, 1.263],
  [61.2901, 3.7196, -5.3901, 61.4292, 2.248, -4.962, 1.8731],
  [35.0831, -44.1164, 3.7933, 35.0232, -40.0716, 1.5901, 1.8645],
  [22.7233, 20.0904, -46.694, 23.0331, 14.973, -42.5619, 2.0373],
  [36.4612, 47.858, 18.3852, 36.2715, 50.5065, 21.2231, 1.4146],
  [90.8027, -2.0831, 1.441, 91.1528, -1.6435, 0.0447, 1.4441],
  [90.9257, -0.5406, -0.9208, 88.6381, -0.8985, -0.7239, 1.5381],
  [6.7747, -0.2908, -2.4247, 5.8714, -0.0985, -2.2286, 0.6377],
  [2.0776, 0.0795, -1.135, 0.9033, -0.0636, -0.5514, 0.9082],
];

it('ΔE2000, as the colour library has it, gives the published differences of all 34 pairs', () => {
  const difference = differenceCiede2000();
  for (const [l, a, b, m, c, d, want] of pairs) {
    const got = difference({ mode: 'lab65', l, a, b }, { mode: 'lab65', l: m, a: c, b: d });
    expect(Math.abs(got - want)).toBeLessThan(0.00006);
  }
});

describe('an edge’s colour', () => {
  const r = random(2);
  const grain = () => (r() - 0.5) * 40;
  it('is what lies under its grain', () => {
    const p = pixelsBy(200, 120, () => [120 + grain(), 150 + grain(), 90 + grain()]);
    const hex = edgeColour({ pixels: p, x: 0, y: 0 }, whole(200, 120), 'left')!;
    const [red, green, blue] = [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16));
    for (const [got, want] of [
      [red, 120],
      [green, 150],
      [blue, 90],
    ] as const)
      expect(Math.abs(got! - want)).toBeLessThanOrEqual(3);
  });

  it('follows its course along the edge, and passes over what is clear', () => {
    const p = pixelsBy(40, 100, (_x, y) => [y * 2, 100, 50, y < 4 ? 0 : 255]);
    const { along } = edgeColours({ pixels: p, x: 0, y: 0 }, whole(40, 100), 'right', 'gradient');
    expect(Math.abs(along[50 * 3]! - 100)).toBeLessThan(3);
    expect(along[90 * 3]!).toBeGreaterThan(along[20 * 3]!);
    expect(Math.abs(along[0]! - 8)).toBeLessThan(6);
  });
});

describe('running on', () => {
  it('fills what is uncovered to the last px, and leaves the picture as it was', () => {
    const p = pixelsBy(30, 20, (x, y) => [x * 5, y * 5, 99]);
    const lying = { pixels: p, x: 10, y: 0 };
    const frame = { x: 10, y: 0, width: 30, height: 20 };
    const on = runOn(lying, frame, { x: 0, y: 0, width: 60, height: 30 }, 'gradient');
    for (let i = 3; i < on.pixels.data.length; i += 4) expect(on.pixels.data[i]).toBe(255);
    for (let y = 0; y < 20; y++) for (let x = 0; x < 30; x++) expect(at(on.pixels, x + 10, y)).toEqual(at(p, x, y));
    // Each row goes on as it ended.
    expect(at(on.pixels, 50, 15)[1]).toBeGreaterThan(at(on.pixels, 50, 5)[1]!);
    expect(at(on.pixels, 45, 10)).toEqual(at(on.pixels, 59, 10));
  });

  it('lies under a picture that fades into it', () => {
    const p = pixelsBy(30, 10, () => [200, 40, 40]);
    const faded = { ...p, data: p.data.slice() };
    for (let i = 3; i < faded.data.length; i += 4) faded.data[i] = 100;
    const frame = { x: 0, y: 0, width: 30, height: 10 };
    const on = runOn({ pixels: p, x: 0, y: 0 }, frame, { x: 0, y: 0, width: 40, height: 10 }, 'colour', {
      pixels: faded,
      x: 0,
      y: 0,
    });
    at(on.pixels, 25, 5).forEach((v, c) => expect(Math.abs(v - [200, 40, 40, 255][c]!)).toBeLessThanOrEqual(1));
  });

  it('goes round a corner without a step that the edges do not have', () => {
    // Dark below, and darker to the right: two sides run on and meet in the corner.
    const p = pixelsBy(60, 40, (x, y) => [200 - x, 180 - y * 2, 90]);
    const on = runOn(
      { pixels: p, x: 0, y: 0 },
      { x: 0, y: 0, width: 60, height: 40 },
      { x: 0, y: 0, width: 90, height: 60 },
      'gradient',
    );
    for (let y = 41; y < 60; y++)
      for (let x = 1; x < 90; x++)
        at(on.pixels, x, y).forEach((v, c) => expect(Math.abs(v - at(on.pixels, x - 1, y)[c]!)).toBeLessThanOrEqual(6));
    // What runs on to the right and what runs on below it meet as well.
    for (let x = 60; x < 90; x++)
      at(on.pixels, x, 40).forEach((v, c) => expect(Math.abs(v - at(on.pixels, x, 39)[c]!)).toBeLessThanOrEqual(8));
  });

  it('knows the open sides', () => {
    expect(openSides({ x: 5, y: 0, width: 10, height: 10 }, { x: 0, y: 0, width: 20, height: 10 })).toEqual([
      'left',
      'right',
    ]);
    expect(openSides({ x: -5, y: -5, width: 40, height: 40 }, { x: 0, y: 0, width: 20, height: 10 })).toEqual([]);
  });
});

describe('the seam’s difference', () => {
  it('is nothing on an even edge, and names the worst place on an uneven one', () => {
    const even = pixelsBy(60, 60, () => [90, 140, 60]);
    const flat = seamDifference({ pixels: even, x: 0, y: 0 }, whole(60, 60), 'right', 'colour');
    expect(flat.worst).toBeLessThan(0.6);
    const two = pixelsBy(60, 60, (_x, y) => (y < 30 ? [20, 20, 20] : [230, 230, 230]));
    const lying = { pixels: two, x: 0, y: 0 };
    const colour = seamDifference(lying, whole(60, 60), 'right', 'colour');
    const gradient = seamDifference(lying, whole(60, 60), 'right', 'gradient');
    expect(colour.worst).toBeGreaterThan(20);
    // The course along the edge meets it better than one colour does.
    expect(gradient.mean).toBeLessThan(colour.mean / 3);
  });
});

it('tells how much of an edge is left once it has faded', () => {
  const lying = { pixels: pixelsBy(40, 20, () => [10, 20, 30, 255]), x: 0, y: 0 };
  const frame = { x: 0, y: 0, width: 40, height: 20 };
  expect(edgeAlpha(lying, frame, 'right')).toBe(1);
  applyFades(lying, [{ from: { x: 20, y: 0 }, to: { x: 40, y: 0 } }]);
  expect(edgeAlpha(lying, frame, 'right')).toBeLessThan(0.02);
  expect(edgeAlpha(lying, frame, 'left')).toBe(1);
});
