import { allLaidOut, type LaidOut, type LayoutContents, type LayoutLook, type Slot } from '@bright-slot/core';
import type { Turn } from './turn';
import { shaperOf } from './type';

/** Contents in every layout that has something to give for a slot. */
export async function layoutsFor(
  contents: LayoutContents,
  look: LayoutLook,
  slot: Slot,
  turn: Turn,
): Promise<LaidOut[]> {
  const { heading, body } = look;
  const shaper = await shaperOf([heading, body, { ...body, weight: 600 }]);
  await turn.pass();
  return allLaidOut(contents, look, slot, shaper);
}
