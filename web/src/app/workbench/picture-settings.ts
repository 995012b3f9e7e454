import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatSlider, MatSliderThumb } from '@angular/material/slider';
import { coverFix, pictureGeometry, pictureScale, placeFor, type PictureLayer } from '@bright-slot/core';
import { NumberField } from '../shared/number-field';
import { Workbench } from '../state/draft';

@Component({
  selector: 'bs-picture-settings',
  imports: [NumberField, MatSlider, MatSliderThumb],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './picture-settings.html',
  styleUrl: './picture-settings.scss',
})
export class PictureSettings {
  readonly layer = input.required<PictureLayer>();
  private readonly workbench = inject(Workbench);
  protected readonly canvas = computed(() => this.workbench.graphic()!.canvas);
  protected readonly shown = computed(() => pictureGeometry(this.layer(), this.canvas()).shown);
  protected readonly scale = computed(() => pictureScale(this.layer(), this.canvas()));
  protected readonly zoom = computed(() => {
    const { place } = this.layer();
    return place.mode === 'cover' ? place.zoom : null;
  });
  protected readonly percent = computed(() => Math.round(this.scale() * 100));

  protected cover(): void {
    this.workbench.edit(coverFix(this.layer()).edit);
  }

  /** Its whole self within the canvas, in the middle. */
  protected whole(): void {
    const { natural } = this.layer();
    const { width, height } = this.canvas();
    const by = Math.min(width / natural.width, height / natural.height);
    const w = natural.width * by;
    this.workbench.change(
      {
        ...this.layer(),
        crop: null,
        place: { mode: 'free', x: (width - w) / 2, y: (height - natural.height * by) / 2, width: w },
      },
      `${this.layer().name} shown whole`,
    );
  }

  protected moveTo(axis: 'x' | 'y', to: number): void {
    const box = { ...this.shown(), [axis]: to };
    this.workbench.change(
      { ...this.layer(), place: placeFor(this.layer(), box, this.canvas()) },
      `${this.layer().name} moved`,
      `place:${this.layer().id}`,
    );
  }

  /** A new width, in proportion, about the middle of what shows. */
  protected resize(width: number): void {
    const b = this.shown();
    const height = (b.height * width) / b.width;
    const box = { x: b.x + (b.width - width) / 2, y: b.y + (b.height - height) / 2, width, height };
    this.workbench.change(
      { ...this.layer(), place: placeFor(this.layer(), box, this.canvas()) },
      `${this.layer().name} resized`,
      `resize:${this.layer().id}`,
    );
  }

  private zoomed(zoom: number): PictureLayer {
    const { place } = this.layer();
    return place.mode === 'cover' ? { ...this.layer(), place: { ...place, zoom } } : this.layer();
  }

  protected draftZoom(zoom: number): void {
    this.workbench.draft.set({
      type: 'replace-layer',
      layer: this.zoomed(zoom),
      name: `${this.layer().name} zoomed to ${Math.round(zoom * 100)} %`,
    });
  }

  protected setZoom(): void {
    this.workbench.commitDraft();
  }
}
