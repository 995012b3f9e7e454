import { ChangeDetectionStrategy, Component, booleanAttribute, computed, inject, input } from '@angular/core';
import type { PictureLayer } from '@bright-slot/core';
import { SectionTabs } from '../../../ui/section-tabs';
import { Workbench, type PictureSectionId } from '../../../document/workbench';
import { CropSection } from './crop-section';
import { CutoutSection } from './cutout-section';
import { EdgeSection } from './edge-section';
import { FrameSection } from './frame-section';
import { LookSection } from './look-section';
import { PhotosSection } from './photos-section';
import { PlaceSection } from './place-section';

/** A picture's settings, a section at a time. */
@Component({
  selector: 'bs-picture-settings',
  imports: [
    SectionTabs,
    PlaceSection,
    CropSection,
    LookSection,
    FrameSection,
    EdgeSection,
    CutoutSection,
    PhotosSection,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <bs-section-tabs [sections]="sections()" [open]="open()" (chosen)="choose($event)" />
    <div role="tabpanel" [attr.aria-label]="nameOf(open())">
      @switch (open()) {
        @case ('place') {
          <bs-place-section [layer]="layer()" />
        }
        @case ('crop') {
          <bs-crop-section [layer]="layer()" />
        }
        @case ('look') {
          <bs-look-section [layer]="layer()" />
        }
        @case ('frame') {
          <bs-frame-section [layer]="layer()" />
        }
        @case ('edge') {
          <bs-edge-section [layer]="layer()" />
        }
        @case ('cutout') {
          <bs-cutout-section [layer]="layer()" />
        }
        @case ('photos') {
          <bs-photos-section [layer]="layer()" />
        }
      }
    </div>
  `,
})
export class PictureSettings {
  readonly layer = input.required<PictureLayer>();
  /** What is set is set for several: nothing of one alone is shown. */
  readonly several = input(false, { transform: booleanAttribute });
  private readonly workbench = inject(Workbench);
  private readonly all: readonly { id: PictureSectionId; name: string }[] = [
    { id: 'place', name: 'Place' },
    { id: 'crop', name: 'Crop' },
    { id: 'look', name: 'Look' },
    { id: 'frame', name: 'Frame' },
    { id: 'edge', name: 'Edge' },
    { id: 'cutout', name: 'Cut out' },
    { id: 'photos', name: 'Another photo' },
  ];
  protected readonly sections = computed(() =>
    this.several() ? this.all.filter((s) => s.id === 'look' || s.id === 'frame' || s.id === 'edge') : this.all,
  );
  protected readonly open = computed<PictureSectionId>(() => {
    if (this.several()) return this.sections().find((s) => s.id === this.workbench.section())?.id ?? 'look';
    if (this.workbench.cropping() === this.layer().id) return 'crop';
    const section = this.workbench.section();
    return section === 'crop' ? 'place' : section;
  });

  protected nameOf(id: PictureSectionId): string {
    return this.all.find((s) => s.id === id)!.name;
  }

  protected choose(id: PictureSectionId): void {
    this.workbench.cropping.set(id === 'crop' && !this.layer().locked ? this.layer().id : null);
    if (id !== 'crop') this.workbench.section.set(id);
  }
}
