import {
  compiledRows,
  finishPixels,
  plainRows,
  reducing,
  setShadow,
  sourceNeeded,
  type CompiledRows,
  type Lying,
  type MakeRowKernel,
  type Pixels,
  type SourceRows,
  type SurfaceNeed,
} from '@bright-slot/core';
import { BitmapCache } from '../bitmap-cache';
import { imageData, picture, pixelsOf } from './pictures';
import { readable, wholeOf } from './stored-frames';
import { retire } from './retired';
import type { Turn } from './turn';
import { ownFile } from '../../storage/own-file';

/** The compiled kernel; none where it cannot be had. */
let compiled: Promise<WebAssembly.Module | null> | undefined;
/** Kernels that no reduction uses. Each has its own memory: reductions take turns, and one goes on where it was left. */
const idleKernels: MakeRowKernel[] = [];
const MOST_IDLE = 2;

const compiledKernel = () =>
  (compiled ??= WebAssembly.compileStreaming(ownFile('/wasm/reduce.wasm')).catch(() => null));

async function takeKernel(): Promise<MakeRowKernel> {
  const module = await compiledKernel();
  const known = idleKernels.pop();
  if (known) return known;
  if (!module) return plainRows;
  const { exports } = await WebAssembly.instantiate(module, {});
  return compiledRows(exports as unknown as CompiledRows);
}

function giveBack(kernel: MakeRowKernel): void {
  if (kernel !== plainRows && idleKernels.length < MOST_IDLE) idleKernels.push(kernel);
}

/** Finished surfaces: the screen, the report and the file often need the same one. */
const finished = new BitmapCache(24e6, retire);

/** Reductions before anything was done to them, so that a slider has only the rest to do. */
const reductions = new Map<string, Pixels>();
const MOST_REDUCED = 12e6;

function keep(base: string, pixels: Pixels): void {
  reductions.delete(base);
  reductions.set(base, pixels);
  let sum = [...reductions.values()].reduce((n, p) => n + p.width * p.height, 0);
  for (const [key, p] of reductions) {
    if (sum <= MOST_REDUCED || key === base) break;
    reductions.delete(key);
    sum -= p.width * p.height;
  }
}

/** Lets go of all surfaces that were made. */
export function forgetSurfaces(): void {
  finished.clear();
  reductions.clear();
}

/** A shadow under a picture, cast by the browser's own blur. */
function withShadow(lying: Lying, need: SurfaceNeed): ImageBitmap {
  const { place, finish } = need;
  const sheet = new OffscreenCanvas(lying.pixels.width, lying.pixels.height);
  sheet.getContext('2d')!.putImageData(imageData(lying.pixels), 0, 0);
  const canvas = new OffscreenCanvas(place.width, place.height);
  const context = canvas.getContext('2d')!;
  if (finish?.shadow) setShadow(context, finish.shadow);
  context.drawImage(sheet, lying.x - place.x, lying.y - place.y);
  return canvas.transferToImageBitmap();
}

/**
 * The surface for a need, made once. Copy it before it is transferred. `drawn` is the reduction
 * of a drawing, which only the page can make.
 */
export async function makeSurface(need: SurfaceNeed, turn: Turn, drawn?: ImageBitmap): Promise<ImageBitmap> {
  const known = finished.get(need.key);
  if (known) return known;
  const pixels = await reducedPixels(need, turn, drawn);
  await turn.pass();
  let surface: ImageBitmap;
  if (!need.finish) surface = await createImageBitmap(imageData(pixels));
  else {
    const { x, y } = need.out;
    const own: Lying = { pixels: { ...pixels, data: pixels.data.slice() }, x, y };
    surface = withShadow(finishPixels(own, need.finish, turnPlace(need)), need);
  }
  finished.set(need.key, surface);
  return surface;
}

/** Where turned pixels are wanted: on the frame, and past it as far as a shadow falls from there. */
function turnPlace({ place, finish }: SurfaceNeed) {
  const shadow = finish?.shadow;
  if (!shadow) return place;
  const room = Math.ceil(Math.max(Math.abs(shadow.x), Math.abs(shadow.y)) + shadow.blur * 1.5);
  return { x: place.x - room, y: place.y - room, width: place.width + 2 * room, height: place.height + 2 * room };
}

/** Px of a picture to each px that is made of it from which on it can be read as it is stored. */
const LEAST_SPAN = 2;

/** Px of a picture that are read at once: all of a photo beside its own pixels would be much. */
const STRIP = 1e6;

/** The pixels a surface needs, straight from the original, nothing done to them. */
export async function reducedPixels(need: SurfaceNeed, turn: Turn, drawn?: ImageBitmap): Promise<Pixels> {
  if (drawn) return pixelsOf(drawn);
  if (need.vector) throw new Error('A drawing was not prepared.');
  const known = reductions.get(need.base);
  if (known) return known;
  const { width, height } = need.natural;
  const natural = need.orient.quarters % 2 ? { width: height, height: width } : need.natural;
  const part = sourceNeeded(natural, need);
  if (!part) return { ...need.out, data: new Uint8ClampedArray(need.out.width * need.out.height * 4) };
  await turn.pass();
  const spans = Math.min(natural.width / need.image.width, natural.height / need.image.height);
  const asStored = spans >= LEAST_SPAN && !need.cutout;
  void compiledKernel();
  const source = asStored ? await readable(need.asset) : wholeOf(await picture(need.asset, need.cutout));
  const most = Math.min(part.height, Math.max(2, Math.floor(STRIP / part.width)));
  // One after the other in the same place.
  const room = asStored ? new Uint32Array(part.width * most) : undefined;
  const strip = async (from: number): Promise<SourceRows> => {
    const height = Math.min(part.height - from, most);
    return { ...(await source.part({ ...part, y: part.y + from, height }, need.orient, room)), from };
  };
  const kernel = await takeKernel();
  let pixels: Pixels;
  try {
    const parts = reducing(part, natural, need, need.opaque, kernel);
    let next = parts.next();
    while (!next.done) {
      await turn.pass();
      next = parts.next(next.value === null ? undefined : await strip(next.value));
    }
    pixels = next.value;
  } finally {
    giveBack(kernel);
  }
  if (need.finish) keep(need.base, pixels);
  return pixels;
}
