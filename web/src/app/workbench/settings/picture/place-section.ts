import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal } from '@angular/core';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { MatTooltip } from '@angular/material/tooltip';
import {
  isPicture,
  boxAbout,
  coverFix,
  flippedLayer,
  meeting,
  middleOf,
  movedSeam,
  pictureScale,
  placeFor,
  placedBox,
  seamsOf,
  stretchOf,
  stretchText,
  stretchedLayer,
  turnedLayer,
  uncropped,
  type PictureLayer,
  type Seam,
} from '@bright-slot/core';
import { Icon } from '../../../ui/icon';
import { NumberField } from '../../../ui/number-field';
import { SliderField } from '../../../ui/slider-field';
import { AddLayers } from '../../layers/add-layers';
import { AlignFields } from '../align-fields';
import { PictureSection } from './section';
import { Trimming } from './trimming.service';
import { tickedOf } from '../../../ui/event-value';

/** Where a picture lies and how large: by intent, in px, in percent of its own pixels; mirrored and turned. */
@Component({
  selector: 'bs-place-section',
  imports: [AlignFields, NumberField, SliderField, Icon, MatTooltip, MatMenu, MatMenuItem, MatMenuTrigger],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './place-section.html',
  styles: `
    @use 'picture';
    .zoom {
      width: 262px;
      grid-template-columns: auto minmax(60px, 1fr) 78px 26px;
    }
    .turn {
      width: 112px;
    }
  `,
})
export class PlaceSection extends PictureSection {
  protected readonly tickedOf = tickedOf;
  private readonly adding = inject(AddLayers);
  private readonly trimming = inject(Trimming);
  protected readonly place = computed(() => this.layer().place);
  protected readonly box = computed(() => placedBox(this.layer(), this.canvas()));
  protected readonly zoom = computed(() => {
    const place = this.place();
    return place.mode === 'cover' ? place.zoom : null;
  });
  protected readonly percent = computed(() => pictureScale(this.layer(), this.canvas()) * 100);
  protected readonly stretched = computed(() => stretchText(stretchOf(this.place())));
  /** Proportions were let go, for this layer and only while it is selected; or it is out of them already. */
  private readonly letGo = linkedSignal<string, boolean>({
    source: () => this.layer().id,
    computation: (id, before) => before?.source === id && before.value,
  });
  protected readonly free = computed(() => this.letGo() || this.stretched() !== '');

  private readonly pictures = computed(() =>
    (this.workbench.working()?.layers ?? []).filter((l): l is PictureLayer => isPicture(l)),
  );
  protected readonly others = computed(() =>
    this.pictures().filter((l) => l.id !== this.layer().id && l.visible && !l.locked && l.role === 'photo'),
  );
  protected readonly seam = computed<Seam | null>(
    () =>
      seamsOf(this.pictures(), this.canvas()).find(
        (s) => s.before === this.layer().id || s.after === this.layer().id,
      ) ?? null,
  );

  protected cover(): void {
    this.workbench.edit(coverFix(this.layer(), this.canvas()).edit);
  }

  protected whole(): void {
    // What was trimmed or cropped away stays away.
    this.set({ place: { mode: 'contain' } }, 'shown whole');
  }

  /** A logo that came with its sheet. */
  protected readonly onSheet = computed(() => AddLayers.onSheet(this.layer()));

  protected cleanLogo(): Promise<void> {
    return this.during(() => this.adding.clean(this.layer()));
  }

  protected trim(): Promise<void> {
    return this.during(() => this.trimming.trim(this.layer()));
  }

  /** What was cropped or trimmed away is seen again. */
  protected allOfIt(): void {
    this.workbench.change(uncropped(this.layer(), this.canvas()), `${this.layer().name}: all of it again`);
  }

  /** What a picture is was only proposed: a photo covers the canvas, a logo stands on it, whole. */
  protected changeKind(): void {
    const layer = this.layer();
    const edit = coverFix({ ...layer, role: 'photo' }, this.canvas()).edit;
    if (layer.role === 'logo') this.workbench.edit({ ...edit, name: `${layer.name} is a photo` });
    else
      this.workbench.change(
        { ...layer, role: 'logo', place: layer.place.mode === 'cover' ? { mode: 'contain' } : layer.place },
        `${layer.name} is a logo`,
      );
  }

  protected keep(on: boolean): void {
    this.letGo.set(!on);
    if (on && this.stretched())
      this.workbench.change(stretchedLayer(this.layer(), 1, this.canvas()), `${this.layer().name} in true proportions`);
  }

  protected moveTo(axis: 'x' | 'y', to: number): void {
    this.set({ place: placeFor(this.layer(), { ...this.box(), [axis]: to }, this.canvas()) }, 'moved');
  }

  /** A new width or height about the middle of what shows; the other follows, unless proportions were let go. */
  protected resize(side: 'width' | 'height', to: number): void {
    const b = this.box();
    if (this.free()) {
      const size = { width: b.width, height: b.height, [side]: to };
      const own = b.width / b.height / stretchOf(this.place());
      const stretch = size.width / size.height / own;
      const layer = stretchedLayer(this.layer(), stretch, this.canvas());
      const placed = boxAbout(middleOf(b), size);
      this.workbench.change(
        { ...layer, place: { mode: 'free', x: placed.x, y: placed.y, width: placed.width, stretch } },
        `${layer.name} drawn out of proportion`,
        `stretch:${layer.id}`,
      );
      return;
    }
    this.scaleBy(to / b[side]);
  }

  private scaleBy(by: number): void {
    const b = this.box();
    const placed = boxAbout(middleOf(b), { width: b.width * by, height: b.height * by });
    this.set({ place: placeFor(this.layer(), placed, this.canvas()) }, 'resized');
  }

  protected setPercent(percent: number): void {
    this.scaleBy(percent / this.percent());
  }

  protected flip(axis: 'across' | 'down'): void {
    this.workbench.change(
      flippedLayer(this.layer(), axis),
      `${this.layer().name} mirrored ${axis === 'across' ? 'left to right' : 'top to bottom'}`,
    );
  }

  protected turn(degrees: number): void {
    const turned = turnedLayer(this.layer(), degrees);
    this.workbench.change(turned, `${turned.name} turned by ${turned.turn}°`, `turn:${turned.id}`);
  }

  private zoomed(zoom: number): Partial<PictureLayer> {
    const place = this.place();
    return place.mode === 'cover' ? { place: { ...place, zoom } } : {};
  }

  protected draftZoom(zoom: number): void {
    this.draft(this.zoomed(zoom), 'zoomed');
  }

  protected setZoom(zoom: number): void {
    this.set(this.zoomed(zoom), 'zoomed');
  }

  protected meetWith(other: PictureLayer, axis: 'x' | 'y', first: boolean): void {
    const at = (axis === 'y' ? this.canvas().height : this.canvas().width) / 2;
    const pair = first ? { before: other, after: this.layer() } : { before: this.layer(), after: other };
    this.pair(meeting(pair, axis, Math.round(at), this.canvas()), `${this.layer().name} meets ${other.name}`);
  }

  protected moveSeam(at: number): void {
    const seam = this.seam();
    const of = (id: string) => this.pictures().find((l) => l.id === id)!;
    if (!seam) return;
    const pair = movedSeam({ before: of(seam.before), after: of(seam.after) }, seam.axis, at, this.canvas());
    this.pair(pair, 'Meeting line moved', `seam:${seam.before}:${seam.after}`);
  }

  private pair(pair: { before: PictureLayer; after: PictureLayer }, name: string, merge?: string): void {
    this.workbench.edit({
      type: 'together',
      name,
      ...(merge ? { merge } : {}),
      edits: [
        { type: 'replace-layer', layer: pair.before },
        { type: 'replace-layer', layer: pair.after },
      ],
    });
  }
}
