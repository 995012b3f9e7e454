import { Injectable, inject } from '@angular/core';
import {
  hasQuality,
  lightEnough,
  notesFor,
  type FileFormat,
  type FileWeight,
  type FileWeights,
  type Frame,
  type Graphic,
} from '@bright-slot/core';
import type { PixelClient } from '../pixels/pixel-client';
import { PixelsService } from '../pixels/pixels.service';
import { HouseStyleService } from '../storage/house-style.service';
import { LeavingFiles } from './leaving-files.service';

/** What files weigh where the page has a limit, by making them. */
@Injectable({ providedIn: 'root' })
export class FileWeightsService {
  private readonly pixels = inject(PixelsService);
  private readonly leaving = inject(LeavingFiles);
  private readonly house = inject(HouseStyleService);

  /** Null where the page takes any weight and nobody chose how it is packed. `by` is the worker to ask. */
  async weigh(graphic: Graphic, frame: Frame, stop?: AbortSignal, by?: PixelClient): Promise<FileWeights | null> {
    const { slot } = frame;
    const { chroma, own = false, format, mostBytes } = frame.export;
    const inQuestion = own ? hasQuality(format) : mostBytes !== undefined;
    if (slot.mostBytes === null && !inQuestion) return null;
    const notes = notesFor(this.house.style(), frame.export);
    const bytes = async (f: FileFormat, q: number) =>
      (await this.pixels.file(graphic, frame, { format: f, quality: q, chroma, notes }, stop, by)).blob.size;
    const leaving = await this.leaving.of(graphic, frame, stop, by);
    const { blob, difference } = leaving;
    const chosen: FileWeight = {
      format: leaving.format,
      quality: leaving.quality,
      bytes: blob.size,
      ...(difference && { seen: difference.seen }),
    };
    const tried = [];
    if (slot.mostBytes !== null && chosen.bytes > slot.mostBytes)
      for (const other of slot.formats) {
        // Some have no quality, and JPEG no transparency.
        if (!hasQuality(other) || (other === 'jpeg' && slot.keepsTransparency)) continue;
        const best = await lightEnough(other === chosen.format ? chosen.quality : 85, slot.mostBytes, (q) =>
          bytes(other, q),
        );
        tried.push({ format: other, ...best });
      }
    return { chosen, tried };
  }
}
