import { Injectable, inject } from '@angular/core';
import {
  wholeCanvas,
  surfaceFor,
  judgingScale,
  mapScale,
  notesFor,
  filePixels,
  fileTooLarge,
  isDrawn,
  pictureFormats,
  topDensity,
  withAllShown,
  watermarkFaces,
  withWatermark,
  type Box,
  type Chroma,
  type FileDifference,
  type CleanedLogo,
  type FileFormat,
  type FileNotes,
  type Frame,
  type Graphic,
  type GroundMap,
  type LayoutContents,
  type LayoutLook,
  type Legibility,
  type PictureLayer,
  type Shaper,
  type Slot,
  type Source,
  type SurfaceNeed,
} from '@bright-slot/core';
import { BitmapCache } from './bitmap-cache';
import { PixelClient } from './pixel-client';
import { createPixelWorker } from './pixel-worker';
import type { Answers, EdgeFacts } from './messages';
import { HouseStyleService } from '../storage/house-style.service';
import { TypeService } from '../type/type.service';
import { decodable, drawnFile, drawnSurface, drawnWhole, vectorsFor } from './vectors';

/** Longest side of a rough picture, px. */
export const ROUGH_SIDE = 2048;

/** How long the worker for files and lists may have nothing to do before it goes, ms. */
const IDLE = 20_000;
/** A file from elsewhere that is not read after so long is given up, ms: the largest picture takes some seconds. */
export const LONGEST = 60_000;
/** Pixels of rough pictures that wait for the screen. */
const WAITING = 12e6;

/** What a file is to be. */
export interface FileChoices {
  readonly format: FileFormat;
  readonly quality: number;
  readonly chroma?: Chroma | undefined;
  readonly notes: FileNotes;
  readonly density?: number;
  /** Whether it is to be held against the canvas. */
  readonly compare?: boolean;
  /** Whether what is drawn has to look the same in every browser, as on a page; it need not in another program. */
  readonly forPage?: boolean;
}

/** What of a surface its rough depends on. */
type RoughNeed = Pick<SurfaceNeed, 'asset' | 'cutout' | 'vector' | 'natural' | 'finish'>;

/** Heavy work on pixels, off the main thread: one worker for what is on screen, one for files. */
@Injectable({ providedIn: 'root' })
export class PixelsService {
  private readonly type = inject(TypeService);
  private readonly house = inject(HouseStyleService);
  readonly sight = new PixelClient();
  readonly files = new PixelClient(createPixelWorker, IDLE);

  /** Whether a worker has something to do. */
  get busy(): boolean {
    return this.sight.busy || this.files.busy;
  }

  /** Rough pictures that came with an inspection, until the screen fetches them. */
  private readonly roughs = new BitmapCache(WAITING);

  /** Looks at a picture; one that goes `toCanvas` at once is there sooner for it. */
  async importPicture(
    blob: Blob,
    name: string,
    toCanvas: boolean,
    signal?: AbortSignal,
  ): Promise<Answers['import-picture']> {
    const task = { kind: 'import-picture' as const, blob, name, most: ROUGH_SIDE, toCanvas };
    const found = await this.sight.within(LONGEST, task, signal);
    if (!found.ok || !('rough' in found.value)) return found;
    const { hash, rough } = found.value;
    if (toCanvas) this.roughs.set(hash, rough);
    else rough.close();
    return found;
  }

  /** Lets go of all that was kept for the graphic that was open. */
  forget(): void {
    this.roughs.clear();
    if (this.sight.started) void this.sight.run({ kind: 'forget' }).catch(() => undefined);
  }

  /** The rough of a picture that was brought in just now, where it is wanted as it is; the caller's to close. */
  takeRough({ asset, cutout, finish }: RoughNeed): ImageBitmap | undefined {
    return cutout || finish?.look || finish?.tint ? undefined : this.roughs.take(asset);
  }

  /** A whole picture in its own look, roughly reduced, for first sight and dragging. */
  async rough(need: RoughNeed): Promise<ImageBitmap> {
    const { asset, vector, natural } = need;
    const look = need.finish?.look ?? null;
    const tint = need.finish?.tint ?? null;
    const cutout = vector ? null : need.cutout;
    const known = this.takeRough(need);
    if (known) return known;
    if (vector && !look && !tint) return drawnWhole(asset, natural, ROUGH_SIDE);
    const drawn = vector ? await drawnWhole(asset, natural, ROUGH_SIDE) : undefined;
    const task = { kind: 'rough' as const, asset, cutout, look, tint, most: ROUGH_SIDE, drawn };
    return this.sight.run(task, undefined, drawn ? [drawn] : []);
  }

  /** An exact surface. */
  async surface(need: SurfaceNeed, signal?: AbortSignal): Promise<ImageBitmap> {
    const drawn = need.vector ? await drawnSurface(need) : undefined;
    if (drawn && !need.finish) return drawn;
    return this.sight.run({ kind: 'surface', need, drawn }, signal, drawn ? [drawn] : []);
  }

  /** The colours of a layer's edges as it stands on the canvas, each side that leaves canvas uncovered. */
  async edges(layer: PictureLayer, graphic: Graphic, signal?: AbortSignal): Promise<EdgeFacts[]> {
    // As if it ran on already, so that the open sides are known.
    const asked: PictureLayer = { ...layer, beyond: { style: 'colour' }, corners: { kind: 'straight' }, shadow: null };
    const { width, height } = graphic.canvas;
    const found = surfaceFor(asked, graphic, wholeCanvas(graphic), 1, {
      x: 0,
      y: 0,
      width: Math.ceil(width),
      height: Math.ceil(height),
    });
    if (!found) return [];
    const drawn = layer.vector ? await drawnSurface(found.need) : undefined;
    return this.sight.run({ kind: 'edges', need: found.need, drawn }, signal, drawn ? [drawn] : []);
  }

  /** What is left of a layer's picture when its margins are taken off, in its own px. */
  async trim(layer: PictureLayer, tolerance: number, breathing: number): Promise<Box | null> {
    const { drawn, by } = await this.drawnOf(layer);
    const { asset, natural } = layer;
    const found = await this.sight.run(
      { kind: 'trim', asset, cutout: layer.vector ? null : layer.cutout, drawn, tolerance, breathing: breathing / by },
      undefined,
      drawn ? [drawn] : [],
    );
    if (!found) return null;
    const x = found.x * by;
    const y = found.y * by;
    return {
      x,
      y,
      width: Math.min(natural.width - x, found.width * by),
      height: Math.min(natural.height - y, found.height * by),
    };
  }

  /** A layer's logo off its sheet, in its own px; null where there is no sheet to take away. */
  async clean({ asset }: PictureLayer): Promise<CleanedLogo | null> {
    return this.sight.run({ kind: 'clean', asset });
  }

  /** The parts of a logo that stand together, in shares of it. */
  async parts(layer: PictureLayer): Promise<Box[]> {
    const { drawn } = await this.drawnOf(layer);
    const task = { kind: 'parts' as const, asset: layer.asset, cutout: layer.vector ? null : layer.cutout, drawn };
    return this.sight.run(task, undefined, drawn ? [drawn] : []);
  }

  /** A drawing as a bitmap, and how many of its own px one of those is. */
  private async drawnOf({
    vector,
    asset,
    natural,
  }: PictureLayer): Promise<{ drawn: ImageBitmap | undefined; by: number }> {
    if (!vector) return { drawn: undefined, by: 1 };
    const drawn = await drawnWhole(asset, natural, ROUGH_SIDE);
    return { drawn, by: natural.width / drawn.width };
  }

  /** A graphic as a frame of it leaves: under the house's watermark, where the frame is to carry it. */
  private async leaving(graphic: Graphic, frame: Frame): Promise<{ graphic: Graphic; shaper: Shaper }> {
    if (frame.export.watermark) await this.house.loadedOnce;
    const watermark = frame.export.watermark ? this.house.style().watermark : null;
    const shaper = await this.type.ensure(graphic, watermarkFaces(watermark));
    if (!watermark) return { graphic, shaper };
    const marked = withWatermark(graphic, frame, watermark, shaper);
    if (!marked.ok) throw new Error(marked.problem.message);
    return { graphic: marked.value.graphic, shaper };
  }

  /** A graphic as a frame of it leaves at a density, the drawings that a worker needs for it, and what is handed over. */
  private async prepared(given: Graphic, frame: Frame, density: number, seen = (graphic: Graphic) => graphic) {
    const { graphic, shaper } = await this.leaving(given, frame);
    const vectors = await vectorsFor(seen(graphic), frame, density, shaper);
    return { graphic, vectors, transfer: vectors.map((v) => v.bitmap) };
  }

  /** A frame's file; as the slot's densest where no density is given. */
  async file(
    given: Graphic,
    frame: Frame,
    choices: FileChoices,
    signal?: AbortSignal,
    // The worker of what is on screen: it has decoded and reduced what a file needs already.
    by = this.sight,
  ): Promise<Answers['file']> {
    const { slot } = frame;
    const large = fileTooLarge(slot);
    if (large) throw new Error(large);
    const { format, quality, notes, chroma = '444', density = topDensity(slot), compare = false } = choices;
    if (isDrawn(format)) return this.drawnFile(given, frame, choices, density, signal);
    const { graphic, vectors, transfer } = await this.prepared(given, frame, density);
    const made = { format, quality, notes, chroma, density, compare };
    return by.run({ kind: 'file', graphic, frame: frame.id, ...made, vectors }, signal, transfer);
  }

  /** A frame's file that is drawn: one for all densities, its photos as at the one given; compared as it shows there. */
  private async drawnFile(
    given: Graphic,
    frame: Frame,
    { notes, compare = false, forPage = true }: FileChoices,
    density: number,
    signal?: AbortSignal,
  ): Promise<Answers['file']> {
    const blob = await this.drawing(given, frame, { density, notes, forPage }, signal);
    const difference = compare ? await this.difference(given, frame, blob, signal, density) : null;
    return { blob, difference, ...filePixels(frame.slot, density), decoded: 0 };
  }

  /** How a frame's file differs from the canvas; as the slot's densest where no density is given. */
  async difference(
    given: Graphic,
    frame: Frame,
    file: Blob,
    signal?: AbortSignal,
    density = topDensity(frame.slot),
  ): Promise<FileDifference> {
    const { graphic, vectors, transfer } = await this.prepared(given, frame, density);
    const svg = file.type === pictureFormats.svg.mime;
    const shown = svg ? await drawnFile(file, filePixels(frame.slot, density)) : file;
    return this.sight.run({ kind: 'difference', graphic, frame: frame.id, density, file: shown, vectors }, signal, [
      ...transfer,
      ...(shown instanceof ImageBitmap ? [shown] : []),
    ]);
  }

  /** The key of what the second worker was handed last. */
  private handed = '';

  /**
   * A file of what was painted of a frame, compared with it: written by the second worker, beside what the first one does.
   * `key` names what was painted.
   */
  async fileOfPainted(
    painted: { readonly key: string; readonly bitmap: ImageBitmap; readonly ground: string },
    { format, quality, notes, chroma = '444' }: FileChoices,
    signal?: AbortSignal,
  ): Promise<NonNullable<Answers['encode']>> {
    const { key, ground } = painted;
    const ask = async (again: boolean) => {
      // The worker goes when it has had nothing to do for a while, and what it held with it.
      const known = !again && this.handed === key && this.files.started;
      const bitmap = known ? undefined : await createImageBitmap(painted.bitmap);
      this.handed = key;
      const task = { kind: 'encode' as const, key, painted: bitmap, ground, format, quality, chroma, notes };
      return this.files.run(task, signal, bitmap ? [bitmap] : []);
    };
    const made = (await ask(false)) ?? (await ask(true));
    if (!made) throw new Error('The file could not be made. Try again.');
    return made;
  }

  /** Has a frame's densest file ready as it is likely to be asked for, when nothing else is to be done. */
  async ahead(given: Graphic, frame: Frame, signal: AbortSignal): Promise<void> {
    if (fileTooLarge(frame.slot) || isDrawn(frame.export.format)) return;
    const density = topDensity(frame.slot);
    const { graphic, vectors, transfer } = await this.prepared(given, frame, density);
    const { format, quality, chroma = '444' } = frame.export;
    const notes = notesFor(this.house.style(), frame.export);
    await this.sight.run(
      { kind: 'file-ahead', graphic, frame: frame.id, format, quality, chroma, notes, density, vectors },
      signal,
      transfer,
    );
  }

  /** A frame as it is painted for its densest file. */
  async painted(given: Graphic, frame: Frame, signal?: AbortSignal): Promise<ImageBitmap> {
    const density = topDensity(frame.slot);
    const { graphic, vectors, transfer } = await this.prepared(given, frame, density);
    return this.sight.run({ kind: 'painted', graphic, frame: frame.id, density, vectors }, signal, transfer);
  }

  /** A frame in its layers, hidden ones too, as its densest file would have them. */
  async layerFiles(given: Graphic, frame: Frame, signal?: AbortSignal): Promise<Answers['layer-files']> {
    const large = fileTooLarge(frame.slot);
    if (large) throw new Error(large);
    const density = topDensity(frame.slot);
    const { graphic, vectors, transfer } = await this.prepared(given, frame, density, withAllShown);
    return this.files.run({ kind: 'layer-files', graphic, frame: frame.id, density, vectors }, signal, transfer);
  }

  /** A frame as an SVG file, its photos within it as a file of that density has them. */
  private async drawing(
    given: Graphic,
    frame: Frame,
    { density, notes, forPage }: { readonly density: number; readonly notes: FileNotes; readonly forPage: boolean },
    signal?: AbortSignal,
  ): Promise<Blob> {
    const { graphic, vectors, transfer } = await this.prepared(given, frame, density);
    return this.files.run(
      { kind: 'drawing', graphic, frame: frame.id, density, notes, forPage, vectors },
      signal,
      transfer,
    );
  }

  /** What the words stand on in a frame; `by` is the worker to ask: the one for what is on screen has its surfaces at hand. */
  async legibility(graphic: Graphic, frame: Frame, signal?: AbortSignal, by = this.sight): Promise<Legibility[]> {
    if (!graphic.layers.some((l) => l.role === 'words' && l.visible)) return [];
    const vectors = await vectorsFor(graphic, frame, judgingScale(frame.slot), await this.type.ensure(graphic));
    return by.run(
      { kind: 'legibility', graphic, frame: frame.id, vectors },
      signal,
      vectors.map((v) => v.bitmap),
    );
  }

  /** What stands where on a graphic's canvas, for something new to be put where there is room. */
  async groundMap(graphic: Graphic, frame: Frame, signal?: AbortSignal): Promise<GroundMap> {
    const vectors = await vectorsFor(
      graphic,
      wholeCanvas(graphic),
      mapScale(graphic.canvas),
      await this.type.ensure(graphic),
    );
    return this.sight.run(
      { kind: 'ground-map', graphic, frame: frame.id, vectors },
      signal,
      vectors.map((v) => v.bitmap),
    );
  }

  /** The ways in which a graphic can be composed for a slot (`source` as `compositions` takes it). */
  async compose({ graphic, roles, subjects }: Source, slot: Slot, signal?: AbortSignal): Promise<Answers['compose']> {
    await this.type.ensure(graphic);
    const task = {
      kind: 'compose' as const,
      graphic,
      roles: Object.fromEntries(roles),
      subjects: Object.fromEntries(subjects),
      slot,
    };
    return this.files.run(task, signal);
  }

  /** Contents in every layout that has something to give for a slot, in their order. */
  layouts(contents: LayoutContents, look: LayoutLook, slot: Slot, signal?: AbortSignal): Promise<Answers['layouts']> {
    return this.files.run({ kind: 'layouts', contents, look, slot }, signal);
  }

  /** Contents of several tiles in one layout, as alike as they can be. */
  tiles(
    layout: string,
    tiles: readonly LayoutContents[],
    look: LayoutLook,
    slot: Slot,
    signal?: AbortSignal,
  ): Promise<Answers['tiles']> {
    return this.files.run({ kind: 'tiles', layout, tiles: [...tiles], look, slot }, signal);
  }

  /** The least strength of a veil with which its words stand out in a frame. */
  async strengthFor(
    graphic: Graphic,
    frame: Frame,
    veil: string,
    signal?: AbortSignal,
  ): Promise<Answers['least-veil']> {
    const vectors = await vectorsFor(graphic, frame, judgingScale(frame.slot), await this.type.ensure(graphic));
    return this.sight.run(
      { kind: 'least-veil', graphic, frame: frame.id, veil, vectors },
      signal,
      vectors.map((v) => v.bitmap),
    );
  }

  /** The colours that pictures are made of. */
  palette(pictures: readonly (Blob | ImageBitmap)[]): Promise<string[]> {
    return this.files.run({ kind: 'palette', pictures: [...pictures] });
  }

  /** How a picture that a visitor is shown differs from the one that was sent; null where it is no picture. */
  async compareLive(sent: Blob, live: Blob, signal?: AbortSignal): Promise<Answers['compare-live']> {
    const [own, theirs] = await Promise.all([decodable(sent), decodable(live)]);
    return this.files.within(LONGEST, { kind: 'compare-live', sent: own, live: theirs }, signal);
  }

  /** Opens a font file. */
  font(file: File): Promise<Answers['font']> {
    return this.files.within(LONGEST, { kind: 'font', blob: file, name: file.name });
  }

  /** A frame for a list, `width` px wide: its photos may come of small decodes. */
  miniature(graphic: Graphic, frame: Frame, width: number, signal?: AbortSignal): Promise<Blob> {
    return this.atWidth(graphic, frame, width, true, signal);
  }

  /** A frame as a page shows it, `width` px wide. */
  asShown(graphic: Graphic, frame: Frame, width: number, signal?: AbortSignal): Promise<Blob> {
    return this.atWidth(graphic, frame, width, false, signal);
  }

  private async atWidth(graphic: Graphic, frame: Frame, width: number, small: boolean, signal?: AbortSignal) {
    const vectors = await vectorsFor(graphic, frame, width / frame.rect.width, await this.type.ensure(graphic));
    return this.files.run(
      { kind: 'miniature', graphic, frame: frame.id, width, small, vectors },
      signal,
      vectors.map((v) => v.bitmap),
    );
  }
}
