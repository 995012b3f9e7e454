import type { Pixels } from './reduce';
import { STRAY_DEPTH, strayLines } from './stray';
import { random } from '../testing/samples';

const W = 120;
const H = 80;

/** A picture without plain sides (seed 9), with what is painted over it. */
function picture(
  paint: (x: number, y: number) => readonly [number, number, number, number] | null = () => null,
): Pixels {
  const r = random(9);
  const data = new Uint8ClampedArray(W * H * 4);
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++)
      data.set(paint(x, y) ?? [90 + r() * 120, 80 + r() * 100, 60 + r() * 100, 255], (y * W + x) * 4);
  return { width: W, height: H, data };
}

function part({ data }: Pixels, left: number, top: number, width: number, height: number): Pixels {
  const out = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++)
    out.set(data.subarray(((top + y) * W + left) * 4, ((top + y) * W + left + width) * 4), y * width * 4);
  return { width, height, data: out };
}

const strayIn = (p: Pixels) =>
  strayLines({
    top: part(p, 0, 0, W, STRAY_DEPTH),
    bottom: part(p, 0, H - STRAY_DEPTH, W, STRAY_DEPTH),
    left: part(p, 0, 0, STRAY_DEPTH, H),
    right: part(p, W - STRAY_DEPTH, 0, STRAY_DEPTH, H),
  });
const none = { top: 0, right: 0, bottom: 0, left: 0 };

describe('strayLines', () => {
  it.each([1, 2, 3])('finds %d white columns at the right, and black rows at the top', (n) => {
    expect(strayIn(picture((x) => (x >= W - n ? [255, 255, 255, 255] : null)))).toEqual({ ...none, right: n });
    expect(strayIn(picture((_, y) => (y < n ? [0, 0, 0, 255] : null)))).toEqual({ ...none, top: n });
  });
  it('finds a half transparent row before opaque ones', () => {
    const soft = picture((_, y) => (y === H - 1 ? [120, 110, 90, 128] : null));
    expect(strayIn(soft)).toEqual({ ...none, bottom: 1 });
  });
  it('finds none in a picture as it is, on a plain sheet, within a frame, or of stripes', () => {
    expect(strayIn(picture())).toEqual(none);
    expect(strayIn(picture((x, y) => (x < 20 || y < 20 ? [240, 240, 240, 255] : null)))).toEqual(none);
    expect(strayIn(picture((x) => (x < 1 ? [0, 0, 0, 255] : [200, 200, 200, 255])))).toEqual(none);
  });
});
