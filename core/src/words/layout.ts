import { clamp } from '../geometry/clamp';
import type { Box, Size } from '../geometry/box';
import { enclosing, grown, moved } from '../geometry/box';
import { middleOf, turnedBounds } from '../geometry/turn';
import { FIELD, alignShare, type FieldName, type Paragraph, type Run, type WordsBlock } from './words';
import { breakOpportunities, lineRanges, piecesOf, type Piece, type Range } from './breaking';
import { outlineBox, type Outline } from './outline';
import type { Shaper } from './shaper';

/** One glyph where it stands: its outline is drawn at (`x`, `y`) times `scale`, canvas px. */
export interface PlacedGlyph {
  readonly kind: 'outline';
  /** The characters it began from. */
  readonly text: string;
  readonly outline: Outline;
  readonly x: number;
  readonly y: number;
  readonly scale: number;
  readonly colour: string;
  /** Size and weight of its run, for legibility. */
  readonly size: number;
  readonly weight: number;
}

/** Characters no shipped face has (emoji, other scripts): drawn by the browser's own fonts. */
export interface PlacedFallback {
  readonly kind: 'fallback';
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly weight: number;
  readonly italic: boolean;
  readonly colour: string;
  readonly width: number;
}

export interface WordsLayout {
  readonly items: readonly (PlacedGlyph | PlacedFallback)[];
  /** The block as CSS would lay it: line boxes. Canvas px. */
  readonly box: Box;
  /** What is really drawn: the outlines' extent; null when there is nothing to draw. */
  readonly ink: Box | null;
  readonly lines: number;
  /** Where letters stand on their lines, from the top, canvas px. */
  readonly baselines: readonly number[];
  /** How many times their own sizes the words were made, to fill a box. */
  readonly by: number;
}

const graphemes = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

type Item = PlacedGlyph | PlacedFallback;

/** A run's text in its case. CSS Text 3, section 2.1 (`text-transform`), by the language's own rules. */
export function textAs(run: Pick<Run, 'text' | 'case'>): string {
  switch (run.case) {
    case 'typed':
      return run.text;
    case 'upper':
      return run.text.toLocaleUpperCase();
    case 'lower':
      return run.text.toLocaleLowerCase();
    case 'title':
      return run.text.replace(/(?<![\p{L}\p{N}’'])\p{L}/gu, (first) => first.toLocaleUpperCase());
  }
}

/** Core cannot measure the browser's own fonts unless told how: a letter wide, or an em for what is wider than a letter. */
const guessedWidth = (text: string, size: number) =>
  size * (/\p{Emoji_Presentation}/u.test(text) ? 1.25 : /\p{L}/u.test(text) ? 0.62 : 1);

type ShapedGlyph = ReturnType<Shaper['shape']>[number];

/** A letter as it is read, and where it begins. */
type Letter = Pick<Intl.SegmentData, 'segment' | 'index'>;

/** Latin letters, figures and marks that never join with what follows: each is a letter by itself (UAX #29, section 3). */
const ALONE = /^[\u0020-\u007e\u00a0-\u00ac\u00ae-\u02ff\u2010-\u2027\u2030-\u205e]*$/;

/** Finds the letter that a UTF-16 unit of a text belongs to. */
function lettersOf(text: string): (at: number) => Letter | undefined {
  // Asking the segmenter for each of ten thousand letters takes longer than shaping them.
  if (ALONE.test(text)) return (index) => ({ segment: text[index] ?? '', index });
  const segments = graphemes.segment(text);
  return (at) => segments.containing(at);
}

/** What a run's text is drawn with, in the order it is seen: a face's glyph, or characters that are left to the browser. */
type ShapedPiece =
  | { readonly kind: 'glyph'; readonly glyph: ShapedGlyph; readonly letter: Letter | undefined }
  | { readonly kind: 'left'; readonly from: number; readonly to: number; readonly width: number };

/** How wide the browser's own fonts draw a text at a run's size, canvas px. */
function widthLeft(text: string, { size, face: { weight, italic } }: Run, shaper: Shaper): number {
  return (
    shaper.browserWidth?.(text, { size, weight, italic }) ??
    [...graphemes.segment(text)].reduce((sum, s) => sum + guessedWidth(s.segment, size), 0)
  );
}

/** Shapes a run's text, and puts together what no face has as it will be drawn: whoever lays lines measures the same. */
function shapedPieces(run: Run, set: string, shaper: Shaper): ShapedPiece[] {
  const pieces: ShapedPiece[] = [];
  const letterAt = lettersOf(set);
  const glyphs = shaper.shape(set, run.face, run.tracking !== 0);
  // What was last left to the browser.
  let left = { from: 0, to: 0 };
  for (let i = 0; i < glyphs.length; i++) {
    const glyph = glyphs[i]!;
    const letter = letterAt(glyph.cluster);
    if (glyph.glyph !== 0) {
      pieces.push({ kind: 'glyph', glyph, letter });
      continue;
    }
    // A letter of several characters, of which one or the other is there.
    if (letter && letter.index >= left.from && letter.index < left.to) continue;
    let [from, to] = [letter?.index ?? glyph.cluster, (letter?.index ?? glyph.cluster) + (letter?.segment.length ?? 0)];
    // Letters of another script hang together: they go to the browser in one piece, unless they are spaced out.
    const joined = run.tracking === 0 && /\p{L}/u.test(letter?.segment ?? '');
    for (; i + 1 < glyphs.length && glyphs[i + 1]!.glyph === 0; i++) {
      const next = letterAt(glyphs[i + 1]!.cluster)!;
      const within = next.index >= from && next.index < to;
      if (!within && !(joined && /[\p{L}\p{M}]/u.test(next.segment))) break;
      from = Math.min(from, next.index);
      to = Math.max(to, next.index + next.segment.length);
    }
    left = { from, to };
    pieces.push({ kind: 'left', from, to, width: widthLeft(set.slice(from, to), run, shaper) });
  }
  return pieces;
}

/** Shapes one run's text on the baseline at (0, 0), in the order it is seen. Gives its items and its advance. */
function layRun(run: Run, set: string, shaper: Shaper): { items: Item[]; advance: number } {
  const items: Item[] = [];
  const tracking = run.tracking * run.size;
  // With letters spaced out there are no ligatures (CSS Text 3, section 8.2), and each letter takes its share.
  let spaced = -1;
  const { unitsPerEm } = shaper.metrics(run.face);
  const scale = run.size / unitsPerEm;
  let x = 0;
  const { size, colour } = run;
  const { weight, italic } = run.face;
  /** Once for each letter, also one of several glyphs. */
  const space = (index: number) => {
    if (index === spaced) return;
    if (spaced >= 0) x += tracking;
    spaced = index;
  };
  for (const piece of shapedPieces(run, set, shaper)) {
    if (piece.kind === 'left') {
      space(piece.from);
      const text = set.slice(piece.from, piece.to);
      items.push({ kind: 'fallback', text, x, y: 0, size, weight, italic, colour, width: piece.width });
      x += piece.width;
      continue;
    }
    const { glyph: g, letter } = piece;
    if (letter) space(letter.index);
    const outline = shaper.outline(run.face, g.glyph);
    if (outline.length)
      items.push({
        kind: 'outline',
        text: letter?.segment ?? '',
        outline,
        x: x + g.dx * scale,
        y: -g.dy * scale,
        scale,
        colour,
        size,
        weight,
      });
    x += g.advance * scale;
  }
  return { items, advance: items.length || spaced >= 0 ? x + tracking : x };
}

/** The box of what an item draws, canvas px; null for a blank. */
export function itemInk(item: Item): Box | null {
  if (item.kind === 'fallback')
    return { x: item.x, y: item.y - item.size, width: item.width, height: item.size * 1.25 };
  const b = outlineBox(item.outline);
  return (
    b && {
      x: item.x + b.x * item.scale,
      y: item.y + b.y * item.scale,
      width: b.width * item.scale,
      height: b.height * item.scale,
    }
  );
}

/** Text with its fields said; one that nothing is known of stays as it is written. */
export function withFields(text: string, values: WordsBlock['fields']['values']): string {
  return text.includes('{') ? text.replace(FIELD, (whole, name: FieldName) => values[name] || whole) : text;
}

/** The fields that words hold. */
export function fieldsIn(layer: WordsBlock): FieldName[] {
  const text = layer.paragraphs.flatMap((p) => p.runs.map((r) => r.text)).join('\n');
  return [...new Set([...text.matchAll(FIELD)].map((m) => m[1] as FieldName))];
}

interface Line {
  readonly items: readonly Item[];
  readonly width: number;
  readonly height: number;
  readonly baseline: number;
  readonly align: Paragraph['align'];
  /** Room above it, beside the line before. */
  readonly above: number;
}

/** One line of a paragraph: its runs' pieces in the order they are seen, from the left. */
function layLine(pieces: readonly { run: Run; text: string }[], lineSpacing: number, shaper: Shaper) {
  const items: Item[] = [];
  let x = 0;
  for (const { run, text } of pieces) {
    const laid = layRun(run, text, shaper);
    for (const item of laid.items) items.push({ ...item, x: item.x + x });
    x += laid.advance;
  }
  const height = lineSpacing * Math.max(...pieces.map((p) => p.run.size));
  const measure = pieces.map(({ run }) => {
    const m = shaper.metrics(run.face);
    return { up: (m.ascender / m.unitsPerEm) * run.size, down: (-m.descender / m.unitsPerEm) * run.size };
  });
  const up = Math.max(...measure.map((m) => m.up));
  const down = Math.max(...measure.map((m) => m.down));
  return { items, width: x, height, baseline: (height - up - down) / 2 + up };
}

/** How far each UTF-16 unit of a text takes its line, canvas px. */
function advancesOf(run: Run, text: string, shaper: Shaper): Float64Array {
  const advances = new Float64Array(text.length);
  const { unitsPerEm } = shaper.metrics(run.face);
  const tracking = run.tracking * run.size;
  for (const piece of shapedPieces(run, text, shaper)) {
    if (piece.kind === 'glyph') {
      advances[piece.glyph.cluster]! += (piece.glyph.advance / unitsPerEm) * run.size;
      continue;
    }
    // What is drawn in one piece is as wide as that; where it is broken, each letter takes its part of it.
    const letters = [...graphemes.segment(text.slice(piece.from, piece.to))];
    const widths = letters.map((l) => widthLeft(l.segment, run, shaper));
    const sum = widths.reduce((a, b) => a + b, 0) || 1;
    letters.forEach((l, i) => (advances[piece.from + l.index]! += (widths[i]! / sum) * piece.width));
  }
  if (tracking !== 0) for (const { index } of graphemes.segment(text)) advances[index]! += tracking;
  return advances;
}

/** A paragraph as it was set: its runs' texts, how far each unit of them takes the line, where lines may end. */
interface SetParagraph {
  readonly runs: readonly Piece[];
  readonly text: string;
  readonly advances: readonly number[];
  readonly opportunities: () => readonly number[];
  readonly height: number;
  readonly above: number;
  readonly align: Paragraph['align'];
}

/** A block's paragraphs at their own sizes; `measured` where their lines are to be broken. */
function setParagraphs(layer: WordsBlock, shaper: Shaper, measured: boolean): SetParagraph[] {
  return layer.paragraphs.map((paragraph, i) => {
    const runs = paragraph.runs.map((run) => ({
      run,
      text: textAs({ text: withFields(run.text, layer.fields.values), case: run.case }),
    }));
    const text = runs.map((r) => r.text).join('');
    let found: readonly number[] | undefined;
    return {
      runs,
      text,
      advances: measured ? runs.flatMap((r) => [...advancesOf(r.run, r.text, shaper)]) : [],
      opportunities: () => (found ??= breakOpportunities(text)),
      height: layer.lineSpacing * Math.max(...runs.map((r) => r.run.size)),
      above: i === 0 ? 0 : layer.paragraphSpacing * runs[0]!.run.size,
      align: paragraph.align,
    };
  });
}

/** The lines of a paragraph at `by` times its size within a width, canvas px; one where there is none. */
function rangesOf({ text, advances, opportunities }: SetParagraph, by: number, width: number | null): Range[] {
  if (width === null) return [{ from: 0, to: text.length, width: 0 }];
  // Words so much larger in a box are words of their size in one so much narrower.
  return lineRanges(text, advances, width / by, opportunities);
}

/** The lines of a block at `by` times its sizes, broken at a width (canvas px) where one is given. */
function linesOf(
  layer: WordsBlock,
  paragraphs: readonly SetParagraph[],
  shaper: Shaper,
  by: number,
  width: number | null,
): Line[] {
  return paragraphs.flatMap((p) => {
    const pieces = piecesOf(
      p.runs.map(({ run, text }) => ({ run: by === 1 ? run : { ...run, size: run.size * by }, text })),
    );
    return rangesOf(p, by, width).map((range, k) => ({
      ...layLine(pieces.line(range), layer.lineSpacing, shaper),
      align: p.align,
      above: k === 0 ? p.above * by : 0,
    }));
  });
}

const heightOf = (lines: readonly Line[]) => lines.reduce((sum, l) => sum + l.above + l.height, 0);

/** The least size, canvas px, that words are made to fill a box with. */
const LEAST_SIZE = 2;

/** How many times their own sizes words are to be to fill a box, and no more: to a tenth of a px of the first. */
function fillingSize(layer: WordsBlock, paragraphs: readonly SetParagraph[], box: Size): number {
  const sizes = layer.paragraphs.flatMap((p) => p.runs.map((r) => r.size));
  const own = sizes[0]!;
  if (!paragraphs.some((p) => p.text.trim())) return 1;
  const fits = (size: number) => {
    const by = size / own;
    const height = paragraphs.reduce(
      (sum, p) => sum + (p.above + p.height * rangesOf(p, by, box.width).length) * by,
      0,
    );
    return height <= box.height + 1e-6;
  };
  // A word is broken only where nothing else is left: then the size with which it goes whole is the limit.
  let longest = 0;
  for (const { text, advances } of paragraphs) {
    let word = 0;
    for (let i = 0; i < text.length; i++) {
      word = /\s/.test(text[i]!) ? 0 : word + advances[i]!;
      longest = Math.max(longest, word);
    }
  }
  const most = Math.min(4000 / (Math.max(...sizes) / own), longest > 0 ? (box.width / longest) * own : 4000);
  let [low, high] = [LEAST_SIZE * 10, Math.max(LEAST_SIZE * 10, Math.floor(most * 10 + 1e-6))];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if (fits(middle / 10)) low = middle;
    else high = middle - 1;
  }
  return low / 10 / own;
}

/**
 * Lays a words layer out; the same on screen, in a worker and in the file.
 * Lines are as high as `lineSpacing` × the greatest size in them, the type's own
 * ascent and descent centred in that (CSS Inline Layout 3, section 4.2, half-leading).
 */
export function layoutWords(layer: WordsBlock, shaper: Shaper): WordsLayout {
  const { sizing, place } = layer;
  const paragraphs = setParagraphs(layer, shaper, sizing.kind !== 'grow');
  if (sizing.kind !== 'fill') return laidOut(layer, paragraphs, shaper, 1);
  let by = fillingSize(layer, paragraphs, sizing);
  let layout = laidOut(layer, paragraphs, shaper, by);
  // Lines may close up until letters reach past them, and letters lean out: nothing of them leaves the box.
  for (let tries = 0; tries < MOST_TRIES; tries++) {
    const out = beyondBox(layout, place, sizing, alignShare[layer.paragraphs[0]!.align]);
    if (out <= 0 || by * layer.paragraphs[0]!.runs[0]!.size <= LEAST_SIZE) break;
    by *= clamp(1 - (1.5 * out) / Math.max(sizing.width, sizing.height), 0.5, 0.99);
    layout = laidOut(layer, paragraphs, shaper, by);
  }
  return layout;
}

/** So often a block is made smaller until its ink is within its box. */
const MOST_TRIES = 12;

/** How far the ink of a block reaches past its box, canvas px; 0 where it does not. */
function beyondBox({ ink, box }: WordsLayout, place: WordsBlock['place'], size: Size, share: number): number {
  if (!ink) return 0;
  const left = place.x - size.width * share;
  const past = Math.max(
    left - ink.x,
    ink.x + ink.width - left - size.width,
    place.y - ink.y,
    ink.y + ink.height - place.y - size.height,
    box.width - size.width,
  );
  return past > 0.01 ? past : 0;
}

/** A block at `by` times its own sizes. */
function laidOut(layer: WordsBlock, paragraphs: readonly SetParagraph[], shaper: Shaper, by: number): WordsLayout {
  const { sizing, place } = layer;
  const lines = linesOf(layer, paragraphs, shaper, by, sizing.kind === 'grow' ? null : sizing.width);
  const items: Item[] = [];
  const boxes: Box[] = [];
  const baselines: number[] = [];
  const height = heightOf(lines);
  let top = place.y + (sizing.kind === 'fill' ? Math.max(0, (sizing.height - height) / 2) : 0);
  for (const line of lines) {
    const share = alignShare[line.align];
    const x = place.x - line.width * share;
    top += line.above;
    boxes.push({ x, y: top, width: line.width, height: line.height });
    baselines.push(top + line.baseline);
    for (const item of line.items) items.push({ ...item, x: item.x + x, y: item.y + top + line.baseline });
    top += line.height;
  }
  const ink = enclosing(items.map(itemInk).filter((b) => b !== null));
  const share = alignShare[layer.paragraphs[0]!.align];
  const own: Box[] =
    sizing.kind === 'grow'
      ? []
      : [
          {
            x: place.x - sizing.width * share,
            y: place.y,
            width: sizing.width,
            height: sizing.kind === 'fill' ? sizing.height : height,
          },
        ];
  return { items, box: enclosing([...own, ...boxes])!, ink, lines: lines.length, baselines, by };
}

/** The texts of a block's lines as they are broken, paragraph by paragraph. */
export function lineTexts(layer: WordsBlock, shaper: Shaper): string[][] {
  const { sizing } = layer;
  const { by } = layoutOf(layer, shaper);
  return setParagraphs(layer, shaper, sizing.kind !== 'grow').map((p) =>
    rangesOf(p, by, sizing.kind === 'grow' ? null : sizing.width).map(({ from, to }) => p.text.slice(from, to).trim()),
  );
}

const layouts = new WeakMap<WordsBlock, { shaper: Shaper; layout: WordsLayout }>();

/** A words layer's layout, kept as long as the layer object lives (layers are never changed in place). */
export function layoutOf(layer: WordsBlock, shaper: Shaper): WordsLayout {
  const known = layouts.get(layer);
  if (known?.shaper === shaper) return known.layout;
  const layout = layoutWords(layer, shaper);
  layouts.set(layer, { shaper, layout });
  return layout;
}

/** The box of words' own ground, canvas px, before any turn; null where they have none. */
export function groundBox(layer: Pick<WordsBlock, 'ground'>, layout: WordsLayout): Box | null {
  const { ground } = layer;
  if (!ground) return null;
  const { x, y, width, height } = layout.box;
  return {
    x: x - ground.across,
    y: y - ground.down,
    width: width + 2 * ground.across,
    height: height + 2 * ground.down,
  };
}

/** What words draw before they are turned: line boxes, letters, the line around them and their ground. Canvas px. */
export function wordsExtent(layer: WordsBlock, layout: WordsLayout): Box {
  const ink = layout.ink && grown(layout.ink, layer.outline?.width ?? 0);
  return enclosing([layout.box, ink, groundBox(layer, layout)].filter((b) => b !== null))!;
}

/** What the selection encloses: the upright box around all that words draw, turned. Canvas px. */
export function wordsBounds(layer: WordsBlock, layout: WordsLayout): Box {
  const extent = wordsExtent(layer, layout);
  return turnedBounds(extent, layer.turn, middleOf(extent));
}

/** A layer moved by whole or part pixels. */
export function movedWords<B extends WordsBlock>(layer: B, by: { x: number; y: number }): B {
  const { x, y } = moved({ ...layer.place, width: 0, height: 0 }, by);
  return { ...layer, place: { x, y } };
}
