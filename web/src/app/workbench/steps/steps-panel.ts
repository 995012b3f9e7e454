import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { Store } from '@ngrx/store';
import { Icon } from '../../ui/icon';
import { whenText } from '../../ui/when';
import { Workbench } from '../../document/workbench';
import { workbenchFeature } from '../../document/workbench.store';

/** The steps from the beginning to where redo would lead; any of them can be gone to. */
@Component({
  selector: 'bs-steps-panel',
  imports: [Icon, MatMenu, MatMenuItem, MatMenuTrigger],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="Steps">
      <div class="head">
        <h2 class="panel-title">Steps</h2>
        <button type="button" class="button icon small bare" aria-label="Close steps" (click)="closed.emit()">
          <bs-icon name="close" />
        </button>
      </div>
      <div class="versions">
        <h3>Versions</h3>
        <form class="name-it" (submit)="$event.preventDefault(); keep(field.value); field.value = ''">
          <input
            #field
            class="field"
            type="text"
            aria-label="Name for this state"
            [placeholder]="here() ? 'This is “' + here() + '”' : 'Name this state'"
            [attr.maxlength]="120"
            autocomplete="off"
          />
          <button type="submit" class="button small">Keep it</button>
        </form>
        @for (v of versions(); track v.id) {
          <div class="version" [class.here]="v.id === head()">
            <button type="button" class="go" [attr.aria-current]="v.id === head() ? 'step' : null" (click)="go(v.id)">
              <span class="name">{{ v.called }}</span><span class="quiet small-text">{{ time(v.at) }}</span>
            </button>
            <button
              type="button"
              class="button icon small bare"
              [matMenuTriggerFor]="menu"
              [attr.aria-label]="'More for version ' + v.called"
            >
              <bs-icon name="dots" />
            </button>
            <mat-menu #menu="matMenu">
              <button mat-menu-item type="button" (click)="go(v.id)">Come back to it</button>
              <button mat-menu-item type="button" (click)="compare(v.id)">Compare with what is here now</button>
              <button mat-menu-item type="button" (click)="workbench.call(v.id, '')">Take its name away</button>
            </mat-menu>
          </div>
        } @empty {
          <p class="quiet small-text">
            A state with a name is come back to, gone on from another way, and compared. Nothing is written over.
          </p>
        }
        @if (line().length > 1) {
          <button type="button" class="button small" (click)="compare(null)">Compare</button>
          <button type="button" class="button small" (click)="asRoutine()">Save steps as a routine …</button>
        }
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
              <span class="name"
                >{{ step.name }}
                @if (step.called) {
                  <strong class="tag">{{ step.called }}</strong>
                }</span
              ><span class="quiet small-text">{{ time(step.at) }}</span>
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
      min-width: 0;
      overflow-wrap: anywhere;
    }
    .tag {
      border: 1px solid var(--border);
      border-radius: 3px;
      padding: 0 5px;
      font-size: 11.5px;
    }
    .versions {
      margin: 8px 0 4px;
      padding-bottom: 12px;
      border-bottom: 1px solid var(--hairline);
      display: flex;
      flex-direction: column;
      gap: 6px;
      align-items: stretch;
    }
    .versions > .button {
      align-self: flex-start;
    }
    .versions p {
      margin: 0;
    }
    h3 {
      margin: 0;
      font-size: 13px;
    }
    .name-it {
      display: flex;
      gap: 6px;
    }
    .name-it input {
      font: inherit;
      flex: 1;
      min-width: 0;
    }
    .version {
      display: flex;
      align-items: center;
      border-radius: var(--corner);
    }
    .name-it {
      align-items: center;
    }
    .version.here {
      background: var(--light-pale);
      box-shadow: inset 3px 0 var(--ink);
    }
    .go {
      flex: 1;
      min-width: 0;
      display: flex;
      gap: 8px;
      align-items: baseline;
      padding: 6px 8px;
      border: 0;
      background: none;
      text-align: left;
      cursor: pointer;
      font-weight: 600;
    }
  `,
})
export class StepsPanel {
  readonly closed = output();
  private readonly store = inject(Store);
  protected readonly workbench = inject(Workbench);
  private readonly history = this.store.selectSignal(workbenchFeature.selectHistory);
  protected readonly line = this.store.selectSignal(workbenchFeature.selectLine);
  protected readonly head = () => this.history()?.head;
  protected readonly headAt = () => this.line().findIndex((s) => s.id === this.head());

  protected readonly versions = this.store.selectSignal(workbenchFeature.selectVersions);
  /** What the state that is shown is called. */
  protected readonly here = computed(() => this.history()?.steps.get(this.history()!.head)?.called ?? '');
  private readonly dialogs = inject(MatDialog);

  protected keep(name: string): void {
    const head = this.history()?.head;
    if (head && name.trim()) this.workbench.call(head, name);
  }

  /** Versions beside each other: one and what is here now, or any two. */
  protected async compare(version: string | null): Promise<void> {
    const { CompareDialog } = await import('../versions/compare-dialog');
    this.dialogs.open(CompareDialog, {
      data: { version },
      width: '1180px',
      maxWidth: '96vw',
      autoFocus: 'first-tabbable',
    });
  }

  /** Chosen steps, to be taken with other graphics. */
  protected async asRoutine(): Promise<void> {
    const { RoutineDialog } = await import('./routine-dialog');
    this.dialogs.open(RoutineDialog, {
      data: { line: this.line(), at: this.headAt() },
      width: '560px',
      maxWidth: '94vw',
      autoFocus: 'first-tabbable',
    });
  }

  protected go(step: string): void {
    this.workbench.goTo(step);
  }

  protected readonly time = whenText;
}
