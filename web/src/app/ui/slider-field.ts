import { ChangeDetectionStrategy, Component, booleanAttribute, computed, input, output } from '@angular/core';
import { MatSlider, MatSliderThumb } from '@angular/material/slider';
import { Icon } from './icon';
import { NumberField } from './number-field';
import { numberOf } from './event-value';

/** A slider with its figure typed beside it, and a way back that appears once it was changed. */
@Component({
  selector: 'bs-slider',
  imports: [MatSlider, MatSliderThumb, NumberField, Icon],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="name" aria-hidden="true">{{ label() }}</span>
    <mat-slider [min]="min()" [max]="max()" [step]="step()" [disabled]="disabled()"
      ><input
        matSliderThumb
        [value]="value() * by()"
        [attr.aria-label]="label()"
        (input)="drafted.emit(numberOf($event) / by())"
        (change)="changed.emit(numberOf($event) / by())"
    /></mat-slider>
    <bs-number
      [label]="label() + ', figure'"
      [quiet]="true"
      [value]="value() * by()"
      [min]="min()"
      [max]="max()"
      [step]="step()"
      [places]="places() ?? (step() < 1 ? 1 : 0)"
      [unit]="shownUnit()"
      [disabled]="disabled()"
      (changed)="changed.emit($event / by())"
    />
    <button
      type="button"
      class="back"
      [class.away]="!altered()"
      [disabled]="!altered() || disabled()"
      [attr.aria-label]="label() + ' as it was, ' + usual() * by()"
      (click)="changed.emit(usual())"
    >
      <bs-icon name="reset" />
    </button>
  `,
  styles: `
    :host {
      display: grid;
      grid-template: 34px / 82px minmax(60px, 1fr) 78px 26px;
      align-items: center;
      gap: 6px;
      min-width: 0;
    }
    .name {
      font-size: 12.5px;
      font-weight: 600;
      color: var(--ink-soft);
      white-space: nowrap;
    }
    mat-slider {
      min-width: 0;
      margin: 0 6px;
    }
    .back {
      border: 0;
      background: none;
      padding: 4px;
      color: var(--ink-soft);
      cursor: pointer;
      display: inline-flex;
      border-radius: var(--corner);
    }
    .back:hover {
      color: var(--ink);
      background: var(--ground-deep);
    }
    .away {
      visibility: hidden;
    }
  `,
})
export class SliderField {
  protected readonly numberOf = numberOf;
  readonly label = input.required<string>();
  /** In the model's unit. */
  readonly value = input.required<number>();
  readonly usual = input(0);
  /** The value is a share, shown in hundredths. */
  readonly share = input(false, { transform: booleanAttribute });
  readonly min = input(0);
  readonly max = input(100);
  readonly step = input(1);
  /** Decimals of the figure, where not those of a step. */
  readonly places = input<number | null>(null);
  readonly unit = input('');
  readonly disabled = input(false);
  readonly drafted = output<number>();
  readonly changed = output<number>();
  protected readonly by = computed(() => (this.share() ? 100 : 1));
  protected readonly shownUnit = computed(() => (this.share() ? '%' : this.unit()));
  protected readonly altered = computed(() => Math.abs(this.value() - this.usual()) > 1e-9);
}
