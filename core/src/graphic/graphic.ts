import '../zod-setup';
import * as z from 'zod';
import type { Slot } from '../slot/slot';
import { Frame, frameFor } from './frame';
import { migrateGraphic } from './migrate';
import { appearance } from '../pixels/appearance';
import { wordsBlock } from '../words/words';
import { Fill } from '../colour/fill';
import { limits } from '../limits';
import { LayoutContents, LayoutLook } from './contents';
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

export const GRAPHIC_VERSION = 8;

/**
 * What a graphic follows: the one it was made from, how, and what was derived then, so that what was changed by hand
 * since can be told from what was not.
 */
export const Follows = z.object({
  of: id,
  /** What the source was called when it was last followed. */
  name: z.string().max(limits.name),
  /** How it was composed, and what its layers are for there. */
  way: z.string().max(40),
  roles: z.record(id, z.string().max(40)),
  last: z.object({ backdrop: Backdrop, layers: z.array(Layer).max(limits.layers) }),
  /** What was put in a layout, and what that was made of; only where a layout is followed. */
  layout: z.object({ contents: LayoutContents, look: LayoutLook }).optional(),
});
export type Follows = z.infer<typeof Follows>;

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
  madeFrom: id.optional(),
  follows: Follows.optional(),
});
export type Graphic = z.infer<typeof GraphicRecord>;

/** A graphic as it is read: earlier versions are brought up to date first. */
export const Graphic = z.preprocess(migrateGraphic, GraphicRecord);

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
    frames: [frameFor('main', { x: 0, y: 0, width: slot.width, height: slot.height }, slot)],
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

/** A graphic with every layer to be seen, none of them translucent by its own opacity. */
export function withAllShown(graphic: Graphic): Graphic {
  return {
    ...graphic,
    layers: graphic.layers.map((l) => ({ ...l, visible: true, ...('opacity' in l ? { opacity: 1 } : {}) })),
  };
}
