import { figure, type Side } from '@bright-slot/core';
import type { Found } from './shot.service';

/** The middle of a side of what was measured, for the loupe: device px. */
export function middleOfSide({ measured: { box } }: Found, side: Side): { x: number; y: number } {
  const x = side === 'left' ? box.x : side === 'right' ? box.x + box.width : box.x + box.width / 2;
  const y = side === 'top' ? box.y : side === 'bottom' ? box.y + box.height : box.y + box.height / 2;
  return { x, y };
}

/** What a side's handle is called, and what its keys do. */
export function sideLabel({ measured: { box } }: Found, side: Side): string {
  const at = { left: box.x, right: box.x + box.width, top: box.y, bottom: box.y + box.height }[side];
  return `${{ left: 'Left', right: 'Right', top: 'Top', bottom: 'Bottom' }[side]} edge at ${figure(at)} px; arrow keys move it`;
}
