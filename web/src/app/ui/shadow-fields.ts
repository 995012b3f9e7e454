import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { usualShadow, type Shadow } from '@bright-slot/core';
import { ColourField } from './colour-field';
import { NumberField } from './number-field';
import { tickedOf } from './event-value';

/** A drop shadow, or none: how far away, which way, how soft, how strong, in which colour. */
@Component({
  selector: 'bs-shadow-fields',
  imports: [NumberField, ColourField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="tick"
      ><input
        type="checkbox"
        [checked]="!!shadow()"
        [disabled]="disabled()"
        (change)="changed.emit(tickedOf($event) ? usual() : null)"
      />
      Shadow</label
    >
    @if (shadow(); as s) {
      <bs-number
        label="Away"
        [value]="s.distance"
        [min]="0"
        [max]="1000"
        [places]="1"
        unit="px"
        [disabled]="disabled()"
        (changed)="changed.emit({ ...s, distance: $event })"
      />
      <bs-number
        label="Angle"
        [value]="s.angle"
        [min]="-360"
        [max]="360"
        unit="°"
        [disabled]="disabled()"
        (changed)="changed.emit({ ...s, angle: $event })"
      />
      <bs-number
        label="Blur"
        [value]="s.blur"
        [min]="0"
        [max]="500"
        [places]="1"
        unit="px"
        [disabled]="disabled()"
        (changed)="changed.emit({ ...s, blur: $event })"
      />
      <bs-number
        label="Strength"
        class="strength"
        [value]="s.strength * 100"
        [min]="0"
        [max]="100"
        unit="%"
        [disabled]="disabled()"
        (changed)="changed.emit({ ...s, strength: $event / 100 })"
      />
      <bs-colour
        label="Colour of the shadow"
        [swatches]="[]"
        [value]="s.colour"
        [disabled]="disabled()"
        (drafted)="drafted.emit({ ...s, colour: $event })"
        (changed)="changed.emit({ ...s, colour: $event })"
      />
    }
  `,
  styles: `
    @use 'fields';
    .strength {
      width: 150px;
    }
  `,
})
export class ShadowFields {
  protected readonly tickedOf = tickedOf;
  readonly shadow = input.required<Shadow | null>();
  /** What it begins with. */
  readonly usual = input<Shadow>(usualShadow);
  readonly disabled = input(false);
  /** What is another now; null where there is to be none. */
  readonly changed = output<Shadow | null>();
  readonly drafted = output<Shadow>();
}
