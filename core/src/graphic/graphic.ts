import '../zod-setup';
import * as z from 'zod';
import { FileFormat, Slot, migrateSlot } from '../slot/slot';
import { cutText } from '../text';
import { gradientEnds } from '../geometry/gradient-line';
import { appearance, plainAppearance, plainWordsAppearance, wordsAppearance } from './appearance';
import { Fill } from './fill';
import { limits } from './limits';
import { LayerId, coordinate, extent, layerCommon } from './layer';
import { ShapeLayer, VeilLayer } from './shape';
import { AssetHash, Colour } from './values';

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

export const Face = z.object({
  family: z.string().min(1).max(80),
  weight: z.number().min(1).max(1000),
  italic: z.boolean(),
});
export type Face = z.infer<typeof Face>;

/** How words are set, whatever was typed; `title` begins each word large. */
export const LetterCase = z.enum(['typed', 'upper', 'lower', 'title']);
export type LetterCase = z.infer<typeof LetterCase>;

/** A stretch of words that look alike. Size in canvas px. */
export const Run = z.object({
  text: z.string().max(limits.letters),
  face: Face,
  size: z.number().min(1).max(4000),
  colour: Colour,
  /** Added after each letter, in ems: 0.05 is a twentieth of the size. */
  tracking: z.number().min(-0.5).max(3),
  case: LetterCase,
});
export type Run = z.infer<typeof Run>;

export const Align = z.enum(['left', 'centre', 'right']);
export type Align = z.infer<typeof Align>;

/** Where in its width a line is held, by its alignment: 0 is its left edge, 1 its right. */
export const alignShare: Readonly<Record<Align, number>> = { left: 0, centre: 0.5, right: 1 };

export const Paragraph = z.object({ align: Align, runs: z.array(Run).min(1) });
export type Paragraph = z.infer<typeof Paragraph>;

/** What a field can stand for: it is written as `{business}`, `{address}`, `{date}`. */
export const fieldNames = ['business', 'address', 'date'] as const;
export type FieldName = (typeof fieldNames)[number];

/** A field's place in text, such as `{date}`. */
export const FIELD = new RegExp(`\\{(${fieldNames.join('|')})\\}`, 'g');

/**
 * How large a block of words is. `grow`: as its words are. `wrap`: its lines break at a width. `fill`: its words are
 * sized, all in proportion, to fill a box. Canvas px.
 */
export const Sizing = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('grow') }),
  z.object({ kind: z.literal('wrap'), width: extent }),
  z.object({ kind: z.literal('fill'), width: extent, height: extent }),
]);
export type Sizing = z.infer<typeof Sizing>;

export const WordsLayer = z.object({
  ...common,
  role: z.literal('words'),
  paragraphs: z.array(Paragraph).min(1).max(limits.lines),
  /** Line pitch as a multiple of the size. */
  lineSpacing: z.number().min(0.5).max(4),
  /** Room between paragraphs beside that, as a multiple of the size. */
  paragraphSpacing: z.number().min(0).max(4),
  /** `x` is the left edge, middle or right edge, as the words are aligned; `y` the top of the first line. Canvas px. */
  place: z.object({ x: coordinate, y: coordinate }),
  sizing: Sizing,
  /** What its fields say, as last looked up; `frozen` since they were sent. */
  fields: z.object({ values: z.partialRecord(z.enum(fieldNames), z.string().max(500)), frozen: z.boolean() }),
  ...wordsAppearance,
});
export type WordsLayer = z.infer<typeof WordsLayer>;

/** What words had before they could be wrapped and hold fields. */
export const plainBlock = {
  paragraphSpacing: 0,
  sizing: { kind: 'grow' },
  fields: { values: {}, frozen: false },
} as const satisfies Partial<WordsLayer>;

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

/** A words layer's text, a line break between paragraphs. */
export function textOf(layer: WordsLayer): string {
  return layer.paragraphs.map((p) => p.runs.map((r) => r.text).join('')).join('\n');
}

/** The run that stands for the block where one value is shown for all of it. */
export function firstRun(layer: WordsLayer): Run {
  return layer.paragraphs[0]!.runs[0]!;
}

/**
 * What of a text one block of words takes: no more lines and letters than it holds. Looked at before anything is laid
 * out, since a pasted book would keep the page busy for a minute. Control characters go, tabs become spaces.
 */
export function wordsTaken(text: string): { readonly text: string; readonly left: string } {
  const most = limits.letters;
  const plain = cutText(text, most + 2)
    .toWellFormed()
    .replace(/\r\n?|[\u2028\u2029\u0085\v\f]/g, '\n')
    .replace(/\t/g, '  ')

    .replace(/[\u0000-\u0009\u000b-\u001f\u007f]/g, '');
  const lines = plain.split('\n');
  const taken = cutText(lines.slice(0, limits.lines).join('\n'), most);
  const left =
    text.length > most
      ? `One block of words holds ${most.toLocaleString('en-GB')} letters; what came after them was left out.`
      : lines.length > limits.lines
        ? `One block of words holds ${limits.lines} lines; ${lines.length - limits.lines} after them were left out.`
        : '';
  return { text: taken, left };
}

/** A words layer with a change made to each of its runs. */
export function withRuns(layer: WordsLayer, change: Partial<Omit<Run, 'text'>>): WordsLayer {
  return {
    ...layer,
    paragraphs: layer.paragraphs.map((p) => ({ ...p, runs: p.runs.map((r) => ({ ...r, ...change })) })),
  };
}
