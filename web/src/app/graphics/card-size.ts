import type { Slot } from '@bright-slot/core';

/** How much of the page shows above and below a graphic on its card, px. */
const AROUND = 58;

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
