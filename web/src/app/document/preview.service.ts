import { Injectable, inject } from '@angular/core';
import { clamp, fitWord, frameOf, reportAtRest, togetherReport, type Frame, type Graphic } from '@bright-slot/core';
import { ReportContexts } from './report-context.service';
import { PixelsService } from '../pixels/pixels.service';
import type { PreviewRecord } from '../storage/database';
import { GraphicsRepository, type GraphicEntry } from '../storage/graphics-repository';
import { breather, framesFirst } from '../ui/breather';

export interface Preview {
  readonly url: string;
  /** Of a graphic with several frames, the others, in their order. */
  readonly others: readonly string[];
  readonly fit: string;
}

/** Of a set no more frames are painted. */
const MOST_FRAMES = 24;

/** Miniatures and fit words for cards: taken from storage while they hold, made anew otherwise. */
@Injectable({ providedIn: 'root' })
export class PreviewService {
  private readonly repository = inject(GraphicsRepository);
  private readonly pixels = inject(PixelsService);
  private readonly contexts = inject(ReportContexts);
  readonly ready = this.contexts.ready;
  private readonly made = new Map<string, Preview & { state: string; judgedBy: string }>();

  /** `stop` where nobody is going to look at it any more. */
  async preview(entry: GraphicEntry, stop?: AbortSignal): Promise<Preview> {
    const { id, state } = entry;
    // Asked first, so that whoever shows it is told when a page changes.
    const judgedBy = this.contexts.judgedBy(entry);
    const known = this.made.get(id);
    if (known?.state === state && known.judgedBy === judgedBy) return known;
    const record = await this.recordOf(id, state, judgedBy, stop);
    const same = known?.state === state ? known : null;
    const url = same?.url ?? URL.createObjectURL(record.blob);
    const others = same?.others ?? (record.others ?? []).map((b) => URL.createObjectURL(b));
    if (known && !same) for (const old of [known.url, ...known.others]) URL.revokeObjectURL(old);
    const made = { state, judgedBy, url, others, fit: record.fit };
    this.made.set(id, made);
    return made;
  }

  /** As it is stored, where that holds still; what does not is made anew. */
  private async recordOf(
    graphicId: string,
    state: string,
    judgedBy: string,
    stop?: AbortSignal,
  ): Promise<PreviewRecord> {
    const stored = await this.repository.preview(graphicId, state);
    if (stored?.judgedBy === judgedBy) return stored;
    const graphic = await this.repository.graphic(graphicId);
    if (!graphic) throw new Error('It was deleted meanwhile.');
    const fit = await this.fitOf(graphic, stop);
    const of = (frame: Frame) =>
      this.pixels.miniature(graphic, frame, clamp(Math.round(frame.rect.width), 256, 1200), stop);
    const blob = stored?.blob ?? (await of(frameOf(graphic)));
    const rest = graphic.frames.slice(1, MOST_FRAMES);
    const others: Blob[] = [...(stored?.others ?? [])];
    if (others.length !== rest.length) {
      others.length = 0;
      for (const frame of rest) others.push(await of(frame));
    }
    const record = { graphicId, state, judgedBy, fit, blob, ...(others.length ? { others } : {}) };
    await this.repository.setPreview(record);
    return record;
  }

  /** What the report says of all its frames together. */
  private async fitOf(graphic: Graphic, stop?: AbortSignal): Promise<string> {
    const reports = [];
    for (const frame of graphic.frames) {
      const context = await this.contexts.whole(graphic, frame, stop);
      reports.push(await reportAtRest(context, breather(framesFirst)));
    }
    return fitWord(togetherReport(reports));
  }
}
