import type { Box, Point, Size } from '../geometry/box';

/** How a stored picture is to be seen: turned clockwise by quarters, then mirrored across (WebCodecs, VideoFrame). */
export interface Seen {
  readonly quarters: number;
  readonly mirrored: boolean;
}

/** Where the px of a stored picture lie in another: its first px, and the way that its rows and columns run there. Whole px. */
export interface Lie {
  readonly size: Size;
  readonly first: Point;
  readonly across: Point;
  readonly down: Point;
}

/** A px of a picture of some size after one step. */
type Step = (size: Size) => { readonly size: Size; readonly to: (p: Point) => Point };

const mirrorAcross: Step = (size) => ({ size, to: ({ x, y }) => ({ x: size.width - 1 - x, y }) });
const mirrorDown: Step = (size) => ({ size, to: ({ x, y }) => ({ x, y: size.height - 1 - y }) });
const quarter: Step = ({ width, height }) => ({
  size: { width: height, height: width },
  to: ({ x, y }) => ({ x: height - 1 - y, y: x }),
});

/**
 * Where the px of a stored picture of `size` lie once it is upright, then mirrored (`across`, `down`) and turned clockwise
 * by `quarters`, as a layer takes it.
 */
export function lieOf(
  size: Size,
  seen: Seen,
  orient: { readonly across: boolean; readonly down: boolean; readonly quarters: number },
): Lie {
  const steps: Step[] = [
    ...Array.from({ length: seen.quarters % 4 }, () => quarter),
    ...(seen.mirrored ? [mirrorAcross] : []),
    ...(orient.down ? [mirrorDown] : []),
    ...(orient.across ? [mirrorAcross] : []),
    ...Array.from({ length: orient.quarters % 4 }, () => quarter),
  ];
  let now = { size, to: (p: Point) => p };
  for (const step of steps) {
    const [next, before] = [step(now.size), now.to];
    now = { size: next.size, to: (p) => next.to(before(p)) };
  }
  const first = now.to({ x: 0, y: 0 });
  const way = (p: Point) => ({ x: p.x - first.x, y: p.y - first.y });
  return { size: now.size, first, across: way(now.to({ x: 1, y: 0 })), down: way(now.to({ x: 0, y: 1 })) };
}

/** Whether a stored picture is neither turned nor mirrored. */
export const liesAsStored = ({ first, across, down }: Lie): boolean =>
  first.x === 0 && first.y === 0 && across.x === 1 && down.y === 1;

/** The box around a box (whole px) whose edges are even: colours are stored for pairs of rows and columns. */
export function evenly({ x, y, width, height }: Box): Box {
  const [left, top] = [x & ~1, y & ~1];
  return { x: left, y: top, width: ((x + width + 1) & ~1) - left, height: ((y + height + 1) & ~1) - top };
}

/** The part of the stored picture that a part (whole px) of the other is made of. */
export function storedPart({ first, across, down }: Lie, part: Box): Box {
  const from = (x: number, y: number) => {
    const [dx, dy] = [x - first.x, y - first.y];
    return { x: dx * across.x + dy * across.y, y: dx * down.x + dy * down.y };
  };
  const [a, b] = [from(part.x, part.y), from(part.x + part.width - 1, part.y + part.height - 1)];
  const [x, y] = [Math.min(a.x, b.x), Math.min(a.y, b.y)];
  return { x, y, width: Math.abs(a.x - b.x) + 1, height: Math.abs(a.y - b.y) + 1 };
}

/**
 * Lays stored px, four bytes each, where they belong in a part of the other picture. `rows` holds `held` (stored px), which
 * may be more than the part is made of; `into` holds the part.
 */
export function layStored(rows: Uint32Array, held: Box, lie: Lie, part: Box, into: Uint32Array): void {
  const own = storedPart(lie, part);
  const { first, across, down } = lie;
  const [top, bottom] = [Math.max(held.y, own.y), Math.min(held.y + held.height, own.y + own.height)];
  const [left, right] = [Math.max(held.x, own.x), Math.min(held.x + held.width, own.x + own.width)];
  const step = across.y * part.width + across.x;
  for (let y = top; y < bottom; y++) {
    const from = (y - held.y) * held.width + left - held.x;
    let to =
      (first.y + y * down.y + left * across.y - part.y) * part.width +
      (first.x + y * down.x + left * across.x - part.x);
    if (step === 1) into.set(rows.subarray(from, from + right - left), to);
    else
      for (let x = left, i = from; x < right; x++, i++) {
        into[to] = rows[i]!;
        to += step;
      }
  }
}
