import { convertXyz65ToLab65, modeLrgb, modeRgb, parse, useMode, wcagContrast, wcagLuminance } from 'culori/fn';

useMode(modeRgb);
useMode(modeLrgb);

/** Relative luminance 0…1 of a `#rrggbb` colour. WCAG 2.2, definition of relative luminance. */
export function luminance(hex: string): number {
  return wcagLuminance(parse(hex) ?? hex);
}

/** Lightness L* 0…100 of a relative luminance 0…1. CIE 15, L* of 1976. */
export function lightness(luminance: number): number {
  return convertXyz65ToLab65({ x: 0, y: luminance, z: 0 }).l;
}

/** Contrast ratio 1…21 of two `#rrggbb` colours. WCAG 2.2, definition of contrast ratio. */
export function contrast(a: string, b: string): number {
  return wcagContrast(a, b);
}

/** Contrast ratio of two relative luminances. WCAG 2.2: (L1 + 0.05) / (L2 + 0.05). */
export function contrastOfLuminance(a: number, b: number): number {
  return (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
}

/** 24 CSS px, or 18.66 px (14 pt) at weight 700 and more. WCAG 2.2, definition of large scale. */
export function isLargeType(shownSize: number, weight: number): boolean {
  return shownSize >= largeSize(weight);
}

/** The least size, CSS px as shown, at which type of a weight is large. */
export const largeSize = (weight: number): number => (weight >= 700 ? 18.66 : 24);

/** The least contrast for words of a size as shown on the page: 3 for large type, else 4.5. WCAG 2.2, 1.4.3 (AA). */
export function contrastNeeded(shownSize: number, weight: number): number {
  return isLargeType(shownSize, weight) ? 3 : 4.5;
}
