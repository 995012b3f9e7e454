import { clamp } from '../geometry/clamp';
import '../zod-setup';
import * as z from 'zod';
import { limits } from '../limits';
import { AssetHash, Colour, Share as share } from '../values';

/** How a picture's pixels are changed; 1 (brightness, contrast, saturation) and 0 (warmth, sharpening) change nothing. */
export const Look = z.object({
  brightness: z.number().min(0).max(3),
  contrast: z.number().min(0).max(3),
  saturation: z.number().min(0).max(3),
  warmth: z.number().min(-1).max(1),
  sharpening: share,
});
export type Look = z.infer<typeof Look>;

export const plainLook: Look = { brightness: 1, contrast: 1, saturation: 1, warmth: 0, sharpening: 0 };

/**
 * A picture in other colours. `flat`: every pixel takes the colour, only its alpha stays. `one`: light and dark
 * stay, from black through the colour to white. `two`: what is dark takes one colour, what is light the other.
 */
export const Tint = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('flat'), colour: Colour }),
  z.object({ kind: z.literal('one'), colour: Colour }),
  z.object({ kind: z.literal('two'), dark: Colour, light: Colour }),
]);
export type Tint = z.infer<typeof Tint>;

/** Radii in canvas px: top left, top right, bottom right, bottom left. `round` is the ellipse within the box. */
export const Corners = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('straight') }),
  z.object({
    kind: z.literal('rounded'),
    radii: z.tuple([z.number().min(0), z.number().min(0), z.number().min(0), z.number().min(0)]),
  }),
  z.object({ kind: z.literal('round') }),
]);
export type Corners = z.infer<typeof Corners>;

/** A line along the edge, within it. Width in canvas px. */
export const Border = z.object({ width: z.number().min(0.1).max(500), colour: Colour });
export type Border = z.infer<typeof Border>;

/**
 * A drop shadow. Distance and blur in canvas px (the blur's σ is half of it), `angle` the way it falls in
 * degrees clockwise from the right, `strength` its opacity.
 */
export const Shadow = z.object({
  distance: z.number().min(0).max(1000),
  angle: z.number().min(-360).max(360),
  blur: z.number().min(0).max(500),
  colour: Colour,
  strength: share,
});
export type Shadow = z.infer<typeof Shadow>;

/** Corners with their radii (canvas px) times `by`. */
export function scaledCorners(corners: Corners, by: number): Corners {
  if (corners.kind !== 'rounded') return corners;
  const [a, b, c, d] = corners.radii;
  return { ...corners, radii: [a * by, b * by, c * by, d * by] };
}

/** A line along an edge, its width (canvas px) times `by`, as far as it can be set. */
export function scaledBorder<B extends Border>(border: B | null, by: number): B | null {
  return border && { ...border, width: clamp(border.width * by, 0.1, 500) };
}

/** A shadow with its distance and blur (canvas px) times `by`, as far as they can be set. */
export function scaledShadow(shadow: Shadow | null, by: number): Shadow | null {
  return shadow && { ...shadow, distance: clamp(shadow.distance * by, 0, 1000), blur: clamp(shadow.blur * by, 0, 500) };
}

/** One that can be seen without being looked for. Common practice, no source. */
export const usualShadow: Shadow = { distance: 8, angle: 60, blur: 14, colour: '#000000', strength: 0.45 };

const far = z.number().min(-limits.shares).max(limits.shares);
const point = z.object({ x: far, y: far });

export const sideNames = ['left', 'top', 'right', 'bottom'] as const;
export type SideName = (typeof sideNames)[number];

/**
 * A picture that gives way to what lies behind it: `side`, over a share of its width or height from that side;
 * or along a line, whole at `from` and gone at `to` (shares of what shows).
 */
export const Fade = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('side'), side: z.enum(sideNames), length: z.number().min(0.001).max(1) }),
  z.object({ kind: z.literal('line'), from: point, to: point }),
]);
export type Fade = z.infer<typeof Fade>;

/** What the uncovered canvas beside a picture is filled with: one colour of its edge, or the edge's colours running on. */
export const Beyond = z.object({ style: z.enum(['colour', 'gradient']) });
export type Beyond = z.infer<typeof Beyond>;

/** A rectangle and strokes in the picture's own px. */
const ownPoint = z.object({ x: z.number(), y: z.number() });
export const Stroke = z.object({
  keep: z.boolean(),
  width: z.number().positive(),
  points: z.array(ownPoint).min(1).max(limits.points),
});
export type Stroke = z.infer<typeof Stroke>;

/**
 * What of a picture is taken away. `flat`: the ground's colour (null: the border's own), from the border inwards or
 * wherever it occurs; `tolerance` as 100 × the distance in OKLab; `soft` px of extra softness. `subject`: what a
 * mask says, made from a rough box and strokes.
 */
export const Cutout = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('flat'),
    /** From the border inwards; there and where the ground shows through a mark (counters); wherever its colour occurs. */
    where: z.enum(['border', 'counters', 'anywhere']),
    colour: Colour.nullable(),
    tolerance: z.number().min(0).max(60),
    soft: z.number().min(0).max(8),
  }),
  z.object({
    kind: z.literal('subject'),
    box: z.object({ x: z.number(), y: z.number(), width: z.number().positive(), height: z.number().positive() }),
    strokes: z.array(Stroke).max(limits.strokes),
    /** An 8-bit grey PNG, smaller than the picture, white where it stays. */
    mask: AssetHash,
    soft: z.number().min(0).max(8),
  }),
]);
export type Cutout = z.infer<typeof Cutout>;

/** Takes away what JPEG leaves around a flat ground, and little else. Common practice, no source. */
export const usualCutout: Cutout & { kind: 'flat' } = {
  kind: 'flat',
  where: 'border',
  colour: null,
  tolerance: 8,
  soft: 0,
};

export const appearance = {
  /** The point to keep in sight, in shares of the whole picture as it came. */
  focus: z.object({ x: share, y: share }),
  /** Mirrored left to right, top to bottom. */
  flip: z.object({ across: z.boolean(), down: z.boolean() }),
  /** Degrees clockwise, about the middle of what shows; about the canvas's middle where it covers. */
  turn: z.number().min(-360).max(360),
  opacity: share,
  look: Look,
  tint: Tint.nullable(),
  corners: Corners,
  border: Border.nullable(),
  shadow: Shadow.nullable(),
  fades: z.array(Fade).max(8),
  beyond: Beyond.nullable(),
  cutout: Cutout.nullable(),
};
export type Appearance = { [K in keyof typeof appearance]: z.infer<(typeof appearance)[K]> };

/** A picture as it came. */
export const plainAppearance: Appearance = {
  focus: { x: 0.5, y: 0.5 },
  flip: { across: false, down: false },
  turn: 0,
  opacity: 1,
  look: plainLook,
  tint: null,
  corners: { kind: 'straight' },
  border: null,
  shadow: null,
  fades: [],
  beyond: null,
  cutout: null,
};
