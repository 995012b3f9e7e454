import {
  filePixels,
  paint,
  plan,
  surfacesOf,
  topDensity,
  type CanvasWindow,
  type Frame,
  type Graphic,
  type Plan,
  type PlanOptions,
  type Surfaces,
} from '@bright-slot/core';
import { makeSurface } from './surface';
import { shaperFor } from './type';

export type Vectors = readonly { key: string; bitmap: ImageBitmap }[];

/** Paints a window of a graphic's canvas at a scale with exact surfaces only; null when stopped. */
export async function render(
  graphic: Graphic,
  window: CanvasWindow,
  scale: number,
  vectors: Vectors,
  stopped: () => boolean,
  options: PlanOptions = {},
  /** Surfaces made already, by key; new ones are added. */
  made = new Map<string, ImageBitmap>(),
): Promise<{ canvas: OffscreenCanvas; plan: Plan } | null> {
  const shaper = await shaperFor(graphic);
  const p = plan(graphic, window, scale, shaper, options);
  const drawn = new Map<string, ImageBitmap>(vectors.map((v) => [v.key, v.bitmap]));
  for (const need of surfacesOf(p)) {
    if (made.has(need.key)) continue;
    const surface = await makeSurface(need, stopped, drawn.get(need.base));
    if (!surface) return null;
    made.set(need.key, surface);
  }
  const canvas = new OffscreenCanvas(p.width, p.height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  const surfaces: Surfaces<CanvasImageSource> = {
    exact: (need) => made.get(need.key),
    rough: () => undefined,
    scratch(width, height) {
      const sheet = new OffscreenCanvas(width, height);
      return { context: sheet.getContext('2d')!, image: sheet };
    },
  };
  const missing = paint(p, surfaces, context);
  if (missing.length) throw new Error('A part of the graphic could not be prepared.');
  return { canvas, plan: p };
}

/** A frame's file pixels, checked against what its slot needs. */
export async function renderFile(
  graphic: Graphic,
  frame: Frame,
  vectors: Vectors,
  stopped: () => boolean,
): Promise<OffscreenCanvas | null> {
  const { slot } = frame;
  const done = await render(graphic, frame, topDensity(slot), vectors, stopped);
  if (!done) return null;
  const wanted = filePixels(slot, topDensity(slot));
  if (done.canvas.width !== wanted.width || done.canvas.height !== wanted.height)
    throw new Error(
      `The file would be ${done.canvas.width} × ${done.canvas.height} px instead of ${wanted.width} × ${wanted.height}.`,
    );
  return done.canvas;
}
