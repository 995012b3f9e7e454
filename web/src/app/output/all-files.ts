import { Injectable, inject, signal } from '@angular/core';
import { nameParts, numberedName, safeWord, withEnding, type Frame, type Graphic } from '@bright-slot/core';
import { LeavingFiles, type Leaving } from '../document/leaving-files.service';
import { PixelsService } from '../pixels/pixels.service';
import { JobStopped, type PixelClient } from '../pixels/pixel-client';
import { blobSink, makeZip } from '../storage/archive/zip';
import { GraphicsRepository } from '../storage/graphics-repository';
import { HouseStyleService } from '../storage/house-style.service';
import { allowedFolder, alreadyIn, canUseFolders, pickedFolder, writeInto, type Folder } from './folder';
import { saveFile } from '../ui/download';
import { today } from '../ui/when';

/** The setting that remembers the folder. */
const FOLDER = 'export-folder';

/** One of several files that leave together: a frame of a graphic, and what it is called beside the others. */
export interface Piece {
  readonly graphic: Graphic;
  readonly frame: Frame;
  readonly name: string;
  /** Makes it where it is not as the frame says, when its turn comes; `by` is the worker to ask. */
  readonly file?: (signal: AbortSignal, by: PixelClient) => Promise<MadeFile>;
}

/** A file, and what it came to be. */
type MadeFile = Pick<Leaving, 'blob' | 'format'>;

/** What is said of files that were given. */
const told = (made: readonly string[], where: string): string =>
  made.length === 1
    ? `${made[0]} is in ${where}.`
    : `${made.length} files are in ${where}, ${made[0]} to ${made.at(-1)}.`;

/** The files of a graphic's frames. */
export const piecesOf = (graphic: Graphic): Piece[] =>
  graphic.frames.map((frame) => ({ graphic, frame, name: graphic.name }));

/** All files of a set, made one after the other and given as one: in a zip, or in a folder. */
@Injectable()
export class AllFiles {
  private readonly pixels = inject(PixelsService);
  private readonly leaving = inject(LeavingFiles);
  private readonly house = inject(HouseStyleService);
  private readonly repository = inject(GraphicsRepository);
  /** How many are made, while they are being made. */
  readonly done = signal<number | null>(null);
  readonly said = signal('');
  readonly problem = signal('');
  /** Whether the browser can write into a folder. */
  readonly folders = canUseFolders();
  /** The folder that was written to last; null where none is remembered. */
  readonly lastFolder = signal<string | null>(null);
  private remembered: unknown = null;
  private stop = new AbortController();

  names(pieces: readonly Piece[], latestFirst: boolean): string[] {
    return pieces.map((_, i) => this.name(pieces, i, latestFirst));
  }

  /** What one of them is called. */
  name(pieces: readonly Piece[], at: number, latestFirst: boolean): string {
    const { name, frame } = pieces[at]!;
    const { slot, export: choices } = frame;
    const { namePattern: pattern, business } = this.house.style();
    const date = today();
    const parts = nameParts(name, slot, choices.format, date, business);
    const set = { pattern, date, of: pieces.length, latestFirst };
    return numberedName(set, { ...parts, longest: slot.names.longest }, at);
  }

  /** In a zip that is called after the set; whether it was given. */
  zip(pieces: readonly Piece[], set: string, latestFirst: boolean): Promise<boolean> {
    return this.zipAs(pieces, this.names(pieces, latestFirst), set);
  }

  /** The same under names of one's own, in the order of the pieces. */
  async zipAs(pieces: readonly Piece[], names: readonly string[], set: string): Promise<boolean> {
    const sink = blobSink('application/zip');
    const zip = makeZip(sink.writable);
    // Packed already; a zip for their being one file.
    const made = await this.make(pieces, names, (name, blob) => zip.blob(name, blob, true));
    if (!made) return false;
    await zip.finish();
    const name = `${safeWord(set)}-${today()}.zip`;
    saveFile(sink.blob(), name);
    this.said.set(told(made, name));
    return true;
  }

  folder(pieces: readonly Piece[], latestFirst: boolean): Promise<boolean> {
    return this.folderAs(pieces, this.names(pieces, latestFirst));
  }

  /** Into a folder under names of one's own: the one used last, or, where `anew`, another that is pointed at. */
  async folderAs(pieces: readonly Piece[], names: readonly string[], anew = false): Promise<boolean> {
    const folder = (anew ? null : await allowedFolder(this.remembered)) ?? (await pickedFolder());
    if (!folder) return false;
    const there = await this.thereAlready(folder, names);
    if (there) {
      this.problem.set(there);
      return false;
    }
    const made = await this.make(pieces, names, async (name, blob) => {
      // Its ending may have changed since.
      const there = names.includes(name) ? '' : await this.thereAlready(folder, [name]);
      if (there) throw new Error(there);
      await writeInto(folder, name, blob);
    });
    if (!made) return false;
    this.remember(folder);
    // A browser that cannot keep it asks again next time.
    await this.repository.setSetting(FOLDER, folder).catch(() => null);
    this.said.set(told(made, `“${folder.name}”`));
    return true;
  }

  /** What is said where a folder has files of some names; empty where it has none. */
  private async thereAlready(folder: Folder, names: readonly string[]): Promise<string> {
    const [there, ...others] = await alreadyIn(folder, names);
    if (there === undefined) return '';
    const more = others.length ? ` and ${others.length} more are` : ' is';
    return `“${there}”${more} in “${folder.name}” already. Give another name, or move it away first.`;
  }

  private remember(folder: unknown): void {
    this.remembered = folder;
    this.lastFolder.set((folder as Folder | null)?.name ?? null);
  }

  constructor() {
    if (this.folders)
      this.repository.setting(FOLDER).then(
        (folder) => this.remember(folder ?? null),
        () => undefined,
      );
  }

  cancel(): void {
    this.stop.abort();
  }

  private async file({ graphic, frame, file }: Piece, by: PixelClient, signal: AbortSignal): Promise<MadeFile> {
    signal.throwIfAborted();
    return file ? file(signal, by) : this.leaving.of(graphic, frame, signal, by);
  }

  /** Makes each and gives it under its name, ending as what it came to be; the names, or null where not all were. */
  private async make(
    pieces: readonly Piece[],
    names: readonly string[],
    give: (name: string, blob: Blob) => Promise<void>,
  ): Promise<string[] | null> {
    if (this.done() !== null) return null;
    this.stop = new AbortController();
    this.said.set('');
    this.problem.set('');
    try {
      // Two workers make them, each the next that nobody has begun; they are given in their order.
      const { signal } = this.stop;
      const made: ReturnType<typeof this.file>[] = [];
      const given: string[] = [];
      const ends: Promise<unknown>[] = [Promise.resolve(), Promise.resolve()];
      for (const [i, piece] of pieces.entries()) {
        const at = i % ends.length;
        const by = at === 0 ? this.pixels.sight : this.pixels.files;
        made[i] = ends[at]!.then(() => this.file(piece, by, signal));
        ends[at] = made[i].catch(() => undefined);
      }
      // What is given up is not waited for.
      for (const m of made) m.catch(() => undefined);
      for (const [i, file] of made.entries()) {
        this.done.set(i);
        const { blob, format } = await file;
        signal.throwIfAborted();
        const name = withEnding(names[i]!, format);
        await give(name, blob);
        given.push(name);
      }
      const at = Date.now();
      const records = given.map((name, i) => ({ name, graphicId: pieces[i]!.graphic.id, at, to: 'file' as const }));
      await this.repository.addExport(...records).catch(() => null);
      return given;
    } catch (error) {
      if (!(error instanceof JobStopped) && !this.stop.signal.aborted)
        this.problem.set(
          `${error instanceof Error ? error.message : String(error)} What was not written yet was left out; try again.`,
        );
      return null;
    } finally {
      this.done.set(null);
    }
  }
}
