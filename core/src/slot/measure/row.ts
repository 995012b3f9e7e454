import type { Box } from '../../geometry/box';
import { apart, offsetOf, type Raster } from './raster';
import {
  cornerCrossings,
  ellipseCrossings,
  meanStep,
  sideCrossings,
  sideStep,
  sides,
  type Crossing,
  type Side,
} from './step';

/** An outline on the screen, device px. */
export type SlotOutline =
  { readonly kind: 'rectangle' } | { readonly kind: 'rounded'; readonly radius: number } | { readonly kind: 'ellipse' };

/** Crossings all along an outline. */
export function outlineCrossings(box: Box, outline: SlotOutline): Crossing[] {
  if (outline.kind === 'ellipse') return ellipseCrossings(box);
  const radius = outline.kind === 'rounded' ? outline.radius : 0;
  return [
    ...sides.flatMap((s) => sideCrossings(box, s, radius)),
    ...(radius ? cornerCrossings(box, radius, radius) : []),
  ];
}

export interface Grid {
  readonly columns: number;
  readonly rows: number;
  /** Between two items, device px; 0 where there is one column or row. */
  readonly gapX: number;
  readonly gapY: number;
  readonly boxes: readonly Box[];
}

/** Crossings looked at along one side of a possible neighbour. */
const FEW = 80;

/** A side at its place, or at any of these px from it: whole-px sums may put it one off. */
function sideNear(raster: Raster, box: Box, side: Side, inset: number, slack: readonly number[]): number {
  let best = 0;
  for (const d of slack) {
    const moved = side === 'left' || side === 'right' ? { ...box, x: box.x + d } : { ...box, y: box.y + d };
    best = Math.max(best, sideStep(raster, moved, side, inset, FEW));
  }
  return best;
}

/** A px either way. */
const AROUND = [0, -1, 1];
const EXACTLY = [0];

/** How sure it is that an item of this outline stands at a box; `facing` is looked at first, and alone where it is not enough. */
function sureAt(raster: Raster, box: Box, outline: SlotOutline, facing: Side, enough: number, slack = AROUND): number {
  if (box.x < 0 || box.y < 0 || box.x + box.width > raster.width || box.y + box.height > raster.height) return 0;
  if (outline.kind === 'ellipse') {
    if (meanStep(raster, ellipseCrossings(box, 32)) < enough * 0.4) return 0;
    let best = 0;
    for (const dx of slack)
      for (const dy of slack)
        best = Math.max(best, meanStep(raster, ellipseCrossings({ ...box, x: box.x + dx, y: box.y + dy }, FEW)));
    return best;
  }
  const inset = outline.kind === 'rounded' ? outline.radius : 2;
  const first = sideNear(raster, box, facing, inset, slack);
  if (first < 0.6 * enough) return 0;
  const all = [first, ...sides.filter((s) => s !== facing).map((s) => sideNear(raster, box, s, inset, slack))];
  // Three good sides and a missing one are no item.
  return Math.min(...all) < 0.7 * enough ? 0 : all.reduce((a, b) => a + b, 0) / 4;
}

/** Whether a line of one colour, the ground's, runs across a box from side to side: then it is more than one item. */
function isDivided(raster: Raster, box: Box, ground: number): boolean {
  const lineIsGround = (upright: boolean, at: number) => {
    const [from, length] = upright ? [box.y, box.height] : [box.x, box.width];
    for (let k = 0; k < FEW; k++) {
      const along = from + 2 + ((length - 4) * (k + 0.5)) / FEW;
      const i = upright ? offsetOf(raster, at, along) : offsetOf(raster, along, at);
      if (apart(raster, i, ground) > 4) return false;
    }
    return true;
  };
  for (let y = box.y + 4; y < box.y + box.height - 4; y++) if (lineIsGround(false, y)) return true;
  for (let x = box.x + 4; x < box.x + box.width - 4; x++) if (lineIsGround(true, x)) return true;
  return false;
}

/** Farthest that the next item of a row is looked for, device px. */
const FARTHEST = 240;

/**
 * Finds items of the same size and outline beside a box, left and right and
 * above and below, at an equal distance: a row, a column or a grid. Device px.
 */
export function equalNeighbours(raster: Raster, box: Box, outline: SlotOutline): Grid {
  const own = sureAt(raster, box, outline, 'left', 0);
  const enough = Math.max(0.24, 0.5 * own);
  const divided = (b: Box, ground: number) => outline.kind !== 'ellipse' && isDivided(raster, b, ground);
  const alongAxis = (dx: 0 | 1, dy: 0 | 1) => {
    const length = dx ? box.width : box.height;
    const shifted = (n: number, gap: number): Box => ({
      ...box,
      x: box.x + dx * n * (box.width + gap),
      y: box.y + dy * n * (box.height + gap),
    });
    const sure = (n: number, gap: number, slack = AROUND) => {
      const facing: Side = dx ? (n > 0 ? 'left' : 'right') : n > 0 ? 'top' : 'bottom';
      return sureAt(raster, shifted(n, gap), outline, facing, enough, slack);
    };
    let best = { gap: 0, sure: 0 };
    for (let gap = 0; gap <= Math.min(length, FARTHEST); gap++) {
      const found = Math.max(sure(1, gap), sure(-1, gap));
      if (found > best.sure + 0.02) best = { gap, sure: found };
    }
    if (best.sure < enough) return { before: 0, after: 0, gap: 0 };
    // A px of rounding an item adds up along a row: the gap that holds furthest is the gap.
    const run = (sign: 1 | -1, gap: number) => {
      let n = 0;
      // What is seen of the page between two items is its ground.
      const between = dx
        ? offsetOf(raster, box.x + box.width + gap / 2, box.y + box.height / 2)
        : offsetOf(raster, box.x + box.width / 2, box.y + box.height + gap / 2);
      const before = dx
        ? offsetOf(raster, box.x - gap / 2 - 0.5, box.y + box.height / 2)
        : offsetOf(raster, box.x + box.width / 2, box.y - gap / 2 - 0.5);
      const ground = sign > 0 ? between : before;
      const own = gap < 2 || divided(box, ground);
      while (n < 40 && sure(sign * (n + 1), gap) >= enough) {
        if (!own && divided(shifted(sign * (n + 1), gap), ground)) break;
        n++;
      }
      return n;
    };
    let longest = { before: 0, after: 0, gap: best.gap };
    let most = 0;
    for (const gap of [0, 1, 2, -1, 0.5, 1.5, -0.5].map((d) => best.gap + d)) {
      if (gap < 0) continue;
      const [before, after] = [run(-1, gap), run(1, gap)];
      // Of gaps that hold equally far, the one at which the items at the ends are surest.
      const exact = (n: number) => (n ? sure(n, gap, EXACTLY) : 0);
      // Half px are rounded to the same place as whole ones near by: a whole gap is taken for as good.
      const held = before + after + 0.4 * (exact(-before) + exact(after)) - (Number.isInteger(gap) ? 0 : 0.02);
      if (held > most + 1e-9) {
        most = held;
        longest = { before, after, gap };
      }
    }
    return longest;
  };
  const across = alongAxis(1, 0);
  const down = alongAxis(0, 1);
  const boxes: Box[] = [];
  for (let r = -down.before; r <= down.after; r++)
    for (let c = -across.before; c <= across.after; c++)
      boxes.push({ ...box, x: box.x + c * (box.width + across.gap), y: box.y + r * (box.height + down.gap) });
  return {
    columns: across.before + 1 + across.after,
    rows: down.before + 1 + down.after,
    gapX: across.gap,
    gapY: down.gap,
    boxes,
  };
}
