import same from 'fast-deep-equal';
import type { Derived } from '../graphic/follows';
import type { Slot } from '../slot/slot';
import type { Shaper } from '../words/shaper';
import type { LayoutContents, LayoutLook } from '../graphic/contents';
import { layouts, type Layout, type Need } from './layouts';
import { saysNothing, Stage } from './stage';

/** A layout of some name; undefined where there is none. */
export const layoutNamed = (id: string): Layout | undefined => layouts.find((l) => l.id === id);

/** What a layout is called for a slot. */
export function layoutName(id: string, slot: Slot): string {
  const layout = layoutNamed(id);
  return (saysNothing(slot) ? layout?.alone : undefined) ?? layout?.name ?? id;
}

/** What a layout needs that is not there. */
export function wanting({ needs }: Layout, contents: LayoutContents): Need[] {
  return needs.filter((n) => (n === 'title' ? !contents.title.trim() : contents[n] === null));
}

/**
 * Contents in a layout, composed for a slot (canvas px of it): what is derived. Null where the layout has no room there,
 * or needs what is not given. A veil's strength is 0: it is found where its pixels are seen. `most`: no title is larger,
 * canvas px.
 */
export function laidOut(
  layout: Layout,
  contents: LayoutContents,
  look: LayoutLook,
  slot: Slot,
  shaper: Shaper,
  most?: number,
): Derived | null {
  if (wanting(layout, contents).length) return null;
  return layout.make(new Stage(slot, contents, look, shaper, most));
}

/** A layout as it was made for a slot. */
export interface LaidOut {
  readonly layout: string;
  readonly derived: Derived;
}

/** All layouts that have something to give for a slot, in their order; of those that come to the same there, the first. */
export function allLaidOut(contents: LayoutContents, look: LayoutLook, slot: Slot, shaper: Shaper): LaidOut[] {
  const found: LaidOut[] = [];
  for (const layout of layouts) {
    const derived = laidOut(layout, contents, look, slot, shaper);
    if (derived && !found.some((f) => same(f.derived, derived))) found.push({ layout: layout.id, derived });
  }
  return found;
}
