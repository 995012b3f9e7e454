import type { Point, Size } from '../geometry/box';
import type { Slot } from '../slot/slot';

type Shape = Slot['shape'];

/** How far a point lies outside a slot's shape, px; 0 and less is within. */
export function beyondPoint(p: Point, canvas: Size, shape: Shape): number {
  const x = p.x - canvas.width / 2;
  const y = p.y - canvas.height / 2;
  if (shape.kind === 'rectangle') return Math.max(Math.abs(x) - canvas.width / 2, Math.abs(y) - canvas.height / 2);
  if (shape.kind === 'rounded') {
    // The distance to a box shrunk by the radius, less the radius.
    const r = Math.min(shape.radius, canvas.width / 2, canvas.height / 2);
    const dx = Math.abs(x) - canvas.width / 2 + r;
    const dy = Math.abs(y) - canvas.height / 2 + r;
    return Math.hypot(Math.max(0, dx), Math.max(0, dy)) + Math.min(0, Math.max(dx, dy)) - r;
  }
  // Along the ray from the middle: near the rim of an ellipse that is close enough to the true distance.
  const share = Math.hypot(x / (canvas.width / 2), y / (canvas.height / 2));
  return share <= 1 ? 0 : Math.hypot(x, y) * (1 - 1 / share);
}

/** How far the furthest of points lies outside a slot's shape, px from the frame's corner; 0 where all lie within. */
export const beyondShape = (points: readonly Point[], canvas: Size, shape: Shape) =>
  points.reduce((most, p) => Math.max(most, beyondPoint(p, canvas, shape)), 0);
