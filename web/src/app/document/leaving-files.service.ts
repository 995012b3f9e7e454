import { Injectable, inject } from '@angular/core';
import {
  chromaOf,
  hasQuality,
  heldFormat,
  isQuicklyFound,
  notesFor,
  topDensity,
  watermarkFaces,
  waysFor,
  type FileDifference,
  type FileFormat,
  type Frame,
  type Graphic,
  type Next,
  type Shaper,
} from '@bright-slot/core';
import { FindFile } from '../pixels/find-file';
import type { PixelClient } from '../pixels/pixel-client';
import { PixelsService } from '../pixels/pixels.service';
import { HouseStyleService } from '../storage/house-style.service';
import { Sites } from '../storage/sites.service';
import { TypeService } from '../type/type.service';

/** A file as it leaves, and as what it was written. */
export interface Leaving extends Next {
  readonly blob: Blob;
  /** Null where it was not compared with the canvas. */
  readonly difference: FileDifference | null;
}

/**
 * The files that frames leave as where nobody looks at them first: as the fit report weighs them, and as several are
 * saved or sent together. As it was chosen, or left last; where nobody chose and that is heavier than it may be, the
 * lightest that looks the same.
 */
@Injectable({ providedIn: 'root' })
export class LeavingFiles {
  private readonly pixels = inject(PixelsService);
  private readonly find = inject(FindFile);
  private readonly house = inject(HouseStyleService);
  private readonly type = inject(TypeService);
  private readonly sites = inject(Sites);

  /** What was made of a graphic, which does not change, with a shaper, by what else its files depend on. */
  private readonly made = new WeakMap<Graphic, { readonly shaper: Shaper; readonly files: Map<string, Leaving> }>();

  /** `by` is the worker to ask. What was made of just that before, to be weighed or sent, is not made again. */
  async of(graphic: Graphic, frame: Frame, stop?: AbortSignal, by?: PixelClient): Promise<Leaving> {
    await this.house.loadedOnce;
    const as = this.dependsOn(frame);
    const shaper = await this.shaperFor(graphic, frame);
    const known = this.made.get(graphic);
    const before = known?.shaper === shaper ? known.files.get(as) : undefined;
    if (before) return before;
    const leaving = await this.make(graphic, frame, stop, by);
    // The house may have become another meanwhile, or a face may have come that had a substitute.
    if (this.dependsOn(frame) !== as || (await this.shaperFor(graphic, frame)) !== shaper) return leaving;
    const kept = this.made.get(graphic);
    const files = kept?.shaper === shaper ? kept.files : new Map<string, Leaving>();
    this.made.set(graphic, { shaper, files: files.set(as, leaving) });
    return leaving;
  }

  private shaperFor(graphic: Graphic, frame: Frame): Promise<Shaper> {
    return this.type.ensure(graphic, watermarkFaces(frame.export.watermark ? this.house.style().watermark : null));
  }

  /** Names what a frame's file depends on beside what is on the canvas. */
  private dependsOn(frame: Frame): string {
    const style = this.house.style();
    const watermark = frame.export.watermark ? style.watermark : null;
    return JSON.stringify([frame, notesFor(style, frame.export), this.heldFor(frame), watermark]);
  }

  /** The format that the site's file is held in; null where nothing holds it. */
  private heldFor({ slot, export: { own = false } }: Frame): FileFormat | null {
    return own ? null : heldFormat(slot, this.sites.all() ?? []);
  }

  private async make(graphic: Graphic, frame: Frame, stop?: AbortSignal, by?: PixelClient): Promise<Leaving> {
    const { slot, export: choices } = frame;
    const notes = notesFor(this.house.style(), choices);
    const { quality, own = false } = choices;
    const held = this.heldFor(frame);
    const format = held ?? choices.format;
    const chosen = { format, quality, chroma: chromaOf(format, choices.chroma) };
    // What a person chose may be seen to differ.
    const compare = own && hasQuality(format);
    const { blob, difference } = await this.pixels.file(graphic, frame, { ...chosen, notes, compare }, stop, by);
    const made = { ...chosen, blob, difference };
    const most = choices.mostBytes ?? slot.mostBytes;
    if (own || most === null || blob.size <= most || !isQuicklyFound(slot)) return made;
    const ways = waysFor(slot).filter((w) => (held ?? w.format) === w.format);
    if (!ways.length) return made;
    return this.find.lightest({ graphic, frame, notes, density: topDensity(slot), ways, most }, stop, by);
  }
}
