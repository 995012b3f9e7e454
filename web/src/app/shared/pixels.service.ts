import { Injectable, inject } from '@angular/core';
import { mainFrame, topDensity, type FileFormat, type Graphic, type Legibility } from '@bright-slot/core';
import { PixelClient } from '../workers/pixel-client';
import type { Answers } from '../workers/messages';
import { TypeService } from './type.service';
import { vectorsFor } from './vectors';

/** Longest side of a rough picture, px. */
export const ROUGH_SIDE = 2048;

/** Heavy work on pixels, off the main thread: one worker for what is on screen, one for files. */
@Injectable({ providedIn: 'root' })
export class PixelsService {
  private readonly type = inject(TypeService);
  readonly sight = new PixelClient();
  readonly files = new PixelClient();

  /** Rough pictures that came with an inspection, until the screen fetches them. */
  private readonly roughs = new Map<string, ImageBitmap>();

  async inspect(blob: Blob, name: string, signal?: AbortSignal): Promise<Answers['inspect']> {
    const found = await this.sight.run({ kind: 'inspect', blob, name, most: ROUGH_SIDE }, signal);
    if (found.ok && 'rough' in found.value) this.roughs.set(found.value.hash, found.value.rough);
    return found;
  }

  /** A whole picture, roughly reduced, for first sight and dragging. */
  async rough(asset: string): Promise<ImageBitmap> {
    const known = this.roughs.get(asset);
    this.roughs.delete(asset);
    return known ?? this.sight.run({ kind: 'rough', asset, most: ROUGH_SIDE });
  }

  async file(
    graphic: Graphic,
    choices: { format: FileFormat; quality: number; copyright: string },
    signal?: AbortSignal,
  ): Promise<Answers['file']> {
    const { slot } = mainFrame(graphic);
    const vectors = await vectorsFor(graphic, topDensity(slot), await this.type.ensure(graphic));
    return this.files.run(
      { kind: 'file', graphic, ...choices, ground: slot.ground, vectors },
      signal,
      vectors.map((v) => v.bitmap),
    );
  }

  /** What the words stand on; `by` is the worker to ask: the one for what is on screen has its surfaces at hand. */
  async legibility(graphic: Graphic, signal?: AbortSignal, by = this.sight): Promise<Legibility[]> {
    const { slot } = mainFrame(graphic);
    if (!graphic.layers.some((l) => l.role === 'words' && l.visible)) return [];
    const vectors = await vectorsFor(graphic, topDensity(slot), await this.type.ensure(graphic));
    return by.run(
      { kind: 'legibility', graphic, ground: slot.ground, vectors },
      signal,
      vectors.map((v) => v.bitmap),
    );
  }

  async miniature(graphic: Graphic, width: number, signal?: AbortSignal): Promise<Blob> {
    const vectors = await vectorsFor(graphic, width / graphic.canvas.width, await this.type.ensure(graphic));
    return this.files.run(
      { kind: 'miniature', graphic, width, vectors },
      signal,
      vectors.map((v) => v.bitmap),
    );
  }
}
