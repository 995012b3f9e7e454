import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output } from '@angular/core';
import { HouseStyleService } from '../house-style/house-style.service';

/** The one colour control: swatches to hand, the browser's own picker, and the hex figure. */
@Component({
  selector: 'bs-colour',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <fieldset>
      <legend class="visually-hidden">{{ label() }}</legend>
      @for (c of toHand(); track c) {
        <button
          type="button"
          class="swatch"
          [style.background]="c"
          [attr.aria-pressed]="c === value()"
          [attr.aria-label]="label() + ' ' + c"
          (click)="changed.emit(c)"
        ></button>
      }
      <label class="field">
        <input
          type="color"
          [value]="value()"
          [attr.aria-label]="label() + ', picker'"
          (input)="drafted.emit($any($event.target).value)"
          (change)="changed.emit($any($event.target).value)"
        />
        <input
          class="hex"
          type="text"
          maxlength="7"
          spellcheck="false"
          [value]="text()"
          [attr.aria-label]="label() + ', hex'"
          (input)="text.set($any($event.target).value)"
          (change)="commit()"
          (keydown.enter)="commit()"
        />
      </label>
    </fieldset>
  `,
  styles: `
    fieldset {
      border: 0;
      padding: 0;
      margin: 0;
      display: flex;
      align-items: center;
      gap: 6px;
      min-width: 0;
    }
    .swatch {
      width: 26px;
      height: 26px;
      border-radius: var(--corner);
      border: 1px solid var(--border);
      cursor: pointer;
      padding: 0;
      flex: none;
    }
    .swatch[aria-pressed='true'] {
      outline: 2px solid var(--ink);
      outline-offset: 2px;
    }
    .field {
      padding: 0 8px;
    }
    input[type='color'] {
      width: 20px;
      height: 20px;
      flex: none;
      cursor: pointer;
      border: 1px solid var(--border);
      border-radius: 4px;
    }
    .hex {
      width: 64px;
      flex: none;
    }
  `,
})
export class ColourField {
  readonly label = input('Colour');
  readonly value = input.required<string>();
  /** Colours to hand; the house style's unless given. */
  readonly swatches = input<readonly string[] | null>(null);
  private readonly house = inject(HouseStyleService);
  protected readonly toHand = computed(() => this.swatches() ?? this.house.style().colours.slice(0, 8));
  readonly changed = output<string>();
  readonly drafted = output<string>();
  protected readonly text = linkedSignal(() => this.value());

  protected commit(): void {
    const raw = this.text().trim().toLowerCase().replace(/^#?/, '#');
    const full = /^#[0-9a-f]{3}$/.test(raw) ? raw.replace(/[0-9a-f]/g, '$&$&') : raw;
    if (/^#[0-9a-f]{6}$/.test(full)) {
      if (full !== this.value()) this.changed.emit(full);
    } else this.text.set(this.value());
  }
}
