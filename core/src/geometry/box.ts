/** An axis-parallel rectangle; units are the caller's (canvas px unless said otherwise). */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export interface Point {
  readonly x: number;
  readonly y: number;
}

export interface Size {
  readonly width: number;
  readonly height: number;
}

/** Right edge of a box. */
export const right = (b: Box): number => b.x + b.width;
/** Bottom edge of a box. */
export const bottom = (b: Box): number => b.y + b.height;

/** What two boxes share, or null where they do not overlap. */
export function intersection(a: Box, b: Box): Box | null {
  const x = Math.max(a.x, b.x);
  const y = Math.max(a.y, b.y);
  const width = Math.min(right(a), right(b)) - x;
  const height = Math.min(bottom(a), bottom(b)) - y;
  return width > 0 && height > 0 ? { x, y, width, height } : null;
}

/** The smallest box around all given; null for none. */
export function enclosing(boxes: readonly Box[]): Box | null {
  const [first, ...rest] = boxes;
  if (!first) return null;
  return rest.reduce((all, b) => {
    const x = Math.min(all.x, b.x);
    const y = Math.min(all.y, b.y);
    return { x, y, width: Math.max(right(all), right(b)) - x, height: Math.max(bottom(all), bottom(b)) - y };
  }, first);
}

/** A box with every length multiplied. */
export function scaled(b: Box, by: number): Box {
  return { x: b.x * by, y: b.y * by, width: b.width * by, height: b.height * by };
}

/** A box moved by an offset. */
export function moved(b: Box, by: Point): Box {
  return { x: b.x + by.x, y: b.y + by.y, width: b.width, height: b.height };
}

/** A box larger by `by` on every side. */
export function grown(b: Box, by: number): Box {
  return { x: b.x - by, y: b.y - by, width: b.width + 2 * by, height: b.height + 2 * by };
}

/** A box's corners, in the order they lie around it. */
export const cornersOf = (b: Box): Point[] => [
  { x: b.x, y: b.y },
  { x: b.x + b.width, y: b.y },
  { x: b.x + b.width, y: b.y + b.height },
  { x: b.x, y: b.y + b.height },
];

/** The smallest box with whole-number edges around `b`; a 1e-6 slack keeps float noise from adding a pixel. */
export function outward(b: Box): Box {
  const x = Math.floor(b.x + 1e-6);
  const y = Math.floor(b.y + 1e-6);
  return { x, y, width: Math.ceil(right(b) - 1e-6) - x, height: Math.ceil(bottom(b) - 1e-6) - y };
}

/** Whether `outer` holds all of `inner`, within `slack` on every side. */
export function contains(outer: Box, inner: Box, slack = 0): boolean {
  return (
    outer.x <= inner.x + slack &&
    outer.y <= inner.y + slack &&
    right(outer) >= right(inner) - slack &&
    bottom(outer) >= bottom(inner) - slack
  );
}

/** The parts of `b` outside `hole`: up to four boxes that do not overlap. */
export function without(b: Box, hole: Box): Box[] {
  const shared = intersection(b, hole);
  if (!shared) return [b];
  const parts: Box[] = [
    { x: b.x, y: b.y, width: b.width, height: shared.y - b.y },
    { x: b.x, y: bottom(shared), width: b.width, height: bottom(b) - bottom(shared) },
    { x: b.x, y: shared.y, width: shared.x - b.x, height: shared.height },
    { x: right(shared), y: shared.y, width: right(b) - right(shared), height: shared.height },
  ];
  return parts.filter((p) => p.width > 1e-9 && p.height > 1e-9);
}
