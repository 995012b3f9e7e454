import {
  filePixels,
  mainFrame,
  paint,
  plan,
  surfacesOf,
  topDensity,
  type Graphic,
  type Plan,
  type PlanOptions,
  type Surfaces,
} from '@bright-slot/core';
import { makeSurface } from './surface';
import { shaperFor } from './type';

type Vectors = readonly { key: string; bitmap: ImageBitmap }[];

/** Paints a graphic's frame at a scale with exact surfaces only; null when stopped. */
export async function render(
  graphic: Graphic,
  scale: number,
  vectors: Vectors,
  stopped: () => boolean,
  options: PlanOptions = {},
  /** Surfaces made already, by key; new ones are added. */
  made = new Map<string, ImageBitmap>(),
): Promise<{ canvas: OffscreenCanvas; plan: Plan } | null> {
  const shaper = await shaperFor(graphic);
  const frame = mainFrame(graphic);
  const p = plan(graphic, frame, scale, shaper, options);
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

/** A graphic's file pixels, checked against what the slot needs. */
export async function renderFile(
  graphic: Graphic,
  vectors: Vectors,
  stopped: () => boolean,
): Promise<OffscreenCanvas | null> {
  const { slot } = mainFrame(graphic);
  const done = await render(graphic, topDensity(slot), vectors, stopped);
  if (!done) return null;
  const wanted = filePixels(slot, topDensity(slot));
  if (done.canvas.width !== wanted.width || done.canvas.height !== wanted.height)
    throw new Error(
      `The file would be ${done.canvas.width} × ${done.canvas.height} px instead of ${wanted.width} × ${wanted.height}.`,
    );
  return done.canvas;
}
