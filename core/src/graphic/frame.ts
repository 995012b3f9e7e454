import '../zod-setup';
import * as z from 'zod';
import { intersection, type Box } from '../geometry/box';
import { coordinate, extent } from '../geometry/lengths';
import { limits } from '../limits';
import { Density, FileFormat, Slot } from '../slot/slot';
import { LayerId } from './layer';

/** How finely a JPEG keeps colours: at each px, or at each 2 × 2 px. ITU-T T.81, A.1.1. */
export const Chroma = z.enum(['444', '420']);
export type Chroma = z.infer<typeof Chroma>;

/** What a frame's file is to be. */
export const ExportChoices = z.object({
  format: FileFormat,
  quality: z.number().int().min(1).max(100),
  /** At each px where it is not said. */
  chroma: Chroma.optional(),
  /** Whether the person chose format and quality; until then the lightest file that looks the same is proposed. */
  own: z.boolean().optional(),
  /** Px an inch written into the file, for programs that print; none where it is not said. */
  ppi: z.number().int().min(36).max(1200).optional(),
  /** The densities in which it leaves beside the slot's densest, device px a CSS px. */
  densities: z.array(Density).max(3).optional(),
  /** Most bytes the file may have, where the person wants it lighter than its slot does. */
  mostBytes: z.number().int().min(1000).max(1e9).optional(),
  /** Whether the house's watermark goes over the file. */
  watermark: z.boolean().optional(),
  alt: z.string().max(limits.description),
  /** What the picture showed and said when the description was written; see `describedState`. */
  altFor: z.string().max(100).optional(),
});
export type ExportChoices = z.infer<typeof ExportChoices>;

/** A finding of the fit report that was left as it is: why, and what it measured then. */
export const LeftFinding = z.object({
  finding: z.string().min(1).max(120),
  reason: z.string().min(1).max(limits.reason),
  figures: z.array(z.number()).max(8),
});
export type LeftFinding = z.infer<typeof LeftFinding>;

/** A window on the canvas that becomes a file of its own: where it lies (canvas px), for which slot, and as what. */
export const Frame = z.object({
  id: LayerId,
  rect: z.object({ x: coordinate, y: coordinate, width: extent, height: extent }),
  /** The slot as it was when the graphic was made for it. */
  slot: Slot,
  export: ExportChoices,
  left: z.array(LeftFinding).max(limits.left),
});
export type Frame = z.infer<typeof Frame>;

/** The part of a canvas that is looked at, canvas px: a frame, or all of it. */
export type CanvasWindow = Pick<Frame, 'rect'>;

/** A frame as it is made for a slot, at a place on the canvas (canvas px). */
export function frameFor(id: string, rect: Frame['rect'], slot: Slot): Frame {
  return {
    id,
    rect,
    slot,
    export: { format: slot.keepsTransparency ? 'png' : slot.formats[0]!, quality: 85, alt: '' },
    left: [],
  };
}

/** The frame of an id; the first one where there is none of it (or none is asked for). */
export function frameOf(graphic: { readonly frames: readonly Frame[] }, id?: string | null): Frame {
  return graphic.frames.find((f) => f.id === id) ?? graphic.frames[0]!;
}

/** All of a canvas as a window on it. */
export function wholeCanvas({
  canvas,
}: {
  readonly canvas: { readonly width: number; readonly height: number };
}): CanvasWindow {
  return { rect: { x: 0, y: 0, ...canvas } };
}

/**
 * Whether what lies in a box (canvas px) is a matter for a frame: it touches it, or touches none of the frames, so that
 * nobody else would speak of it.
 */
export function concernsFrame(box: Box, rect: Box, frames: readonly CanvasWindow[]): boolean {
  return (
    frames.length === 1 || intersection(box, rect) !== null || !frames.some((f) => intersection(box, f.rect) !== null)
  );
}
