import { bottom, right, type Box, type Point } from './box';

/**
 * The part of a convex polygon (points in the order they lie around it) that lies within a box; fewer than three points
 * where there is none. Sutherland and Hodgman, "Reentrant polygon clipping", Communications of the ACM 17 (1974).
 */
export function clipped(polygon: readonly Point[], box: Box): Point[] {
  const sides: readonly ((p: Point) => number)[] = [
    (p) => p.x - box.x,
    (p) => right(box) - p.x,
    (p) => p.y - box.y,
    (p) => bottom(box) - p.y,
  ];
  return sides.reduce<Point[]>(
    (points, inside) =>
      points.flatMap((p, i) => {
        const before = points.at(i - 1)!;
        const [a, b] = [inside(before), inside(p)];
        const crossing = () => {
          const t = a / (a - b);
          return { x: before.x + (p.x - before.x) * t, y: before.y + (p.y - before.y) * t };
        };
        if (b >= 0) return a >= 0 ? [p] : [crossing(), p];
        return a >= 0 ? [crossing()] : [];
      }),
    [...polygon],
  );
}

/** Whether a convex polygon (points in the order they lie around it) reaches into the ellipse within a box. */
export function reachesEllipse(polygon: readonly Point[], box: Box): boolean {
  // Where the ellipse is the unit circle: how near the polygon comes to its middle.
  const [rx, ry] = [box.width / 2, box.height / 2];
  const at = polygon.map((p) => ({ x: (p.x - box.x - rx) / rx, y: (p.y - box.y - ry) / ry }));
  let [left, right] = [0, 0];
  for (const [i, p] of at.entries()) {
    const q = at[(i + 1) % at.length]!;
    const [dx, dy] = [q.x - p.x, q.y - p.y];
    const length = dx * dx + dy * dy;
    const t = length ? Math.min(1, Math.max(0, -(p.x * dx + p.y * dy) / length)) : 0;
    if (Math.hypot(p.x + dx * t, p.y + dy * t) < 1) return true;
    if (dx * -p.y - dy * -p.x >= 0) left++;
    else right++;
  }
  // The middle is within it where it lies on the same side of all sides.
  return at.length > 2 && (left === 0 || right === 0);
}
