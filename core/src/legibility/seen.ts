import type { Box } from '../geometry/box';
import type { Pixels } from '../pixels/reduce';
import { darkeningAt } from '../slot/darkening';
import type { Slot } from '../slot/slot';

/** What lies over words in a region: red, green and blue that are added (encoded sRGB, premultiplied, 0…255), and the share of what is below that is seen (0…1). */
export interface Over {
  readonly planes: readonly [Float32Array, Float32Array, Float32Array, Float32Array];
}

/** A region as a visitor sees it without its letters: opaque pixels (encoded sRGB), and what lies over them. */
export interface Seen {
  readonly pixels: Pixels;
  readonly over: Over | null;
}

/**
 * What lies over the words of a region: what is painted after them (`above`: the whole canvas, straight alpha), then the
 * page's darkening. Null where there is nothing. Compositing and Blending 1, section 5.1: source-over is associative,
 * so that what is above can be painted apart.
 */
export function overOf(above: Pixels | null, slot: Pick<Slot, 'darkening'>, height: number, region: Box): Over | null {
  const rows = Float32Array.from({ length: region.height }, (_, y) =>
    darkeningAt(slot, 1 - (region.y + y + 0.5) / height),
  );
  if (!above && rows.every((d) => d === 0)) return null;
  const planes = [0, 1, 2, 3].map(() => new Float32Array(region.width * region.height)) as unknown as [
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array,
  ];
  // A browser's own pixels answer each question anew.
  const { data = null, width = 0 } = above ?? {};
  let any = false;
  for (let y = 0, i = 0; y < region.height; y++) {
    const light = 1 - rows[y]!;
    for (let x = 0; x < region.width; x++, i++) {
      const p = ((region.y + y) * width + region.x + x) * 4;
      const a = data ? data[p + 3]! / 255 : 0;
      for (let c = 0; c < 3; c++) planes[c]![i] = a ? data![p + c]! * a * light : 0;
      planes[3][i] = (1 - a) * light;
      if (planes[3][i] !== 1) any = true;
    }
  }
  return any ? { planes } : null;
}

/** A region of what lies below words (the whole canvas, straight alpha), over the page's ground (encoded sRGB) and under what lies over it. */
export function seenThrough(below: Pixels, over: Over | null, ground: readonly number[], region: Box): Seen {
  const data = new Uint8ClampedArray(region.width * region.height * 4);
  const { data: under, width } = below;
  for (let y = 0, i = 0, k = 0; y < region.height; y++)
    for (let x = 0, p = ((region.y + y) * width + region.x) * 4; x < region.width; x++, i += 4, p += 4, k++) {
      const a = under[p + 3]! / 255;
      for (let c = 0; c < 3; c++) {
        const own = under[p + c]! * a + ground[c]! * (1 - a);
        data[i + c] = over ? over.planes[c]![k]! + over.planes[3][k]! * own : own;
      }
      data[i + 3] = 255;
    }
  return { pixels: { data, width: region.width, height: region.height }, over };
}
