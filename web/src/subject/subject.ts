/// <reference lib="webworker" />
import * as z from 'zod';
import type CV from '@techstark/opencv-js';

// The graph-cut is a library's. This worker has a script of its own, because that library makes functions from text,
// which nothing else here may do.
z.config({ jitless: true });

declare const cv: unknown;

const Question = z.object({
  image: z.custom<ImageData>((v) => v instanceof ImageData),
  box: z.object({ x: z.number(), y: z.number(), width: z.number().positive(), height: z.number().positive() }),
  strokes: z.array(
    z.object({
      keep: z.boolean(),
      width: z.number().positive(),
      points: z.array(z.object({ x: z.number(), y: z.number() })).min(1),
    }),
  ),
});
type Question = z.infer<typeof Question>;

/** What of the library is used; its own types leave the constants open. */
type Constant =
  'COLOR_RGBA2RGB' | 'CV_8UC1' | 'GC_BGD' | 'GC_FGD' | 'GC_PR_FGD' | 'GC_INIT_WITH_RECT' | 'GC_INIT_WITH_MASK';
type Library = Omit<typeof CV, Constant> & Readonly<Record<Constant, number>>;

/** The library in a box: it has a `then` that gives itself again, so that waiting for it bare would never end. */
interface Loaded {
  readonly lib: Library;
}
let library: Promise<Loaded> | undefined;

function load(): Promise<Loaded> {
  (self as unknown as { importScripts(address: string): void }).importScripts('/subject/opencv.js');
  const lib = cv as Library & { calledRun?: boolean; onRuntimeInitialized?: () => void; onAbort?: () => void };
  return new Promise((ready, reject) => {
    if (lib.calledRun) return ready({ lib });
    lib.onRuntimeInitialized = () => ready({ lib });
    lib.onAbort = () => reject(new Error('The library could not be started.'));
  });
}

/** The mask (255 where the picture stays) of what stands in a box, told by colour and edges, led by strokes. */
function maskOf(lib: Library, { image, box, strokes }: Question): Uint8Array {
  const { width, height } = image;
  const held: { delete(): void }[] = [];
  const hold = <T extends { delete(): void }>(m: T): T => {
    held.push(m);
    return m;
  };
  try {
    const rgba = hold(lib.matFromImageData(image));
    const rgb = hold(new lib.Mat());
    lib.cvtColor(rgba, rgb, lib.COLOR_RGBA2RGB);
    const mask = hold(new lib.Mat(height, width, lib.CV_8UC1, new lib.Scalar(lib.GC_BGD)));
    const [ground, thing] = [hold(new lib.Mat()), hold(new lib.Mat())];
    const x = Math.min(width - 3, Math.max(1, Math.round(box.x)));
    const y = Math.min(height - 3, Math.max(1, Math.round(box.y)));
    const rect = new lib.Rect(
      x,
      y,
      Math.max(2, Math.min(width - 1 - x, Math.round(box.width))),
      Math.max(2, Math.min(height - 1 - y, Math.round(box.height))),
    );
    lib.grabCut(rgb, mask, rect, ground, thing, 4, lib.GC_INIT_WITH_RECT);
    if (strokes.length) {
      for (const { keep, width: thick, points } of strokes)
        points.forEach((p, i) => {
          const from = points[Math.max(0, i - 1)]!;
          lib.line(
            mask,
            new lib.Point(from.x, from.y),
            new lib.Point(p.x, p.y),
            new lib.Scalar(keep ? lib.GC_FGD : lib.GC_BGD),
            Math.max(1, Math.round(thick)),
          );
        });
      lib.grabCut(rgb, mask, rect, ground, thing, 4, lib.GC_INIT_WITH_MASK);
    }
    const { data } = mask;
    return Uint8Array.from(data, (v) => (v === lib.GC_FGD || v === lib.GC_PR_FGD ? 255 : 0));
  } finally {
    for (const m of held) m.delete();
  }
}

async function answer(question: Question): Promise<Blob> {
  const { lib } = await (library ??= load());
  const mask = maskOf(lib, question);
  const { width, height } = question.image;
  const grey = new ImageData(width, height);
  mask.forEach((v, i) => grey.data.set([v, v, v, 255], i * 4));
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')!.putImageData(grey, 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}

addEventListener('message', (event: MessageEvent<unknown>) => {
  const question = Question.safeParse(event.data);
  if (!question.success) return;
  answer(question.data).then(
    (mask) => postMessage({ mask }),
    (error: unknown) => postMessage({ problem: error instanceof Error ? error.message : String(error) }),
  );
});
