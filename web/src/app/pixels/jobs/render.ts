import {
  filePixels,
  paint,
  plan,
  surfacesOf,
  type CanvasWindow,
  type Frame,
  type Graphic,
  type Plan,
  type PlanOptions,
  type Surfaces,
} from '@bright-slot/core';
import { LRUCache } from 'lru-cache';
import { makeSurface } from './surface';
import type { Turn } from './turn';
import { broughtFacesOf, shaperFor } from './type';

export type Vectors = readonly { key: string; bitmap: ImageBitmap }[];

/** Paints a window of a graphic's canvas at a scale with surfaces made for it only. */
export async function render(
  graphic: Graphic,
  window: CanvasWindow,
  scale: number,
  vectors: Vectors,
  turn: Turn,
  options: PlanOptions = {},
  /** Surfaces made already, by key; new ones are added. */
  made = new Map<string, ImageBitmap>(),
  /** Whether photos may be read from small decodes. */
  small = false,
): Promise<{ canvas: OffscreenCanvas; plan: Plan }> {
  const shaper = await shaperFor(graphic);
  const p = plan(graphic, window, scale, shaper, options);
  const drawn = new Map<string, ImageBitmap>(vectors.map((v) => [v.key, v.bitmap]));
  for (const need of surfacesOf(p)) {
    if (made.has(need.key)) continue;
    made.set(need.key, await makeSurface(need, turn, drawn.get(need.base), small));
  }
  await turn.pass();
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

/** A larger picture is not kept, px. */
const MOST_KEPT = 12e6;
/** Several are kept within so many px. */
const ROOM = 4e6;
/** What was painted for files last: other formats are the same picture, and a set's are weighed before they are saved. */
const painted = new LRUCache<string, OffscreenCanvas>({
  maxSize: ROOM,
  // One that is larger than all of the room takes all of it.
  sizeCalculation: ({ width, height }) => Math.min(ROOM, width * height),
});

/** For how long they are kept, ms. */
const KEPT_FOR = 60_000;
let forgetting: ReturnType<typeof setTimeout> | undefined;

/** Lets go of what was painted for files. */
export function forgetPainted(): void {
  painted.clear();
}

/** A frame's file pixels at a density, painted once for all formats, checked against what its slot needs. */
export async function renderFile(
  graphic: Graphic,
  frame: Frame,
  density: number,
  vectors: Vectors,
  turn: Turn,
): Promise<OffscreenCanvas> {
  const { slot, rect } = frame;
  const { layers, backdrop, canvas: size } = graphic;
  // A font may be brought or taken away meanwhile.
  const of = JSON.stringify([layers, backdrop, size, rect, slot, density, await broughtFacesOf(graphic)]);
  const known = painted.get(of);
  if (known) return known;
  const { canvas } = await render(graphic, frame, density, vectors, turn);
  const wanted = filePixels(slot, density);
  if (canvas.width !== wanted.width || canvas.height !== wanted.height)
    throw new Error(
      `The file would be ${canvas.width} × ${canvas.height} px instead of ${wanted.width} × ${wanted.height}.`,
    );
  if (canvas.width * canvas.height <= MOST_KEPT) painted.set(of, canvas);
  clearTimeout(forgetting);
  forgetting = setTimeout(forgetPainted, KEPT_FOR);
  return canvas;
}
