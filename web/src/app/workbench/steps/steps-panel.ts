import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import { Store } from '@ngrx/store';
import { Icon } from '../../ui/icon';
import { whenText } from '../../ui/when';
import { Workbench } from '../../document/workbench';
import { workbenchFeature } from '../../document/workbench.store';

/** The steps from the beginning to where redo would lead; any of them can be gone to. */
@Component({
  selector: 'bs-steps-panel',
  imports: [Icon],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="Steps">
      <div class="head">
        <h2 class="panel-title">Steps</h2>
        <button type="button" class="button icon small bare" aria-label="Close steps" (click)="closed.emit()">
          <bs-icon name="close" />
        </button>
      </div>
      <ol>
        @for (step of line(); track step.id; let i = $index) {
          <li>
            <button
              type="button"
              [class.here]="step.id === head()"
              [class.ahead]="i > headAt()"
              [attr.aria-current]="step.id === head() ? 'step' : null"
              (click)="go(step.id)"
            >
              <span class="name">{{ step.name }}</span><span class="quiet small-text">{{ time(step.at) }}</span>
            </button>
          </li>
        }
      </ol>
    </section>
  `,
  styles: `
    section {
      padding: 16px 18px;
    }
    .head {
      display: flex;
      justify-content: space-between;
      align-items: center;
    }
    ol {
      list-style: none;
      margin: 10px -8px 0;
      padding: 0;
      display: flex;
      flex-direction: column-reverse;
    }
    button {
      font: inherit;
      color: var(--ink);
    }
    li button {
      display: flex;
      gap: 8px;
      width: 100%;
      align-items: baseline;
      padding: 6px 8px;
      border: 0;
      background: none;
      border-radius: var(--corner);
      cursor: pointer;
      text-align: left;
    }
    li button:hover {
      background: var(--ground);
    }
    li button.here {
      background: var(--light-pale);
      box-shadow: inset 3px 0 var(--ink);
      font-weight: 600;
    }
    li button.ahead .name {
      color: var(--ink-soft);
      font-style: italic;
    }
    .name {
      flex: 1;
    }
  `,
})
export class StepsPanel {
  readonly closed = output();
  private readonly store = inject(Store);
  private readonly workbench = inject(Workbench);
  private readonly history = this.store.selectSignal(workbenchFeature.selectHistory);
  protected readonly line = this.store.selectSignal(workbenchFeature.selectLine);
  protected readonly head = () => this.history()?.head;
  protected readonly headAt = () => this.line().findIndex((s) => s.id === this.head());

  protected go(step: string): void {
    this.workbench.goTo(step);
  }

  protected readonly time = whenText;
}
