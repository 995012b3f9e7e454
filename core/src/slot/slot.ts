import { clamp } from '../geometry/clamp';
import '../zod-setup';
import * as z from 'zod';
import { fileFormats } from '../formats/registry';

/** Longest side of a slot, in CSS px; browsers stop painting reliably on canvases much beyond it. */
export const LONGEST_SIDE = 8192;

export const FileFormat = z.enum(fileFormats);
export type FileFormat = z.infer<typeof FileFormat>;

/** Device px a CSS px of a file. */
export const Density = z.union([z.literal(1), z.literal(2), z.literal(3)]);
export type Density = z.infer<typeof Density>;

export const pageKinds = [
  'blog',
  'shop',
  'checkout',
  'form',
  'class',
  'landing',
  'menu',
  'mosaic',
  'strip',
  'community',
  'profile',
  'chat',
  'about',
  'feed',
  'plain',
] as const;
export const PageKind = z.enum(pageKinds);
export type PageKind = z.infer<typeof PageKind>;

export const slotGroups = [
  'Headers',
  'Covers and banners',
  'Tiles and avatars',
  'Mosaics and strips',
  'Logos',
  'Cards',
  'Own sizes',
] as const;
export type SlotGroup = (typeof slotGroups)[number];

const side = z.number().positive().max(LONGEST_SIDE);
const length = z.number().min(0).max(LONGEST_SIDE);
const hex = z.string().regex(/^#[0-9a-f]{6}$/);
const box = z.object({ x: length, y: length, width: side, height: side });
const size = z.object({ width: side, height: side });

/** The outline the page cuts a picture to. Radius in the slot's px. */
export const SlotShape = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('rectangle') }),
  z.object({ kind: z.literal('rounded'), radius: side }),
  z.object({ kind: z.literal('ellipse') }),
]);
export type SlotShape = z.infer<typeof SlotShape>;

/** Where what matters should stand: all of the slot, its middle within insets, or given boxes. Slot px. */
export const SafeArea = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('all') }),
  z.object({ kind: z.literal('insets'), top: length, right: length, bottom: length, left: length }),
  z.object({ kind: z.literal('boxes'), boxes: z.array(box).min(1).max(20) }),
]);
export type SafeArea = z.infer<typeof SafeArea>;

/** Something the page lays over the picture: a portrait, or a title it prints. Slot px; `x` and `y` may lie outside. */
export const CoveredZone = z.object({
  what: z.string().min(1).max(60),
  kind: z.enum(['portrait', 'title', 'button', 'block']),
  x: z.number().min(-LONGEST_SIDE).max(LONGEST_SIDE),
  y: z.number().min(-LONGEST_SIDE).max(LONGEST_SIDE),
  width: side,
  height: side,
});
export type CoveredZone = z.infer<typeof CoveredZone>;

/** What a page does to a picture whose size is not the slot's. */
export const pageFits = ['fills-centre', 'fills-top', 'fits-within', 'stretches', 'asks-crop', 'top-left'] as const;
export const PageFit = z.enum(pageFits);
export type PageFit = z.infer<typeof PageFit>;

/** How the slot stands at another width of the page, CSS px. */
export const ShownAt = z.discriminatedUnion('mode', [
  /** As wide as the page lets it be, in proportion. */
  z.object({ mode: z.literal('scales') }),
  /** As wide as the page, at a height of its own; the picture is fitted as the page does. */
  z.object({ mode: z.literal('height'), height: side }),
  z.object({ mode: z.literal('size'), width: side, height: side }),
  z.object({ mode: z.literal('hidden') }),
]);
export type ShownAt = z.infer<typeof ShownAt>;

export const SLOT_VERSION = 2;

/** A place on a page that a graphic goes into, as it is written. Lengths in CSS px of the slot, fractions allowed. */
export const SlotRecord = z.object({
  version: z.literal(SLOT_VERSION),
  id: z.string().min(1).max(80),
  name: z.string().min(1).max(80),
  /** The site it stands on; empty for sizes in common use. */
  site: z.string().max(80),
  group: z.enum(slotGroups),
  width: side,
  height: side,
  /** The page makes it as wide as its window; `width` is then the width it is made at. */
  anyWidth: z.boolean(),
  /** Width at which the page shows the picture on a wide screen, in CSS px. */
  shownWidth: side,
  /** Pixel densities wanted, lowest first. */
  densities: z.array(Density).min(1).max(3),
  /** Smallest and largest file the page takes, in file px. */
  least: size.nullable(),
  most: size.nullable(),
  shape: SlotShape,
  safe: SafeArea,
  covered: z.array(CoveredZone).max(20),
  fit: PageFit,
  /** What the page lays over the picture to print on it: all over, or rising from the foot. Strength is its opacity. */
  darkening: z
    .object({
      kind: z.enum(['all', 'foot']),
      strength: z.number().min(0).max(1),
      switchable: z.boolean(),
      on: z.boolean(),
    })
    .nullable(),
  /** The page's own colour behind the slot. */
  ground: hex,
  border: z.object({ width: z.number().positive().max(100), colour: hex }).nullable(),
  /** Whether the page lets its own ground show through transparent parts. */
  keepsTransparency: z.boolean(),
  formats: z.array(FileFormat).min(1).max(fileFormats.length),
  mostBytes: z.number().int().positive().max(1e9).nullable(),
  /** What a file may be called: `web` is small letters, digits and hyphens. */
  names: z.object({ rule: z.enum(['any', 'web']), longest: z.number().int().min(8).max(255) }),
  wants: z.enum(['upload', 'address']),
  /** How many of its kind the page shows in a row; further ones are not seen. */
  rowShows: z.number().int().min(1).max(100),
  /** Of several pictures given, the page shows one at random. */
  oneOfSeveral: z.boolean(),
  tablet: ShownAt,
  phone: ShownAt,
  page: PageKind,
  /** Where the figures come from, and when they were noted (year-month, or the day). */
  source: z.string().max(200),
  dated: z.string().regex(/^\d{4}-\d{2}(-\d{2})?$/),
});
export type Slot = z.infer<typeof SlotRecord>;

/** What a slot is unless something else is known of it. */
export const plainSlot = {
  version: SLOT_VERSION,
  site: '',
  anyWidth: false,
  densities: [1],
  least: null,
  most: null,
  shape: { kind: 'rectangle' },
  safe: { kind: 'all' },
  covered: [],
  fit: 'fills-centre',
  darkening: null,
  ground: '#ffffff',
  border: null,
  keepsTransparency: false,
  // Few pages take AVIF yet: it is for the slots that say so.
  formats: ['jpeg', 'png', 'webp'],
  mostBytes: null,
  names: { rule: 'web', longest: 80 },
  wants: 'upload',
  rowShows: 1,
  oneOfSeveral: false,
  tablet: { mode: 'scales' },
  phone: { mode: 'scales' },
  page: 'plain',
} as const satisfies Partial<Slot>;

/** The ground that version 1 took each kind of page to have. */
const groundsOf1: Record<string, string> = {
  blog: '#fbf8f2',
  shop: '#fbf8f2',
  form: '#eef1ee',
  chat: '#f3f1ec',
  about: '#e9e2d3',
};

/** A slot of version 1 as one of version 2; anything else as it came. Nothing is checked here. */
export function migrateSlot(value: unknown): unknown {
  if (typeof value !== 'object' || value === null || (value as { version?: unknown }).version !== 1) return value;
  const { density, shape, page, ...old } = value as Record<string, unknown>;
  const { densities, ...plain } = plainSlot;
  return {
    ...plain,
    ...old,
    version: SLOT_VERSION,
    page,
    ground: groundsOf1[String(page)] ?? plain.ground,
    densities: typeof density === 'number' ? [clamp(Math.ceil(density), 1, 3)] : [...densities],
    shape: { kind: shape },
  };
}

/** A slot as it is read: earlier versions are brought up to date first. */
export const Slot = z.preprocess(migrateSlot, SlotRecord);

/** Those of stored values that are slots, brought up to date; the others are left out. */
export function readSlots(values: readonly unknown[]): Slot[] {
  return values.flatMap((value) => {
    const read = Slot.safeParse(value);
    return read.success ? [read.data] : [];
  });
}

/** The densest file that is wanted, device px a CSS px. */
export function topDensity(slot: Pick<Slot, 'densities'>): number {
  return Math.max(...slot.densities);
}

/**
 * Whole file pixels a slot needs at a density: `width × density`, rounded up so
 * that the picture bleeds over a fractional slot rather than being stretched.
 */
export function filePixels(slot: Pick<Slot, 'width' | 'height'>, density: number): { width: number; height: number } {
  const whole = (length: number) => Math.max(1, Math.ceil(length * density - 1e-6));
  return { width: whole(slot.width), height: whole(slot.height) };
}

/** Most pixels a file that is made here has, and most on a side: beyond them encoders and canvases give up. Measured. */
export const MOST_FILE_PIXELS = 100e6;
export const MOST_FILE_SIDE = 16_000;

/** Why a file of a slot's pixels cannot be made here, as a sentence; null where it can. */
export function fileTooLarge(slot: Pick<Slot, 'width' | 'height' | 'densities'>): string | null {
  const { width, height } = filePixels(slot, topDensity(slot));
  if (width * height <= MOST_FILE_PIXELS && Math.max(width, height) <= MOST_FILE_SIDE) return null;
  const most = `${MOST_FILE_PIXELS / 1e6} million pixels and ${MOST_FILE_SIDE.toLocaleString('en-GB')} px on a side are the most`;
  return `The file would be ${width} × ${height} px; ${most}. Make the slot smaller, or take a lower density, in Slots.`;
}

/** Pixels at which words are judged at most. */
const MOST_JUDGED = 40e6;

/** The scale at which what words stand on is looked at: the file's own, as far as its pixels can be held at once. */
export function judgingScale(slot: Pick<Slot, 'width' | 'height' | 'densities'>): number {
  const within = Math.sqrt(MOST_JUDGED / (slot.width * slot.height));
  return Math.min(topDensity(slot), within);
}

/** Width over height; under 1.6 the dock stands beside the canvas. */
export function ratioOf(slot: Pick<Slot, 'width' | 'height'>): number {
  return slot.width / slot.height;
}

/** A length for people: no more than `places` places, no zeros at the end. */
export function figure(n: number, places = 2): string {
  const scale = 10 ** places;
  return String(Math.round(n * scale + Math.sign(n) * 1e-9) / scale);
}

/** "940 × 198", for people. Fractions to two places. */
export function sizeText(size: { width: number; height: number }): string {
  return `${figure(size.width)} × ${figure(size.height)}`;
}
