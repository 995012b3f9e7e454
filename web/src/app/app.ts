import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { holdsFiles } from './ui/dropped';
import { workbenchFeature } from './document/workbench.store';

@Component({
  selector: 'bs-root',
  host: {
    '(window:beforeunload)': 'leaving($event)',
    '(window:pageshow)': 'shown($event)',
    '(window:dragover)': 'over($event)',
    '(window:drop)': 'droppedAside($event)',
  },
  imports: [RouterOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<router-outlet />',
  styles: ':host { display: block; height: 100%; }',
})
export class App {
  private readonly work = inject(Store).selectSignal(workbenchFeature.selectWorkbenchState);

  /** What is dropped where nobody takes it would open in the app's place, and all would be gone. */
  protected over(event: DragEvent): void {
    if (event.defaultPrevented || !holdsFiles(event)) return;
    event.preventDefault();
    event.dataTransfer!.dropEffect = 'none';
  }

  protected droppedAside(event: DragEvent): void {
    if (holdsFiles(event)) event.preventDefault();
  }

  /** A page that the browser kept frozen comes back without its workers, and others may have written since: it is read anew. */
  protected shown(event: PageTransitionEvent): void {
    if (event.persisted) location.reload();
  }

  /** The browser asks before the page goes while something is not saved. */
  protected leaving(event: Event): void {
    const { saving, problem } = this.work();
    if (saving > 0 || problem) event.preventDefault();
  }
}
