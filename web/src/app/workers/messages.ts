import * as z from 'zod';
import {
  AssetHash,
  FileFormat,
  Graphic,
  type CurrentPicture,
  type Legibility,
  type Measured,
  type PictureType,
  type Result,
  type Silhouette,
} from '@bright-slot/core';

const box = z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() });
const bitmap = z.custom<ImageBitmap>((v) => v instanceof ImageBitmap);

export const SurfaceRequest = z.object({
  key: z.string(),
  asset: AssetHash,
  natural: z.object({ width: z.number(), height: z.number() }),
  opaque: z.boolean(),
  vector: z.boolean(),
  image: box,
  shown: box,
  out: box,
});

/** Surfaces that only the page can make (SVG), by key. */
const vectors = z.array(z.object({ key: z.string(), bitmap }));

export const Task = z.discriminatedUnion('kind', [
  /** An exact surface from the original. */
  z.object({ kind: z.literal('surface'), need: SurfaceRequest }),
  /** A whole picture, at most `most` px on its longer side. */
  z.object({ kind: z.literal('rough'), asset: AssetHash, most: z.number() }),
  /** Looks at a file: what it is, its hash, whether it can be decoded and is opaque. */
  z.object({ kind: z.literal('inspect'), blob: z.instanceof(Blob), name: z.string(), most: z.number() }),
  /** Paints a graphic for a file and encodes it. */
  z.object({
    kind: z.literal('file'),
    graphic: Graphic,
    format: FileFormat,
    quality: z.number(),
    copyright: z.string(),
    ground: z.string(),
    vectors,
  }),
  /** A miniature of a graphic, `width` px wide. */
  z.object({ kind: z.literal('miniature'), graphic: Graphic, width: z.number(), vectors }),
  /** Looks at a picture that is in use now. */
  z.object({ kind: z.literal('examine'), blob: z.instanceof(Blob), name: z.string() }),
  /** Opens a screenshot to be measured, under a key; snaps a rough drag on it (device px); lets it go. */
  z.object({ kind: z.literal('shot-open'), key: z.string(), blob: z.instanceof(Blob), name: z.string() }),
  z.object({ kind: z.literal('shot-measure'), key: z.string(), rough: box, density: z.number().positive().max(10) }),
  z.object({ kind: z.literal('shot-close'), key: z.string() }),
  /** Samples what the words of a graphic really stand on. */
  z.object({ kind: z.literal('legibility'), graphic: Graphic, ground: z.string(), vectors }),
]);
export type Task = z.infer<typeof Task>;

export const Request = z.union([z.object({ id: z.number(), task: Task }), z.object({ cancel: z.number() })]);
export type Request = z.infer<typeof Request>;

/** What a picture file turned out to be. A drawing (SVG) is only told apart: the page has to draw it. */
export type Inspected =
  | { readonly type: 'svg'; readonly width: number; readonly height: number }
  | {
      readonly type: Exclude<PictureType, 'svg'>;
      readonly width: number;
      readonly height: number;
      readonly hash: string;
      readonly opaque: boolean;
      readonly silhouette: Silhouette | null;
      readonly flatBorder: boolean;
      /** The whole picture, roughly reduced, for first sight. */
      readonly rough: ImageBitmap;
    };

/** What each kind of task gives. */
export interface Answers {
  surface: ImageBitmap;
  rough: ImageBitmap;
  inspect: Result<Inspected>;
  file: { blob: Blob; width: number; height: number };
  miniature: Blob;
  legibility: Legibility[];
  examine: Result<CurrentPicture>;
  'shot-open': Result<ImageBitmap>;
  'shot-measure': Result<Measured>;
  'shot-close': null;
}
export type AnswerOf<T extends Task> = Answers[T['kind']];

export const Reply = z.union([
  z.object({ id: z.number(), answer: z.unknown() }),
  z.object({ id: z.number(), problem: z.object({ code: z.string(), message: z.string() }) }),
]);
export type Reply = z.infer<typeof Reply>;
