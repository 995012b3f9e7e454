import type { Box, Point } from './box';

/** A line that a moving box has met: where it stands and along which axis its position is measured. */
export interface SnapLine {
  readonly axis: 'x' | 'y';
  readonly at: number;
}

export interface Snapped {
  /** Offset to add to the box. */
  readonly offset: Point;
  readonly lines: readonly SnapLine[];
}

const stops = (b: Box, axis: 'x' | 'y') =>
  axis === 'x' ? [b.x, b.x + b.width / 2, b.x + b.width] : [b.y, b.y + b.height / 2, b.y + b.height];

/**
 * Finds the smallest shift, within `reach`, that brings an edge or the middle of
 * `box` onto an edge or the middle of one of `others`. Each axis on its own.
 */
export function snap(box: Box, others: readonly Box[], reach: number): Snapped {
  const offset = { x: 0, y: 0 };
  const lines: SnapLine[] = [];
  for (const axis of ['x', 'y'] as const) {
    let best: { by: number; at: number } | null = null;
    for (const mine of stops(box, axis))
      for (const other of others)
        for (const theirs of stops(other, axis)) {
          const by = theirs - mine;
          if (Math.abs(by) <= reach && (!best || Math.abs(by) < Math.abs(best.by))) best = { by, at: theirs };
        }
    if (best) {
      offset[axis] = best.by;
      lines.push({ axis, at: best.at });
    }
  }
  return { offset, lines };
}
