import {
  compiledRows,
  plainRows,
  reduce,
  sourceNeeded,
  type CompiledRows,
  type MakeRowKernel,
  type SurfaceNeed,
} from '@bright-slot/core';
import { BitmapCache } from '../bitmap-cache';
import { picture } from './pictures';

/** The compiled kernel; the plain one where it cannot be had. */
let kernel: Promise<MakeRowKernel> | undefined;
function rowKernel(): Promise<MakeRowKernel> {
  return (kernel ??= WebAssembly.instantiateStreaming(fetch(new URL('/wasm/reduce.wasm', self.location.origin)), {})
    .then(({ instance }) => compiledRows(instance.exports as unknown as CompiledRows))
    .catch(() => plainRows));
}

/** Finished surfaces: the screen, the report and the file often need the same one. */
const finished = new BitmapCache(24e6);

/** The surface for a need, made once; null when stopped. Copy it before it is transferred. */
export async function makeSurface(need: SurfaceNeed, stopped: () => boolean): Promise<ImageBitmap | null> {
  const known = finished.get(need.key);
  if (known) return known;
  const pixels = await reduced(need, stopped);
  if (!pixels) return null;
  const surface = await createImageBitmap(pixels);
  finished.set(need.key, surface);
  return surface;
}

/** The pixels a surface needs, straight from the original; null when stopped. */
async function reduced(need: SurfaceNeed, stopped: () => boolean): Promise<ImageData | null> {
  const [source, rows] = await Promise.all([picture(need.asset), rowKernel()]);
  const part = sourceNeeded(need.natural, need);
  if (!part) return new ImageData(need.out.width, need.out.height);
  if (stopped()) return null;
  const canvas = new OffscreenCanvas(part.width, part.height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(source, -part.x, -part.y);
  const { data } = context.getImageData(0, 0, part.width, part.height);
  // Let a cancel message in before the long sum.
  await new Promise((done) => setTimeout(done));
  const pixels = reduce(
    { width: part.width, height: part.height, data },
    part,
    need.natural,
    need,
    need.opaque,
    stopped,
    rows,
  );
  return pixels && new ImageData(pixels.data as Uint8ClampedArray<ArrayBuffer>, pixels.width, pixels.height);
}
