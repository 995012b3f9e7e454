import '../zod-setup';
import * as z from 'zod';
import { FileFormat, Slot, migrateSlot } from '../slot/slot';
import { gradientEnds } from '../geometry/gradient-line';
import { appearance, plainAppearance } from '../pixels/appearance';
import { plainWordsAppearance } from '../words/appearance';
import { plainBlock, wordsBlock } from '../words/words';
import { Fill } from '../colour/fill';
import { limits } from '../limits';
import { LayerId, layerCommon } from './layer';
import { ShapeLayer, VeilLayer } from './shape';
import { AssetHash } from '../values';
import { coordinate, extent } from '../geometry/lengths';

const id = LayerId;
const common = layerCommon;

/**
 * How a picture is to lie; the box is derived from it (see `pictureGeometry`).
 * `cover`: over the whole canvas, the focus point as near its middle as can be.
 * `contain`: whole, as large as the canvas allows.
 * `free`: top left corner and width in canvas px, height in proportion, but for `stretch`: how much wider than
 * true it is drawn (1 is true).
 */
export const Place = z.discriminatedUnion('mode', [
  z.object({
    mode: z.literal('cover'),
    focus: z.object({ x: z.number(), y: z.number() }),
    zoom: z.number().min(1).max(1000),
  }),
  z.object({ mode: z.literal('contain') }),
  z.object({
    mode: z.literal('free'),
    x: coordinate,
    y: coordinate,
    width: extent,
    stretch: z.number().min(0.1).max(10).optional(),
  }),
]);
export type Place = z.infer<typeof Place>;

/** The part of a picture that shows, in source px after EXIF orientation; null is all of it. */
export const Crop = z.object({ x: z.number().min(0), y: z.number().min(0), width: extent, height: extent });

export const PictureLayer = z.object({
  ...common,
  role: z.enum(['photo', 'logo']),
  asset: AssetHash,
  /** The picture's own size in px, EXIF orientation applied; for SVG its viewBox. */
  natural: z.object({ width: extent, height: extent }),
  /** Every pixel fully opaque. */
  opaque: z.boolean(),
  /** Drawn sharp at any size. */
  vector: z.boolean(),
  place: Place,
  crop: Crop.nullable(),
  ...appearance,
});
export type PictureLayer = z.infer<typeof PictureLayer>;

export const WordsLayer = z.object({ ...common, role: z.literal('words'), ...wordsBlock });
export type WordsLayer = z.infer<typeof WordsLayer>;

export const Layer = z.discriminatedUnion('role', [PictureLayer, WordsLayer, ShapeLayer, VeilLayer]);
export type Layer = z.infer<typeof Layer>;

/** Whether a layer is a picture: a photo or a logo. */
export const isPicture = (layer: Layer): layer is PictureLayer => layer.role === 'photo' || layer.role === 'logo';

/** The canvas's ground; a gradient runs over the whole canvas. */
export const Backdrop = Fill;
export type Backdrop = Fill;

export const Frame = z.object({
  id,
  rect: z.object({ x: coordinate, y: coordinate, width: extent, height: extent }),
  /** The slot as it was when the graphic was made for it. */
  slot: Slot,
});
export type Frame = z.infer<typeof Frame>;

export const ExportChoices = z.object({
  format: FileFormat,
  quality: z.number().int().min(1).max(100),
  alt: z.string().max(limits.description),
  /** What the picture showed and said when the description was written; see `describedState`. */
  altFor: z.string().max(100).optional(),
});
export type ExportChoices = z.infer<typeof ExportChoices>;

export const GRAPHIC_VERSION = 5;

interface OldGraphic {
  readonly version?: unknown;
  readonly frames?: unknown;
  readonly layers?: unknown;
  readonly backdrop?: unknown;
  readonly canvas?: unknown;
}

const each = (list: unknown, change: (o: object) => unknown): unknown =>
  Array.isArray(list) ? list.map((o: unknown) => (typeof o === 'object' && o !== null ? change(o) : o)) : list;

/** Version 1: its slots knew less. */
const slotsNow = (old: OldGraphic) => ({
  ...old,
  version: 2,
  frames: each(old.frames, (f) => ('slot' in f ? { ...f, slot: migrateSlot(f.slot) } : f)),
});

/** Version 2: its pictures could be placed and cropped, no more. A covering one's focus was where it stood. */
const picturesNow = (old: OldGraphic) => ({
  ...old,
  version: 3,
  layers: each(old.layers, (l) => {
    if (!('asset' in l)) return l;
    const place = (l as { place?: { focus?: { x: number; y: number } } }).place;
    const within = (n: unknown) => (typeof n === 'number' ? Math.min(1, Math.max(0, n)) : 0.5);
    const focus = place?.focus ? { x: within(place.focus.x), y: within(place.focus.y) } : plainAppearance.focus;
    return { ...plainAppearance, focus, ...l };
  }),
});

/** Version 3: its words had a face, a size and a colour, no more. */
const wordsNow = (old: OldGraphic) => ({
  ...old,
  version: 4,
  layers: each(old.layers, (l) =>
    'paragraphs' in l
      ? {
          ...plainWordsAppearance,
          ...l,
          paragraphs: each(l.paragraphs, (p) =>
            'runs' in p ? { ...p, runs: each(p.runs, (r) => ({ tracking: 0, case: 'typed', ...r })) } : p,
          ),
        }
      : l,
  ),
});

/** Version 4: its words had no width of their own; its gradients ran straight at an angle, all stops opaque. */
const fillsNow = (old: OldGraphic) => ({
  ...old,
  version: 5,
  layers: each(old.layers, (l) => ('paragraphs' in l ? { ...plainBlock, ...l } : l)),
  backdrop: gradientNow(old.backdrop, old.canvas),
});

function gradientNow(backdrop: unknown, canvas: unknown): unknown {
  const b = backdrop as { kind?: unknown; angle?: unknown; stops?: unknown } | null | undefined;
  const size = canvas as { width?: unknown; height?: unknown } | null | undefined;
  if (b?.kind !== 'gradient' || typeof b.angle !== 'number') return backdrop;
  const { width = 1, height = 1 } = size ?? {};
  return {
    kind: 'gradient',
    form: 'linear',
    ...gradientEnds({ width: Number(width), height: Number(height) }, b.angle),
    stops: each(b.stops, (s) => ({ opacity: 1, ...s })),
  };
}

/** A graphic of an earlier version brought up to date; anything else as it came. Nothing is checked here. */
export function migrateGraphic(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  let now: OldGraphic = value;
  if (now.version === 1) now = slotsNow(now);
  if (now.version === 2) now = picturesNow(now);
  if (now.version === 3) now = wordsNow(now);
  if (now.version === 4) now = fillsNow(now);
  return now;
}

/** One thing being made, as it is written. Layers stand back to front; lengths in canvas px (the slot's CSS px). */
export const GraphicRecord = z.object({
  version: z.literal(GRAPHIC_VERSION),
  id,
  name: z.string().min(1).max(limits.name),
  created: z.string(),
  canvas: z.object({ width: extent, height: extent }),
  backdrop: Backdrop,
  layers: z.array(Layer).max(limits.layers),
  frames: z.array(Frame).min(1),
  export: ExportChoices,
  madeFrom: id.optional(),
});
export type Graphic = z.infer<typeof GraphicRecord>;

/** A graphic as it is read: earlier versions are brought up to date first. */
export const Graphic = z.preprocess(migrateGraphic, GraphicRecord);

/** The frame that is exported; there is one for now. */
export function mainFrame(graphic: Graphic): Frame {
  return graphic.frames[0]!;
}

/** An empty graphic for a slot. */
export function newGraphic(own: { id: string; name: string; created: string; slot: Slot }): Graphic {
  const { slot } = own;
  return {
    version: GRAPHIC_VERSION,
    id: own.id,
    name: own.name,
    created: own.created,
    canvas: { width: slot.width, height: slot.height },
    backdrop: { kind: 'none' },
    layers: [],
    frames: [{ id: 'main', rect: { x: 0, y: 0, width: slot.width, height: slot.height }, slot }],
    export: { format: slot.keepsTransparency ? 'png' : slot.formats[0]!, quality: 85, alt: '' },
  };
}

/** A layer by its id. */
export function layerOf(graphic: Graphic, layerId: string): Layer | undefined {
  return graphic.layers.find((l) => l.id === layerId);
}

/** A graphic with a layer in the place of the one of its id. */
export function withLayer(graphic: Graphic, layer: Layer): Graphic {
  return { ...graphic, layers: graphic.layers.map((l) => (l.id === layer.id ? layer : l)) };
}
