import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { valueOf } from './event-value';

/** A labelled text of one line, as typed; what it means is for its owner to read. */
@Component({
  selector: 'bs-text-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="field" [class.wrong]="wrong()">
      <span class="field-label" [class.visually-hidden]="quiet()">{{ label() }}</span>
      <input
        type="text"
        autocomplete="off"
        spellcheck="false"
        [attr.inputmode]="numeric() ? 'decimal' : null"
        [attr.aria-invalid]="wrong()"
        [class.number]="numeric()"
        [placeholder]="placeholder()"
        [value]="text()"
        (input)="text.set(valueOf($event))"
      />
      @if (unit()) {
        <span class="unit">{{ unit() }}</span>
      }
    </label>
  `,
  styles: ':host { display: block; min-width: 0; } input.number { text-align: right; }',
})
export class TextField {
  protected readonly valueOf = valueOf;
  readonly label = input.required<string>();
  readonly text = model.required<string>();
  readonly unit = input('');
  readonly placeholder = input('');
  readonly numeric = input(true);
  readonly wrong = input(false);
  /** The label is for readers only. */
  readonly quiet = input(false);
}
