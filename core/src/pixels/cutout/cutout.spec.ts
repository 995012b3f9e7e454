import { createCanvas } from '@napi-rs/canvas';
import { converter, differenceCiede2000 } from 'culori';
import type { Cutout } from '../appearance';
import { usualCutout } from '../appearance';
import { at, pixelsBy } from '../../testing/pixels';
import { random } from '../../testing/samples';
import { squaredDistances } from '../distance';
import type { Pixels } from '../reduce';
import { borderColour, cutFlat } from './flat';
import { cutByMask } from './subject';

type Flat = Cutout & { kind: 'flat' };
const flat = (own: Partial<Flat> = {}): Flat => ({ ...usualCutout, ...own });

const SIDE = 120;

/** A drawn thing: its true colours and alpha, and the same on a ground as a page or a drawing program mixes them. */
function truth(
  ground: string,
  ink: string,
  draw: (c: ReturnType<ReturnType<typeof createCanvas>['getContext']>) => void,
) {
  const alone = createCanvas(SIDE, SIDE).getContext('2d');
  alone.fillStyle = alone.strokeStyle = ink;
  draw(alone);
  const on = createCanvas(SIDE, SIDE).getContext('2d');
  on.fillStyle = ground;
  on.fillRect(0, 0, SIDE, SIDE);
  on.drawImage(alone.canvas, 0, 0);
  const read = (c: typeof alone): Pixels => ({
    width: SIDE,
    height: SIDE,
    data: new Uint8ClampedArray(c.getImageData(0, 0, SIDE, SIDE).data),
  });
  return { alone: read(alone), on: read(on) };
}

const shapes: [string, Parameters<typeof truth>[2]][] = [
  [
    'a disc',
    (c) => {
      c.arc(60, 60, 38.3, 0, 2 * Math.PI);
      c.fill();
    },
  ],
  [
    'a slanted box',
    (c) => {
      c.translate(60, 60);
      c.rotate(0.4);
      c.fillRect(-34, -20, 68, 40);
    },
  ],
  [
    'a ring with a hole',
    (c) => {
      c.lineWidth = 13;
      c.arc(60, 60, 34, 0, 2 * Math.PI);
      c.stroke();
    },
  ],
  [
    'strokes of three px',
    (c) => {
      c.lineWidth = 3;
      for (let i = 0; i < 5; i++) {
        c.moveTo(20 + i * 17, 25);
        c.lineTo(32 + i * 15, 95);
      }
      c.stroke();
    },
  ],
];
const grounds: [string, string][] = [
  ['#ffffff', '#6b3a22'],
  ['#ffffff', '#1f2a30'],
  ['#f0ead8', '#1f6f5c'],
  ['#102030', '#f2e7cb'],
];

const lab65 = converter('lab65');
const difference = differenceCiede2000();
const over = (p: Pixels, i: number, ground: readonly [number, number, number]) => {
  const a = p.data[i + 3]! / 255;
  const mix = (c: number) => (p.data[i + c]! * a + ground[c]! * (1 - a)) / 255;
  return lab65({ mode: 'rgb', r: mix(0), g: mix(1), b: mix(2) });
};

describe.each(shapes)('%s cut out, against what was drawn (Skia, by @napi-rs/canvas)', (_name, draw) => {
  it.each(grounds)('of %s, in %s', (ground, ink) => {
    const { alone, on } = truth(ground, ink, draw);
    const cut = cutFlat(on, flat({ where: 'anywhere' }));
    // Within 3 px of the true edge, and elsewhere.
    const solid = Uint8Array.from({ length: SIDE * SIDE }, (_, i) => (alone.data[i * 4 + 3]! > 127 ? 1 : 0));
    const empty = Uint8Array.from(solid, (s) => 1 - s);
    const [toSolid, toEmpty] = [squaredDistances(solid, SIDE, SIDE), squaredDistances(empty, SIDE, SIDE)];
    let [near, nearN, far, farN] = [0, 0, 0, 0];
    let worst = 0;
    for (let i = 0; i < SIDE * SIDE; i++) {
      const off = Math.abs(cut.data[i * 4 + 3]! - alone.data[i * 4 + 3]!) / 255;
      if (Math.min(toSolid[i]! || toEmpty[i]!, toEmpty[i]! || toSolid[i]!) <= 9) {
        near += off;
        nearN++;
      } else {
        far += off;
        farN++;
      }
      // No halo: on white, mid and dark it looks as the thing itself does there.
      for (const page of [
        [255, 255, 255],
        [128, 128, 128],
        [16, 24, 32],
      ] as const)
        worst = Math.max(worst, difference(over(cut, i * 4, page), over(alone, i * 4, page)));
    }
    expect(near / nearN).toBeLessThanOrEqual(0.06);
    expect(far / farN).toBeLessThanOrEqual(0.005);
    expect(worst).toBeLessThan(6);
  });
});

describe('where', () => {
  const { on } = truth('#ffffff', '#333333', shapes[2]![1]);
  it('from the border inwards leaves holes, wherever it occurs does not', () => {
    expect(at(cutFlat(on, flat()), 60, 60)[3]).toBe(255);
    expect(at(cutFlat(on, flat({ where: 'anywhere' })), 60, 60)[3]).toBe(0);
    expect(at(cutFlat(on, flat()), 2, 2)[3]).toBe(0);
  });

  it('the colour may be given, and the border’s own is found', () => {
    expect(borderColour(on)).toEqual([255, 255, 255]);
    const cut = cutFlat(on, flat({ colour: '#333333', where: 'anywhere' }));
    expect(at(cut, 2, 2)[3]).toBe(255);
    expect(at(cut, 60, 26)[3]).toBe(0);
  });

  it('a ground that is clear already leaves the picture alone', () => {
    const p = pixelsBy(20, 20, (x, y) => (x > 5 && x < 14 && y > 5 && y < 14 ? [9, 9, 9, 255] : [0, 0, 0, 0]));
    expect(cutFlat(p, flat())).toBe(p);
  });
});

describe('tolerance', () => {
  const r = random(4);
  // A sheet with the grain that JPEG leaves, and a pale thing on it.
  const p = pixelsBy(60, 60, (x, y) => {
    const thing = x > 20 && x < 40 && y > 20 && y < 40;
    const v = (thing ? 190 : 250) + (r() - 0.5) * 8;
    return [v, v, v];
  });
  it('takes grain along, and takes more as it grows', () => {
    const gone = (tolerance: number) => {
      const cut = cutFlat(p, flat({ tolerance }));
      let n = 0;
      for (let i = 3; i < cut.data.length; i += 4) if (cut.data[i] === 0) n++;
      return n;
    };
    const [little, usual, much] = [gone(0.3), gone(8), gone(40)];
    expect(usual).toBeGreaterThan(2900);
    expect(little).toBeLessThan(usual);
    expect(much).toBe(3600);
  });

  it('0.02 on one side of the limit and on the other are told apart (OKLab distance × 100)', () => {
    // Grey 200 lies 15.7 from white, in hundredths of OKLab: culori says so.
    const oklab = converter('oklab');
    const d = 100 * (1 - oklab({ mode: 'rgb', r: 200 / 255, g: 200 / 255, b: 200 / 255 }).l);
    const grey = pixelsBy(30, 30, (x, y) => (x > 8 && x < 22 && y > 8 && y < 22 ? [200, 200, 200] : [255, 255, 255]));
    expect(at(cutFlat(grey, flat({ tolerance: d - 0.05 })), 15, 15)[3]).toBe(255);
    expect(at(cutFlat(grey, flat({ tolerance: d + 0.05 })), 15, 15)[3]).toBe(0);
  });
});

it('a softer edge falls off inwards: nothing of the ground comes back', () => {
  const { on, alone } = truth('#ffffff', '#333333', shapes[0]![1]);
  const hard = cutFlat(on, flat());
  const soft = cutFlat(on, flat({ soft: 4 }));
  for (let i = 3; i < soft.data.length; i += 4) expect(soft.data[i]).toBeLessThanOrEqual(hard.data[i]!);
  expect(at(soft, 60, 60)[3]).toBe(255);
  const rim = at(soft, 60, 60 - 37);
  expect(rim[3]).toBeLessThan(at(alone, 60, 60 - 37)[3]!);
  expect(rim[3]).toBeGreaterThan(0);
});

it('a small mask cuts at the picture’s own px: a disc of a quarter the size within 1 px of its true edge', () => {
  const { on } = truth('#80a0c0', '#c04020', shapes[0]![1]);
  const small = {
    width: 30,
    height: 30,
    data: Uint8Array.from({ length: 900 }, (_, i) =>
      ((i % 30) + 0.5 - 15) ** 2 + (Math.floor(i / 30) + 0.5 - 15) ** 2 < (38.3 / 4) ** 2 ? 255 : 0,
    ),
  };
  const cut = cutByMask(on, small, 0);
  let area = 0;
  for (let i = 3; i < cut.data.length; i += 4) area += cut.data[i]! / 255;
  expect(Math.abs(Math.sqrt(area / Math.PI) - 38.3)).toBeLessThan(1);
});
