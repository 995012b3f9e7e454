import { Injectable, computed, inject, signal } from '@angular/core';
import { notesFor, openRaster, safeWord, stackXml, weightText, type Frame, type Graphic } from '@bright-slot/core';
import { JobStopped } from '../pixels/pixel-client';
import { PixelsService } from '../pixels/pixels.service';
import { ArchiveService } from '../storage/archive/archive.service';
import { blobSink, makeZip } from '../storage/archive/zip';
import { HouseStyleService } from '../storage/house-style.service';
import { saveFile } from '../ui/download';

/** What a graphic can be handed on as, for other programs or another browser. */
export type HandedOn = 'svg' | 'png' | 'layers' | 'bundle';

/** Hands graphics on whole, in open formats. */
@Injectable()
export class OtherPrograms {
  private readonly pixels = inject(PixelsService);
  private readonly archive = inject(ArchiveService);
  private readonly house = inject(HouseStyleService);
  private readonly making = signal<HandedOn | null>(null);
  /** What is being made; null for nothing. */
  readonly busy = this.making.asReadonly();
  readonly share = computed(() => (this.making() === 'bundle' ? this.archive.progress() : null));
  readonly said = signal('');
  readonly problem = signal('');
  private stop = new AbortController();

  cancel(): void {
    this.stop.abort();
    if (this.making() === 'bundle') this.archive.cancel();
  }

  /** Makes and saves it. */
  async give(as: HandedOn, graphic: Graphic, frame: Frame): Promise<void> {
    if (as === 'bundle') return this.bundle([graphic.id], graphic.name);
    await this.make(as, async (signal) => {
      const name = `${safeWord(graphic.name)}.${as === 'layers' ? 'ora' : as}`;
      return { name, blob: await this.fileOf(as, graphic, frame, signal), left: [] };
    });
  }

  /** Some graphics with all that they use, for “Bring back” in another browser. */
  async bundle(graphics: readonly string[], name: string): Promise<void> {
    await this.make('bundle', async (signal) => {
      const packed = await this.archive.bundle(graphics);
      signal.throwIfAborted();
      if (!packed.ok) throw new Error(packed.problem.message);
      return { ...packed.value, name: `${safeWord(name)}-bundle.zip` };
    });
  }

  private async make(
    as: HandedOn,
    work: (signal: AbortSignal) => Promise<{ name: string; blob: Blob; left: readonly string[] }>,
  ): Promise<void> {
    if (this.making()) return;
    this.stop = new AbortController();
    const { signal } = this.stop;
    this.making.set(as);
    this.said.set('');
    this.problem.set('');
    try {
      const { name, blob, left } = await work(signal);
      signal.throwIfAborted();
      saveFile(blob, name);
      this.said.set(
        `Saved as ${name}, ${weightText(blob.size)}.${left.length ? ` Left out, since it cannot be read: ${left.join(', ')}.` : ''}`,
      );
    } catch (error) {
      if (signal.aborted || error instanceof JobStopped) this.said.set('Called off: nothing was saved.');
      else this.problem.set(`${error instanceof Error ? error.message : String(error)} Nothing was saved; try again.`);
    } finally {
      this.making.set(null);
    }
  }

  private async fileOf(
    as: Exclude<HandedOn, 'bundle'>,
    graphic: Graphic,
    frame: Frame,
    signal: AbortSignal,
  ): Promise<Blob> {
    if (as !== 'layers') {
      const notes = notesFor(this.house.style(), frame.export);
      const choices = { format: as, quality: 100, notes, forPage: false };
      return (await this.pixels.file(graphic, frame, choices, signal)).blob;
    }
    const files = await this.pixels.layerFiles(graphic, frame, signal);
    const sink = blobSink(openRaster.mime);
    const zip = makeZip(sink.writable);
    await zip.kind(openRaster.type, openRaster.mime);
    const layers = files.layers.map((l, i) => ({ ...l, src: openRaster.layer(i) }));
    await zip.text(openRaster.stack, stackXml(files, layers));
    for (const { src, blob } of layers) await zip.blob(src, blob, true);
    await zip.blob(openRaster.merged, files.merged, true);
    await zip.blob(openRaster.thumbnail, files.thumbnail, true);
    await zip.finish();
    return sink.blob();
  }
}
