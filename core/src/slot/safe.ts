import type { Box } from '../geometry/box';
import type { Slot } from './slot';

/** Where on a slot what matters should stand, the largest part first, slot px. */
export function safeBoxes({ safe, width, height }: Pick<Slot, 'safe' | 'width' | 'height'>): Box[] {
  switch (safe.kind) {
    case 'all':
      return [{ x: 0, y: 0, width, height }];
    case 'insets': {
      const { top, right, bottom, left } = safe;
      return [{ x: left, y: top, width: width - left - right, height: height - top - bottom }];
    }
    case 'boxes':
      return [...safe.boxes].sort((a, b) => b.width * b.height - a.width * a.height);
  }
}
