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

/** Farthest that the next item of a row is looked for, device px, and most items on one side. */
const FARTHEST = 240;
const MOST_IN_RUN = 40;

/** What is looked for along which axis: items like the one at `box`, each as sure as `enough`. */
interface Search {
  readonly raster: Raster;
  readonly box: Box;
  readonly outline: SlotOutline;
  readonly axis: 'across' | 'down';
  readonly enough: number;
}

/** The place of the nth item from ours, backwards below 0. */
function placeOf({ box, axis }: Search, n: number, gap: number): Box {
  return axis === 'across'
    ? { ...box, x: box.x + n * (box.width + gap) }
    : { ...box, y: box.y + n * (box.height + gap) };
}

function sureOf(search: Search, n: number, gap: number, slack = AROUND): number {
  const facing: Side = search.axis === 'across' ? (n > 0 ? 'left' : 'right') : n > 0 ? 'top' : 'bottom';
  return sureAt(search.raster, placeOf(search, n, gap), search.outline, facing, search.enough, slack);
}

/** Byte offset of a pixel in the middle of the gap after (1) or before (-1) our item: what is seen there of the page is its ground. */
function groundIn({ raster, box, axis }: Search, sign: 1 | -1, gap: number): number {
  const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2];
  const off = (length: number) => sign * (length / 2 + gap / 2) - (sign < 0 ? 0.5 : 0);
  return axis === 'across' ? offsetOf(raster, cx + off(box.width), cy) : offsetOf(raster, cx, cy + off(box.height));
}

/** How many items follow ours on one side at a gap. */
function runOf(search: Search, sign: 1 | -1, gap: number): number {
  const { raster, box, outline, enough } = search;
  const ground = groundIn(search, sign, gap);
  const divided = (b: Box) => outline.kind !== 'ellipse' && isDivided(raster, b, ground);
  // Where ours itself is crossed by the ground's colour, that tells nothing.
  const tells = gap >= 2 && !divided(box);
  let n = 0;
  while (n < MOST_IN_RUN && sureOf(search, sign * (n + 1), gap) >= enough) {
    if (tells && divided(placeOf(search, sign * (n + 1), gap))) break;
    n++;
  }
  return n;
}

/** The items before and after ours along an axis, and the gap between two. */
function neighboursAlong(search: Search): { before: number; after: number; gap: number } {
  const length = search.axis === 'across' ? search.box.width : search.box.height;
  let likeliest = { gap: 0, sure: 0 };
  for (let gap = 0; gap <= Math.min(length, FARTHEST); gap++) {
    const sure = Math.max(sureOf(search, 1, gap), sureOf(search, -1, gap));
    if (sure > likeliest.sure + 0.02) likeliest = { gap, sure };
  }
  let best = { before: 0, after: 0, gap: 0 };
  if (likeliest.sure < search.enough) return best;
  let most = 0;
  // A px of rounding an item adds up along a row: the gap that holds furthest is the gap.
  for (const gap of [0, 1, 2, -1, 0.5, 1.5, -0.5].map((d) => likeliest.gap + d)) {
    if (gap < 0) continue;
    const [before, after] = [runOf(search, -1, gap), runOf(search, 1, gap)];
    // Of gaps that hold equally far, the one at which the items at the ends are surest.
    const exact = (n: number) => (n ? sureOf(search, n, gap, EXACTLY) : 0);
    // Half px are rounded to the same place as whole ones near by: a whole gap is taken for as good.
    const held = before + after + 0.4 * (exact(-before) + exact(after)) - (Number.isInteger(gap) ? 0 : 0.02);
    if (held > most + 1e-9) {
      most = held;
      best = { before, after, gap };
    }
  }
  return best;
}

/**
 * Finds items of the same size and outline beside a box, left and right and
 * above and below, at an equal distance: a row, a column or a grid. Device px.
 */
export function equalNeighbours(raster: Raster, box: Box, outline: SlotOutline): Grid {
  const enough = Math.max(0.24, 0.5 * sureAt(raster, box, outline, 'left', 0));
  const search = { raster, box, outline, enough };
  const across = neighboursAlong({ ...search, axis: 'across' });
  const down = neighboursAlong({ ...search, axis: 'down' });
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
