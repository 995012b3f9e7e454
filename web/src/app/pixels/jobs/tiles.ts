import { makingAlike, type LayoutContents, type LayoutLook, type Slot } from '@bright-slot/core';
import type { TilesMade } from '../messages';
import type { Turn } from './turn';
import { shaperOf } from './type';

/** Contents of several tiles in one layout, as alike as they can be. */
export async function tilesFor(
  layout: string,
  tiles: readonly LayoutContents[],
  look: LayoutLook,
  slot: Slot,
  turn: Turn,
): Promise<TilesMade> {
  const { heading, body } = look;
  const shaper = await shaperOf([heading, body, { ...body, weight: 600 }]);
  const work = makingAlike(layout, tiles, look, slot, shaper);
  for (;;) {
    await turn.pass();
    const { done, value } = work.next();
    if (done) return { ...value, derived: value.derived.map((d) => JSON.stringify(d)) };
  }
}
