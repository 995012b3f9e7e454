import { Injectable, inject, signal } from '@angular/core';
import {
  MOST_BYTES,
  bad,
  cutText,
  good,
  limits,
  nameFrom,
  newGraphic,
  openRaster,
  readStack,
  typedSlot,
  type Graphic,
  type Layer,
  type Result,
  type StackLayer,
} from '@bright-slot/core';
import { PicturesService } from '../media/pictures.service';
import { openZip } from '../storage/archive/zip';
import { MakeGraphic } from './make-graphic';
import { pictureLayer } from './new-layers';

/** Most bytes of the list of layers. */
const MOST_STACK = 2 * 2 ** 20;

/** Whether a file is called as OpenRaster files are. */
export const isOpenRaster = (file: File): boolean => /\.ora$/i.test(file.name);

/** A layered picture of another program as a graphic of its own size, each layer a picture. */
@Injectable({ providedIn: 'root' })
export class BringOpenRaster {
  private readonly pictures = inject(PicturesService);
  private readonly maker = inject(MakeGraphic);
  /** How many layers are brought in, of how many; null while nothing is. */
  readonly progress = signal<{ readonly done: number; readonly of: number } | null>(null);
  private stop = new AbortController();

  cancel(): void {
    this.stop.abort();
  }

  /** The graphic that was made, and what of the file was left out, in words. Nothing is kept where it fails. */
  async bringIn(file: File): Promise<Result<{ graphic: Graphic; left: readonly string[] }>> {
    if (this.progress()) return bad('busy', 'Another file is being brought in. Wait until it is done.');
    this.stop = new AbortController();
    this.progress.set({ done: 0, of: 1 });
    try {
      return await this.read(file, this.stop.signal);
    } finally {
      this.progress.set(null);
    }
  }

  private async read(file: File, stop: AbortSignal): Promise<Result<{ graphic: Graphic; left: readonly string[] }>> {
    const none = bad('not-a-file', `“${file.name}” cannot be read as OpenRaster: it breaks off, or is damaged.`);
    const opened = await openZip(file, false);
    if (!opened.ok) return none;
    const zip = opened.value;
    try {
      const xml = await zip.bytes(openRaster.stack, MOST_STACK);
      if (!xml) return none;
      const stack = readStack(new TextDecoder().decode(xml));
      if (!stack.ok) return stack;
      const { width, height, layers } = stack.value;
      const slot = typedSlot(width, height);
      if (!slot.ok) return slot;
      const name = nameFrom(file.name.replace(/\.ora$/i, ''), limits.name, 'From OpenRaster');
      const own = await this.maker.own({ name });
      const empty = newGraphic({ ...own, slot: slot.value });
      const left: string[] = [...stack.value.left];
      const made: Layer[] = [];
      for (const [i, layer] of layers.entries()) {
        this.progress.set({ done: i, of: layers.length });
        const bytes = await zip.bytes(layer.src, MOST_BYTES);
        if (stop.aborted) return bad('stopped', '');
        const brought = bytes && (await this.layer(layer, bytes, empty, stop));
        if (brought) made.push(brought);
        else left.push(`the layer “${cutText(layer.name || layer.src, 60, true)}”`);
      }
      if (stop.aborted) return bad('stopped', '');
      if (!made.length) return bad('empty', `None of the layers of “${file.name}” can be read. Nothing was made.`);
      const kept = await this.maker.keep({ ...empty, layers: made }, 'From OpenRaster');
      return kept.ok ? good({ graphic: kept.value, left }) : kept;
    } finally {
      await zip.close();
    }
  }

  /** A layer's picture where it lay; null where it cannot be read. */
  private async layer(
    { name, src, x, y, opacity, visible, within }: StackLayer,
    bytes: Uint8Array<ArrayBuffer>,
    graphic: Graphic,
    stop: AbortSignal,
  ): Promise<Layer | null> {
    const ending = /\.[a-z0-9]{1,5}$/i.exec(src)?.[0] ?? '.png';
    const called = nameFrom([...within, name].filter((n) => n).join(' · '), limits.name, 'Layer');
    const brought = await this.pictures.bringIn(new File([bytes], called + ending), {}, { signal: stop });
    if (!brought.ok) return null;
    const layer = pictureLayer(brought.value, graphic);
    const { width } = layer.natural;
    return { ...layer, name: called, visible, opacity, place: { mode: 'free', x, y, width } };
  }
}
