import { hasQuality, type FileFormat } from '../formats/registry';
import type { Chroma } from '../graphic/frame';
import { filePixels, topDensity, type Slot } from '../slot/slot';
import type { FileDifference } from './difference';

/** A way in which a file can be written: its format, and how finely JPEG keeps colours. */
export interface FileWay {
  readonly format: FileFormat;
  readonly chroma: Chroma;
}

/** A file that was made to see what it weighs and how it looks. */
export interface Trial extends FileWay {
  /** 100 where the format has none. */
  readonly quality: number;
  readonly bytes: number;
  readonly difference: FileDifference;
}

/** What is to be tried next. */
export type Next = FileWay & { readonly quality: number };

/** Qualities that are tried: below the first everything is seen to differ, above the last only bytes are added. */
export const TRIED = { from: 40, to: 96 } as const;
/** AVIF counts otherwise: it looks as JPEG does at a good third more. Measured. */
const triedIn = (format: FileFormat): { readonly from: number; readonly to: number } =>
  format === 'avif' ? { from: 25, to: 90 } : TRIED;
/** Two qualities so close are one. */
const CLOSE = 2;
/** Where the curve of a way has its points besides those of the search. */
const CURVE = [0.1, 0.37, 0.64, 0.91] as const;

/** How a format writes colours: only JPEG has a choice. */
export const chromaOf = (format: FileFormat, chroma: Chroma | undefined): Chroma =>
  format === 'jpeg' ? (chroma ?? '444') : '444';

export const sameWay = (a: FileWay, b: FileWay): boolean => a.format === b.format && a.chroma === b.chroma;

/** The ways in which a slot's file can be written: JPEG, which knows no transparency, only where none is kept. */
export function waysFor({ formats, keepsTransparency }: Pick<Slot, 'formats' | 'keepsTransparency'>): FileWay[] {
  return formats.flatMap((format): FileWay[] => {
    if (format !== 'jpeg') return [{ format, chroma: '444' }];
    return keepsTransparency
      ? []
      : [
          { format, chroma: '444' },
          { format, chroma: '420' },
        ];
  });
}

/** A picture of more px takes long to be written in all ways. */
const MOST_TRIED = 4e6;

/** Whether a slot's densest file is soon found, so that it is looked for although nobody looks on. */
export function isQuicklyFound(slot: Slot): boolean {
  const { width, height } = filePixels(slot, topDensity(slot));
  return width * height <= MOST_TRIED;
}

const ofWay = (trials: readonly Trial[], way: FileWay) => trials.filter((t) => sameWay(t, way));

/** The lightest file that looks the same as the canvas; null where none was made yet. */
export function lightestSame<T extends Trial>(trials: readonly T[]): T | null {
  return trials.reduce<T | null>((best, t) => (!t.difference.seen && (!best || t.bytes < best.bytes) ? t : best), null);
}

/** The quality at which a way is to be tried next on the way to its lightest that looks the same; null where it is found. */
function nextQuality(trials: readonly Trial[], way: FileWay): number | null {
  const own = ofWay(trials, way);
  if (!hasQuality(way.format)) return own.length ? null : 100;
  const best = lightestSame(trials);
  const seen = own.filter((t) => t.difference.seen);
  // A better quality of it is only heavier.
  if (best && seen.some((t) => t.bytes >= best.bytes)) return null;
  const { from, to } = triedIn(way.format);
  if (!own.length) return Math.round(from + (to - from) * 0.75);
  const low = Math.max(from - 1, ...seen.map((t) => t.quality));
  const high = Math.min(to + 1, ...own.filter((t) => !t.difference.seen).map((t) => t.quality));
  if (high - low <= CLOSE) return null;
  return Math.round((low + high) / 2);
}

/** What is to be tried next to find the lightest file that looks the same; null once it is found. Each way has its turn. */
export function nextForLightest(trials: readonly Trial[], ways: readonly FileWay[]): Next | null {
  const open = ways.flatMap((way) => {
    const quality = nextQuality(trials, way);
    return quality === null ? [] : [{ ...way, quality }];
  });
  // What has no quality takes longest to make and is seldom the lightest: it comes when the others are half found.
  const turn = (way: FileWay) => (!hasQuality(way.format) ? 2 : ofWay(trials, way).length);
  return open.reduce<Next | null>((first, n) => (!first || turn(n) < turn(first) ? n : first), null);
}

/** What is to be tried next so that the curve of weight against quality has its points; null once it has. */
export function nextForCurve(trials: readonly Trial[], ways: readonly FileWay[]): Next | null {
  for (const way of ways) {
    if (!hasQuality(way.format)) continue;
    const own = ofWay(trials, way);
    const { from, to } = triedIn(way.format);
    const points = CURVE.map((share) => Math.round(from + (to - from) * share));
    const quality = points.find((q) => !own.some((t) => Math.abs(t.quality - q) <= 5));
    if (quality !== undefined) return { ...way, quality };
  }
  return null;
}

/** A file that comes so close to its limit needs no better one. */
export const NEAR = 0.98;

/**
 * The quality at which a way is to be tried next on the way to its best file of at most `most` bytes; null once it is
 * found: it is within 2 % of the limit, or the next quality would pass it. `seed`, qualities with the bytes that a faster
 * encoder gave them, tells where to begin.
 */
export function nextUnder(
  trials: readonly Trial[],
  way: FileWay,
  most: number,
  seed: readonly { readonly quality: number; readonly bytes: number }[] = [],
): number | null {
  const own = ofWay(trials, way);
  if (!hasQuality(way.format)) return own.length ? null : 100;
  const under = own.filter((t) => t.bytes <= most);
  const over = own.filter((t) => t.bytes > most);
  if (under.some((t) => t.bytes >= most * NEAR)) return null;
  const low = Math.max(0, ...under.map((t) => t.quality));
  const high = Math.min(101, ...over.map((t) => t.quality));
  if (high - low <= 1) return null;
  const fit = (q: number) => Math.min(high - 1, Math.max(low + 1, Math.round(q)));
  if (!own.length) return fit(seeded(seed, most) ?? 75);
  const halfway = fit((low + high) / 2);
  const [a, b] = [under.find((t) => t.quality === low), over.find((t) => t.quality === high)];
  if (a && b) {
    // Weight grows much as quality’s exponent does, so the guess is near; where it came to the same end twice, halves are sure.
    const beside = own.filter((t) => t.quality >= low - 3 && t.quality <= high + 3).length;
    if (beside > 4 && high - low > 2) return halfway;
    const share = Math.log(most / a.bytes) / Math.log(b.bytes / a.bytes);
    return fit(a.quality + share * (b.quality - a.quality) - 0.3);
  }
  if (own.length >= 4) return halfway;
  // From one alone: by what the faster encoder’s grow.
  const one = (a ?? b)!;
  const guess = seed.length ? seeded(seed, (most * interpolated(seed, one.quality)) / one.bytes) : null;
  return guess !== null && guess > low + 0.5 && guess < high - 0.5 ? fit(guess) : halfway;
}

/**
 * What is to be tried next so that a file can be proposed: for the lightest that looks the same, then, where that passes
 * `most` bytes (or `best` is asked for in any case), for the best of each way within it. Null once all is known.
 */
export function nextForProposal(
  trials: readonly Trial[],
  ways: readonly FileWay[],
  most: number | null,
  best = false,
): Next | null {
  const lightest = nextForLightest(trials, ways);
  if (lightest) return lightest;
  if (most === null || (!best && (lightestSame(trials)?.bytes ?? Infinity) <= most)) return null;
  for (const way of ways) {
    const quality = nextUnder(trials, way, most);
    if (quality !== null) return { ...way, quality };
  }
  return null;
}

/** The quality at which a seed has so many bytes. */
function seeded(seed: readonly { quality: number; bytes: number }[], bytes: number): number | null {
  const sorted = [...seed].sort((a, b) => a.quality - b.quality);
  const after = sorted.findIndex((s) => s.bytes > bytes);
  if (!sorted.length) return null;
  if (after === -1) return sorted.at(-1)!.quality;
  if (after === 0) return sorted[0]!.quality;
  const [a, b] = [sorted[after - 1]!, sorted[after]!];
  return a.quality + (Math.log(bytes / a.bytes) / Math.log(b.bytes / a.bytes)) * (b.quality - a.quality);
}

/** The bytes a seed has at a quality. */
function interpolated(seed: readonly { quality: number; bytes: number }[], quality: number): number {
  const sorted = [...seed].sort((a, b) => a.quality - b.quality);
  const after = sorted.findIndex((s) => s.quality >= quality);
  if (after <= 0) return sorted[after === 0 ? 0 : sorted.length - 1]!.bytes;
  const [a, b] = [sorted[after - 1]!, sorted[after]!];
  return a.bytes * (b.bytes / a.bytes) ** ((quality - a.quality) / (b.quality - a.quality));
}

/** The file of the best quality; null where none was made. */
export function finest<T extends Trial>(trials: readonly T[]): T | null {
  return trials.reduce<T | null>((best, t) => (!best || t.quality > best.quality ? t : best), null);
}

/** How plainly a file differs, for choosing among several: by its worst part. */
const plainness = ({ difference }: Trial) => difference.worst[0]?.weight ?? 0;

/** The file of at most `most` bytes that differs least; null where none was made. */
export function bestUnder<T extends Trial>(trials: readonly T[], most: number): T | null {
  return trials
    .filter((t) => t.bytes <= most)
    .reduce<T | null>((best, t) => (!best || plainness(t) < plainness(best) ? t : best), null);
}

/**
 * The file that is proposed: the lightest that looks the same; where that is heavier than `most` bytes, the one under
 * it that differs least. Null where there is none.
 */
export function proposedFile<T extends Trial>(trials: readonly T[], most: number | null): T | null {
  const same = lightestSame(trials);
  if (most === null || (same && same.bytes <= most)) return same;
  return bestUnder(trials, most);
}

/**
 * Seconds until a file is there on a slow phone line: 1.6 Mbit/s, 150 ms there and back before the first byte. Common
 * practice, no source.
 */
export const secondsOnSlowLine = (bytes: number): number => 0.15 + (bytes * 8) / 1.6e6;
