import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { type Graphic } from '../graphic/graphic';
import { frameOf } from '../graphic/frame';
import type { PaintContext } from '../paint/context';
import { paint } from '../paint/paint';
import { plan, type PlanOptions } from '../paint/plan';
import type { Pixels } from '../pixels/reduce';
import type { MakeLetterSheet, Reader } from '../legibility/ways';
import type { Shaper } from '../words/shaper';

const asContext = (canvas: Canvas) => canvas.getContext('2d') as unknown as PaintContext<never>;

/** A graphic without pictures as Skia paints it, straight alpha. */
export function painted(
  graphic: Graphic,
  shaper: Shaper,
  scale = 1,
  options: PlanOptions = {},
): { pixels: Pixels; plan: ReturnType<typeof plan> } {
  const p = plan(graphic, frameOf(graphic), scale, shaper, options);
  const canvas = createCanvas(p.width, p.height);
  const missing = paint(
    p,
    {
      exact: () => undefined,
      rough: () => undefined,
      scratch(width, height) {
        const sheet = createCanvas(width, height);
        return { context: asContext(sheet), image: sheet as never };
      },
    },
    asContext(canvas),
  );
  if (missing.length) throw new Error('Pictures cannot be painted here.');
  // Plain values: Skia's own answer each question anew, which loops over them ask by the million.
  const { data, width, height } = canvas.getContext('2d').getImageData(0, 0, p.width, p.height);
  return { pixels: { data, width, height }, plan: p };
}

/** Sheets for single letters, by Skia. */
export const letterSheet: MakeLetterSheet = (width, height) => {
  const canvas = createCanvas(width, height);
  return {
    context: asContext(canvas),
    coverage() {
      const { data } = canvas.getContext('2d').getImageData(0, 0, width, height);
      return Uint8Array.from({ length: width * height }, (_, i) => data[i * 4 + 3]!);
    },
  };
};

/** Reads words in graphics without pictures as the worker does, with Skia's own pixels. */
export function readerOf(graphic: Graphic, shaper: Shaper, scale = 1): Reader {
  const { slot } = frameOf(graphic);
  return {
    shaper,
    slot,
    ground: slot.ground,
    paint: (seen, options) => Promise.resolve(painted(seen, shaper, scale, options)),
    sheet: letterSheet,
  };
}
