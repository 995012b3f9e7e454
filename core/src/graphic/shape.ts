import '../zod-setup';
import * as z from 'zod';
import { Border, Corners, Shadow, sideNames } from '../pixels/appearance';
import { Fill } from '../colour/fill';
import { LayerId, layerCommon } from './layer';
import { Colour, Share } from '../values';
import { coordinate, extent } from '../geometry/lengths';
import { PathForm } from '../geometry/path-form';

const point = z.object({ x: coordinate, y: coordinate });
const box = z.object({ x: coordinate, y: coordinate, width: extent, height: extent });

/** How a line runs: whole, in dashes of three widths, in round dots. */
export const LineStyle = z.enum(['solid', 'dashed', 'dotted']);
export type LineStyle = z.infer<typeof LineStyle>;

/** A line along a shape's edge: within it, but for bubbles and paths, on whose edge it is centred. */
export const ShapeBorder = Border.extend({ style: LineStyle });
export type ShapeBorder = z.infer<typeof ShapeBorder>;

/**
 * What a shape is. `line` is its border alone, from end to end. `bubble` has a tail to `tip`, in shares of its box.
 * `path`: SVG path data of absolute M, L, C, Q and Z (SVG 2, section 9.3), in a sheet of `width` × `height`.
 */
export const ShapeForm = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('rectangle') }),
  z.object({ kind: z.literal('ellipse') }),
  z.object({ kind: z.literal('line') }),
  z.object({ kind: z.literal('bubble'), tip: z.object({ x: z.number(), y: z.number() }) }),
  PathForm,
]);
export type ShapeForm = z.infer<typeof ShapeForm>;

/**
 * Where a shape lies, canvas px. `band`: the whole of one side, so wide. `around`: about a words layer's lines with
 * room on all sides, growing with them; `last` is where it was, should the words be gone.
 */
export const ShapePlace = z.discriminatedUnion('mode', [
  z.object({ mode: z.literal('box'), box }),
  z.object({ mode: z.literal('line'), from: point, to: point }),
  z.object({ mode: z.literal('band'), side: z.enum(sideNames), size: extent }),
  z.object({
    mode: z.literal('around'),
    words: LayerId,
    across: z.number().min(0).max(2000),
    down: z.number().min(0).max(2000),
    last: box,
  }),
]);
export type ShapePlace = z.infer<typeof ShapePlace>;

export const ShapeLayer = z.object({
  ...layerCommon,
  role: z.literal('shape'),
  form: ShapeForm,
  place: ShapePlace,
  fill: Fill,
  border: ShapeBorder.nullable(),
  corners: Corners,
  shadow: Shadow.nullable(),
  opacity: Share,
  /** Degrees clockwise, about the middle of its box; a line has its ends instead. */
  turn: z.number().min(-360).max(360),
});
export type ShapeLayer = z.infer<typeof ShapeLayer>;

/**
 * Where a veil lies, canvas px; `soft` is over how long it goes from whole to gone, within it. `band`: across (from
 * left to right) or down, beginning at `at`. `side`: from one side, gone after `reach`. `behind`:
 * whole up to `grow` around words, then gone over twice `soft`.
 */
export const VeilForm = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('whole') }),
  z.object({
    kind: z.literal('band'),
    way: z.enum(['across', 'down']),
    at: coordinate,
    size: extent,
    soft: z.number().min(0).max(2000),
  }),
  z.object({ kind: z.literal('side'), side: z.enum(sideNames), reach: extent }),
  z.object({ kind: z.literal('behind'), grow: z.number().min(0).max(2000), soft: z.number().min(0).max(500) }),
]);
export type VeilForm = z.infer<typeof VeilForm>;

/** How many steps a veil's strength has, none and all included: as many as a channel has. */
export const STRENGTHS = 256;

/** A sheet of one colour between photo and words. */
export const VeilLayer = z.object({
  ...layerCommon,
  role: z.literal('veil'),
  form: VeilForm,
  colour: Colour,
  /** In steps, 0 (none) to 255 (nothing shows through). */
  strength: z
    .number()
    .int()
    .min(0)
    .max(STRENGTHS - 1),
  /** The words it is for; all in front of it where none are named. */
  words: z.array(LayerId).max(100),
  /** Its strength is kept at the least with which its words stand out. */
  justEnough: z.boolean(),
});
export type VeilLayer = z.infer<typeof VeilLayer>;
