import { Injectable, inject } from '@angular/core';
import {
  nameParts,
  fileName,
  printedOn,
  watermarkFaces,
  type Face,
  type FileWeights,
  type Frame,
  type Graphic,
  type Legibility,
  type PageLook,
  type ReportContext,
  type Slot,
} from '@bright-slot/core';
import { AssetFactsService } from '../media/asset-facts.service';
import { PixelsService } from '../pixels/pixels.service';
import { HouseStyleService } from '../storage/house-style.service';
import { Sites } from '../storage/sites.service';
import { SlotUse } from '../storage/slot-use.service';
import { TypeService } from '../type/type.service';
import { today } from '../ui/when';
import { FileWeightsService } from './file-weights.service';
import { SlotChanges } from './slot-changes.service';

/** This build: the name of the file with this code changes with what it imports, the rules among it. */
const BUILD = import.meta.url;

/** Everything that rules may look at: the one builder of it, for the workbench, for cards and for what leaves. */
@Injectable({ providedIn: 'root' })
export class ReportContexts {
  private readonly type = inject(TypeService);
  private readonly pixels = inject(PixelsService);
  private readonly assets = inject(AssetFactsService);
  private readonly sites = inject(Sites);
  private readonly house = inject(HouseStyleService);
  private readonly use = inject(SlotUse);
  private readonly changes = inject(SlotChanges);
  private readonly weights = inject(FileWeightsService);

  /** With what is at hand: what comes from a worker may be wanting. Null where nothing can be judged yet. */
  now(
    graphic: Graphic,
    frame: Frame,
    { legibility, weights }: Pick<ReportContext, 'legibility' | 'weights'>,
  ): ReportContext | null {
    const shaper = this.type.shaper();
    const assets = this.assets.facts();
    return shaper && { graphic, frame, shaper, assets, legibility, weights, ...this.around(graphic, frame) };
  }

  /** With all facts, made by the worker for lists; called off where nobody waits for it any more. */
  async whole(graphic: Graphic, frame: Frame, stop?: AbortSignal): Promise<ReportContext> {
    const shaper = await this.type.ensure(graphic, this.facesOver(frame));
    const by = this.pixels.files;
    stop?.throwIfAborted();
    const assets = await this.assets.examined(graphic, by);
    stop?.throwIfAborted();
    const legibility = await this.pixels.legibility(graphic, frame, stop, by);
    const weights = await this.weights.weigh(graphic, frame, stop, by);
    return { graphic, frame, shaper, assets, legibility, weights, ...this.around(graphic, frame) };
  }

  /** What does not depend on what is on the canvas: the page, the day, the file's name, the others there are. */
  private around(
    { id, name }: Pick<Graphic, 'id' | 'name'>,
    frame: Frame,
  ): Pick<ReportContext, 'printed' | 'today' | 'slotNow' | 'alike' | 'fileName' | 'watermark'> {
    const { slot } = frame;
    const { format, watermark = false } = frame.export;
    const date = today();
    const { business, namePattern, watermark: mark } = this.house.style();
    const parts = nameParts(name, slot, format, date, business);
    return {
      printed: this.printed(slot),
      today: date,
      slotNow: this.changes.nowOf(id, frame),
      alike: slot.rowShows > 1 ? this.use.of(slot.id) : 1,
      watermark: watermark ? mark : null,
      fileName: fileName(namePattern, parts, undefined, slot.names.longest),
    };
  }

  /** The faces of what goes over a frame's file, without which it is laid out by a substitute. */
  private facesOver(frame: Frame): Face[] {
    return frame.export.watermark ? watermarkFaces(this.house.style().watermark) : [];
  }

  /** Whether what stands around graphics is known, so that they can be judged. */
  readonly ready = this.sites.known;

  /** Names what a fit word depends on beside the graphic: how it is judged, the page of each frame, and the day. */
  judgedBy(entry: Pick<Graphic, 'id' | 'name' | 'frames'>): string {
    const pages = entry.frames.map((frame) => this.around(entry, frame));
    return JSON.stringify([BUILD, pages]);
  }

  private readonly known = new Map<string, { look: PageLook; printed: readonly string[] }>();

  /** The same list as long as the look is the same: rules run again when it changes. */
  private printed(slot: Slot): readonly string[] {
    const look = this.sites.lookOf(slot);
    const known = this.known.get(slot.page);
    if (known?.look === look) return known.printed;
    const printed = printedOn(slot.page, look);
    this.known.set(slot.page, { look, printed });
    return printed;
  }

  /** What the worker has to find out for a frame on screen; `now` judges by it. */
  async legibility(graphic: Graphic, frame: Frame, stop: AbortSignal): Promise<Legibility[]> {
    await this.assets.ensure(graphic);
    await this.type.ensure(graphic, this.facesOver(frame));
    return this.pixels.legibility(graphic, frame, stop);
  }

  /** What can wait: what is wrong with the pictures themselves, and what the file weighs. */
  async slowly(graphic: Graphic, frame: Frame, stop: AbortSignal): Promise<FileWeights | null> {
    await this.assets.examined(graphic, this.pixels.sight);
    return this.weights.weigh(graphic, frame, stop);
  }
}
