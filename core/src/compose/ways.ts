import { intersection, type Box } from '../geometry/box';
import type { Align } from '../words/words';

/** How a graphic can be composed: where its words stand, or none. */
export const ways = ['left', 'right', 'middle', 'foot', 'band', 'bare'] as const;
export type Way = (typeof ways)[number];

/** What each way is called. */
export const composeNames: Readonly<Record<Way, string>> = {
  left: 'Words at the left, subject at the right',
  right: 'Words at the right, subject at the left',
  middle: 'Words in the middle',
  foot: 'Words at the foot',
  band: 'Words on a band at the foot',
  bare: 'The picture alone',
};

/** Where words stand in a way, canvas px. */
export interface WordsRoom {
  readonly room: Box;
  readonly align: Align;
  readonly down: number;
}

/** A canvas at least so many times as wide as high is wide: words stand beside its subject, not above it. */
const WIDE = 2;
/** How much of a room's width words take beside a subject. Common practice, no source. */
const BESIDE = { wide: 0.52, tall: 0.6 };
/** How much of its height they take at the foot. Common practice, no source. */
const FOOT = 0.5;

/** The largest upright part of a room that is clear of some boxes. */
export function largestClear(room: Box, taken: readonly Box[]): Box | null {
  let parts: Box[] = [room];
  for (const t of taken) parts = parts.flatMap((p) => besides(p, t));
  return parts.reduce<Box | null>((a, b) => (!a || b.width * b.height > a.width * a.height ? b : a), null);
}

/** The four largest upright parts of a box beside another: unlike pieces of a cut they may overlap. */
function besides(b: Box, hole: Box): Box[] {
  const shared = intersection(b, hole);
  if (!shared) return [b];
  const [r, f] = [b.x + b.width, b.y + b.height];
  const [hr, hf] = [shared.x + shared.width, shared.y + shared.height];
  return [
    { x: b.x, y: b.y, width: shared.x - b.x, height: b.height },
    { x: hr, y: b.y, width: r - hr, height: b.height },
    { x: b.x, y: b.y, width: b.width, height: shared.y - b.y },
    { x: b.x, y: hf, width: b.width, height: f - hf },
  ].filter((p) => p.width > 1e-6 && p.height > 1e-6);
}

/** The room words have in a way within a slot's own room (both canvas px), clear of what the page lays over it. */
export function roomFor(way: Way, room: Box, zones: readonly Box[]): WordsRoom | null {
  const wide = room.width >= WIDE * room.height;
  const beside = room.width * (wide ? BESIDE.wide : BESIDE.tall);
  const foot = wide
    ? null
    : {
        box: { ...room, y: room.y + room.height * (1 - FOOT), height: room.height * FOOT },
        align: 'left' as const,
        down: 1,
      };
  const parts: Readonly<Record<Way, { box: Box; align: Align; down: number } | null>> = {
    left: { box: { ...room, width: beside }, align: 'left', down: wide ? 0.5 : 1 },
    right: {
      box: { ...room, x: room.x + room.width - beside, width: beside },
      align: wide ? 'left' : 'right',
      down: wide ? 0.5 : 1,
    },
    middle: { box: room, align: 'centre', down: 0.5 },
    foot,
    band: foot,
    bare: null,
  };
  const part = parts[way];
  const clear = part && largestClear(part.box, zones);
  return clear && { room: clear, align: part.align, down: part.down };
}
