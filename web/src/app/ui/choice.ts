import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

export interface Option<T extends string = string> {
  readonly id: T;
  readonly name: string;
  readonly disabled?: boolean;
  /** Why it cannot be chosen. */
  readonly why?: string;
}

/** One of a few, as buttons side by side, the chosen one pressed. */
@Component({
  selector: 'bs-choice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'group', '[attr.aria-label]': 'label()' },
  template: `
    @for (o of options(); track o.id) {
      <button
        type="button"
        class="button small"
        [attr.aria-pressed]="o.id === value()"
        [title]="o.disabled ? (o.why ?? '') : ''"
        [disabled]="disabled() || !!o.disabled"
        (click)="chosen.emit(o.id)"
      >
        {{ o.name }}
      </button>
    }
  `,
  styles: `
    :host {
      display: inline-flex;
      flex-wrap: wrap;
      gap: 4px;
    }
  `,
})
export class Choice<T extends string> {
  readonly label = input.required<string>();
  readonly options = input.required<readonly Option<T>[]>();
  readonly value = input.required<T>();
  readonly disabled = input(false);
  readonly chosen = output<T>();
}
