import {
  compiledRows,
  evenly,
  finishPixels,
  intersection,
  pictureFormats,
  plainRows,
  reduce,
  reducing,
  setShadow,
  sourceNeeded,
  type CompiledRows,
  type Lying,
  type MakeRowKernel,
  type Pixels,
  type Size,
  type SourceRows,
  type SurfaceNeed,
} from '@bright-slot/core';
import { BitmapCache } from '../bitmap-cache';
import { MadeOnce } from '../made-once';
import { LEAST_REDUCED, imageData, picture, pixelsOf, stored } from './pictures';
import { reducedOf } from './rough';
import { readable, wholeOf, type Readable } from './stored-frames';
import { retire } from './retired';
import type { Turn } from './turn';
import { ownFile } from '../../storage/own-file';

/** The compiled kernel; none where it cannot be had. */
let compiled: Promise<WebAssembly.Module | null> | undefined;
/**
 * A kernel and room for a strip of what it reduces. Each has memory of its own: reductions take turns, and one goes on where
 * it was left.
 */
interface Reducer {
  readonly kernel: MakeRowKernel;
  readonly room: Uint32Array<ArrayBuffer>;
}

/** Those that no reduction uses. Memory that is new is slow at first, and lies about until the browser tidies up. */
const idle: Reducer[] = [];
const MOST_IDLE = 2;

/** Px of a picture that are read at once: all of a photo beside its own pixels would be much. */
const STRIP = 1e6;

const compiledKernel = () =>
  (compiled ??= WebAssembly.compileStreaming(ownFile('/wasm/reduce.wasm')).catch(() => null));

async function takeReducer(): Promise<Reducer> {
  const module = await compiledKernel();
  const known = idle.pop();
  if (known) return known;
  const room = new Uint32Array(STRIP);
  if (!module) return { kernel: plainRows, room };
  const { exports } = await WebAssembly.instantiate(module, {});
  return { kernel: compiledRows(exports as unknown as CompiledRows), room };
}

function giveBack(reducer: Reducer): void {
  if (idle.length < MOST_IDLE) idle.push(reducer);
}

/**
 * Reduces a picture of nothing: the kernel is there, and browsers run at full speed only what was run before. The first
 * photo of somebody who waits for it would pay for that.
 */
export async function warmReduction(): Promise<void> {
  const part = { x: 0, y: 0, width: 6000, height: 60 };
  const out = { x: 0, y: 0, width: 1600, height: 16 };
  const reducer = await takeReducer();
  const data = new Uint8ClampedArray(reducer.room.buffer).fill(0);
  reduce({ ...part, data }, part, part, { image: out, shown: out, out }, true, reducer.kernel);
  giveBack(reducer);
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
  smalls.made.clear();
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
 * of a drawing, which only the page can make; a `small` one may come of a small decode, good for a list.
 */
export async function makeSurface(
  need: SurfaceNeed,
  turn: Turn,
  drawn?: ImageBitmap,
  small = false,
): Promise<ImageBitmap> {
  const key = small ? `small|${need.key}` : need.key;
  const known = finished.get(need.key) ?? finished.get(key);
  if (known) return known;
  const source = small && !drawn && !need.vector && !need.cutout ? await smallSource(need) : null;
  const pixels = await (source ? reducedFrom(source, need, turn) : reducedPixels(need, turn, drawn));
  await turn.pass();
  let surface: ImageBitmap;
  if (!need.finish) surface = await createImageBitmap(imageData(pixels));
  else {
    const { x, y } = need.out;
    const own: Lying = { pixels: { ...pixels, data: pixels.data.slice() }, x, y };
    surface = withShadow(finishPixels(own, need.finish, turnPlace(need)), need);
  }
  finished.set(key, surface);
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

/** The pixels a surface needs, straight from the original, nothing done to them. */
export async function reducedPixels(need: SurfaceNeed, turn: Turn, drawn?: ImageBitmap): Promise<Pixels> {
  if (drawn) return pixelsOf(drawn);
  if (need.vector) throw new Error('A drawing was not prepared.');
  const known = reductions.get(need.base);
  if (known) return known;
  if (!sourceNeeded(turned(need.natural, need), need)) return nothingOf(need);
  void compiledKernel();
  await turn.pass();
  const asStored = spansOf(need) >= LEAST_SPAN && !need.cutout;
  const source = asStored ? await readable(need.asset) : wholeOf(await picture(need.asset, need.cutout));
  const pixels = await reducedFrom(source, need, turn);
  if (need.finish) keep(need.base, pixels);
  return pixels;
}

const nothingOf = ({ out }: SurfaceNeed): Pixels => ({
  ...out,
  data: new Uint8ClampedArray(out.width * out.height * 4),
});

/** Px of a size, after it was turned by quarters. */
const turned = ({ width, height }: Size, { orient }: SurfaceNeed): Size =>
  orient.quarters % 2 ? { width: height, height: width } : { width, height };

/** Px of its picture to each px of a surface, the way in which they are fewer. */
function spansOf(need: SurfaceNeed): number {
  const natural = turned(need.natural, need);
  return Math.min(natural.width / need.image.width, natural.height / need.image.height);
}

/** Small decodes of large JPEGs, for lists. */
const smalls = new MadeOnce(new BitmapCache(12e6, retire));

/** A picture decoded to about twice the px that a surface has; null where that is not worth it, or not to be had. */
async function smallSource(need: SurfaceNeed): Promise<Readable | null> {
  const { asset, natural } = need;
  const most = Math.ceil((Math.max(natural.width, natural.height) * 2) / spansOf(need));
  const blob = await stored(asset);
  if (blob.type !== pictureFormats.jpeg.mime || natural.width * natural.height < LEAST_REDUCED) return null;
  try {
    return wholeOf(
      await smalls.of(`${asset}|${most}`, async () => {
        const found = await reducedOf(blob, most);
        if (!found) throw new NotReduced();
        return found;
      }),
    );
  } catch (error) {
    if (error instanceof NotReduced) return null;
    throw error;
  }
}

class NotReduced extends Error {}

/** The pixels a surface needs, of its picture or of a smaller copy of all of it. */
async function reducedFrom(source: Readable, need: SurfaceNeed, turn: Turn): Promise<Pixels> {
  const natural = turned(source, need);
  const needed = sourceNeeded(natural, need);
  if (!needed) return nothingOf(need);
  // Pairs of rows and columns are read fastest.
  const part = intersection(evenly(needed), { x: 0, y: 0, ...natural })!;
  const most = Math.min(part.height, Math.max(2, Math.floor(STRIP / part.width) & ~1));
  const reducer = await takeReducer();
  const { kernel, room } = reducer;
  const strip = async (wanted: number): Promise<SourceRows> => {
    const from = wanted & ~1;
    const height = Math.min(part.height - from, most);
    return { ...(await source.part({ ...part, y: part.y + from, height }, need.orient, room)), from };
  };
  try {
    const parts = reducing(part, natural, need, need.opaque, kernel);
    let next = parts.next();
    while (!next.done) {
      await turn.pass();
      next = parts.next(next.value === null ? undefined : await strip(next.value));
    }
    return next.value;
  } finally {
    giveBack(reducer);
  }
}
