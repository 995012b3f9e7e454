import { Injectable, inject } from '@angular/core';
import * as z from 'zod';
import type { Box, Cutout, PictureLayer } from '@bright-slot/core';
import { GraphicsRepository } from '../storage/graphics-repository';
import { sha256 } from '../storage/hash';
import { createSubjectWorker } from './subject-worker';
import { PixelsService } from '../pixels/pixels.service';

/** Long side of the copy in which the subject is looked for, px; its edge is drawn at the picture's own px later. */
const SIDE = 512;

const Reply = z.union([z.object({ mask: z.instanceof(Blob) }), z.object({ problem: z.string() })]);

/** Finds a picture's subject, led by a rough box and strokes: in a worker of its own, fetched when first asked. */
@Injectable({ providedIn: 'root' })
export class SubjectService {
  private readonly pixels = inject(PixelsService);
  private readonly repository = inject(GraphicsRepository);
  private worker: Worker | undefined;

  /** The cut-out, its mask stored as a picture of its own. Box and strokes in the picture's own px. */
  async find(
    layer: PictureLayer,
    hint: { box: Box; strokes: (Cutout & { kind: 'subject' })['strokes']; soft: number },
    signal: AbortSignal,
  ): Promise<Cutout & { kind: 'subject' }> {
    const { asset, natural } = layer;
    const task = { kind: 'rough' as const, asset, cutout: null, look: null, tint: null, most: SIDE };
    const small = await this.pixels.sight.run(task, signal);
    const context = new OffscreenCanvas(small.width, small.height).getContext('2d')!;
    context.drawImage(small, 0, 0);
    const by = small.width / natural.width;
    const scaled = (p: { x: number; y: number }) => ({ x: p.x * by, y: p.y * by });
    const mask = await this.ask(
      {
        image: context.getImageData(0, 0, small.width, small.height),
        box: { ...scaled(hint.box), width: hint.box.width * by, height: hint.box.height * by },
        strokes: hint.strokes.map((s) => ({ ...s, width: s.width * by, points: s.points.map(scaled) })),
      },
      signal,
    );
    const hash = await sha256(await mask.arrayBuffer());
    await this.repository.addAsset({
      hash,
      blob: mask,
      type: 'png',
      width: small.width,
      height: small.height,
      opaque: true,
      silhouette: null,
      name: 'Mask',
      added: Date.now(),
      credit: '',
      mask: true,
    });
    return { kind: 'subject', mask: hash, ...hint };
  }

  private ask(question: object, signal: AbortSignal): Promise<Blob> {
    const worker = (this.worker ??= createSubjectWorker());
    return new Promise((resolve, reject) => {
      const end = () => {
        worker.removeEventListener('message', heard);
        worker.removeEventListener('error', failed);
        signal.removeEventListener('abort', stop);
      };
      const drop = (why: Error) => {
        end();
        worker.terminate();
        this.worker = undefined;
        reject(why);
      };
      // The library cannot be called off midway: its worker goes, and the next question has another.
      const stop = () => drop(new DOMException('Stopped.', 'AbortError'));
      const failed = () => drop(new Error('Looking for the subject failed. Try again.'));
      const heard = (event: MessageEvent<unknown>) => {
        const reply = Reply.safeParse(event.data);
        end();
        if (reply.success && 'mask' in reply.data) resolve(reply.data.mask);
        else
          reject(new Error('The subject could not be told from its ground. Draw the box closer, or mark parts of it.'));
      };
      worker.addEventListener('message', heard);
      worker.addEventListener('error', failed);
      signal.addEventListener('abort', stop);
      worker.postMessage(question);
    });
  }
}
