import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { workbenchFeature } from './state/workbench.store';

@Component({
  selector: 'bs-root',
  host: { '(window:beforeunload)': 'leaving($event)' },
  imports: [RouterOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<router-outlet />',
  styles: ':host { display: block; height: 100%; }',
})
export class App {
  private readonly work = inject(Store).selectSignal(workbenchFeature.selectWorkbenchState);

  /** The browser asks before the page goes while something is not saved. */
  protected leaving(event: Event): void {
    const { saving, problem } = this.work();
    if (saving > 0 || problem) event.preventDefault();
  }
}
