import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import type { ShelfItem } from '../media/shelf/shelf.service';
import { Icon } from '../ui/icon';

/** So many are shown before more is asked for. */
const FEW = 7;

/** Which picture stands in a place of a layout: one of the shelf, one from this computer, or none. */
@Component({
  selector: 'bs-picture-choice',
  imports: [Icon],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <h3 [id]="id()">{{ name() }}</h3>
      @if (chosen()) {
        <button
          type="button"
          class="button small bare"
          [attr.aria-label]="'No ' + name().toLowerCase()"
          (click)="taken.emit(null)"
        >
          None
        </button>
      }
    </div>
    <div class="row" role="group" [attr.aria-labelledby]="id()">
      @for (p of shown(); track p.id) {
        <button
          type="button"
          class="one"
          [class.clear]="p.transparent"
          [attr.aria-pressed]="chosen() === p.id"
          [attr.aria-label]="p.title"
          [title]="p.title"
          (click)="taken.emit(p)"
        >
          <img [src]="p.thumb" alt="" loading="lazy" />
        </button>
      }
      @if (items().length > few && !all()) {
        <button
          type="button"
          class="one more"
          (click)="all.set(true)"
          [attr.aria-label]="'All ' + name().toLowerCase() + 's'"
        >
          +{{ items().length - shown().length }}
        </button>
      }
      <button
        type="button"
        class="one more"
        [attr.aria-label]="'A ' + name().toLowerCase() + ' from this computer'"
        title="From this computer"
        (click)="picker.click()"
      >
        <bs-icon name="plus" />
      </button>
      <input
        #picker
        type="file"
        class="visually-hidden"
        accept="image/*,.svg"
        tabindex="-1"
        [attr.aria-label]="name() + ' from this computer'"
        (change)="bring(picker)"
      />
    </div>
  `,
  styles: `
    :host {
      display: block;
    }
    .head {
      display: flex;
      align-items: center;
      justify-content: space-between;
      min-height: 27px;
      margin-bottom: 4px;
    }
    h3 {
      margin: 0;
      font-size: 13px;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
    .one {
      width: 58px;
      height: 44px;
      padding: 0;
      border: 1px solid var(--border);
      border-radius: 4px;
      background: var(--ground-deep);
      overflow: hidden;
      cursor: pointer;
      font: inherit;
      font-size: 12.5px;
      color: var(--ink);
    }
    .one img {
      width: 100%;
      height: 100%;
      object-fit: cover;
      display: block;
    }
    .clear img {
      object-fit: contain;
      padding: 3px;
    }
    .one:hover {
      border-color: var(--ink);
    }
    .one[aria-pressed='true'] {
      border-color: var(--ink);
      box-shadow: 0 0 0 2px var(--light);
    }
    .more {
      background: none;
      border-style: dashed;
    }
  `,
})
export class PictureChoice {
  readonly name = input.required<string>();
  readonly items = input.required<readonly ShelfItem[]>();
  /** Its id on the shelf. */
  readonly chosen = input.required<string | null>();
  readonly taken = output<ShelfItem | null>();
  readonly brought = output<readonly File[]>();
  protected readonly few = FEW;
  protected readonly all = signal(false);
  protected readonly id = computed(() => `place-of-${this.name().toLowerCase().replace(/\W/g, '-')}`);
  /** A few of them, what is chosen always among them. */
  protected readonly shown = computed(() => {
    const items = this.items();
    if (this.all() || items.length <= FEW) return items;
    const first = items.slice(0, FEW - 1);
    const chosen = items.find((i) => i.id === this.chosen());
    return chosen && !first.includes(chosen) ? [chosen, ...first.slice(0, -1)] : first;
  });

  protected bring(picker: HTMLInputElement): void {
    const files = [...(picker.files ?? [])];
    picker.value = '';
    if (files.length) this.brought.emit(files);
  }
}
