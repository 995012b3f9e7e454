import type { Box } from '../../geometry/box';
import { apart, offsetOf, type Raster } from './raster';
import { cornerCrossings, meanStep, sideCrossings, sideOf, sideStep, sides, type Side } from './step';

/** Under this a line is as likely texture as an edge: tuned on pages that Chromium rendered. */
export const CLEAR = 0.24;
/** What the rim of the picture counts as. */
const RIM = 0.3;

const opposites: Record<Side, Side> = { left: 'right', right: 'left', top: 'bottom', bottom: 'top' };

/** A box with how sure each side is, 0 to 1. */
export interface Straight {
  readonly box: Box;
  readonly sure: Readonly<Record<Side, number>>;
  /** How strong the strongest other line is that could be meant, as a share of the one that was taken. */
  readonly rival: Readonly<Record<Side, number>>;
}

/** A box with one side elsewhere. */
export function withSide(box: Box, side: Side, at: number): Box {
  switch (side) {
    case 'left':
      return { ...box, x: at, width: box.x + box.width - at };
    case 'right':
      return { ...box, width: at - box.x };
    case 'top':
      return { ...box, y: at, height: box.y + box.height - at };
    case 'bottom':
      return { ...box, height: at - box.y };
  }
}

const upright = (side: Side) => side === 'left' || side === 'right';

interface Line {
  readonly at: number;
  readonly score: number;
}

/** Lines within reach of a rough side that are more like an edge than those beside them, and the likeliest of all. */
function linesNear(
  raster: Raster,
  box: Box,
  side: Side,
  rough: number,
  reach: number,
  inset: number,
): { best: Line; all: Line[] } {
  const from = Math.round(rough);
  const most = upright(side) ? raster.width : raster.height;
  const lines: Line[] = [];
  for (let at = Math.max(0, from - reach); at <= Math.min(most, from + reach); at++) {
    const moved = withSide(box, side, at);
    if (moved.width < 4 || moved.height < 4) continue;
    // A slot may reach the picture's rim, where there is no outside to see.
    lines.push({ at, score: at === 0 || at === most ? RIM : sideStep(raster, moved, side, inset) });
  }
  let best: Line = { at: from, score: 0 };
  let ranked = -1;
  for (const line of lines) {
    // Further away from the drag counts a little less.
    const rank = line.score * (1 - (0.25 * Math.abs(line.at - from)) / (reach + 1));
    if (rank > ranked) {
      ranked = rank;
      best = line;
    }
  }
  const enough = Math.max(0.18, 0.4 * best.score);
  const strong = lines.filter(
    ({ score }, i) => score >= enough && score >= (lines[i - 1]?.score ?? 0) && score > (lines[i + 1]?.score ?? 0),
  );
  return { best, all: strong.length ? strong : [best] };
}

/**
 * How much the two sides across a strip go on as edges over it: the same lines,
 * from `a` to `b`, beyond what lines beside them have by the ground's own texture.
 */
function acrossStep(raster: Raster, box: Box, side: Side, a: number, b: number): number {
  const margin = Math.abs(b - a) > 6 ? 1 : 0;
  const [low, high] = [Math.min(a, b) + margin, Math.max(a, b) - margin];
  const strip: Box = upright(side)
    ? { x: low, y: box.y, width: high - low, height: box.height }
    : { x: box.x, y: low, width: box.width, height: high - low };
  const ends: readonly Side[] = upright(side) ? ['top', 'bottom'] : ['left', 'right'];
  const contrasts = ends.map((end) => {
    const at = sideOf(strip, end);
    const on = (d: number) => sideStep(raster, withSide(strip, end, at + d), end, 0, 60);
    return on(0) - (on(-7) + on(-4) + on(4) + on(7)) / 4;
  });
  return (contrasts[0]! + contrasts[1]!) / 2;
}

/**
 * Of several lines like edges beside each other, the one that bounds the slot:
 * the innermost with a gap outside it. A strip is a gap where the slot's other two
 * sides do not go on over it, since the page's ground runs through; where they do,
 * it belongs to the slot or to its neighbour. `outer` is where looking began.
 */
function boundary(raster: Raster, box: Box, side: Side, best: Line, lines: readonly Line[], outer: number): Line {
  const inwards = side === 'left' || side === 'top' ? 1 : -1;
  const opposite = sideOf(box, opposites[side]);
  const ordered = [...lines].sort((p, q) => (p.at - q.at) * inwards);
  let now = best;
  let before = outer;
  let found = false;
  for (const line of ordered) {
    if (Math.abs(line.at - before) >= 4) {
      const own = acrossStep(raster, box, side, line.at, line.at + (opposite - line.at) * 0.4);
      const enough = Math.max(0.06, 0.45 * own);
      const gap = (from: number) => acrossStep(raster, box, side, from, line.at) < enough;
      // Where the strip is wide, its third next to the line has to be a gap too: further out, a rounded corner has no side to go on.
      const wide = Math.abs(line.at - before) > 20;
      // A much fainter line further in is the picture's own.
      const faint = found && line.score < 0.62 * now.score;
      if (!faint && gap(before) && (!wide || gap(line.at - (line.at - before) * 0.35))) {
        now = line;
        found = true;
      }
    } else if (now.at === before && line.score > now.score) now = line;
    before = line.at;
  }
  return now;
}

/**
 * Snaps a rough box's sides to straight edges within `reach` px: the likeliest
 * line for each first, then, as the others are known, the one that bounds the
 * slot, and again along nearly all of its length. Whole device px.
 */
export function snapStraight(raster: Raster, rough: Box, reach: number): Straight {
  let box: Box = {
    x: Math.round(rough.x),
    y: Math.round(rough.y),
    width: Math.round(rough.width),
    height: Math.round(rough.height),
  };
  const sure: Record<Side, number> = { left: 0, right: 0, top: 0, bottom: 0 };
  const rival: Record<Side, number> = { left: 0, right: 0, top: 0, bottom: 0 };
  const least = Math.min(box.width, box.height);
  const insets = [Math.min(reach, 0.3 * least), 0.2 * least, 0.12 * least, 0.12 * least];
  insets.forEach((inset, pass) => {
    for (const side of sides) {
      const { best, all } = linesNear(raster, box, side, sideOf(rough, side), reach, inset);
      const outer = sideOf(rough, side) + (side === 'left' || side === 'top' ? -reach : reach);
      const line = pass === 0 ? best : boundary(raster, box, side, best, all, Math.round(outer));
      box = withSide(box, side, line.at);
      sure[side] = line.score;
      const others = all.filter((l) => Math.abs(l.at - line.at) > 3).map((l) => l.score);
      rival[side] = Math.max(0, ...others) / Math.max(1e-9, line.score);
    }
  });
  return { box, sure, rival };
}

/** Crossings at which a side's place within a px is looked at. */
const FINE = 120;

/**
 * A side's place to a part of a px, where the screen's grid divides an edge and
 * its last pixel is mixed: the middle of the change across it, what changes
 * further out and in taken off. Whole px where the edge is crisp.
 */
function fineSide(raster: Raster, box: Box, side: Side): number {
  const shifts: number[] = [];
  for (const { x, y, nx, ny } of sideCrossings(box, side, 0.12 * Math.min(box.width, box.height), FINE)) {
    const at = (d: number) => offsetOf(raster, x + nx * d, y + ny * d);
    const change = (d: number) => apart(raster, at(d - 0.5), at(d + 0.5));
    const steps = [-1, 0, 1].map((d) => Math.max(0, change(d) - (d < 0 ? change(-2) : d > 0 ? 1.5 * change(2) : 0)));
    const all = steps[0]! + steps[1]! + steps[2]!;
    if (all > 16) shifts.push((steps[2]! - steps[0]!) / all);
  }
  if (shifts.length < 8) return sideOf(box, side);
  const shift = shifts.sort((a, b) => a - b)[shifts.length >> 1]!;
  const inwards = side === 'left' || side === 'top' ? 1 : -1;
  return sideOf(box, side) + (Math.abs(shift) < 0.12 ? 0 : shift * inwards);
}

/** A box of whole px with each side to a part of a px. */
export function fineBox(raster: Raster, box: Box): Box {
  return sides.reduce((fine, side) => withSide(fine, side, fineSide(raster, box, side)), box);
}

/** The corner radius that fits best, device px, 0 for straight corners. */
export function cornerRadius(raster: Raster, box: Box): number {
  const most = Math.min(box.width, box.height) / 2;
  const reach = Math.min(most, 60);
  const straight = meanStep(raster, cornerCrossings(box, 0, reach));
  let best = { radius: 0, score: straight + 0.04 };
  for (let radius = 2; radius <= most; radius += radius < 40 ? 0.5 : 1) {
    const score = meanStep(raster, cornerCrossings(box, radius, Math.max(reach, radius)));
    if (score > best.score) best = { radius, score };
  }
  return best.radius > 0 ? fineRadius(raster, box, best.radius) : 0;
}

/**
 * A radius put right by how much ground shows in the corners: a corner of radius r
 * leaves (1 − π/4) r² of its square bare. Mixed pixels count by their share. Where
 * the corners do not agree with what was found by their edges, that stands.
 */
function fineRadius(raster: Raster, box: Box, radius: number): number {
  const reach = Math.ceil(radius) + 2;
  const radii = [
    [1, 1],
    [-1, 1],
    [1, -1],
    [-1, -1],
  ].map(([sx, sy]) => {
    const [cx, cy] = [sx! > 0 ? box.x : box.x + box.width, sy! > 0 ? box.y : box.y + box.height];
    const at = (u: number, v: number) => offsetOf(raster, cx + sx! * (u + 0.5), cy + sy! * (v + 0.5));
    const ground = at(-2, -2);
    let bare = 0;
    for (let v = 0; v < reach; v++)
      for (let u = 0; u < reach - v; u++) {
        const inner = apart(raster, at(u + 2, v + 2), ground);
        const own = apart(raster, at(u, v), ground);
        const share = inner > 12 ? 1 - own / inner : own <= 12 ? 1 : 0;
        // Little shares are the picture's own texture.
        if (share > 0.12) bare += share;
      }
    return Math.sqrt(bare / (1 - Math.PI / 4));
  });
  const sorted = radii.sort((a, b) => a - b);
  const middle = (sorted[1]! + sorted[2]!) / 2;
  return Math.abs(middle - radius) <= Math.max(1.5, 0.15 * radius) ? Math.round(middle * 4) / 4 : radius;
}
