import { Injectable, inject } from '@angular/core';
import {
  printedOn,
  type Frame,
  type Graphic,
  type Legibility,
  type PageLook,
  type ReportContext,
  type Slot,
} from '@bright-slot/core';
import { AssetFactsService } from '../media/asset-facts.service';
import { PixelsService } from '../pixels/pixels.service';
import { Sites } from '../storage/sites.service';
import { TypeService } from '../type/type.service';
import { today } from '../ui/when';

/** Everything that rules may look at: the one builder of it, for the workbench, for cards and for what leaves. */
@Injectable({ providedIn: 'root' })
export class ReportContexts {
  private readonly type = inject(TypeService);
  private readonly pixels = inject(PixelsService);
  private readonly assets = inject(AssetFactsService);
  private readonly sites = inject(Sites);

  /** With what is at hand: what comes from a worker may be wanting. Null where nothing can be judged yet. */
  now(graphic: Graphic, frame: Frame, legibility: readonly Legibility[] | undefined): ReportContext | null {
    const shaper = this.type.shaper();
    return shaper && { graphic, frame, shaper, assets: this.assets.facts(), legibility, ...this.around(frame) };
  }

  /** With all facts, made by the worker for lists. */
  async whole(graphic: Graphic, frame: Frame): Promise<ReportContext> {
    const shaper = await this.type.ensure(graphic);
    const assets = await this.assets.ensure(graphic);
    const legibility = await this.pixels.legibility(graphic, frame, undefined, this.pixels.files);
    return { graphic, frame, shaper, assets, legibility, ...this.around(frame) };
  }

  /** What does not depend on the graphic: the page, and the day. */
  private around({ slot }: Frame): Pick<ReportContext, 'printed' | 'today'> {
    return { printed: this.printed(slot), today: today() };
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
    return this.pixels.legibility(graphic, frame, stop);
  }
}
