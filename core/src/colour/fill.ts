import '../zod-setup';
import * as z from 'zod';
import { limits } from '../limits';
import { Colour, Share } from '../values';

const share = z.number().min(-limits.shares).max(limits.shares);
/** A place in shares of a box: 0 is its left or top, 1 its right or bottom. */
const place = z.object({ x: share, y: share });

/** One colour of a gradient, at a share of its way. */
export const Stop = z.object({ at: Share, colour: Colour, opacity: Share });
export type Stop = z.infer<typeof Stop>;

/**
 * From one end to another. `linear`: straight across, along the line from `from` to `to`. `radial`: in rings around
 * `from`, the last one through `to`. Stops in order.
 */
export const Gradient = z.object({
  kind: z.literal('gradient'),
  form: z.enum(['linear', 'radial']),
  from: place,
  to: place,
  stops: z.array(Stop).min(2).max(12),
});
export type Gradient = z.infer<typeof Gradient>;

/** What a surface is filled with: nothing, a colour, a gradient over its box. */
export const Fill = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('none') }),
  z.object({ kind: z.literal('colour'), colour: Colour }),
  Gradient,
]);
export type Fill = z.infer<typeof Fill>;

/** Whether nothing shows through a fill. */
export function isOpaqueFill(fill: Fill): boolean {
  return fill.kind === 'colour' || (fill.kind === 'gradient' && fill.stops.every((s) => s.opacity === 1));
}

/** The colour that stands for a fill where one is wanted; null for none. */
export function leadingColour(fill: Fill): string | null {
  return fill.kind === 'none' ? null : fill.kind === 'colour' ? fill.colour : fill.stops[0]!.colour;
}

/** A gradient the other way round. */
export function reversed(gradient: Gradient): Gradient {
  return { ...gradient, stops: gradient.stops.map((s) => ({ ...s, at: 1 - s.at })).reverse() };
}
