import { ChangeDetectionStrategy, Component } from '@angular/core';
import { withRatio, type Border } from '@bright-slot/core';
import { CornerFields } from '../../../ui/corner-fields';
import { LineFields } from '../../../ui/line-fields';
import { ShadowFields } from '../../../ui/shadow-fields';
import { PictureSection } from './section';

/** What a picture stands in: its corners, a border, a shadow. */
@Component({
  selector: 'bs-frame-section',
  imports: [CornerFields, LineFields, ShadowFields],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <bs-corner-fields
      class="line"
      [corners]="layer().corners"
      [circle]="true"
      [disabled]="locked()"
      (changed)="set({ corners: $event }, 'corners')"
      (circled)="toCircle()"
    />
    <bs-line-fields
      class="line"
      [line]="layer().border"
      [usual]="border"
      [disabled]="locked()"
      (drafted)="draft({ border: $event }, 'border')"
      (changed)="set({ border: $event }, 'border')"
    />
    <bs-shadow-fields
      class="line"
      [shadow]="layer().shadow"
      [disabled]="locked()"
      (drafted)="draft({ shadow: $event }, 'shadow')"
      (changed)="set({ shadow: $event }, 'shadow')"
    />
  `,
  styles: `
    @use 'picture';
  `,
})
export class FrameSection extends PictureSection {
  protected readonly border: Border = { width: 3, colour: '#ffffff' };

  /** A circle needs a square: the longer side is cut about the middle. */
  protected toCircle(): void {
    const square = withRatio(this.layer(), 1, this.canvas());
    this.workbench.change({ ...square, corners: { kind: 'round' } }, `${square.name} as a circle`);
  }
}
