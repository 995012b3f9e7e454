import { enclosing, type Frame, type Slot } from '@bright-slot/core';

/** How much of the page shows above and below a graphic on its card, px. */
const AROUND = 58;

/** What a card is sized by: the slot, or where there are several frames all of them together, as they are shown. */
export function cardOf(frames: readonly Pick<Frame, 'slot' | 'rect'>[]): ReturnType<typeof cardSize> {
  const { slot } = frames[0]!;
  const whole = frames.length > 1 ? enclosing(frames.map((f) => f.rect)) : null;
  if (!whole) return cardSize(slot);
  const { width, height } = whole;
  return cardSize({ ...slot, width, height, shownWidth: (width * slot.shownWidth) / slot.width });
}

/** How large a graphic's card is: its width, that of the page drawn on it, and the height of its window, px. */
export function cardSize({ width, height, shownWidth }: Slot): { width: number; pageWidth: number; height: number } {
  const ratio = width / height;
  const wide = ratio > 3.2 ? 560 : ratio > 1.6 ? 380 : 220;
  const pageWidth = Math.max(shownWidth + 64, 240);
  return {
    width: wide,
    pageWidth,
    height: Math.round(((shownWidth / width) * height * (wide - 2)) / pageWidth + AROUND),
  };
}
