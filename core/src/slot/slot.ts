import '../zod-setup';
import * as z from 'zod';

/** Longest side of a slot, in CSS px; browsers stop painting reliably on canvases much beyond it. */
export const LONGEST_SIDE = 8192;

export const fileFormats = ['jpeg', 'png', 'webp'] as const;
export const FileFormat = z.enum(fileFormats);
export type FileFormat = z.infer<typeof FileFormat>;

export const pageKinds = ['blog', 'shop', 'form', 'community', 'profile', 'chat', 'about', 'feed', 'plain'] as const;
export const PageKind = z.enum(pageKinds);
export type PageKind = z.infer<typeof PageKind>;

export const slotGroups = [
  'Headers',
  'Covers and banners',
  'Tiles and avatars',
  'Logos',
  'Cards',
  'Own sizes',
] as const;

const side = z.number().positive().max(LONGEST_SIDE);

/** A place on a page that a graphic goes into. Lengths in CSS px, fractions allowed. */
export const Slot = z.object({
  version: z.literal(1),
  id: z.string().min(1).max(80),
  name: z.string().min(1).max(80),
  group: z.enum(slotGroups),
  width: side,
  height: side,
  /** Width at which the page shows the picture on a wide screen, in CSS px. */
  shownWidth: side,
  density: z.number().min(1).max(4),
  shape: z.enum(['rectangle', 'ellipse']),
  /** Whether the page lets its own ground show through transparent parts. */
  keepsTransparency: z.boolean(),
  formats: z.array(FileFormat).min(1),
  page: PageKind,
  /** Where the figures come from, and when they were noted (year-month). */
  source: z.string().max(200),
  dated: z.string().regex(/^\d{4}-\d{2}$/),
});
export type Slot = z.infer<typeof Slot>;

/**
 * Whole file pixels a slot needs at a density: `width × density`, rounded up so
 * that the picture bleeds over a fractional slot rather than being stretched.
 */
export function filePixels(slot: Pick<Slot, 'width' | 'height'>, density: number): { width: number; height: number } {
  const whole = (length: number) => Math.max(1, Math.ceil(length * density - 1e-6));
  return { width: whole(slot.width), height: whole(slot.height) };
}

/** Width over height; under 1.6 the dock stands beside the canvas. */
export function ratioOf(slot: Pick<Slot, 'width' | 'height'>): number {
  return slot.width / slot.height;
}

/** "940 × 198", for people. Fractions to two places. */
export function sizeText(size: { width: number; height: number }): string {
  const figure = (n: number) => String(Math.round(n * 100) / 100);
  return `${figure(size.width)} × ${figure(size.height)}`;
}
