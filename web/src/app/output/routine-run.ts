import { Injectable, inject, signal } from '@angular/core';
import {
  fileName,
  filePixels,
  isDrawn,
  nameAt,
  nameParts,
  notesFor,
  routineDensities,
  routineFile,
  routineMost,
  safeWord,
  softAt,
  waysFor,
  type ExportRoutine,
  type Frame,
  type Graphic,
  type Next,
  type FileWay,
} from '@bright-slot/core';
import { FindFile } from '../pixels/find-file';
import { JobStopped } from '../pixels/pixel-client';
import { PixelsService } from '../pixels/pixels.service';
import { blobSink, makeZip } from '../storage/archive/zip';
import { GraphicsRepository } from '../storage/graphics-repository';
import { HouseStyleService } from '../storage/house-style.service';
import { saveFile } from '../ui/download';
import { today } from '../ui/when';

/** A file that a routine made. */
export interface MadeByRoutine {
  readonly graphic: string;
  readonly routine: string;
  readonly name: string;
  readonly bytes: number;
  readonly width: number;
  readonly height: number;
  /** What is to be known of it; empty where all is well. */
  readonly told: string;
}

/** Routines done for graphics: each file found and made, all given in one zip (one alone as it is), with a report. */
@Injectable()
export class RoutineRun {
  private readonly pixels = inject(PixelsService);
  private readonly find = inject(FindFile);
  private readonly house = inject(HouseStyleService);
  private readonly repository = inject(GraphicsRepository);
  /** How many files are made, of how many; null while nothing runs. */
  readonly done = signal<{ readonly made: number; readonly of: number } | null>(null);
  readonly report = signal<readonly MadeByRoutine[]>([]);
  readonly said = signal('');
  readonly problem = signal('');
  private stop = new AbortController();

  cancel(): void {
    this.stop.abort();
  }

  /** How many files it would be. */
  count(graphics: readonly Pick<Graphic, 'frames'>[], routines: readonly ExportRoutine[]): number {
    const each = (frame: Frame) => routines.reduce((n, r) => n + routineDensities(r, frame.slot).length, 0);
    return graphics.reduce((n, g) => n + g.frames.reduce((m, f) => m + each(f), 0), 0);
  }

  /** Makes and gives all; what it made is in the report. `ids` in the order in which they are made. */
  async run(ids: readonly string[], routines: readonly ExportRoutine[]): Promise<boolean> {
    if (this.done()) return false;
    this.stop = new AbortController();
    const { signal } = this.stop;
    this.report.set([]);
    this.said.set('');
    this.problem.set('');
    this.done.set({ made: 0, of: 0 });
    try {
      const graphics: Graphic[] = [];
      for (const id of ids) {
        const graphic = await this.repository.graphic(id);
        if (graphic) graphics.push(graphic);
      }
      const of = this.count(graphics, routines);
      this.done.set({ made: 0, of });
      const taken = new Set(await this.repository.exportedNames().catch(() => []));
      const files: { blob: Blob; name: string; graphicId: string }[] = [];
      for (const graphic of graphics)
        for (const frame of graphic.frames)
          for (const routine of routines)
            for await (const made of this.files(graphic, frame, routine, taken, signal)) {
              files.push({ ...made, graphicId: graphic.id });
              this.done.set({ made: files.length, of });
            }
      signal.throwIfAborted();
      await this.give(files);
      return true;
    } catch (error) {
      if (error instanceof JobStopped || signal.aborted) this.said.set('Called off: nothing was saved.');
      else this.problem.set(`${error instanceof Error ? error.message : String(error)} Nothing was saved; try again.`);
      this.report.set([]);
      return false;
    } finally {
      this.done.set(null);
    }
  }

  /** The files of one frame by one routine, one after the other. */
  private async *files(
    graphic: Graphic,
    { export: own, ...rest }: Frame,
    routine: ExportRoutine,
    taken: Set<string>,
    signal: AbortSignal,
  ) {
    const frame = { ...rest, export: { ...own, watermark: routine.watermark } };
    const { slot } = frame;
    const notes = { ...notesFor(this.house.style(), frame.export), ppi: routine.ppi };
    const most = routineMost(routine, slot);
    const wanted = routineFile(routine, slot);
    const densities = routineDensities(routine, slot);
    const at = (density: number, ways: readonly FileWay[]): Promise<Next> =>
      wanted === 'lightest'
        ? this.find.lightest({ graphic, frame, notes, density, ways, most }, signal)
        : Promise.resolve(wanted);
    // The densest decides how all are written; how well, each for itself.
    const top = Math.max(...densities);
    const found = await at(top, waysFor(slot));
    const { business, namePattern } = this.house.style();
    const parts = nameParts(graphic.name, slot, found.format, today(), business);
    const base = fileName(namePattern, parts, taken, slot.names.longest);
    taken.add(base);
    // What is drawn is one file for all densities.
    const drawn = isDrawn(found.format);
    for (const density of drawn ? [top] : densities) {
      signal.throwIfAborted();
      const { format, quality, chroma } = density === top ? found : await at(density, [found]);
      const choices = { format, quality, chroma, notes, density, compare: true };
      const { blob, difference } = await this.pixels.file(graphic, frame, choices, signal);
      const name = nameAt(base, drawn ? 1 : density);
      const told = [
        routine.file !== 'lightest' && wanted === 'lightest'
          ? 'The slot does not take the routine’s format: the lightest that it takes.'
          : '',
        routine.watermark && !this.house.style().watermark ? 'Without a watermark: none was made yet.' : '',
        most !== null && blob.size > most ? 'Heavier than the limit.' : '',
        difference?.seen ? 'Can be told from the canvas at 100 %.' : '',
        softAt(graphic, frame, density) ?? '',
      ].filter((t) => t);
      const row = {
        graphic: graphic.name,
        routine: routine.name,
        name,
        bytes: blob.size,
        ...filePixels(slot, density),
      };
      this.report.update((r) => [...r, { ...row, told: told.join(' ') }]);
      yield { blob, name };
    }
  }

  private async give(files: readonly { blob: Blob; name: string; graphicId: string }[]): Promise<void> {
    const [first] = files;
    if (!first) return;
    const at = Date.now();
    const records = files.map(({ name, graphicId }) => ({ name, graphicId, at, to: 'file' as const }));
    if (files.length === 1) saveFile(first.blob, first.name);
    else {
      const sink = blobSink('application/zip');
      const zip = makeZip(sink.writable);
      for (const { name, blob } of files) await zip.blob(name, blob, true);
      await zip.finish();
      const set = new Set(files.map((f) => f.graphicId)).size === 1 ? this.report()[0]!.graphic : 'Graphics';
      const name = `${safeWord(set)}-${today()}.zip`;
      saveFile(sink.blob(), name);
      this.said.set(`${files.length} files are in ${name}.`);
    }
    if (files.length === 1) this.said.set(`Saved as ${first.name}.`);
    await this.repository.addExport(...records).catch(() => null);
  }
}
