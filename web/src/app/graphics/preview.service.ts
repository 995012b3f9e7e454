import { Injectable, inject } from '@angular/core';
import { clamp, createReporter, fitWord, frameOf, togetherReport, type Graphic } from '@bright-slot/core';
import { ReportContexts } from '../document/report-context.service';
import { PixelsService } from '../pixels/pixels.service';
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
  private readonly contexts = inject(ReportContexts);
  private readonly urls = new Map<string, { state: string; url: string; fit: string }>();

  async preview(entry: GraphicEntry): Promise<Preview> {
    const { id, state } = entry;
    const known = this.urls.get(id);
    if (known?.state === state) return known;
    let record = await this.repository.preview(id, state);
    if (!record) {
      const graphic = await this.repository.graphic(id);
      if (!graphic) throw new Error('It was deleted meanwhile.');
      const first = frameOf(graphic);
      const width = clamp(Math.round(first.rect.width), 256, 1200);
      const fit = await this.fitOf(graphic);
      record = { graphicId: id, state, fit, blob: await this.pixels.miniature(graphic, first, width) };
      await this.repository.setPreview(record);
    }
    if (known) URL.revokeObjectURL(known.url);
    const made = { state, url: URL.createObjectURL(record.blob), fit: record.fit };
    this.urls.set(id, made);
    return made;
  }

  /** What the report says of all its frames together. */
  private async fitOf(graphic: Graphic): Promise<string> {
    const reports = [];
    for (const frame of graphic.frames) reports.push(createReporter()(await this.contexts.whole(graphic, frame)));
    return fitWord(togetherReport(reports));
  }
}
