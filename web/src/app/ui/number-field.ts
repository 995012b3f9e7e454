import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from '@angular/core';
import { readSum } from '@bright-slot/core';
import { valueOf } from './event-value';

/** A labelled number: typed, also as a sum (940/2), or stepped with the arrow keys (Shift: ten steps). Commas are taken as decimal points. */
@Component({
  selector: 'bs-number',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="field" [class.wrong]="wrong()">
      <span class="field-label" [class.visually-hidden]="quiet()">{{ label() }}</span>
      <input
        #field
        type="text"
        inputmode="decimal"
        autocomplete="off"
        [attr.aria-invalid]="wrong()"
        [attr.data-taken]="text() === figure(value()) || null"
        [value]="text()"
        [disabled]="disabled()"
        (input)="typed(valueOf($event))"
        (change)="commit()"
        (keydown)="key($event)"
        (focus)="field.select()"
      />
      @if (unit()) {
        <span class="unit">{{ unit() }}</span>
      }
    </label>
  `,
  styles: ':host { display: block; min-width: 0; } input { text-align: right; }',
})
export class NumberField {
  protected readonly valueOf = valueOf;
  readonly label = input.required<string>();
  readonly value = input.required<number>();
  readonly min = input(-100000);
  readonly max = input(100000);
  readonly step = input(1);
  readonly unit = input('');
  readonly places = input(0);
  readonly disabled = input(false);
  /** The label is said, not shown. */
  readonly quiet = input(false);
  /** A new value, committed; `live` while it is being stepped. */
  readonly changed = output<number>();

  protected readonly text = linkedSignal(() => this.figure(this.value()));
  protected readonly wrong = computed(() => this.read(this.text()) === null);

  protected figure(n: number): string {
    return String(Math.round(n * 10 ** this.places()) / 10 ** this.places());
  }

  private read(text: string): number | null {
    const n = readSum(text);
    return n !== null && n >= this.min() && n <= this.max() ? n : null;
  }

  protected typed(text: string): void {
    this.text.set(text);
  }

  protected commit(): void {
    const n = this.read(this.text());
    if (n === null) this.text.set(this.figure(this.value()));
    else if (this.figure(n) !== this.figure(this.value())) this.changed.emit(n);
  }

  protected key(event: KeyboardEvent): void {
    if (event.key === 'Enter') return this.commit();
    if (event.key === 'Escape') return this.text.set(this.figure(this.value()));
    if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
    event.preventDefault();
    const by = this.step() * (event.shiftKey ? 10 : 1) * (event.key === 'ArrowUp' ? 1 : -1);
    const n = Math.min(this.max(), Math.max(this.min(), (this.read(this.text()) ?? this.value()) + by));
    this.text.set(this.figure(n));
    this.changed.emit(n);
  }
}
