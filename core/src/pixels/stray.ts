import type { Margins } from './margins';
import type { Pixels } from './reduce';

/** How deep along each side is looked, px; a strip a little deeper is needed to tell a line from what follows. */
const MOST = 3;
export const STRAY_DEPTH = MOST + 2;
/** How far the channels (of 255) of a line may differ along it, and have to differ from what follows. Common practice, no source. */
const ALIKE = 14;
const OTHER = 36;
/** A line is half transparent with alpha up to here, before others that are opaque from here on. */
const CLEAR = 250;

type Line = readonly [number, number, number, number][];

/** How many of the first lines of a strip, outermost first, belong to no picture. */
function countOf(lines: readonly Line[]): number {
  const means = lines.map((line) => [0, 1, 2, 3].map((c) => line.reduce((s, p) => s + p[c]!, 0) / line.length));
  const flat = (line: Line, mean: readonly number[]) =>
    line.every((p) => mean.every((m, c) => Math.abs(p[c]! - m) <= ALIKE));
  const inner = lines.slice(MOST);
  // Behind it lies something that is no flat sheet of one colour: a frame or a plain backdrop is meant.
  const first = means[0]!;
  let count = 0;
  while (count < MOST && flat(lines[count]!, means[count]!) && apart(means[count]!, first) <= ALIKE) count++;
  const next = means[count]!;
  if (count > 0 && count <= MOST && !flat(lines[count]!, next) && apart(next, first) >= OTHER) return count;
  const opaque = inner.every((line) => line.every((p) => p[3] >= CLEAR));
  const half = lines.findIndex((line) => line.every((p) => p[3] >= CLEAR));
  return opaque && half > 0 && half <= MOST ? half : 0;
}

const apart = (a: readonly number[], b: readonly number[]) => Math.max(...a.map((v, c) => Math.abs(v - b[c]!)));

/**
 * Thin lines along the sides of a picture that are no part of it, px (0 to 3 a side): of one colour all along and clearly
 * another than what follows, or half transparent before what is opaque. `strips` holds the outermost `STRAY_DEPTH` rows or
 * columns of each side (encoded sRGB, straight alpha). Our own measure.
 */
export function strayLines(strips: Readonly<Record<keyof Margins, Pixels>>): Margins {
  const line = ({ data, width }: Pixels, x: number, y: number): [number, number, number, number] => {
    const at = (y * width + x) * 4;
    return [data[at]!, data[at + 1]!, data[at + 2]!, data[at + 3]!];
  };
  const rows = (p: Pixels, from: (k: number) => number) =>
    Array.from({ length: p.height }, (_, k) => Array.from({ length: p.width }, (_, x) => line(p, x, from(k))));
  const columns = (p: Pixels, from: (k: number) => number) =>
    Array.from({ length: p.width }, (_, k) => Array.from({ length: p.height }, (_, y) => line(p, from(k), y)));
  const { top, right, bottom, left } = strips;
  return {
    top: countOf(rows(top, (k) => k)),
    bottom: countOf(rows(bottom, (k) => bottom.height - 1 - k)),
    left: countOf(columns(left, (k) => k)),
    right: countOf(columns(right, (k) => right.width - 1 - k)),
  };
}
