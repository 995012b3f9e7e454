import { ChangeDetectionStrategy, Component, inject, input, linkedSignal, output } from '@angular/core';
import { ActivatedRoute } from '@angular/router';
import { MatSnackBar } from '@angular/material/snack-bar';
import { freeSlotName, sizeText, type Slot, type SlotSet } from '@bright-slot/core';
import { TextField } from '../../ui/text-field';
import { SlotBook } from '../../storage/slot-book.service';
import { today } from '../../ui/when';

type Own<T> = T extends unknown ? Omit<T, 'version' | 'id' | 'name' | 'site' | 'source'> : never;
/** A set without what it is called and where it is from. */
export type TogetherAs = Own<SlotSet>;

/** The end of every way: what was found gets a name and goes into the book. */
@Component({
  selector: 'bs-add-slot',
  imports: [TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (submit)="add($event)">
      <bs-text-field label="Name" [numeric]="false" [(text)]="name" />
      <button type="submit" class="button main" [disabled]="!slots().length || !name().trim()">{{ label() }}</button>
    </form>
  `,
  styles: `
    form {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 8px;
    }
  `,
})
export class AddSlot {
  /** One slot, or several that are named after the first with a number each. */
  readonly slots = input.required<readonly Slot[]>();
  readonly suggested = input.required<string>();
  readonly label = input('Add to the book');
  /** How they stand together, once they have their ids. */
  readonly together = input<(slots: readonly Slot[]) => TogetherAs | null>(() => null);
  readonly added = output<readonly Slot[]>();
  protected readonly name = linkedSignal(() => this.suggested());
  private readonly book = inject(SlotBook);
  private readonly snack = inject(MatSnackBar);
  /** The site that its places are looked for. */
  private readonly site = inject(ActivatedRoute).snapshot.queryParamMap.get('site')?.slice(0, 80) ?? '';

  protected async add(event: Event): Promise<void> {
    event.preventDefault();
    const base = this.name().trim().slice(0, 70);
    if (!base || !this.slots().length) return;
    const named: Slot[] = [];
    const dated = today();
    for (const slot of this.slots()) {
      const name = this.slots().length > 1 ? `${base}, ${slot.name}` : base;
      named.push({
        ...slot,
        site: slot.site || this.site,
        id: crypto.randomUUID(),
        name: freeSlotName(name, [...(this.book.slots() ?? []), ...named]),
        dated,
      });
    }
    const as = this.together()(named);
    const source = named[0]!.source.replace(/^(cell \d+|one) (of|in) /, '');
    const own = { version: 1, id: crypto.randomUUID(), name: base, site: named[0]!.site, source } as const;
    if (!(await this.book.putTogether(named, as ? [{ ...own, ...as }] : []))) return;
    const said =
      named.length === 1
        ? `“${named[0]!.name}”, ${sizeText(named[0]!)}, is in the book.`
        : `${named.length} slots are in the book.`;
    this.snack
      .open(said, 'Undo')
      .onAction()
      .subscribe(() => void this.book.remove(...named.map((s) => s.id)));
    this.added.emit(named);
  }
}
