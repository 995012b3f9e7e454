import { intersection, grown, type Box, type Size } from '../geometry/box';
import { roomOf } from '../report/free-move';
import { thresholds } from '../report/thresholds';
import { smallestScale } from '../slot/shown';
import type { Slot } from '../slot/slot';

/** Room between what matters and the edges, to the shorter side. Common practice, no source. */
export const MARGIN = 0.07;
/** Titles are at most so high to the canvas's height, and to its width. Common practice, no source. */
const TITLE = { height: 0.3, width: 0.085, tallWidth: 0.13 };
/** A title is to be at least so many times the smallest type that is read. Common practice, no source. */
const TITLE_LEAST = 1.3;
/** On a slot that is shown less wide or high than this (CSS px) words are left out. Common practice, no source. */
const WORDLESS = { width: 150, height: 34 };

/** The largest part of a slot that is safe and that every device shows, slot px. */
export function safeOf(slot: Slot): Box {
  const rect = { x: 0, y: 0, width: slot.width, height: slot.height };
  return roomOf({ slot, rect }).reduce((a, b) => (b.width * b.height > a.width * a.height ? b : a));
}

/** The room for words and logos in a frame: safe, within a round shape, off the edges. */
export function roomIn(slot: Slot): Box {
  const rect = { x: 0, y: 0, width: slot.width, height: slot.height };
  const safe = safeOf(slot);
  const margin = MARGIN * Math.min(rect.width, rect.height);
  const inner = intersection(safe, grown(rect, -margin)) ?? safe;
  if (slot.shape.kind !== 'ellipse') return inner;
  // The largest box of its proportions in an ellipse is 1/√2 of it.
  const round = { width: (rect.width - margin) / Math.SQRT2, height: (rect.height - margin) / Math.SQRT2 };
  const box = { x: (rect.width - round.width) / 2, y: (rect.height - round.height) / 2, ...round };
  return intersection(inner, box) ?? box;
}

/** What the page lays over a slot, with a little room about it, slot px. */
export const zonesOf = (slot: Slot): Box[] => slot.covered.map((z) => grown(z, 4));

/** Where a thing of some proportions stands in a corner of a room, clear of what is there; the corner nearest to `near` first. */
export function inCorner(size: Size, room: Box, taken: readonly Box[], near: { x: number; y: number }): Box | null {
  if (size.width > room.width || size.height > room.height) return null;
  const [r, f] = [room.x + room.width - size.width, room.y + room.height - size.height];
  const [cx, cy] = [room.x + (room.width - size.width) / 2, room.y + (room.height - size.height) / 2];
  const places = [
    [room.x, room.y],
    [r, room.y],
    [room.x, f],
    [r, f],
    [cx, room.y],
    [cx, f],
    [room.x, cy],
    [r, cy],
  ] as const;
  const far = ([x, y]: readonly [number, number]) =>
    Math.hypot(
      (x + size.width / 2 - room.x) / room.width - near.x,
      (y + size.height / 2 - room.y) / room.height - near.y,
    );
  const free = places
    .map(([x, y]) => ({ x, y, width: size.width, height: size.height }))
    .filter((b) => !taken.some((t) => intersection(b, t)))
    .sort((a, b) => far([a.x, a.y]) - far([b.x, b.y]));
  return free[0] ?? null;
}

/** The smallest type that is read on every screen that shows a slot, canvas px; whole tenths. */
export const leastType = (slot: Slot): number =>
  Math.ceil((thresholds.letterHeight.value / smallestScale(slot)) * 10) / 10;

/** How large a title may be, and how large it is to be at the least, canvas px; `times` as large as usual. */
export function titleSizes(slot: Slot, times = 1): { least: number; most: number } {
  const wide = slot.width >= 2 * slot.height;
  const least = leastType(slot) * TITLE_LEAST;
  const most = Math.min(slot.height * TITLE.height, slot.width * (wide ? TITLE.width : TITLE.tallWidth));
  return { least, most: Math.max(most * times, least) };
}

/** Whether a slot is shown too small for words. */
export function isWordless(slot: Slot): boolean {
  const shown = smallestScale(slot);
  return slot.width * shown < WORDLESS.width || slot.height * shown < WORDLESS.height;
}
