import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { sizeText, type Slot } from '@bright-slot/core';
import { SlotBook } from '../../storage/slot-book.service';
import { SelectField } from '../../ui/select-field';

/** Which slot of the book a sum is about. */
@Component({
  selector: 'bs-slot-select',
  imports: [SelectField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<bs-select [label]="label()" [options]="options()" [value]="slot()?.id ?? ''" (changed)="pick($event)" />`,
  styles: ':host { display: block; min-width: 0; }',
})
export class SlotSelect {
  readonly label = input('Slot');
  readonly slot = input.required<Slot | null>();
  readonly chosen = output<Slot>();
  private readonly book = inject(SlotBook);
  protected readonly options = computed(() =>
    [...(this.book.slots() ?? [])]
      .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }))
      .map((s) => ({ id: s.id, name: s.name.includes('×') ? s.name : `${s.name}, ${sizeText(s)}` })),
  );

  protected pick(id: string): void {
    const slot = this.book.byId().get(id);
    if (slot) this.chosen.emit(slot);
  }
}
