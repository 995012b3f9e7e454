import LineBreaker from 'linebreak';
import bidiFactory from 'bidi-js';
import type { Run } from './words';

/** A piece of a line: a run's text, or part of it. */
export interface Piece {
  readonly run: Run;
  readonly text: string;
}

const bidi = bidiFactory();
/** Scripts that run from right to left, and the marks that make text do so. */
const RIGHT_TO_LEFT =
  /[\u0590-\u08ff\u200f\u202b\u202e\u2067\ufb1d-\ufdff\ufe70-\ufefc\u{10800}-\u{10fff}\u{1e800}-\u{1efff}]/u;

const graphemes = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

/**
 * Where a line of text may end, as indices into it (UTF-16), its end included. Unicode Standard Annex 14, as the
 * package has it (Unicode 13).
 */
export function breakOpportunities(text: string): number[] {
  const found: number[] = [];
  const breaker = new LineBreaker(text);
  for (let b = breaker.nextBreak(); b; b = breaker.nextBreak()) if (b.position > 0) found.push(b.position);
  if (text && found.at(-1) !== text.length) found.push(text.length);
  return found;
}

/** Pieces of a line in the order they are seen, from the left. Unicode Standard Annex 9, rules L1 and L2. */
function inSight(pieces: readonly Piece[], start: number, paragraph: { levels: Uint8Array } | null): Piece[] {
  if (!paragraph) return [...pieces];
  const split: { piece: Piece; level: number }[] = [];
  let at = start;
  for (const { run, text } of pieces) {
    let from = 0;
    for (let i = 1; i <= text.length; i++) {
      const level = paragraph.levels[at + from] ?? 0;
      if (i < text.length && (paragraph.levels[at + i] ?? 0) === level) continue;
      split.push({ piece: { run, text: text.slice(from, i) }, level });
      from = i;
    }
    at += text.length;
  }
  if (!split.length) return [...pieces];
  const most = Math.max(...split.map((s) => s.level));
  for (let level = most; level >= 1; level--)
    for (let i = 0; i < split.length; i++) {
      let end = i;
      while (end < split.length && split[end]!.level >= level) end++;
      if (end > i) split.splice(i, end - i, ...split.slice(i, end).reverse());
      i = Math.max(i, end);
    }
  return split.map((s) => s.piece);
}

/** The pieces of runs between two places of their text together. */
function between(runs: readonly Piece[], from: number, to: number): Piece[] {
  const pieces: Piece[] = [];
  let at = 0;
  for (const { run, text } of runs) {
    const piece = text.slice(Math.max(0, from - at), Math.max(0, to - at));
    if (piece) pieces.push({ run, text: piece });
    at += text.length;
  }
  return pieces;
}

/** Part of a paragraph's text: one line, its trailing spaces left out; and how wide that is. */
export interface Range {
  readonly from: number;
  readonly to: number;
  readonly width: number;
}

/**
 * Where a paragraph's lines begin and end within a `width`: they end where they may (see `breakOpportunities`), spaces
 * at their ends hanging over; a word wider than a line is broken between letters (CSS Text 3, section 5.5,
 * `overflow-wrap: anywhere`). `advances` holds how far each UTF-16 unit takes the line, in the unit of the width.
 */
export function lineRanges(
  text: string,
  advances: ArrayLike<number>,
  width: number | null,
  opportunities: () => readonly number[] = () => breakOpportunities(text),
): Range[] {
  const until = new Float64Array(text.length + 1);
  for (let i = 0; i < text.length; i++) until[i + 1] = until[i]! + advances[i]!;
  const range = (from: number, at: number): Range => {
    let to = at;
    while (width !== null && to > from && /\s/.test(text[to - 1]!)) to--;
    return { from, to, width: until[to]! - until[from]! };
  };
  if (width === null || !text) return [range(0, text.length)];
  const fits = (from: number, at: number) => range(from, at).width <= width + 1e-6;
  const lines: Range[] = [];
  let start = 0;
  let last = 0;
  let letters: number[] | undefined;
  const end = (at: number) => {
    lines.push(range(start, at));
    start = last = at;
  };
  for (const at of opportunities()) {
    if (!fits(start, at)) {
      if (last > start) end(last);
      while (!fits(start, at)) {
        letters ??= [...graphemes.segment(text)].map((g) => g.index).concat(text.length);
        let next = letters.findIndex((l) => l > start);
        // At least one letter, however narrow the line.
        while (letters[next + 1]! < at && fits(start, letters[next + 1]!)) next++;
        if (letters[next]! >= at) break;
        end(letters[next]!);
      }
    }
    last = at;
  }
  if (start < text.length || !lines.length) end(text.length);
  return lines;
}

/** A paragraph as its lines are taken from it. */
export interface ParagraphPieces {
  /** The pieces of a line in the order they are seen, from the left; at least one. */
  line(range: Pick<Range, 'from' | 'to'>): Piece[];
}

/** Looks at which way a paragraph's text runs, once for all its lines. */
export function piecesOf(runs: readonly Piece[]): ParagraphPieces {
  const text = runs.map((r) => r.text).join('');
  const levels = RIGHT_TO_LEFT.test(text) ? bidi.getEmbeddingLevels(text) : null;
  return {
    line({ from, to }) {
      const shown = inSight(between(runs, from, to), from, levels);
      return shown.length ? shown : [{ run: runs[0]!.run, text: '' }];
    },
  };
}
