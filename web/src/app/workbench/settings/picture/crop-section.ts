import { ChangeDetectionStrategy, Component, computed, effect, inject } from '@angular/core';
import {
  isPicture,
  cropPart,
  partAsLayer,
  pictureGeometry,
  readRatio,
  uncropped,
  windowZoom,
  withFocus,
  withFrameSize,
  withOwnFrame,
  withPart,
  withRatio,
  zoomedInWindow,
  type Box,
  type PictureLayer,
  type Point,
  cutText,
  limits,
} from '@bright-slot/core';
import { NumberField } from '../../../ui/number-field';
import { SliderField } from '../../../ui/slider-field';
import { GraphicsRepository } from '../../../storage/graphics-repository';
import { PictureSection } from './section';

/** What of a picture shows: by zoom, by ratio, in exact px of its own or of the canvas; and its focus. */
@Component({
  selector: 'bs-crop-section',
  imports: [NumberField, SliderField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './crop-section.html',
  styles: `
    @use 'picture';
    .zoom {
      width: 280px;
      grid-template-columns: auto minmax(60px, 1fr) 78px 26px;
    }
    .ratio {
      width: 132px;
    }
  `,
})
export class CropSection extends PictureSection {
  private readonly repository = inject(GraphicsRepository);
  private known: { layer: string; focus: Point } | undefined;
  protected readonly part = computed(() => cropPart(this.layer(), this.canvas()));
  protected readonly frame = computed(() => pictureGeometry(this.layer(), this.canvas()).shown);
  protected readonly windowZoom = computed(() => windowZoom(this.layer(), this.canvas()));
  protected readonly mostZoom = computed(() => Math.max(6, Math.ceil(this.windowZoom())));
  protected readonly ratio = computed(() => (this.frame().width / this.frame().height).toFixed(2));

  /** A focus moved by hand is remembered with the picture, for other slots and graphics: at once, for a tab may close. */
  private readonly remembering = effect(() => {
    const id = this.layer().id;
    const now = this.workbench.graphic()?.layers.find((l) => l.id === id);
    if (!now || !isPicture(now)) return;
    const before = this.known?.layer === id ? this.known.focus : now.focus;
    this.known = { layer: id, focus: now.focus };
    if (now.focus !== before) void this.repository.moveFocus(now.asset, now.focus);
  });

  private crop(layer: PictureLayer): void {
    this.workbench.change(layer, `${layer.name} cropped`, `crop:${layer.id}`);
  }

  protected setPart(change: Partial<Box>): void {
    const part = { ...this.part(), ...change };
    const { width, height } = this.layer().natural;
    // A part that is moved further in ends where the photo does.
    if ('x' in change) part.width = Math.min(part.width, width - part.x);
    if ('y' in change) part.height = Math.min(part.height, height - part.y);
    this.crop(withPart(this.layer(), part, this.canvas()));
  }

  protected setFrame(change: Partial<Box>): void {
    this.crop(withFrameSize(this.layer(), { ...this.frame(), ...change }, this.canvas()));
  }

  protected setRatio(text: string): void {
    const ratio = readRatio(text);
    if (ratio) this.crop(withRatio(this.layer(), ratio, this.canvas()));
  }

  protected setFocus(change: Partial<Point>): void {
    const moved = withFocus(this.layer(), { ...this.layer().focus, ...change });
    this.workbench.change(moved, `Focus of ${moved.name} moved`, `focus:${moved.id}`);
  }

  private zoomed(zoom: number): PictureLayer {
    return zoomedInWindow(this.layer(), zoom / this.windowZoom(), this.canvas());
  }

  protected draftZoom(zoom: number): void {
    const layer = this.zoomed(zoom);
    this.workbench.draft.set({
      type: 'replace-layer',
      layer,
      name: `${layer.name} cropped`,
      merge: `crop:${layer.id}`,
    });
  }

  protected setZoom(zoom: number): void {
    this.crop(this.zoomed(zoom));
  }

  protected uncrop(): void {
    this.workbench.change(uncropped(this.layer(), this.canvas()), `${this.layer().name}: the whole photo again`);
  }

  protected ownFrame(): void {
    this.crop(withOwnFrame(this.layer(), this.canvas()));
  }

  /** What shows becomes a layer of its own above, where it lies; this one is as it was. */
  protected asLayer(): void {
    const layer = this.layer();
    const part = {
      ...partAsLayer(layer, this.part(), this.canvas()),
      id: crypto.randomUUID().slice(0, 8),
      name: `${cutText(layer.name, limits.name - 6)}, part`,
    };
    const at = this.workbench.graphic()!.layers.findIndex((l) => l.id === layer.id) + 1;
    this.workbench.edit({ type: 'add-layer', layer: part, at, name: `Part of ${layer.name} as a layer` }, part.id);
  }
}
