import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { HouseStyleService } from '../storage/house-style.service';
import { SlotBook } from '../storage/slot-book.service';
import { workbenchFeature } from '../document/workbench.store';

/** "Saved 14:02", only when it is. */
@Component({
  selector: 'bs-save-state',
  imports: [MatTooltip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<span
    role="status"
    class="small-text"
    [class.problem-text]="problem()"
    [matTooltip]="problem()?.message ?? ''"
    >{{ text() }}</span
  >`,
  styles: ':host { color: var(--ink-soft); white-space: nowrap; }',
})
export class SaveState {
  private readonly store = inject(Store);
  private readonly house = inject(HouseStyleService);
  private readonly book = inject(SlotBook);
  private readonly state = this.store.selectSignal(workbenchFeature.selectWorkbenchState);
  protected readonly problem = computed(() => this.state().problem);
  protected readonly text = computed(() => {
    const { saving, problem } = this.state();
    const times = [this.state().savedAt, this.house.savedAt(), this.book.savedAt()].filter((t) => t !== null);
    const savedAt = times.length ? Math.max(...times) : null;
    if (problem) return 'Not saved';
    if (saving > 0) return 'Saving …';
    return savedAt === null
      ? ''
      : `Saved ${new Date(savedAt).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}`;
  });
}
