import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { valueOf } from './event-value';

/** One of a list, labelled. */
@Component({
  selector: 'bs-select',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="field"
      ><span [class.field-label]="!quiet()" [class.visually-hidden]="quiet()">{{ label() }}</span
      ><select (change)="choose(valueOf($event))">
        @for (o of options(); track o.id) {
          <option [value]="o.id" [selected]="o.id === value()">{{ o.name }}</option>
        }
      </select></label
    >
  `,
  styles: ':host { display: block; min-width: 0; } select { text-overflow: ellipsis; }',
})
export class SelectField<T extends string> {
  readonly label = input.required<string>();
  readonly options = input.required<readonly { readonly id: T; readonly name: string }[]>();
  readonly value = input.required<T>();
  /** The label is for readers only. */
  readonly quiet = input(false);
  readonly changed = output<T>();
  protected readonly valueOf = valueOf;

  protected choose(id: string): void {
    const option = this.options().find((o) => o.id === id);
    if (option) this.changed.emit(option.id);
  }
}
