import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { sizeText, type Slot } from '@bright-slot/core';
import { SlotBook } from '../../storage/slot-book.service';
import { valueOf } from '../../ui/event-value';

/** Which slot of the book a sum is about. */
@Component({
  selector: 'bs-slot-select',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="field"
      ><span class="field-label">{{ label() }}</span
      ><select (change)="pick(valueOf($event))">
        @for (s of all(); track s.id) {
          <option [value]="s.id" [selected]="s.id === slot()?.id">
            {{ s.name }}{{ s.name.includes('×') ? '' : ', ' + sizeOf(s) }}
          </option>
        }
      </select></label
    >
  `,
  styles: ':host { display: block; min-width: 0; } select { text-overflow: ellipsis; }',
})
export class SlotSelect {
  protected readonly valueOf = valueOf;
  readonly label = input('Slot');
  readonly slot = input.required<Slot | null>();
  readonly chosen = output<Slot>();
  private readonly book = inject(SlotBook);
  protected readonly all = computed(() =>
    [...(this.book.slots() ?? [])].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true })),
  );
  protected readonly sizeOf = sizeText;

  protected pick(id: string): void {
    const slot = this.book.byId().get(id);
    if (slot) this.chosen.emit(slot);
  }
}
