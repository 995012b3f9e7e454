import type { Box } from '../geometry/box';
import type { FadeLine, Finish } from '../paint/finish';
import type { Pixels } from './reduce';
import { channelsOf } from './srgb';

/** Pixels that lie with their top left at (`x`, `y`), device px. */
export interface Lying {
  readonly pixels: Pixels;
  readonly x: number;
  readonly y: number;
}

/**
 * Signed distance, px, of a point to the edge of a box with rounded corners (negative inside), and whether the
 * nearest edge is a corner's. Radii as in `Finish`; those too large for the box are made smaller together, as
 * CSS Backgrounds 3, section 4.5 (Overlapping Curves) does.
 */
function edgeOf(box: Box, corners: Finish['corners']): (x: number, y: number) => { d: number; round: boolean } {
  const [rx, ry] = [box.width / 2, box.height / 2];
  const [cx, cy] = [box.x + rx, box.y + ry];
  if (corners === 'round')
    return (px, py) => {
      const [x, y] = [px - cx, py - cy];
      const f = Math.hypot(x / rx, y / ry);
      const g = Math.hypot(x / (rx * rx), y / (ry * ry));
      return { d: g === 0 ? -Math.min(rx, ry) : (f * (f - 1)) / g, round: true };
    };
  const radii = corners ?? [0, 0, 0, 0];
  const fit = Math.min(
    1,
    box.width / Math.max(1e-9, radii[0] + radii[1], radii[3] + radii[2]),
    box.height / Math.max(1e-9, radii[0] + radii[3], radii[1] + radii[2]),
  );
  return (px, py) => {
    const [x, y] = [px - cx, py - cy];
    const r = radii[x < 0 ? (y < 0 ? 0 : 3) : y < 0 ? 1 : 2] * fit;
    const [qx, qy] = [Math.abs(x) - rx + r, Math.abs(y) - ry + r];
    return {
      d: Math.hypot(Math.max(qx, 0), Math.max(qy, 0)) + Math.min(Math.max(qx, qy), 0) - r,
      round: qx > 0 && qy > 0,
    };
  };
}

const FINE = 8;

/** How much of the px at (`x`, `y`) lies within the ellipse in a box; the distance to one is only nearly known. */
function ovalShare(box: Box, x: number, y: number): number {
  const [rx, ry] = [box.width / 2, box.height / 2];
  let inside = 0;
  for (let j = 0; j < FINE; j++)
    for (let k = 0; k < FINE; k++) {
      const px = (x + (k + 0.5) / FINE - box.x - rx) / rx;
      const py = (y + (j + 0.5) / FINE - box.y - ry) / ry;
      if (px * px + py * py <= 1) inside++;
    }
  return inside / (FINE * FINE);
}

const clamp01 = (n: number) => (n <= 0 ? 0 : n >= 1 ? 1 : n);

/** How much of the px from `at` lies between `from` and `from + length`. */
const cover = (at: number, from: number, length: number) =>
  clamp01(Math.min(at + 1, from + length) - Math.max(at, from));

/**
 * A border within the edge, then corners, in place. `box` is the frame; `cutStraight` says that its straight
 * edges have cut into the pixels already, as a reduction does, so that a px half covered has half its alpha.
 */
export function applyShape(
  { pixels, x: x0, y: y0 }: Lying,
  box: Box,
  corners: Finish['corners'],
  border: Finish['border'],
  cutStraight: boolean,
): void {
  if (!corners && !border) return;
  const { data, width, height } = pixels;
  const edge = edgeOf(box, corners);
  const ink = border ? channelsOf(border.colour) : [];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = (y * width + x) * 4;
      const { d, round } = edge(x0 + x + 0.5, y0 + y + 0.5);
      const straight = cutStraight ? cover(x0 + x, box.x, box.width) * cover(y0 + y, box.y, box.height) : 1;
      if (straight === 0) continue;
      let own = Math.min(1, data[i + 3]! / 255 / straight);
      const ring = border ? clamp01(border.width + d + 0.5) : 0;
      if (ring > 0) {
        const under = own * (1 - ring);
        own = ring + under;
        for (let c = 0; c < 3; c++) data[i + c] = (ink[c]! * ring + data[i + c]! * under) / own;
      }
      const share = !round
        ? 1
        : corners === 'round' && Math.abs(d) < 2
          ? ovalShare(box, x0 + x, y0 + y)
          : clamp01(0.5 - d);
      data[i + 3] = own * straight * share * 255;
    }
}

/** From 1 to 0 without a kink; its steepest slope is 1.5. The Hermite polynomial 3t² - 2t³, from memory. */
export const eased = (t: number): number => {
  const s = 1 - clamp01(t);
  return s * s * (3 - 2 * s);
};

/** How much of a picture is left at a point of a fade, 0…1. */
export function fadeAt({ from, to }: FadeLine, x: number, y: number): number {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const long = dx * dx + dy * dy;
  return long === 0 ? 1 : eased(((x - from.x) * dx + (y - from.y) * dy) / long);
}

/** Fades in place: each takes its share of the alpha. */
export function applyFades({ pixels, x: x0, y: y0 }: Lying, fades: readonly FadeLine[]): void {
  const { data, width, height } = pixels;
  for (const fade of fades)
    for (let y = 0, i = 3; y < height; y++)
      for (let x = 0; x < width; x++, i += 4) {
        const left = fadeAt(fade, x0 + x + 0.5, y0 + y + 0.5);
        if (left < 1) data[i] = data[i]! * left;
      }
}
