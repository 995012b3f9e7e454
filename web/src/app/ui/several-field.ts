import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** Any of a few, as buttons side by side; at least one stays chosen. Told in the order of the options. */
@Component({
  selector: 'bs-several',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'group', '[attr.aria-label]': 'label()' },
  template: `
    <span class="quiet">{{ word() }}</span>
    @for (o of options(); track o.id) {
      <button type="button" class="button small" [attr.aria-pressed]="chosen().includes(o.id)" (click)="toggle(o.id)">
        {{ o.name }}
      </button>
    }
  `,
  styles: ':host { display: flex; align-items: center; gap: 6px; font-size: 13px; }',
})
export class SeveralField<T extends string | number> {
  readonly label = input.required<string>();
  /** The label as it is seen, shorter. */
  readonly word = input.required<string>();
  readonly options = input.required<readonly { readonly id: T; readonly name: string }[]>();
  readonly chosen = input.required<readonly T[]>();
  readonly changed = output<T[]>();

  protected toggle(id: T): void {
    const [was, on] = [this.chosen(), !this.chosen().includes(id)];
    const now = this.options().flatMap((o) => ((o.id === id ? on : was.includes(o.id)) ? [o.id] : []));
    if (now.length) this.changed.emit(now);
  }
}
