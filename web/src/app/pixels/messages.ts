import * as z from 'zod';
import type { FocusAndBusy } from './jobs/focus';
import {
  AssetHash,
  Chroma,
  Colour,
  Cutout,
  FileFormat,
  FileNotes,
  Graphic,
  LayoutContents,
  LayoutLook,
  Look,
  SlotRecord,
  Tint,
  composeRoles,
  limits,
  type Alike,
  type Box,
  type CleanedLogo,
  type CurrentPicture,
  type FileDifference,
  type GroundMap,
  type LaidOut,
  type Legibility,
  type Margins,
  type Measured,
  type PictureType,
  type Point,
  type Result,
  type SeamDifference,
  type SideName,
  type Silhouette,
} from '@bright-slot/core';
import type { OpenedFont } from '../type/font-reader';
import type { FoundStrength } from './jobs/least-veil';
import type { Composed } from './jobs/compose';
import type { LayerFiles } from './jobs/layer-files';
import type { MadeOfPainted } from './jobs/painted';
import type { Compared } from './jobs/compare-live';

const box = z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() });
const bitmap = z.custom<ImageBitmap>((v) => v instanceof ImageBitmap);

const point = z.object({ x: z.number(), y: z.number() });

const finish = z.object({
  frame: box,
  look: Look.nullable(),
  tint: Tint.nullable(),
  corners: z
    .union([z.tuple([z.number(), z.number(), z.number(), z.number()]).readonly(), z.literal('round')])
    .nullable(),
  border: z.object({ width: z.number(), colour: Colour }).nullable(),
  fades: z.array(z.object({ from: point, to: point })).readonly(),
  beyond: z.object({ style: z.enum(['colour', 'gradient']), box }).nullable(),
  turn: z.object({ degrees: z.number(), about: point }).nullable(),
  shadow: z.object({ x: z.number(), y: z.number(), blur: z.number(), colour: Colour, strength: z.number() }).nullable(),
});

const SurfaceRequest = z.object({
  key: z.string(),
  base: z.string(),
  asset: AssetHash,
  natural: z.object({ width: z.number(), height: z.number() }),
  opaque: z.boolean(),
  vector: z.boolean(),
  orient: z.object({ across: z.boolean(), down: z.boolean(), quarters: z.number().int().min(0).max(3) }),
  cutout: Cutout.nullable(),
  image: box,
  shown: box,
  out: box,
  finish: finish.nullable(),
  place: box,
});

/** A picture as it is used: its file, what is cut out of it, and the bitmap of a drawing that only the page can make. */
const used = { asset: AssetHash, cutout: Cutout.nullable(), drawn: bitmap.optional() };

/** Reductions that only the page can make (SVG), by the key of the reduction. */
const vectors = z.array(z.object({ key: z.string(), bitmap }));

export const Task = z.discriminatedUnion('kind', [
  /** An exact surface from the original. */
  z.object({ kind: z.literal('surface'), need: SurfaceRequest, drawn: bitmap.optional() }),
  /** A whole picture, at most `most` px on its longer side, in its own look. */
  z.object({ kind: z.literal('rough'), ...used, look: Look.nullable(), tint: Tint.nullable(), most: z.number() }),
  /** What is left when empty margins are taken off: a box in the picture's own px (of the bitmap, where one is given). */
  z.object({ kind: z.literal('trim'), ...used, tolerance: z.number(), breathing: z.number().min(0) }),
  /** A logo off its sheet: what is to be cut away, and what is left. */
  z.object({ kind: z.literal('clean'), asset: AssetHash }),
  /** The parts of a logo that stand together, as boxes in shares of it. */
  z.object({ kind: z.literal('parts'), ...used }),
  /** Where a picture is to be seen once something is cut out of it. */
  z.object({ kind: z.literal('silhouette'), ...used }),
  /** What is wrong with a picture's own pixels, and whether its file tells where it was taken. */
  z.object({ kind: z.literal('examine'), asset: AssetHash }),
  /** The point to keep in sight, and what is around it. */
  z.object({ kind: z.literal('focus'), source: z.union([AssetHash, z.instanceof(Blob)]) }),
  /** The colours of a surface's edges, and how well they meet it when run on. */
  z.object({ kind: z.literal('edges'), need: SurfaceRequest, drawn: bitmap.optional() }),
  /** Looks at a file: what it is, its hash, whether it can be decoded and is opaque. */
  z.object({
    kind: z.literal('import-picture'),
    blob: z.instanceof(Blob),
    name: z.string(),
    most: z.number(),
    /** Whether it goes on the canvas at once. */
    toCanvas: z.boolean(),
  }),
  /** Paints a frame for a file and encodes it. */
  z.object({
    kind: z.literal('file'),
    graphic: Graphic,
    frame: z.string(),
    format: FileFormat,
    quality: z.number(),
    chroma: Chroma,
    notes: FileNotes,
    /** Device px a CSS px of the slot. */
    density: z.number().positive().max(3),
    /** Whether it is to be held against the canvas. */
    compare: z.boolean(),
    vectors,
  }),
  /** How a file that was made of a frame differs from the canvas. */
  z.object({
    kind: z.literal('difference'),
    graphic: Graphic,
    frame: z.string(),
    density: z.number(),
    /** Where it is drawn, what the page drew of it. */
    file: z.union([z.instanceof(Blob), bitmap]),
    vectors,
  }),
  /** A file of what was painted elsewhere: under a key, so that it is handed over once. */
  z.object({
    kind: z.literal('encode'),
    key: z.string(),
    painted: bitmap.optional(),
    ground: Colour,
    format: FileFormat,
    quality: z.number(),
    chroma: Chroma,
    notes: FileNotes,
  }),
  /** Has ready a file of a frame that is likely to be asked for: its surfaces, the code that writes its format, itself. */
  z.object({
    kind: z.literal('file-ahead'),
    graphic: Graphic,
    frame: z.string(),
    format: FileFormat,
    quality: z.number(),
    chroma: Chroma,
    notes: FileNotes,
    density: z.number(),
    vectors,
  }),
  /** A frame as it is painted for a file, for the files to be seen beside. */
  z.object({ kind: z.literal('painted'), graphic: Graphic, frame: z.string(), density: z.number(), vectors }),
  /** A frame in its layers, each a picture of its own. */
  z.object({ kind: z.literal('layer-files'), graphic: Graphic, frame: z.string(), density: z.number(), vectors }),
  /** A frame as an SVG file. */
  z.object({
    kind: z.literal('drawing'),
    graphic: Graphic,
    frame: z.string(),
    density: z.number(),
    notes: FileNotes,
    /** Whether it has to look the same in every browser. */
    forPage: z.boolean(),
    vectors,
  }),
  /** A miniature of a frame, `width` px wide. */
  z.object({
    kind: z.literal('miniature'),
    graphic: Graphic,
    frame: z.string(),
    width: z.number(),
    /** Whether photos may be read from small decodes: for lists, not for what is looked at px for px. */
    small: z.boolean(),
    vectors,
  }),
  /** Looks at a picture that is in use now. */
  z.object({ kind: z.literal('diagnose-picture'), blob: z.instanceof(Blob), name: z.string() }),
  /** How what a visitor is shown differs from what was sent. */
  z.object({ kind: z.literal('compare-live'), sent: z.instanceof(Blob), live: z.instanceof(Blob) }),
  /** Opens a screenshot to be measured, under a key; snaps a rough drag on it (device px); lets it go. */
  z.object({ kind: z.literal('shot-open'), key: z.string(), blob: z.instanceof(Blob), name: z.string() }),
  z.object({ kind: z.literal('shot-measure'), key: z.string(), rough: box, density: z.number().positive().max(10) }),
  z.object({ kind: z.literal('shot-close'), key: z.string() }),
  /** Lets go of pictures and surfaces: no graphic is open. */
  z.object({ kind: z.literal('forget') }),
  /** The least strength of a veil with which its words stand out. */
  z.object({ kind: z.literal('least-veil'), graphic: Graphic, veil: z.string(), frame: z.string(), vectors }),
  /** The colours that pictures are made of, at most eight. */
  z.object({ kind: z.literal('palette'), pictures: z.array(z.union([z.instanceof(Blob), bitmap])).max(20) }),
  /** Opens a font file. */
  z.object({ kind: z.literal('font'), blob: z.instanceof(Blob), name: z.string() }),
  /** Where on a graphic's canvas there is room for something new. */
  z.object({ kind: z.literal('ground-map'), graphic: Graphic, frame: z.string(), vectors }),
  /** The ways in which a graphic can be composed for another slot. */
  z.object({
    kind: z.literal('compose'),
    graphic: Graphic,
    roles: z.record(z.string(), z.enum(composeRoles)),
    subjects: z.record(z.string(), box),
    slot: SlotRecord,
  }),
  /** Contents in every layout there is for a slot. */
  z.object({ kind: z.literal('layouts'), contents: LayoutContents, look: LayoutLook, slot: SlotRecord }),
  /** Contents of several tiles in one layout. */
  z.object({
    kind: z.literal('tiles'),
    layout: z.string(),
    tiles: z.array(LayoutContents).max(limits.tiles),
    look: LayoutLook,
    slot: SlotRecord,
  }),
  /** Samples what the words of a graphic really stand on. */
  z.object({ kind: z.literal('legibility'), graphic: Graphic, frame: z.string(), vectors }),
]);
export type Task = z.infer<typeof Task>;

export const Request = z.union([z.object({ id: z.number(), task: Task }), z.object({ cancel: z.number() })]);
export type Request = z.infer<typeof Request>;

/** What a picture file turned out to be. A drawing (SVG) is only told apart: the page has to draw it. */
export type ImportedPicture =
  | { readonly type: 'svg'; readonly width: number; readonly height: number }
  | {
      readonly type: Exclude<PictureType, 'svg'>;
      readonly width: number;
      readonly height: number;
      readonly hash: string;
      readonly opaque: boolean;
      readonly silhouette: Silhouette | null;
      readonly flatBorder: boolean;
      readonly focus: Point;
      readonly subject: Box;
      /** A small copy for lists. */
      readonly thumb: Blob;
      /** The whole picture, roughly reduced, for first sight. */
      readonly rough: ImageBitmap;
    };

/** What is wrong with a picture itself: see `AssetFacts`. */
export interface Examined {
  readonly stray: Margins;
  readonly blur: number | null;
  readonly located: boolean;
}

/** A side of a picture. */
export interface EdgeFacts {
  readonly side: SideName;
  readonly colour: string;
  /** How well each way of running on meets it; null where it leaves no canvas uncovered, or has faded by then. */
  readonly seam: { readonly colour: SeamDifference; readonly gradient: SeamDifference } | null;
}

/**
 * Tiles that were made alike, each derived graphic as JSON: a message of a hundred as objects is read in one go and
 * holds the page for 40 ms, while text can be parsed one by one.
 */
export type TilesMade = Omit<Alike, 'derived'> & { readonly derived: readonly string[] };

/** What our own worker made of what it was asked: its outermost shape is looked at, of thousands of letters not each. */
const object = <T extends object>() => z.custom<T>((v) => typeof v === 'object' && v !== null);
const list = <T>() => z.custom<T[]>(Array.isArray);
const result = <T>() => z.custom<Result<T>>((v) => typeof (v as { ok?: unknown } | null)?.ok === 'boolean');

/** What each kind of task gives. */
const answers = {
  surface: bitmap,
  rough: bitmap,
  trim: box.nullable(),
  parts: z.array(box),
  clean: object<CleanedLogo>().nullable(),
  silhouette: object<Silhouette>(),
  examine: object<Examined>(),
  focus: object<FocusAndBusy>(),
  edges: list<EdgeFacts>(),
  'import-picture': result<ImportedPicture>(),
  /** `decoded`: how many files had to be decoded for it. */
  file: z.object({
    blob: z.instanceof(Blob),
    width: z.number(),
    height: z.number(),
    decoded: z.number(),
    difference: z.custom<FileDifference>((v) => v === null || typeof v === 'object').nullable(),
  }),
  difference: object<FileDifference>(),
  /** Null where what was painted is not here any more. */
  encode: object<MadeOfPainted>().nullable(),
  'file-ahead': z.null(),
  painted: bitmap,
  'layer-files': object<LayerFiles>(),
  drawing: z.instanceof(Blob),
  miniature: z.instanceof(Blob),
  legibility: list<Legibility>(),
  compose: list<Composed>(),
  layouts: list<LaidOut>(),
  tiles: object<TilesMade>(),
  'ground-map': object<GroundMap>(),
  'least-veil': object<FoundStrength>(),
  font: result<OpenedFont>(),
  palette: z.array(z.string()),
  'diagnose-picture': result<CurrentPicture>(),
  'compare-live': object<Compared>().nullable(),
  'shot-open': result<ImageBitmap>(),
  'shot-measure': result<Measured>(),
  'shot-close': z.null(),
  forget: z.null(),
} satisfies Record<Task['kind'], z.ZodType>;
export type Answers = { [K in Task['kind']]: z.output<(typeof answers)[K]> };
export type AnswerOf<T extends Task> = Answers[T['kind']];

/** The schema of what a task gives. */
export function answerTo<T extends Task>({ kind }: T): z.ZodType<AnswerOf<T>> {
  const schemas: { [K in Task['kind']]: z.ZodType<Answers[K]> } = answers;
  return schemas[kind as T['kind']];
}

export const Reply = z.union([
  z.object({ id: z.number(), answer: z.unknown() }),
  z.object({ id: z.number(), problem: z.object({ code: z.string(), message: z.string() }) }),
]);
export type Reply = z.infer<typeof Reply>;
