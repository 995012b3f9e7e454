import { directionOf } from '../geometry/turn';
import type { Box, Point } from '../geometry/box';
import { shareWithin, type FrameShape } from './frame-shape';
import type { Lying } from './mask';
import { byteOf, linearOf } from '../colour/srgb';

/** Catmull-Rom weights of the four samples around a point `t` of the way from the second to the third. Catmull and Rom (1974), from memory. */
function weights(t: number, into: Float64Array): void {
  const t2 = t * t;
  const t3 = t2 * t;
  into[0] = (-t3 + 2 * t2 - t) / 2;
  into[1] = (3 * t3 - 5 * t2 + 2) / 2;
  into[2] = (-3 * t3 + 4 * t2 + t) / 2;
  into[3] = (t3 - t2) / 2;
}

/**
 * Pixels turned clockwise by less than a quarter about a point, onto `place` (whole device px); in linear light on
 * premultiplied alpha. What shows ends at `frame` (device px, before the turn), its edges covered in part.
 */
export function turnPixels(lying: Lying, degrees: number, about: Point, frame: FrameShape, place: Box): Lying {
  const { pixels, x: x0, y: y0 } = lying;
  const { width, height, data: own } = pixels;
  const light = new Float32Array(width * height * 4);
  for (let i = 0; i < light.length; i += 4) {
    const a = own[i + 3]! / 255;
    light[i] = linearOf[own[i]!]! * a;
    light[i + 1] = linearOf[own[i + 1]!]! * a;
    light[i + 2] = linearOf[own[i + 2]!]! * a;
    light[i + 3] = a;
  }
  const data = new Uint8ClampedArray(place.width * place.height * 4);
  const { sin, cos } = directionOf(-degrees);
  const [wx, wy] = [new Float64Array(4), new Float64Array(4)];
  for (let y = 0; y < place.height; y++)
    for (let x = 0; x < place.width; x++) {
      const dx = place.x + x + 0.5 - about.x;
      const dy = place.y + y + 0.5 - about.y;
      const sx = about.x + dx * cos - dy * sin;
      const sy = about.y + dx * sin + dy * cos;
      const share = shareWithin(frame, sx, sy, sin, cos);
      if (share <= 0) continue;
      const fx = sx - x0 - 0.5;
      const fy = sy - y0 - 0.5;
      const [ix, iy] = [Math.floor(fx), Math.floor(fy)];
      weights(fx - ix, wx);
      weights(fy - iy, wy);
      let r = 0;
      let g = 0;
      let b = 0;
      let a = 0;
      for (let j = 0; j < 4; j++) {
        const row = Math.min(height - 1, Math.max(0, iy + j - 1)) * width;
        for (let k = 0; k < 4; k++) {
          const w = wx[k]! * wy[j]!;
          const at = (row + Math.min(width - 1, Math.max(0, ix + k - 1))) * 4;
          r += w * light[at]!;
          g += w * light[at + 1]!;
          b += w * light[at + 2]!;
          a += w * light[at + 3]!;
        }
      }
      if (a <= 0) continue;
      const to = (y * place.width + x) * 4;
      data[to] = byteOf(r / a);
      data[to + 1] = byteOf(g / a);
      data[to + 2] = byteOf(b / a);
      data[to + 3] = Math.min(1, a) * share * 255;
    }
  return { pixels: { width: place.width, height: place.height, data }, x: place.x, y: place.y };
}
