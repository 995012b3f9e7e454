import { describedState } from '../graphic/describe';
import { derivedOf } from '../graphic/follows';
import { frameOf } from '../graphic/frame';
import type { Graphic } from '../graphic/graphic';
import type { Slot } from '../slot/slot';
import type { Source } from './compose';

/** A graphic with one frame over all of its canvas: what is carried over. */
export function asSource(graphic: Graphic): Graphic {
  const frame = frameOf(graphic);
  const next = { ...graphic, frames: [{ ...frame, rect: { x: 0, y: 0, ...graphic.canvas } }] };
  delete next.follows;
  return next;
}

/** A composition as a graphic of its own, which follows what it was made from. */
export function carriedGraphic(
  { graphic, way }: { readonly graphic: Graphic; readonly way: string },
  { graphic: source, roles }: Source,
  own: Pick<Graphic, 'id' | 'name' | 'created'>,
): Graphic {
  const frame = frameOf(graphic);
  // What was left of the source's findings, and when it was described, is no matter of this one.
  const described = frame.export.alt.trim() ? { altFor: describedState(graphic.layers) } : {};
  return {
    ...graphic,
    ...own,
    frames: [{ ...frame, left: [], export: { ...frame.export, ...described } }],
    madeFrom: source.id,
    follows: {
      of: source.id,
      name: source.name,
      way,
      roles: Object.fromEntries(roles),
      last: derivedOf(graphic),
    },
  };
}

/** So many slots are proposed. */
const PROPOSED = 5;

/**
 * Slots that a graphic is likely to be wanted for beside its own, the likeliest first: on the same site where that has
 * some, two covers, a card, a tile and an avatar; no two of a size.
 */
export function slotsToCarryTo(from: Slot, slots: readonly Slot[]): Slot[] {
  const site = slots.filter((s) => s.site === from.site);
  const known = new Set([`${from.width}×${from.height}`]);
  const others = [...site, ...slots.filter((s) => s.site !== from.site)].filter((s) => {
    const size = `${s.width}×${s.height}`;
    return s.id !== from.id && !known.has(size) && known.add(size);
  });
  const wanted: readonly ((s: Slot) => boolean)[] = [
    (s) => s.group === 'Covers and banners',
    (s) => s.group === 'Covers and banners',
    (s) => s.group === 'Cards',
    (s) => s.group === 'Tiles and avatars' && s.shape.kind !== 'ellipse' && s.width > s.height,
    (s) => s.group === 'Tiles and avatars' && s.shape.kind === 'ellipse',
    () => true,
    () => true,
    () => true,
    () => true,
    () => true,
  ];
  const found: Slot[] = [];
  for (const is of wanted) {
    const next = others.find((s) => is(s) && !found.includes(s));
    if (next && found.length < PROPOSED) found.push(next);
  }
  return found;
}
