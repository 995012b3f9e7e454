import { Injectable, inject } from '@angular/core';
import type { Frame, Graphic, Legibility, ReportContext } from '@bright-slot/core';
import { AssetFactsService } from '../media/asset-facts.service';
import { PixelsService } from '../pixels/pixels.service';
import { TypeService } from '../type/type.service';

/** Everything that rules may look at: the one builder of it, for the workbench, for cards and for what leaves. */
@Injectable({ providedIn: 'root' })
export class ReportContexts {
  private readonly type = inject(TypeService);
  private readonly pixels = inject(PixelsService);
  private readonly assets = inject(AssetFactsService);

  /** With what is at hand: what comes from a worker may be wanting. Null where nothing can be judged yet. */
  now(graphic: Graphic, frame: Frame, legibility: readonly Legibility[] | undefined): ReportContext | null {
    const shaper = this.type.shaper();
    return shaper && { graphic, frame, shaper, assets: this.assets.facts(), legibility };
  }

  /** With all facts, made by the worker for lists. */
  async whole(graphic: Graphic, frame: Frame): Promise<ReportContext> {
    const shaper = await this.type.ensure(graphic);
    const assets = await this.assets.ensure(graphic);
    const legibility = await this.pixels.legibility(graphic, frame, undefined, this.pixels.files);
    return { graphic, frame, shaper, assets, legibility };
  }

  /** What the worker has to find out for a frame on screen; `now` judges by it. */
  async legibility(graphic: Graphic, frame: Frame, stop: AbortSignal): Promise<Legibility[]> {
    await this.assets.ensure(graphic);
    return this.pixels.legibility(graphic, frame, stop);
  }
}
