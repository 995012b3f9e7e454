import { Injectable, inject, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { firstValueFrom } from 'rxjs';
import {
  PLACEHOLDER,
  bad,
  cutText,
  firstRun,
  isPicture,
  limits,
  nameFrom,
  type Layer,
  type PictureLayer,
  type Problem,
  type Slot,
  type WordsLayer,
  swapped,
  withRuns,
  wordsTaken,
} from '@bright-slot/core';
import type { ShelfChoice } from '../../media/shelf/shelf.service';
import {
  replacement,
  pathLayer,
  pictureLayer,
  shapeLayer,
  shapeNames,
  veilLayer,
  wordsLayer,
  type ShapeKind,
} from '../../document/new-layers';
import { HouseStyleService } from '../../storage/house-style.service';
import { readOutline } from '../../media/drawings';
import { PicturesService, type PictureSource } from '../../media/pictures.service';
import { Workbench } from '../../document/workbench';
import { FreshWords } from '../../document/fresh-words.service';
import { Placing } from '../../document/placing.service';
import { GraphicsRepository } from '../../storage/graphics-repository';
import { JobStopped } from '../../pixels/pixel-client';

/** More than any drawing of one outline has, bytes. */
const MOST_PATH = 4_000_000;

const couldNot = (error: unknown): Problem =>
  bad('picture', `The picture could not be brought in: ${error instanceof Error ? error.message : 'unknown reason'}.`)
    .problem;

/** Words that are to stand on a pale note. */
const inkOn = (layer: WordsLayer, by: number) =>
  withRuns(layer, { colour: '#1f2a30', size: Math.max(14, Math.round(firstRun(layer).size * by)) });

/** Brings layers into the graphic at work: pictures from anywhere, words. */
@Injectable()
export class AddLayers {
  private readonly workbench = inject(Workbench);
  private readonly placing = inject(Placing);
  private readonly fresh = inject(FreshWords);
  private readonly brought = inject(PicturesService);
  private readonly dialogs = inject(MatDialog);
  private readonly house = inject(HouseStyleService);
  private readonly repository = inject(GraphicsRepository);
  readonly busy = signal(0);
  readonly doing = signal('');
  /** Where new layers go: above this many; null is on top. */
  readonly insertAt = signal<number | null>(null);
  private controller = new AbortController();

  /** Adds pictures, all of them as one step; gives a problem for each that could not be. */
  async pictures(
    files: readonly (Blob & { name?: string })[],
    from: PictureSource = {},
    change: (layer: PictureLayer) => PictureLayer = (l) => l,
  ): Promise<Problem[]> {
    const problems: Problem[] = [];
    const layers: Layer[] = [];
    const { signal: stop } = (this.controller = new AbortController());
    const into = this.workbench.graphic()?.id;
    this.busy.update((n) => n + 1);
    try {
      for (const file of files) {
        this.doing.set(file.name || 'a picture');
        const asset = await this.brought.bringIn(file, from, { signal: stop, toCanvas: true });
        const graphic = this.workbench.graphic();
        if (stop.aborted || !graphic || graphic.id !== into) break;
        if (asset.ok) {
          const so = { ...graphic, layers: [...graphic.layers, ...layers] };
          layers.push(change(await this.placing.logo(pictureLayer(asset.value, graphic), so)));
        } else if (asset.problem.code !== 'stopped') problems.push(asset.problem);
      }
    } catch (error) {
      if (!(error instanceof JobStopped)) problems.push(couldNot(error));
    } finally {
      this.busy.update((n) => n - 1);
    }
    if (layers.length && !stop.aborted)
      this.place(layers, layers.length === 1 ? `${layers[0]!.name} added` : `${layers.length} pictures added`);
    return problems;
  }

  /** Another picture in a layer's place, its frame and look kept. */
  async instead(layer: PictureLayer, file: File): Promise<Problem[]> {
    const { signal: stop } = (this.controller = new AbortController());
    const into = this.workbench.graphic()?.id;
    this.busy.update((n) => n + 1);
    this.doing.set(file.name || 'a picture');
    try {
      const asset = await this.brought.bringIn(file, {}, { signal: stop, toCanvas: true });
      const graphic = this.workbench.graphic();
      const now = graphic?.layers.find((l) => l.id === layer.id);
      if (!asset.ok) return asset.problem.code === 'stopped' ? [] : [asset.problem];
      if (!graphic || graphic.id !== into || !now || !isPicture(now)) return [];
      const by = replacement(asset.value, { x: 0.5, y: 0.5 });
      this.workbench.edit(
        { type: 'replace-layer', layer: swapped(now, by, graphic.canvas), name: `${by.name} in place of ${now.name}` },
        now.id,
      );
      return [];
    } catch (error) {
      return error instanceof JobStopped ? [] : [couldNot(error)];
    } finally {
      this.busy.update((n) => n - 1);
    }
  }

  /** Whether a layer is a logo that still stands on its sheet, as far as is known. */
  static onSheet(layer: Layer): layer is PictureLayer {
    return isPicture(layer) && layer.role === 'logo' && layer.opaque && !layer.vector && !layer.cutout;
  }

  /** Takes a logo off its sheet, as one step; gives what is to be told. */
  async clean(layer: PictureLayer): Promise<string> {
    const graphic = this.workbench.graphic();
    if (!graphic) return '';
    const off = await this.placing.cleaned(layer, graphic);
    if (!off) return 'There is no plain sheet around it to take away.';
    if (this.workbench.graphic()?.layers.includes(layer)) this.workbench.change(off, `${layer.name} off its sheet`);
    return '';
  }

  /** Words where there is room for them, open to be written. */
  async words(text = PLACEHOLDER): Promise<void> {
    await this.fresh.settle();
    const graphic = this.workbench.graphic();
    if (!graphic) return;
    const at = this.taken();
    // Under a title stands a line in the type of texts.
    const { heading, body } = this.house.style().type;
    const face = graphic.layers.some((l) => l.role === 'words' && l.visible) ? body : heading;
    const asked = withRuns(wordsLayer(graphic, text), { face });
    const layer = await this.placing.words(asked, graphic);
    if (this.workbench.graphic()?.id !== graphic.id) return;
    this.place([layer], 'Words added', at);
    this.fresh.watch(asked, layer);
    this.workbench.writingOn.set(layer.id);
  }

  /** Text that came from elsewhere, as words; what a block does not hold is told. */
  async written(text: string): Promise<void> {
    const { text: taken, left } = wordsTaken(text.trim());
    if (!taken) return;
    await this.words(taken);
    if (left) this.workbench.say(left);
  }

  /** Where new layers go, asked once. */
  private taken(): number | null {
    const at = this.insertAt();
    this.insertAt.set(null);
    return at;
  }

  /** A shape; a note goes behind the words that are selected, or behind words of its own. */
  async shape(kind: ShapeKind): Promise<void> {
    await this.fresh.settle();
    const graphic = this.workbench.graphic();
    if (!graphic) return;
    const name = `${shapeNames[kind]} added`;
    if (kind !== 'note') return this.place([shapeLayer(graphic, kind)], name);
    const selected = this.workbench.selected();
    if (selected?.role !== 'words') {
      const at = this.taken();
      const words = inkOn(await this.placing.words(inkOn(wordsLayer(graphic, 'A note'), 0.5), graphic), 1);
      if (this.workbench.graphic()?.id !== graphic.id) return;
      return this.place([shapeLayer(graphic, 'note', words), words], name, at);
    }
    const note = shapeLayer(graphic, 'note', selected);
    const at = graphic.layers.findIndex((l) => l.id === selected.id);
    this.insertAt.set(null);
    this.workbench.edit({ type: 'add-layer', layer: note, at, name }, note.id);
  }

  /** The outlines of an SVG as a shape. */
  async path(file: File): Promise<Problem[]> {
    if (file.size > MOST_PATH)
      return [bad('too-heavy', `“${file.name}” is too large for a shape. Add it as a picture instead.`).problem];
    const { signal: stop } = (this.controller = new AbortController());
    const into = this.workbench.graphic()?.id;
    this.doing.set(file.name || 'an outline');
    this.busy.update((n) => n + 1);
    const found = await readOutline(file, `“${cutText(file.name, 80, true)}”`, stop);
    this.busy.update((n) => n - 1);
    if (!found.ok) return found.problem.code === 'stopped' ? [] : [found.problem];
    const graphic = this.workbench.graphic();
    const name = nameFrom(file.name.replace(/\.svg$/i, ''), limits.name, 'Path');
    if (graphic && graphic.id === into) this.place([pathLayer(graphic, found.value, name)], `${name} added`);
    return [];
  }

  /** A veil: right behind the words that are to be read over it. */
  veil(): void {
    const graphic = this.workbench.graphic();
    if (!graphic) return;
    const first = graphic.layers.findIndex((l) => l.role === 'words');
    const asked = this.insertAt();
    this.insertAt.set(asked ?? (first < 0 ? null : first));
    this.place([veilLayer(graphic)], 'Veil added');
  }

  /** One of the house's logos, by its hash. */
  async logo(hash: string): Promise<Problem[]> {
    await this.fresh.settle();
    const asset = await this.repository.asset(hash);
    const graphic = this.workbench.graphic();
    if (!asset || !graphic)
      return [bad('gone', 'That logo is no longer in this browser. Add it again in House style.').problem];
    const at = this.taken();
    const layer = await this.placing.logo(pictureLayer(asset, graphic, 'logo'), graphic);
    if (this.workbench.graphic()?.id === graphic.id) this.place([layer], `${asset.name} added`, at);
    return [];
  }

  /** From the photo shelf: a picture of the person's own, of the site's, of the page, or an ornament. */
  async fromShelf(): Promise<Problem[]> {
    const graphic = this.workbench.graphic();
    if (!graphic) return [];
    const { ShelfDialog } = await import('../../media/shelf/shelf-dialog');
    const ref = this.dialogs.open<InstanceType<typeof ShelfDialog>, { slot: Slot }, ShelfChoice>(ShelfDialog, {
      width: '1040px',
      maxWidth: '94vw',
      autoFocus: 'first-tabbable',
      data: { slot: this.workbench.frame()!.slot },
    });
    const choice = await firstValueFrom(ref.afterClosed());
    if (!choice) return [];
    if ('file' in choice) {
      const { tint } = choice;
      return this.pictures([choice.file], choice.from, (l) => (tint ? { ...l, tint } : l));
    }
    const now = this.workbench.graphic();
    if (!now) return [];
    const at = this.taken();
    const layer = await this.placing.logo(pictureLayer(choice.asset, now), now);
    if (this.workbench.graphic()?.id === now.id) this.place([layer], `${choice.asset.name} added`, at);
    return [];
  }

  /** From a web address, fetched by the server. */
  async fromAddress(): Promise<Problem[]> {
    const { AddressDialog } = await import('../../media/shelf/address-dialog');
    const ref = this.dialogs.open<InstanceType<typeof AddressDialog>, never, File>(AddressDialog, { width: '560px' });
    const file = await firstValueFrom(ref.afterClosed());
    return file ? this.pictures([file]) : [];
  }

  cancel(): void {
    this.controller.abort();
  }

  private place(layers: readonly Layer[], name: string, at = this.taken()): void {
    this.workbench.edit({ type: 'add-layers', layers, name, ...(at === null ? {} : { at }) }, layers.at(-1)!.id);
  }
}
