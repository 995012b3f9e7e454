import type { Size } from '../../geometry/box';

/** Device px a CSS px that screens and zoomed windows have: common practice, no source. */
export const densitiesKnown = [1, 1.25, 1.5, 1.75, 2, 2.5, 3, 4] as const;

/** Widths of windows and screens in common use, CSS px: common practice, no source. */
const widths = [
  360, 375, 390, 393, 412, 414, 430, 768, 810, 820, 834, 1024, 1280, 1366, 1440, 1512, 1536, 1600, 1680, 1728, 1920,
];

export interface DensityGuess {
  readonly density: number;
  /** A sentence for the person. */
  readonly why: string;
}

/**
 * The device px a CSS px that a screenshot was probably taken at, from its size and
 * what is known of the screen in use. `screen` is in CSS px. Only a guess: a person decides.
 */
export function guessDensity(shot: Size, own: { density: number; screen: Size; window: Size } | null): DensityGuess {
  if (own) {
    const same = (n: number, css: number) => Math.abs(n - css * own.density) < 1.5;
    if (same(shot.width, own.screen.width) || same(shot.width, own.window.width))
      return {
        density: own.density,
        why: `It is as wide as this ${same(shot.width, own.screen.width) ? 'screen' : 'window'}, which has ${own.density} px a CSS px.`,
      };
  }
  for (const density of [1, 2, 3, 1.5, 1.25, 1.75, 2.5])
    if (widths.includes(shot.width / density))
      return {
        density,
        why:
          density === 1
            ? `${shot.width} px is a usual width of a window.`
            : `${shot.width} px is ${density} × ${shot.width / density}, a usual width of a window.`,
      };
  return { density: 1, why: 'Its width is of no usual window; 1 px a CSS px is taken for now.' };
}
