import { Injectable, effect, inject, untracked } from '@angular/core';
import { Workbench } from '../document/workbench';
import { JobStopped } from '../pixels/pixel-client';
import { PixelsService } from '../pixels/pixels.service';

/** After so long without a change the file of the frame in hand is got ready, ms. */
const REST = 1500;

/**
 * Has ready, while a person rests, what the file of the frame in hand will need: its surfaces, what is painted of them,
 * and the code that writes its format. Whatever is on screen goes first.
 */
@Injectable()
export class FilesAhead {
  private readonly workbench = inject(Workbench);
  private readonly pixels = inject(PixelsService);

  constructor() {
    effect((cleanUp) => {
      const [graphic, frame] = [this.workbench.graphic(), this.workbench.frame()];
      // While something is dragged, or slid, nobody rests.
      if (!graphic || !frame || this.workbench.draft()) return;
      const stop = new AbortController();
      const resting = setTimeout(
        () =>
          untracked(() => {
            this.pixels.ahead(graphic, frame, stop.signal).catch((error: unknown) => {
              // Whoever asks for the file is told.
              if (!(error instanceof JobStopped)) console.debug(error);
            });
          }),
        REST,
      );
      cleanUp(() => {
        clearTimeout(resting);
        stop.abort();
      });
    });
  }
}
