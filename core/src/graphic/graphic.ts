import '../zod-setup';
import * as z from 'zod';
import { FileFormat, Slot, migrateSlot } from '../slot/slot';

const id = z.string().min(1).max(64);
const coordinate = z.number().min(-1e6).max(1e6);
const extent = z.number().positive().max(1e6);

/** A colour as `#rrggbb`, encoded sRGB. */
export const Colour = z.string().regex(/^#[0-9a-f]{6}$/);

/** SHA-256 of an asset's bytes, in hex: the asset's name everywhere. */
export const AssetHash = z.string().regex(/^[0-9a-f]{64}$/);

const common = {
  id,
  name: z.string().max(120),
  visible: z.boolean(),
  locked: z.boolean(),
};

/**
 * How a picture is to lie; the box is derived from it (see `pictureGeometry`).
 * `cover`: over the whole canvas, the focus point as near its middle as can be.
 * `free`: top left corner and width in canvas px, height in proportion.
 */
export const Place = z.discriminatedUnion('mode', [
  z.object({
    mode: z.literal('cover'),
    focus: z.object({ x: z.number(), y: z.number() }),
    zoom: z.number().min(1).max(1000),
  }),
  z.object({ mode: z.literal('free'), x: coordinate, y: coordinate, width: extent }),
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
});
export type PictureLayer = z.infer<typeof PictureLayer>;

export const Face = z.object({
  family: z.string().min(1).max(80),
  weight: z.number().min(1).max(1000),
  italic: z.boolean(),
});
export type Face = z.infer<typeof Face>;

/** A stretch of words that look alike. Size in canvas px. */
export const Run = z.object({
  text: z.string().max(20_000),
  face: Face,
  size: z.number().min(1).max(4000),
  colour: Colour,
});
export type Run = z.infer<typeof Run>;

export const Align = z.enum(['left', 'centre', 'right']);
export type Align = z.infer<typeof Align>;

export const Paragraph = z.object({ align: Align, runs: z.array(Run).min(1) });
export type Paragraph = z.infer<typeof Paragraph>;

export const WordsLayer = z.object({
  ...common,
  role: z.literal('words'),
  paragraphs: z.array(Paragraph).min(1).max(500),
  /** Line pitch as a multiple of the size. */
  lineSpacing: z.number().min(0.5).max(4),
  /** `x` is the left edge, middle or right edge, as the words are aligned; `y` the top of the first line. Canvas px. */
  place: z.object({ x: coordinate, y: coordinate }),
});
export type WordsLayer = z.infer<typeof WordsLayer>;

export const Layer = z.discriminatedUnion('role', [PictureLayer, WordsLayer]);
export type Layer = z.infer<typeof Layer>;

export const Backdrop = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('none') }),
  z.object({ kind: z.literal('colour'), colour: Colour }),
]);
export type Backdrop = z.infer<typeof Backdrop>;

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
  alt: z.string().max(500),
});
export type ExportChoices = z.infer<typeof ExportChoices>;

export const GRAPHIC_VERSION = 2;

/** A graphic of version 1, whose slots knew less, as one of version 2; anything else as it came. Nothing is checked here. */
export function migrateGraphic(value: unknown): unknown {
  const old = value as { version?: unknown; frames?: unknown } | null | undefined;
  if (typeof value !== 'object' || old?.version !== 1 || !Array.isArray(old.frames)) return value;
  const frames = old.frames.map((f: unknown) =>
    typeof f === 'object' && f !== null && 'slot' in f ? { ...f, slot: migrateSlot(f.slot) } : f,
  );
  return { ...old, version: GRAPHIC_VERSION, frames };
}

/** One thing being made, as it is written. Layers stand back to front; lengths in canvas px (the slot's CSS px). */
const GraphicRecord = z.object({
  version: z.literal(GRAPHIC_VERSION),
  id,
  name: z.string().min(1).max(120),
  created: z.string(),
  canvas: z.object({ width: extent, height: extent }),
  backdrop: Backdrop,
  layers: z.array(Layer).max(500),
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

/** A words layer's text, a line break between paragraphs. */
export function textOf(layer: WordsLayer): string {
  return layer.paragraphs.map((p) => p.runs.map((r) => r.text).join('')).join('\n');
}

/** The run that stands for the block where one value is shown for all of it. */
export function firstRun(layer: WordsLayer): Run {
  return layer.paragraphs[0]!.runs[0]!;
}

/** A words layer with other text; each line keeps the look of the paragraph in its place, the last one's goes on. */
export function withText(layer: WordsLayer, text: string): WordsLayer {
  const old = layer.paragraphs;
  const paragraphs = text.split(/\r\n|\r|\n/).map((line, i) => {
    const model = old[Math.min(i, old.length - 1)]!;
    return { ...model, runs: [{ ...model.runs[0]!, text: line }] };
  });
  return { ...layer, paragraphs };
}

/** A words layer with a change made to each of its runs. */
export function withRuns(layer: WordsLayer, change: Partial<Omit<Run, 'text'>>): WordsLayer {
  return {
    ...layer,
    paragraphs: layer.paragraphs.map((p) => ({ ...p, runs: p.runs.map((r) => ({ ...r, ...change })) })),
  };
}
