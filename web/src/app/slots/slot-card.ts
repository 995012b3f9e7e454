import { MatSnackBar } from '@angular/material/snack-bar';
import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { type Slot } from '@bright-slot/core';
import { Icon } from '../ui/icon';
import { OwnPages } from '../storage/own-pages.service';
import { SlotBook } from '../storage/slot-book.service';
import { slotFacts } from './slot-facts';
import { SlotOnPage } from '../page/slot-on-page';

/** One slot of the book: on its page, all its figures, what can be done with it. */
@Component({
  selector: 'bs-slot-card',
  imports: [Icon, SlotOnPage],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <h2>{{ slot().name }}</h2>
      <button type="button" class="button icon small bare" aria-label="Close" (click)="closed.emit()">
        <bs-icon name="close" />
      </button>
    </div>
    @if (slot().site) {
      <p class="quiet small-text">{{ slot().site }}</p>
    }
    <bs-slot-on-page [slot]="slot()" />
    <div class="actions">
      <button type="button" class="button small" (click)="paged.emit()">
        {{ owned().length ? 'Another screenshot of it' : 'Show it in your own page' }}
      </button>
      @for (d of owned(); track d) {
        <button type="button" class="button small" (click)="dropPage(d)">Take the {{ d }}’s away</button>
      }
    </div>
    <div class="actions">
      <button type="button" class="button main" (click)="started.emit()">Start a graphic</button>
      <button type="button" class="button" (click)="edited.emit()">Edit</button>
      <button type="button" class="button" (click)="copied.emit()">Duplicate</button>
      <button type="button" class="button icon" aria-label="Delete" (click)="removed.emit()">
        <bs-icon name="trash" />
      </button>
    </div>
    <dl class="facts">
      @for (f of facts(); track $index) {
        <dt>{{ f[0] }}</dt>
        <dd>{{ f[1] }}</dd>
      }
      <dt>Page’s ground</dt>
      <dd><span class="chip" [style.background]="slot().ground"></span>{{ slot().ground }}</dd>
    </dl>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 10px;
    }
    .head {
      display: flex;
      align-items: flex-start;
      justify-content: space-between;
      gap: 8px;
    }
    .actions {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
  `,
})
export class SlotCard {
  readonly slot = input.required<Slot>();
  readonly closed = output();
  readonly started = output();
  readonly edited = output();
  readonly copied = output();
  readonly removed = output();
  /** A screenshot of its page is to be taken. */
  readonly paged = output();
  private readonly ownPages = inject(OwnPages);
  /** The devices whose page is the person's own. */
  protected readonly owned = computed(() => {
    const page = this.ownPages.of(this.slot().id);
    return (['desktop', 'phone'] as const).filter((d) => page?.[d]);
  });

  protected dropPage(device: 'desktop' | 'phone'): void {
    const slot = this.slot().id;
    void this.ownPages.dropShot(slot, device).then((before) =>
      this.snack
        .open('The screenshot is taken away.', 'Undo')
        .onAction()
        .subscribe(() => void this.ownPages.restore(slot, before)),
    );
  }
  private readonly snack = inject(MatSnackBar);
  private readonly book = inject(SlotBook);
  protected readonly facts = computed(() => slotFacts(this.slot(), this.book.setWith(this.slot().id)));
}
