import { ChangeDetectionStrategy, Component, booleanAttribute, computed, input, output } from '@angular/core';
import { ColourField } from './colour-field';
import { NumberField } from './number-field';
import { tickedOf } from './event-value';

/** A line around something, or none: how wide, and its colour; what more there is to it stands between these. */
@Component({
  selector: 'bs-line-fields',
  imports: [NumberField, ColourField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (!always()) {
      <label class="tick"
        ><input
          type="checkbox"
          [checked]="!!line()"
          [disabled]="disabled()"
          (change)="changed.emit(tickedOf($event) ? usual() : null)"
        />
        {{ name() }}</label
      >
    }
    @if (line(); as l) {
      <bs-number
        [label]="wide()"
        [value]="l.width"
        [min]="0.1"
        [max]="most()"
        [places]="1"
        unit="px"
        [disabled]="disabled()"
        (changed)="changed.emit(with(l, { width: $event }))"
      />
      <ng-content />
      <bs-colour
        [label]="colourLabel()"
        [swatches]="swatches()"
        [value]="l.colour"
        [disabled]="disabled()"
        (drafted)="drafted.emit(with(l, { colour: $event }))"
        (changed)="changed.emit(with(l, { colour: $event }))"
      />
    }
  `,
  styles: `
    @use 'fields';
  `,
})
export class LineFields<L extends { readonly width: number; readonly colour: string }> {
  protected readonly tickedOf = tickedOf;
  readonly line = input.required<L | null>();
  /** What it begins with. */
  readonly usual = input.required<L>();
  readonly name = input('Border');
  /** What its width is called. */
  readonly wide = input('Width');
  readonly most = input(500);
  /** It cannot be taken away. */
  readonly always = input(false, { transform: booleanAttribute });
  /** Colours at hand beside its own; the house's where none are said. */
  readonly swatches = input<readonly string[] | null>(null);
  readonly disabled = input(false);
  readonly changed = output<L | null>();
  readonly drafted = output<L>();
  protected readonly colourLabel = computed(() => `Colour of the ${this.name().toLowerCase()}`);

  protected with(line: L, change: Partial<{ width: number; colour: string }>): L {
    return { ...line, ...change };
  }
}
