import { ChangeDetectionStrategy, Component } from '@angular/core';
import { usualShadow, withRatio, type Border, type Shadow } from '@bright-slot/core';
import { ColourField } from '../../shared/colour-field';
import { CornerFields } from '../../shared/corner-fields';
import { NumberField } from '../../shared/number-field';
import { ShadowFields } from '../../shared/shadow-fields';
import { PictureSection } from './section';

/** What a picture stands in: its corners, a border, a shadow. */
@Component({
  selector: 'bs-frame-section',
  imports: [NumberField, ColourField, CornerFields, ShadowFields],
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
    <div class="line">
      <label class="tick label"
        ><input
          type="checkbox"
          [checked]="!!layer().border"
          [disabled]="locked()"
          (change)="bordered($any($event.target).checked ? { width: 3, colour: '#ffffff' } : null)"
        />
        Border</label
      >
      @if (layer().border; as b) {
        <bs-number
          label="Width"
          [value]="b.width"
          [min]="0.1"
          [max]="500"
          [places]="1"
          unit="px"
          [disabled]="locked()"
          (changed)="bordered({ width: $event, colour: b.colour })"
        />
        <bs-colour
          label="Colour of the border"
          [value]="b.colour"
          (drafted)="draft({ border: { width: b.width, colour: $event } }, 'border')"
          (changed)="bordered({ width: b.width, colour: $event })"
        />
      }
    </div>
    <bs-shadow-fields
      class="line"
      [shadow]="layer().shadow"
      [disabled]="locked()"
      (drafted)="draft(withShadow($event), 'shadow')"
      (changed)="set(withShadow($event), 'shadow')"
    />
  `,
  styles: `
    @use 'picture';
    .tick {
      display: inline-flex;
      align-items: center;
      gap: 6px;
      min-width: 74px;
    }
  `,
})
export class FrameSection extends PictureSection {
  /** A circle needs a square: the longer side is cut about the middle. */
  protected toCircle(): void {
    const square = withRatio(this.layer(), 1, this.canvas());
    this.workbench.change({ ...square, corners: { kind: 'round' } }, `${square.name} as a circle`);
  }

  protected bordered(border: Border | null): void {
    this.set({ border }, 'border');
  }

  protected withShadow(change: Partial<Shadow> | null) {
    return { shadow: change && { ...(this.layer().shadow ?? usualShadow), ...change } };
  }
}
