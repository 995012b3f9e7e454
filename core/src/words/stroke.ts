import { CLOSE, CUBIC, LINE, MOVE, QUAD, type Outline } from './outline';

/** Segments a curve is cut into: with eight the length of a letter's curve is met within a hundredth. */
const CUTS = 8;

/** An outline as closed polygons, points in the outline's units. */
export function polygonsOf(outline: Outline): { x: number; y: number }[][] {
  const polygons: { x: number; y: number }[][] = [];
  let open: { x: number; y: number }[] = [];
  const close = () => {
    if (open.length > 2) polygons.push(open);
    open = [];
  };
  for (let i = 0; i < outline.length;) {
    const n = (k: number) => outline[i + k]!;
    const from = open.at(-1) ?? { x: 0, y: 0 };
    switch (outline[i]) {
      case MOVE:
        close();
        open.push({ x: n(1), y: n(2) });
        i += 3;
        break;
      case LINE:
        open.push({ x: n(1), y: n(2) });
        i += 3;
        break;
      case QUAD:
        for (let s = 1; s <= CUTS; s++) {
          const t = s / CUTS;
          const u = 1 - t;
          open.push({
            x: u * u * from.x + 2 * u * t * n(1) + t * t * n(3),
            y: u * u * from.y + 2 * u * t * n(2) + t * t * n(4),
          });
        }
        i += 5;
        break;
      case CUBIC:
        for (let s = 1; s <= CUTS; s++) {
          const t = s / CUTS;
          const u = 1 - t;
          open.push({
            x: u ** 3 * from.x + 3 * u * u * t * n(1) + 3 * u * t * t * n(3) + t ** 3 * n(5),
            y: u ** 3 * from.y + 3 * u * u * t * n(2) + 3 * u * t * t * n(4) + t ** 3 * n(6),
          });
        }
        i += 7;
        break;
      case CLOSE:
        close();
        i += 1;
        break;
      default:
        i = outline.length;
    }
  }
  close();
  return polygons;
}

/**
 * About how thick a glyph's strokes are, in the outline's units; 0 for a blank.
 * Our own estimate: twice the area over the length of the outline, which is exact
 * for a long bar and a little low for dots.
 */
export function strokeWidth(outline: Outline): number {
  let area = 0;
  let length = 0;
  for (const polygon of polygonsOf(outline))
    polygon.forEach((p, i) => {
      const q = polygon[(i + 1) % polygon.length]!;
      area += (p.x * q.y - q.x * p.y) / 2;
      length += Math.hypot(q.x - p.x, q.y - p.y);
    });
  return length > 0 ? (2 * Math.abs(area)) / length : 0;
}
