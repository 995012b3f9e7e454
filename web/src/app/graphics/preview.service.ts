import { Injectable, inject } from '@angular/core';
import { createReporter, fitWord, mainFrame, type ReportContext } from '@bright-slot/core';
import { AssetFactsService } from '../media/asset-facts.service';
import { PixelsService } from '../pixels/pixels.service';
import { TypeService } from '../type/type.service';
import { GraphicsRepository, type GraphicEntry } from '../storage/graphics-repository';

export interface Preview {
  readonly url: string;
  readonly fit: string;
}

/** Miniatures and fit words for cards: taken from storage while they hold, made anew otherwise. */
@Injectable({ providedIn: 'root' })
export class PreviewService {
  private readonly repository = inject(GraphicsRepository);
  private readonly pixels = inject(PixelsService);
  private readonly type = inject(TypeService);
  private readonly assets = inject(AssetFactsService);
  private readonly urls = new Map<string, { state: string; url: string; fit: string }>();

  async preview(entry: GraphicEntry): Promise<Preview> {
    const { graphic, state } = entry;
    const known = this.urls.get(graphic.id);
    if (known?.state === state) return known;
    let record = await this.repository.preview(graphic.id, state);
    if (!record) {
      const shaper = await this.type.ensure(graphic);
      const width = Math.min(1200, Math.max(256, Math.round(graphic.canvas.width)));
      const context: ReportContext = {
        graphic,
        frame: mainFrame(graphic),
        shaper,
        assets: await this.assets.ensure(graphic),
        legibility: await this.pixels.legibility(graphic, undefined, this.pixels.files),
      };
      const fit = fitWord(createReporter()(context));
      record = { graphicId: graphic.id, state, fit, blob: await this.pixels.miniature(graphic, width) };
      await this.repository.setPreview(record);
    }
    if (known) URL.revokeObjectURL(known.url);
    const made = { state, url: URL.createObjectURL(record.blob), fit: record.fit };
    this.urls.set(graphic.id, made);
    return made;
  }
}
