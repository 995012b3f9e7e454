import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { tickedOf } from './event-value';

/** A box to be ticked, and what it stands for. */
@Component({
  selector: 'bs-tick',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<label class="check"
    ><input type="checkbox" [checked]="ticked()" [disabled]="disabled()" (change)="changed.emit(tickedOf($event))" />
    {{ label() }}</label
  >`,
  styles: ':host { display: block; min-width: 0; }',
})
export class TickField {
  readonly label = input.required<string>();
  readonly ticked = input.required<boolean>();
  readonly disabled = input(false);
  readonly changed = output<boolean>();
  protected readonly tickedOf = tickedOf;
}
