import { Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import { MatSnackBar, type MatSnackBarRef, type TextOnlySnackBar } from '@angular/material/snack-bar';
import {
  atEnd,
  cutText,
  fillingFrame,
  framesForPhotos,
  isPicture,
  type PictureLayer,
  type Point,
  type Problem,
} from '@bright-slot/core';
import { Workbench } from '../../document/workbench';
import { AddLayers } from './add-layers';

/** Whatever comes to the workbench from outside, and what is said of it. */
@Injectable()
export class BringIn {
  private readonly workbench = inject(Workbench);
  private readonly add = inject(AddLayers);
  private readonly snack = inject(MatSnackBar);
  private offered: MatSnackBarRef<TextOnlySnackBar> | undefined;
  private readonly offeredFor = signal<string | null>(null);
  private readonly offeredLayer = computed(() =>
    this.workbench.graphic()?.layers.find((l) => l.id === this.offeredFor()),
  );

  constructor() {
    // What was offered is done, or its logo is gone.
    effect(() => {
      const layer = this.offeredLayer();
      if (this.offeredFor() === null || (layer && AddLayers.onSheet(layer))) return;
      untracked(() => {
        this.offered?.dismiss();
        this.offeredFor.set(null);
      });
    });
  }

  async files(
    files: readonly File[],
    change: (layer: PictureLayer) => PictureLayer = (l) => l,
    at: Point | null = null,
  ): Promise<void> {
    const graphic = this.workbench.graphic();
    if (!graphic || !this.workbench.writes()) return;
    // Of a set of places each photo fills one.
    const frames = framesForPhotos(graphic, files.length, at);
    const placed = (layer: PictureLayer) => {
      const frame = layer.role === 'photo' ? frames.shift() : undefined;
      return frame ? fillingFrame(layer, frame.rect) : change(layer);
    };
    this.tell(await this.add.pictures(files, {}, placed));
    const layer = this.workbench.selected();
    if (files.length === 1 && layer && AddLayers.onSheet(layer)) this.offerCleaning(layer.id, layer.name);
  }

  /** Files that were chosen. */
  async chosen(files: FileList | null): Promise<void> {
    await this.files([...(files ?? [])]);
  }

  /**
   * Files that were let go over the workbench. On a picture's place in the layer list, or with "Another photo" open, one
   * takes that picture's place; at an end of a wide canvas (`at`, canvas px) it stands there.
   */
  async dropped(files: readonly File[], on: Element | null, at: Point | null): Promise<void> {
    if (!this.workbench.writes()) return;
    const layer = on?.closest<HTMLElement>('[data-layer]')?.dataset['layer'];
    const trying = this.workbench.section() === 'photos' ? this.workbench.selectedId() : null;
    const old = this.workbench.graphic()?.layers.find((l) => l.id === (layer ?? trying));
    if (files.length === 1 && old && isPicture(old) && !old.locked)
      return this.tell(await this.add.instead(old, files[0]!));
    await this.files(files, (l) => (at ? atEnd(l, at, this.workbench.graphic()!.canvas) : l), at);
  }

  /** An outline, as a shape. */
  async outline(files: FileList | null): Promise<void> {
    const file = files?.[0];
    if (file && this.workbench.writes()) this.tell(await this.add.path(file));
  }

  async logo(hash: string): Promise<void> {
    this.tell(await this.add.logo(hash));
  }

  async fromShelf(): Promise<void> {
    this.tell(await this.add.fromShelf());
  }

  async fromAddress(): Promise<void> {
    this.tell(await this.add.fromAddress());
  }

  tell(problems: readonly Problem[]): void {
    for (const p of problems) this.snack.open(p.message, 'Close', { duration: 15_000, politeness: 'assertive' });
  }

  /** A logo came with its sheet: to have it off is one press. */
  private offerCleaning(id: string, name: string): void {
    this.offered?.dismiss();
    this.offered = this.snack.open(`“${cutText(name, 40, true)}” stands on a plain sheet.`, 'Clean logo', {
      duration: 12_000,
    });
    this.offeredFor.set(id);
    this.offered.onAction().subscribe(() => {
      const layer = this.workbench.graphic()?.layers.find((l) => l.id === id);
      if (layer && AddLayers.onSheet(layer))
        void this.add.clean(layer).then((told) => told && this.workbench.say(told));
    });
  }
}
