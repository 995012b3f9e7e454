import { type WordsLayer } from './graphic';
import { FIELD, textOf, withRuns, wordsTaken, type Paragraph, type Run } from '../words/words';

/** How a stretch of words looks. */
export type RunLook = Partial<Omit<Run, 'text'>>;

/** A stretch of a layer's text (`textOf`), in its UTF-16 units. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

const keys = ['face', 'size', 'colour', 'tracking', 'case'] as const satisfies readonly (keyof RunLook)[];

const alike = (a: Run, b: Run): boolean =>
  keys.every((k) =>
    k === 'face'
      ? a.face.family === b.face.family && a.face.weight === b.face.weight && a.face.italic === b.face.italic
      : a[k] === b[k],
  );

/** Neighbours that look alike are one run; a paragraph has at least one, an empty one only where it has no words. */
function joined(runs: readonly Run[]): Run[] {
  const out: Run[] = [];
  for (const run of runs) {
    const last = out.at(-1);
    if (last && (alike(last, run) || !run.text)) out[out.length - 1] = { ...last, text: last.text + run.text };
    else if (last && !last.text) out[out.length - 1] = run;
    else out.push(run);
  }
  return out;
}

/** The runs of a paragraph between two places of its text. */
function cut(runs: readonly Run[], from: number, to: number): Run[] {
  const out: Run[] = [];
  let at = 0;
  for (const run of runs) {
    const text = run.text.slice(Math.max(0, from - at), Math.max(0, to - at));
    if (text) out.push({ ...run, text });
    at += run.text.length;
  }
  return out;
}

const lengthOf = (p: Paragraph): number => p.runs.reduce((n, r) => n + r.text.length, 0);

/** Where each paragraph's text begins in that of the layer. */
function starts(paragraphs: readonly Paragraph[]): number[] {
  let at = 0;
  return paragraphs.map((p) => {
    const from = at;
    at += lengthOf(p) + 1;
    return from;
  });
}

/** The paragraph that a place in the text lies in. */
function paragraphAt(from: readonly number[], place: number): number {
  let i = from.length - 1;
  while (i > 0 && from[i]! > place) i--;
  return i;
}

const isHalf = (text: string, at: number): boolean => at > 0 && at < text.length && /[\udc00-\udfff]/.test(text[at]!);

/** How many units two texts share at their beginnings; never half a character. */
function sharedStart(a: string, b: string): number {
  const most = Math.min(a.length, b.length);
  let n = 0;
  while (n < most && a[n] === b[n]) n++;
  return isHalf(a, n) || isHalf(b, n) ? n - 1 : n;
}

function sharedEnd(a: string, b: string, most: number): number {
  let n = 0;
  while (n < most && a[a.length - 1 - n] === b[b.length - 1 - n]) n++;
  return isHalf(a, a.length - n) || isHalf(b, b.length - n) ? n - 1 : n;
}

/**
 * A words layer with other text. What was not touched keeps its look, letter by letter; what was typed looks as what
 * stands before it; a line that is new looks as the line in its place did, beyond the last as the last.
 */
export function withText(layer: WordsLayer, given: string): WordsLayer {
  const { text } = wordsTaken(given);
  const before = textOf(layer);
  const old = layer.paragraphs;
  const from = starts(old);
  // Lines are paragraphs; where one holds several, all of it is set anew.
  const whole = old.some((p) => p.runs.some((r) => r.text.includes('\n')));
  const start = whole ? 0 : sharedStart(before, text);
  const end = whole ? 0 : sharedEnd(before, text, Math.min(before.length, text.length) - start);
  const first = paragraphAt(from, start);
  const last = paragraphAt(from, before.length - end);
  // What was put in, line by line; the first and the last go on in what was kept before and after it.
  const lines = text.slice(start, text.length - end).split('\n');
  const middle = lines.map((line, i) => {
    const model = old[Math.min(first + i, i > 0 && first + i > last ? last : old.length - 1)]!;
    const keptBefore = i === 0 ? cut(old[first]!.runs, 0, start - from[first]!) : [];
    const keptAfter = i === lines.length - 1 ? cut(old[last]!.runs, before.length - end - from[last]!, Infinity) : [];
    const look = keptBefore.at(-1) ?? model.runs[0]!;
    return { ...model, runs: joined([...keptBefore, { ...look, text: line }, ...keptAfter]) };
  });
  return { ...layer, paragraphs: [...old.slice(0, first), ...middle, ...old.slice(last + 1)] };
}

/** A stretch held within a text, and widened to whole fields and characters: a field is in one look. */
export function wholeStretch(text: string, { from, to }: Stretch): Stretch {
  let [a, b] = [Math.max(0, Math.min(from, to, text.length)), Math.min(text.length, Math.max(from, to, 0))];
  if (isHalf(text, a)) a--;
  if (isHalf(text, b)) b++;
  for (const field of text.matchAll(FIELD)) {
    const [left, right] = [field.index, field.index + field[0].length];
    if (a < right && b > left) [a, b] = [Math.min(a, left), Math.max(b, right)];
  }
  return { from: a, to: b };
}

/** A words layer with a change made to how a stretch of it looks; all of it where none is given. */
export function withLook(layer: WordsLayer, change: RunLook, stretch: Stretch | null): WordsLayer {
  if (!stretch) return withRuns(layer, change);
  const { from, to } = wholeStretch(textOf(layer), stretch);
  const begins = starts(layer.paragraphs);
  return {
    ...layer,
    paragraphs: layer.paragraphs.map((p, i) => {
      const length = lengthOf(p);
      const [a, b] = [Math.max(0, from - begins[i]!), Math.min(length, to - begins[i]!)];
      // A line without words takes part where it lies within the stretch.
      if (b < a || (b === a && length > 0)) return p;
      if (length === 0) return { ...p, runs: p.runs.map((r) => ({ ...r, ...change })) };
      const changed = cut(p.runs, a, b).map((r) => ({ ...r, ...change }));
      return { ...p, runs: joined([...cut(p.runs, 0, a), ...changed, ...cut(p.runs, b, length)]) };
    }),
  };
}

/** The run that stands for a stretch: the one its first character is in; the first of all where none is given. */
export function runAt(layer: WordsLayer, stretch: Stretch | null): Run {
  const begins = starts(layer.paragraphs);
  const from = stretch?.from ?? 0;
  const at = paragraphAt(begins, from);
  let n = from - begins[at]!;
  for (const run of layer.paragraphs[at]!.runs) {
    if (n < run.text.length) return run;
    n -= run.text.length;
  }
  return layer.paragraphs[at]!.runs.at(-1)!;
}

/** A line of a layer (from 0) as a stretch. */
export function lineStretch(layer: WordsLayer, line: number): Stretch {
  const from = starts(layer.paragraphs)[line]!;
  return { from, to: from + lengthOf(layer.paragraphs[line]!) };
}
