import { bad, good, type Result } from '../problem';
import { closingParts } from './closing-sum';
import { LONGEST_SIDE, figure } from './slot';

export interface Strip {
  readonly count: number;
  /** Side of each tile along the strip, CSS px; null where it follows from the total. */
  readonly tile: number | null;
  /** Between two tiles, on the page. */
  readonly gap: number;
  /** Length of the whole, gaps included; null where it follows from the tiles. */
  readonly total: number | null;
  /** Whether the picture goes on behind the gaps, or is cut only where the tiles are. */
  readonly behind: 'runs-on' | 'skips';
}

export interface StripTile {
  /** Counted from 1. */
  readonly number: number;
  /** Where it stands on the page, from the strip's start, CSS px. */
  readonly on: number;
  /** Where its part of the picture begins, CSS px. */
  readonly from: number;
  readonly length: number;
}

export interface StripAnswer {
  readonly tile: number;
  /** What the tiles and gaps come to. */
  readonly needs: number;
  readonly total: number;
  /** Length of the one picture that is cut into tiles. */
  readonly picture: number;
  readonly tiles: readonly StripTile[];
  readonly sum: string;
  /** By how much the total is too short (above 0) or too long (below 0) for the tiles. */
  readonly short: number;
  /** What comes of it if tiles are laid from the start; null where the sum closes. */
  readonly suffers: string | null;
}

/**
 * A row of equal tiles cut from one picture, CSS px along the strip.
 * Fails with `strip` where figures are out of range or neither tile nor total is given.
 */
export function stripOf(s: Strip): Result<StripAnswer> {
  if (!Number.isInteger(s.count) || s.count < 1 || s.count > 100) return bad('strip', 'There can be 1 to 100 tiles.');
  if (!Number.isFinite(s.gap) || s.gap < 0) return bad('strip', 'The gap has to be a number of pixels, 0 or more.');
  const above = (n: number | null) => n === null || (Number.isFinite(n) && n > 0 && n <= LONGEST_SIDE * 4);
  if (!above(s.tile)) return bad('strip', 'A tile has to be a number of pixels above 0.');
  if (!above(s.total)) return bad('strip', 'The total has to be a number of pixels above 0.');
  if (s.tile === null && s.total === null) return bad('strip', 'Give the size of a tile, or the total.');
  const gaps = (s.count - 1) * s.gap;
  const tile = s.tile ?? (s.total! - gaps) / s.count;
  if (tile <= 0) return bad('strip', `Gaps of ${figure(s.gap)} px leave no room for ${s.count} tiles.`);
  const needs = s.count * tile + gaps;
  const total = s.total ?? needs;
  const runsOn = s.behind === 'runs-on';
  const tiles = Array.from({ length: s.count }, (_, i): StripTile => {
    const on = i * (tile + s.gap);
    return { number: i + 1, on, from: runsOn ? on : i * tile, length: tile };
  });
  const short = needs - total;
  return good({
    tile,
    needs,
    total,
    picture: runsOn ? needs : s.count * tile,
    tiles,
    sum: sumOf(s.count, tile, s.gap, needs),
    short,
    suffers: Math.abs(short) < 1e-6 ? null : consequence(tiles, total, short),
  });
}

/** "5 × 133.2 + 4 × 10 = 706", as it closes when it is done with the figures printed. */
function sumOf(count: number, tile: number, gap: number, needs: number): string {
  const gaps = gap && count > 1 ? [`${count - 1} × ${figure(gap, 3)}`] : [];
  const { parts, spread } = closingParts(
    Array.from({ length: count }, () => tile),
    needs - (count - 1) * gap,
  );
  const alike = [...new Set(parts)].map((text) => `${parts.filter((p) => p === text).length} × ${text}`);
  return `${[...alike, ...gaps].join(' + ')} = ${figure(needs, 3)}${spread ? ' (thousandths spread so that it closes)' : ''}`;
}

function consequence(tiles: readonly StripTile[], total: number, short: number): string {
  if (short < 0)
    return `${figure(total)} is ${figure(-short)} px more than the tiles need: that much is left bare after the last tile.`;
  const last = tiles[tiles.length - 1]!;
  const cut = tiles.filter((t) => t.on + t.length > total + 1e-6);
  const [first] = cut;
  const lack = `${figure(total)} is ${figure(short)} px short`;
  if (!first) return `${lack}.`;
  const left = Math.max(0, total - first.on);
  const gone = last.number - first.number;
  if (left <= 0)
    return `${lack}: ${gone ? `tiles ${first.number} to ${last.number}` : `tile ${last.number}`} would not be seen.`;
  return `${lack}: tile ${first.number} would be ${figure(left)} instead of ${figure(first.length)}${
    gone
      ? `, and ${gone === 1 ? `tile ${last.number}` : `tiles ${first.number + 1} to ${last.number}`} would not be seen`
      : ''
  }.`;
}
