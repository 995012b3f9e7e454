import { clamp } from '../../geometry/clamp';
import { figure, LONGEST_SIDE, type Slot, type SlotShape } from '../slot';
import { typedSlot } from '../slots-to-start';
import type { Measured } from './measure';
import type { Result } from '../../problem';

/** A measured length in CSS px: whole where whole is as near as device px can tell, halves and quarters next. */
export function cssLength(devicePx: number, density: number): number {
  const exact = devicePx / density;
  // A device px either way is a CSS px divided by the density; only half of that is taken for granted.
  const slack = 0.5 / density;
  for (const part of [1, 2, 4]) {
    const near = Math.round(exact * part) / part;
    if (Math.abs(near - exact) <= Math.min(slack, 0.2 / part)) return near;
  }
  return Math.round(exact * 100) / 100;
}

/** What was measured as a slot for the book, lengths turned to CSS px. Fails with `slot-size` as `typedSlot` does. */
export function slotFromMeasured(
  m: Measured,
  density: number,
  own: { id: string; name: string; dated: string },
): Result<Slot> {
  const width = cssLength(m.box.width, density);
  const height = cssLength(m.box.height, density);
  const shape: SlotShape =
    m.outline.kind === 'rounded'
      ? { kind: 'rounded', radius: clamp(Math.round(m.outline.radius / density), 1, LONGEST_SIDE) }
      : { kind: m.outline.kind };
  return typedSlot(width, height, {
    ...own,
    shape,
    shownWidth: width,
    ground: m.ground?.colour ?? '#ffffff',
    border: m.border && { width: Math.max(1, Math.round(m.border.width / density)), colour: m.border.colour },
    rowShows: m.grid.columns,
    group: m.grid.boxes.length > 1 ? 'Mosaics and strips' : width / height > 2.2 ? 'Headers' : 'Tiles and avatars',
    source: `measured on a screenshot, ${figure(m.box.width)} × ${figure(m.box.height)} px at ${figure(density)} px a CSS px`,
  });
}
