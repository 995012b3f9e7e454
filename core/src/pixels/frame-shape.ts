import type { Box } from '../geometry/box';
import type { Finish } from './finishing';

/** The shape that a picture shows within: a box with its corners cut. Device px. */
export interface FrameShape {
  /** Signed distance of a point to the edge, px, negative inside (nearly, for an ellipse); whether a corner's curve runs through the px around it or is nearest. */
  edge(x: number, y: number): { readonly d: number; readonly round: boolean };
  inside(x: number, y: number): boolean;
}

/**
 * Corner radii as a box of that size has them: top left, top right, bottom right, bottom left. Where two that share a
 * side are longer than it, all are made smaller by one factor. CSS Backgrounds and Borders 3, section 5.5, Overlapping Curves.
 */
export function fittedRadii(
  { width, height }: Pick<Box, 'width' | 'height'>,
  radii: readonly [number, number, number, number],
): [number, number, number, number] {
  const [tl, tr, br, bl] = radii;
  const fit = Math.min(1, width / Math.max(1e-9, tl + tr, bl + br), height / Math.max(1e-9, tl + bl, tr + br));
  return [tl * fit, tr * fit, br * fit, bl * fit];
}

function oval(box: Box): FrameShape {
  const [rx, ry] = [box.width / 2, box.height / 2];
  const [cx, cy] = [box.x + rx, box.y + ry];
  return {
    edge(px, py) {
      const [x, y] = [px - cx, py - cy];
      const f = Math.hypot(x / rx, y / ry);
      const g = Math.hypot(x / (rx * rx), y / (ry * ry));
      return { d: g === 0 ? -Math.min(rx, ry) : (f * (f - 1)) / g, round: true };
    },
    inside: (x, y) => ((x - cx) / rx) ** 2 + ((y - cy) / ry) ** 2 <= 1,
  };
}

/** The shape of a frame with its corners; radii as in `Finish`, fitted as `fittedRadii` does. */
export function frameShape(box: Box, corners: Finish['corners']): FrameShape {
  if (corners === 'round') return oval(box);
  const radii = fittedRadii(box, corners ?? [0, 0, 0, 0]);
  const [right, bottom] = [box.x + box.width, box.y + box.height];
  // One corner's curve may reach past the middle of a side, and past its neighbour's at an angle: each cuts for itself.
  const curves = [
    { cx: box.x + radii[0], cy: box.y + radii[0], sx: -1, sy: -1, r: radii[0] },
    { cx: right - radii[1], cy: box.y + radii[1], sx: 1, sy: -1, r: radii[1] },
    { cx: right - radii[2], cy: bottom - radii[2], sx: 1, sy: 1, r: radii[2] },
    { cx: box.x + radii[3], cy: bottom - radii[3], sx: -1, sy: 1, r: radii[3] },
  ].filter((c) => c.r > 0);
  const edge = (x: number, y: number) => {
    const [qx, qy] = [Math.max(box.x - x, x - right), Math.max(box.y - y, y - bottom)];
    let d = Math.hypot(Math.max(qx, 0), Math.max(qy, 0)) + Math.min(Math.max(qx, qy), 0);
    let round = false;
    for (const c of curves) {
      const [dx, dy] = [(x - c.cx) * c.sx, (y - c.cy) * c.sy];
      if (dx <= -1 || dy <= -1) continue;
      round = true;
      if (dx > 0 && dy > 0) d = Math.max(d, Math.hypot(dx, dy) - c.r);
    }
    return { d, round };
  };
  return { edge, inside: (x, y) => edge(x, y).d <= 0 };
}

/** Samples a px is cut into on each side where an edge's curve runs through it. */
const FINE = 8;

/**
 * How much of the px whose middle is (`x`, `y`) lies within a shape, 0…1; of a px turned by an angle, whose sine and
 * cosine are given.
 */
export function shareWithin(shape: FrameShape, x: number, y: number, sin = 0, cos = 1): number {
  const { d } = shape.edge(x, y);
  if (d <= -2) return 1;
  if (d >= 2) return 0;
  let inside = 0;
  for (let j = 0; j < FINE; j++)
    for (let k = 0; k < FINE; k++) {
      // No two samples in one line, so that an edge along the grid is met as finely as a slanting one.
      const dx = (k + (j + 0.5) / FINE) / FINE - 0.5;
      const dy = (j + (k + 0.5) / FINE) / FINE - 0.5;
      if (shape.inside(x + dx * cos - dy * sin, y + dx * sin + dy * cos)) inside++;
    }
  return inside / (FINE * FINE);
}
