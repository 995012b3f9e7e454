import { Injectable, inject, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { firstValueFrom } from 'rxjs';
import { bad, type Layer, type Problem } from '@bright-slot/core';
import { pictureLayer, wordsLayer } from '../shared/new-layers';
import { PicturesService } from '../shared/pictures.service';
import { Workbench } from '../state/draft';
import { JobStopped } from '../workers/pixel-client';

/** Brings layers into the graphic at work: pictures from anywhere, words. */
@Injectable()
export class AddLayers {
  private readonly workbench = inject(Workbench);
  private readonly brought = inject(PicturesService);
  private readonly dialogs = inject(MatDialog);
  readonly busy = signal(0);
  readonly doing = signal('');
  /** Where new layers go: above this many; null is on top. */
  readonly insertAt = signal<number | null>(null);
  private controller = new AbortController();

  /** Adds pictures, all of them as one step; gives a problem for each that could not be. */
  async pictures(files: readonly (Blob & { name?: string })[], credit = ''): Promise<Problem[]> {
    const problems: Problem[] = [];
    const layers: Layer[] = [];
    const { signal: stop } = (this.controller = new AbortController());
    const into = this.workbench.graphic()?.id;
    this.busy.update((n) => n + 1);
    try {
      for (const file of files) {
        this.doing.set(file.name || 'a picture');
        const asset = await this.brought.bringIn(file, credit, stop);
        const graphic = this.workbench.graphic();
        if (stop.aborted || !graphic || graphic.id !== into) break;
        if (asset.ok) layers.push(pictureLayer(asset.value, graphic));
        else problems.push(asset.problem);
      }
    } catch (error) {
      if (!(error instanceof JobStopped))
        problems.push(
          bad(
            'picture',
            `The picture could not be brought in: ${error instanceof Error ? error.message : 'unknown reason'}.`,
          ).problem,
        );
    } finally {
      this.busy.update((n) => n - 1);
    }
    if (layers.length && !stop.aborted)
      this.place(layers, layers.length === 1 ? `${layers[0]!.name} added` : `${layers.length} pictures added`);
    return problems;
  }

  words(text = 'Your words'): void {
    const graphic = this.workbench.graphic();
    if (graphic) this.place([wordsLayer(graphic, text)], 'Words added');
  }

  async fromShelf(): Promise<void> {
    const { ShelfDialog } = await import('./shelf-dialog');
    const ref = this.dialogs.open<InstanceType<typeof ShelfDialog>, never, File>(ShelfDialog, {
      width: '860px',
      maxWidth: '94vw',
      autoFocus: 'first-tabbable',
    });
    const file = await firstValueFrom(ref.afterClosed());
    if (file) await this.pictures([file], 'Bright Slot, for Ottermill Pottery');
  }

  cancel(): void {
    this.controller.abort();
  }

  private place(layers: readonly Layer[], name: string): void {
    const at = this.insertAt();
    this.insertAt.set(null);
    this.workbench.edit({ type: 'add-layers', layers, name, ...(at === null ? {} : { at }) }, layers.at(-1)!.id);
  }
}
