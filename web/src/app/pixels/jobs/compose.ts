import {
  compositions,
  measured,
  type ComposeRole,
  type Composition,
  type Graphic,
  type Measures,
  type Slot,
  type Box,
} from '@bright-slot/core';
import type { Turn } from './turn';
import { shaperFor } from './type';

/** A composition, and what it is worth but for how it is read, which takes its pixels. */
export interface Composed extends Composition {
  readonly measures: Measures;
}

/** The ways in which a graphic can be composed for a slot. */
export async function compose(
  graphic: Graphic,
  roles: Readonly<Record<string, ComposeRole>>,
  subjects: Readonly<Record<string, Box>>,
  slot: Slot,
  turn: Turn,
): Promise<Composed[]> {
  const shaper = await shaperFor(graphic);
  await turn.pass();
  const source = { graphic, roles: new Map(Object.entries(roles)), subjects: new Map(Object.entries(subjects)) };
  return compositions(source, slot, shaper).map((c) => ({ ...c, measures: measured(c, source, slot, shaper) }));
}
