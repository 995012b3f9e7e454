import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatSlider, MatSliderThumb } from '@angular/material/slider';
import {
  coverFix,
  cropPart,
  pictureGeometry,
  pictureScale,
  placeFor,
  uncropped,
  windowZoom,
  withPart,
  zoomedInWindow,
  type Box,
  type PictureLayer,
} from '@bright-slot/core';
import { Icon } from '../shared/icon';
import { NumberField } from '../shared/number-field';
import { SectionTabs } from '../shared/section-tabs';
import { Workbench } from '../state/draft';

@Component({
  selector: 'bs-picture-settings',
  imports: [NumberField, SectionTabs, Icon, MatSlider, MatSliderThumb],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './picture-settings.html',
  styleUrl: './picture-settings.scss',
})
export class PictureSettings {
  readonly layer = input.required<PictureLayer>();
  protected readonly workbench = inject(Workbench);
  protected readonly canvas = computed(() => this.workbench.graphic()!.canvas);
  protected readonly shown = computed(() => pictureGeometry(this.layer(), this.canvas()).shown);
  protected readonly scale = computed(() => pictureScale(this.layer(), this.canvas()));
  protected readonly zoom = computed(() => {
    const { place } = this.layer();
    return place.mode === 'cover' ? place.zoom : null;
  });
  protected readonly percent = computed(() => Math.round(this.scale() * 100));

  protected readonly cropping = computed(() => this.workbench.cropping() === this.layer().id);
  protected readonly part = computed(() => cropPart(this.layer(), this.canvas()));
  protected readonly windowZoom = computed(() => windowZoom(this.layer(), this.canvas()));
  protected readonly mostZoom = computed(() => Math.max(6, Math.ceil(this.windowZoom())));

  protected setPart(change: Partial<Box>): void {
    this.workbench.change(
      withPart(this.layer(), { ...this.part(), ...change }, this.canvas()),
      `${this.layer().name} cropped`,
      `crop:${this.layer().id}`,
    );
  }

  protected draftWindowZoom(zoom: number): void {
    this.workbench.draft.set({
      type: 'replace-layer',
      layer: zoomedInWindow(this.layer(), zoom / this.windowZoom(), this.canvas()),
      name: `${this.layer().name} cropped`,
      merge: `crop:${this.layer().id}`,
    });
  }

  protected uncrop(): void {
    this.workbench.change(uncropped(this.layer(), this.canvas()), `${this.layer().name}: the whole photo again`);
  }

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
