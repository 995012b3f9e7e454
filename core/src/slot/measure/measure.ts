import type { Box } from '../../geometry/box';
import { borderOf, crispness, groundAround, type Border, type Ground } from './around';
import type { Raster } from './raster';
import { snapRound } from './round';
import { equalNeighbours, outlineCrossings, type Grid, type SlotOutline } from './row';
import { sides, type Side } from './step';
import { CLEAR, cornerRadius, fineBox, snapStraight } from './straight';

/** A slot found on a screenshot; all lengths in device px. */
export interface Measured {
  readonly box: Box;
  readonly outline: SlotOutline;
  /** How sure the outline is, 0 to 1. */
  readonly sure: number;
  /** Sides at which no clear edge was found. */
  readonly unsure: readonly Side[];
  /** The edge is spread over several px, so the figures are good to a px or two only. */
  readonly blurred: boolean;
  readonly ground: Ground | null;
  readonly border: Border | null;
  readonly grid: Grid;
}

/** Steps that carry less than this of the whole change are a blurred edge. */
const CRISP = 0.72;

/** A line left aside that is so much stronger than the one taken makes its side unsure: tuned on pages that Chromium rendered. */
const RIVAL = 1.05;
/** So does one so much fainter than the slot's other sides. */
const FAINT = 0.45;

/** How far from a rough drag's sides edges are looked for, device px. */
export function reachOf(rough: Box, density: number): number {
  return Math.round(
    Math.min(60 * density, Math.max(12 * density, 0.12 * Math.min(rough.width, rough.height) + 10 * density)),
  );
}

/**
 * Snaps a rough drag to the slot it goes around: straight, rounded or round,
 * with the ground and border around it and equal neighbours. `density` is the
 * device px a CSS px that are taken to apply; it only sets how far to look.
 */
export function measureSlot(raster: Raster, rough: Box, density = 1): Measured {
  const reach = reachOf(rough, density);
  const straight = snapStraight(raster, rough, reach);
  const sure = sides.reduce((sum, s) => sum + straight.sure[s], 0) / 4;
  const round = snapRound(raster, rough, reach);
  if (round && round.sure > sure + 0.03) {
    return whole(raster, round.box, { kind: 'ellipse' }, round.sure, []);
  }
  const unsure = sides.filter((s) => straight.sure[s] < CLEAR);
  const radius = unsure.length > 1 ? 0 : cornerRadius(raster, straight.box);
  const outline: SlotOutline = radius > 0 ? { kind: 'rounded', radius } : { kind: 'rectangle' };
  const found = whole(raster, straight.box, outline, sure, unsure);
  if (found.border) return found;
  const [, second, third] = sides.map((s) => straight.sure[s]).sort((a, b) => a - b);
  const usual = (second! + third!) / 2;
  // A border all around says which line is meant; without one, a stronger line nearby may be it.
  return {
    ...found,
    unsure: sides.filter((s) => unsure.includes(s) || straight.rival[s] > RIVAL || straight.sure[s] < FAINT * usual),
  };
}

const grown = (b: Box, by: number): Box => ({
  x: b.x - by,
  y: b.y - by,
  width: b.width + 2 * by,
  height: b.height + 2 * by,
});

function whole(raster: Raster, found: Box, outline: SlotOutline, sure: number, unsure: readonly Side[]): Measured {
  const within = unsure.length < 2 ? borderOf(raster, found, outline) : null;
  const border = within?.border ?? null;
  const box = within?.inner ?? found;
  const outer = border ? grown(box, border.width) : box;
  return {
    // Beside a thin border the last pixel's mixture cannot be told from the border.
    box: outline.kind === 'ellipse' || border ? box : fineBox(raster, box),
    outline,
    sure,
    unsure,
    blurred: crispness(raster, outlineCrossings(box, outline)) < CRISP,
    ground: groundAround(raster, outer),
    border,
    grid: equalNeighbours(raster, box, outline),
  };
}
