import type { Box } from '../geometry/box';
import { bad, good, type Result } from '../problem';
import { closingParts } from './closing-sum';
import { LONGEST_SIDE, figure } from './slot';

/** How many columns and rows a cell of a mosaic takes. */
export interface Span {
  readonly columns: number;
  readonly rows: number;
}

export interface Mosaic {
  /** CSS px, with or without the gap around the outside, see `outerGap`. */
  readonly width: number;
  readonly height: number;
  readonly columns: number;
  readonly rows: number;
  readonly gap: number;
  /** Between rows, where that is another than between columns. */
  readonly gapDown?: number;
  /** Whether width and height include a gap around the outside as well. */
  readonly outerGap: boolean;
  readonly spans: readonly Span[];
}

export interface MosaicCell extends Span {
  /** Where it begins, counted from 0. */
  readonly column: number;
  readonly row: number;
  /** Exact, CSS px from the mosaic's own corner. */
  readonly box: Box;
}

export interface MosaicAnswer {
  readonly cells: readonly MosaicCell[];
  /** "517.5 + 15 + 251.25 + 15 + 251.25 = 1050", one for each way across and down. */
  readonly sums: readonly string[];
  /** Places of the grid that no cell takes. */
  readonly empty: number;
}

const MOST_TRACKS = 24;

/** Arrangements to begin with. */
export const arrangements: readonly {
  readonly id: string;
  readonly name: string;
  readonly columns: number;
  readonly rows: number;
  readonly spans: string;
}[] = [
  { id: 'wide-tall-two', name: 'One wide, one tall, two small', columns: 4, rows: 2, spans: '2x2 1x2 1x1 1x1' },
  { id: 'large-four', name: 'One large, four small', columns: 4, rows: 2, spans: '2x2 1x1 1x1 1x1 1x1' },
  { id: 'one-over-three', name: 'One over three', columns: 3, rows: 2, spans: '3x1 1x1 1x1 1x1' },
  { id: 'two-over-three', name: 'Two over three', columns: 6, rows: 2, spans: '3x1 3x1 2x1 2x1 2x1' },
  { id: 'even', name: 'All alike', columns: 3, rows: 2, spans: '1x1 1x1 1x1 1x1 1x1 1x1' },
];

/** Typed spans, columns × rows each: "2x2 1x2 1x1, 1x1". Fails with `spans`. */
export function readSpans(text: string): Result<Span[]> {
  const parts = text
    .replace(/\s*[x×]\s*/gi, 'x')
    .split(/[\s,;]+/)
    .filter(Boolean);
  const spans: Span[] = [];
  for (const part of parts) {
    const found = /^(\d{1,2})(?:x(\d{1,2}))?$/.exec(part);
    const span = { columns: Number(found?.[1] ?? 0), rows: Number(found?.[2] ?? found?.[1] ?? 0) };
    if (!span.columns || !span.rows)
      return bad(
        'spans',
        `“${part.slice(0, 20)}” is no span. Write columns × rows for each cell, such as 2x2 1x2 1x1.`,
      );
    spans.push(span);
  }
  return spans.length ? good(spans) : bad('spans', 'Write columns × rows for each cell, such as 2x2 1x2 1x1.');
}

/** Lays spans out row by row, filling holes: CSS Grid Layout Module Level 2, section 8.5, with `row dense`. */
function lay(spans: readonly Span[], columns: number, rows: number): { column: number; row: number }[] | null {
  const taken = new Set<number>();
  const free = (c: number, r: number, s: Span) => {
    for (let y = r; y < r + s.rows; y++)
      for (let x = c; x < c + s.columns; x++) if (taken.has(y * columns + x)) return false;
    return true;
  };
  const out: { column: number; row: number }[] = [];
  for (const span of spans) {
    let at: { column: number; row: number } | null = null;
    for (let row = 0; row + span.rows <= rows && !at; row++)
      for (let column = 0; column + span.columns <= columns && !at; column++)
        if (free(column, row, span)) at = { column, row };
    if (!at) return null;
    for (let y = at.row; y < at.row + span.rows; y++)
      for (let x = at.column; x < at.column + span.columns; x++) taken.add(y * columns + x);
    out.push(at);
  }
  return out;
}

/** The parts along one line of the grid, as a sum that closes. */
function sumOf(lengths: readonly number[], gap: number, outer: boolean, total: number): string {
  const parts: number[] = [];
  lengths.forEach((l, i) => {
    if (i > 0 && gap > 0) parts.push(gap);
    parts.push(l);
  });
  if (outer && gap > 0) {
    parts.unshift(gap);
    parts.push(gap);
  }
  const closing = closingParts(parts, total);
  return `${closing.parts.join(' + ')} = ${figure(total, 3)}${closing.spread ? ' (thousandths spread so that it closes)' : ''}`;
}

/**
 * The exact cells of a mosaic, CSS px. A track is (inner length − gaps between) ÷ count;
 * a cell over several tracks takes the gaps between them along (CSS Grid Layout Module Level 2, sections 10.1 and 11).
 * Fails with `mosaic` where figures are out of range, gaps leave no room, or the spans do not fit.
 */
export function mosaicOf(m: Mosaic): Result<MosaicAnswer> {
  for (const [name, n] of [
    ['width', m.width],
    ['height', m.height],
  ] as const)
    if (!Number.isFinite(n) || n <= 0 || n > LONGEST_SIDE)
      return bad('mosaic', `The ${name} has to be a number of pixels above 0, and ${LONGEST_SIDE} at most.`);
  const down = m.gapDown ?? m.gap;
  if (![m.gap, down].every((gap) => Number.isFinite(gap) && gap >= 0))
    return bad('mosaic', 'The gap has to be a number of pixels, 0 or more.');
  for (const [name, n] of [
    ['columns', m.columns],
    ['rows', m.rows],
  ] as const)
    if (!Number.isInteger(n) || n < 1 || n > MOST_TRACKS)
      return bad('mosaic', `There can be 1 to ${MOST_TRACKS} ${name}.`);
  const outside = m.outerGap ? 2 : 0;
  const track = {
    width: (m.width - (outside + m.columns - 1) * m.gap) / m.columns,
    height: (m.height - (outside + m.rows - 1) * down) / m.rows,
  };
  if (track.width <= 0 || track.height <= 0)
    return bad('mosaic', `Gaps of ${figure(m.gap)} px leave no room for ${m.columns} × ${m.rows} cells.`);
  const wide = m.spans.find((s) => s.columns > m.columns || s.rows > m.rows);
  if (wide)
    return bad(
      'mosaic',
      `A cell of ${wide.columns} × ${wide.rows} does not fit in ${m.columns} columns and ${m.rows} rows.`,
    );
  const places = lay(m.spans, m.columns, m.rows);
  if (!places)
    return bad(
      'mosaic',
      `These cells do not fit in ${m.columns} columns and ${m.rows} rows. Add a row, or take a cell out.`,
    );
  const from = m.outerGap ? { x: m.gap, y: down } : { x: 0, y: 0 };
  const cells = m.spans.map((span, i): MosaicCell => {
    const { column, row } = places[i]!;
    return {
      ...span,
      column,
      row,
      box: {
        x: from.x + column * (track.width + m.gap),
        y: from.y + row * (track.height + down),
        width: span.columns * track.width + (span.columns - 1) * m.gap,
        height: span.rows * track.height + (span.rows - 1) * down,
      },
    };
  });
  const taken = m.spans.reduce((n, s) => n + s.columns * s.rows, 0);
  const sums = new Set<string>();
  for (let row = 0; row < m.rows; row++) {
    const across = cells.filter((c) => row >= c.row && row < c.row + c.rows).sort((a, b) => a.column - b.column);
    if (across.reduce((n, c) => n + c.columns, 0) === m.columns)
      sums.add(
        sumOf(
          across.map((c) => c.box.width),
          m.gap,
          m.outerGap,
          m.width,
        ),
      );
  }
  for (let column = 0; column < m.columns; column++) {
    const stacked = cells
      .filter((c) => column >= c.column && column < c.column + c.columns)
      .sort((a, b) => a.row - b.row);
    if (stacked.length > 1 && stacked.reduce((n, c) => n + c.rows, 0) === m.rows)
      sums.add(
        sumOf(
          stacked.map((c) => c.box.height),
          down,
          m.outerGap,
          m.height,
        ),
      );
  }
  return good({ cells, sums: [...sums], empty: m.columns * m.rows - taken });
}
