import { Injectable, inject } from '@angular/core';
import { clamp, createReporter, fitWord, frameOf, togetherReport, type Graphic } from '@bright-slot/core';
import { ReportContexts } from '../document/report-context.service';
import { PixelsService } from '../pixels/pixels.service';
import type { PreviewRecord } from '../storage/database';
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
  readonly ready = this.contexts.ready;
  private readonly made = new Map<string, { state: string; judgedBy: string; url: string; fit: string }>();

  async preview(entry: GraphicEntry): Promise<Preview> {
    const { id, state } = entry;
    // Asked first, so that whoever shows it is told when a page changes.
    const judgedBy = this.contexts.judgedBy(entry);
    const known = this.made.get(id);
    if (known?.state === state && known.judgedBy === judgedBy) return known;
    const record = await this.recordOf(id, state, judgedBy);
    const url = known?.state === state ? known.url : URL.createObjectURL(record.blob);
    if (known && known.url !== url) URL.revokeObjectURL(known.url);
    const made = { state, judgedBy, url, fit: record.fit };
    this.made.set(id, made);
    return made;
  }

  /** As it is stored, where that holds still; what does not is made anew. */
  private async recordOf(graphicId: string, state: string, judgedBy: string): Promise<PreviewRecord> {
    const stored = await this.repository.preview(graphicId, state);
    if (stored?.judgedBy === judgedBy) return stored;
    const graphic = await this.repository.graphic(graphicId);
    if (!graphic) throw new Error('It was deleted meanwhile.');
    const first = frameOf(graphic);
    const width = clamp(Math.round(first.rect.width), 256, 1200);
    const fit = await this.fitOf(graphic);
    const blob = stored?.blob ?? (await this.pixels.miniature(graphic, first, width));
    const record = { graphicId, state, judgedBy, fit, blob };
    await this.repository.setPreview(record);
    return record;
  }

  /** What the report says of all its frames together. */
  private async fitOf(graphic: Graphic): Promise<string> {
    const reports = [];
    for (const frame of graphic.frames) reports.push(createReporter()(await this.contexts.whole(graphic, frame)));
    return fitWord(togetherReport(reports));
  }
}
