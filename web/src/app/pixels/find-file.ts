import { Injectable, inject } from '@angular/core';
import {
  finest,
  lightestSame,
  nextForProposal,
  proposedFile,
  type FileDifference,
  type FileNotes,
  type Frame,
  type Graphic,
  type Next,
  type Trial,
  type FileWay,
} from '@bright-slot/core';
import type { PixelClient } from './pixel-client';
import { PixelsService } from './pixels.service';

/** What a file is looked for of. */
export interface Sought {
  readonly graphic: Graphic;
  readonly frame: Frame;
  readonly notes: FileNotes;
  /** Device px a CSS px. */
  readonly density: number;
  /** The ways in which it may be written, one at the least. */
  readonly ways: readonly FileWay[];
  /** Most bytes it may have; null for any. */
  readonly most: number | null;
}

/** Finds files without anyone looking on. */
@Injectable({ providedIn: 'root' })
export class FindFile {
  private readonly pixels = inject(PixelsService);

  /** The lightest file that looks the same; where that is too heavy the best within the limit, or else the lightest there is. */
  async lightest(
    { graphic, frame, notes, density, ways, most }: Sought,
    signal?: AbortSignal,
    by?: PixelClient,
  ): Promise<Next & { readonly bytes: number; readonly blob: Blob; readonly difference: FileDifference }> {
    const trials: (Trial & { readonly blob: Blob })[] = [];
    const next = () => nextForProposal(trials, ways, most);
    for (let n = next(); n; n = next()) {
      const { blob, difference } = await this.pixels.file(
        graphic,
        frame,
        { ...n, notes, density, compare: true },
        signal,
        by,
      );
      trials.push({ ...n, blob, bytes: blob.size, difference: difference! });
    }
    const { format, quality, chroma, bytes, blob, difference } =
      proposedFile(trials, most) ?? lightestSame(trials) ?? finest(trials)!;
    return { format, quality, chroma, bytes, blob, difference };
  }
}
