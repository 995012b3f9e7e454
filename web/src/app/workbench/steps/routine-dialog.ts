import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { RouterLink } from '@angular/router';
import { limits, routineOf, routineStep, type RoutineStep, type Step } from '@bright-slot/core';
import { Composing } from '../../document/composing.service';
import { Routines } from '../../storage/routines.service';
import { tickedOf, valueOf } from '../../ui/event-value';

interface Row {
  readonly step: RoutineStep;
  readonly wanted: boolean;
}

/** Chosen steps of the graphic at work, kept by a name, to be taken with others. */
@Component({
  selector: 'bs-routine-dialog',
  imports: [MatDialogModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Steps as a routine</h2>
    <mat-dialog-content>
      @if (kept()) {
        <p role="status">
          “{{ kept() }}” is kept. Take it with other graphics at
          <a routerLink="/everywhere" [queryParams]="{ routine: id }" mat-dialog-close>Replace everywhere</a>, each
          looked at before.
        </p>
      } @else {
        <p class="quiet small-text">
          What was done to the title is done to other graphics’ titles, what was done to the photo to their photos;
          where things lie and what they say stays theirs.
        </p>
        @if (rows(); as all) {
          <ul>
            @for (r of all; track $index) {
              <li>
                <label class="check"
                  ><input type="checkbox" [checked]="r.wanted" (change)="want($index, tickedOf($event))" />{{
                    r.step.name
                  }}</label
                >
                <span class="quiet small-text">{{ rolesOf(r.step) }}</span>
              </li>
            } @empty {
              <li class="quiet">
                Nothing of these steps can be done again elsewhere: they move, write or crop. Change a colour, a face, a
                look or a veil first.
              </li>
            }
          </ul>
        } @else {
          <p class="quiet" role="status">Reading the steps …</p>
        }
        <form id="routine" (submit)="$event.preventDefault(); keep()">
          <label class="field"
            ><span class="field-label">Name</span
            ><input [attr.maxlength]="most" autocomplete="off" [value]="name()" (input)="name.set(valueOf($event))"
          /></label>
        </form>
        @if (problem()) {
          <p class="problem-text" role="alert">{{ problem() }}</p>
        }
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" class="button" mat-dialog-close>{{ kept() ? 'Close' : 'Cancel' }}</button>
      @if (!kept()) {
        <button type="submit" form="routine" class="button main" [disabled]="!ready()">Keep it</button>
      }
    </mat-dialog-actions>
  `,
  styles: `
    mat-dialog-actions {
      gap: 8px;
    }
    ul {
      list-style: none;
      margin: 8px 0 14px;
      padding: 0;
    }
    li {
      display: flex;
      justify-content: space-between;
      gap: 14px;
      padding: 5px 0;
      border-bottom: 1px solid var(--hairline);
    }
  `,
})
export class RoutineDialog {
  private readonly data = inject<{ line: readonly Step[]; at: number }>(MAT_DIALOG_DATA);
  private readonly composing = inject(Composing);
  private readonly routines = inject(Routines);
  protected readonly valueOf = valueOf;
  protected readonly tickedOf = tickedOf;
  protected readonly most = limits.name;
  protected readonly id = crypto.randomUUID();
  protected readonly rows = signal<readonly Row[] | null>(null);
  protected readonly name = signal('');
  protected readonly kept = signal('');
  protected readonly problem = signal('');
  protected readonly ready = computed(() => this.name().trim() !== '' && (this.rows() ?? []).some((r) => r.wanted));

  constructor() {
    void this.read();
  }

  /** The steps up to where one stands, as far as they can be done again. */
  private async read(): Promise<void> {
    const rows: Row[] = [];
    const line = this.data.line.slice(0, this.data.at + 1);
    for (const [i, { name, graphic }] of line.entries()) {
      const before = line[i - 1];
      if (!before) continue;
      const { roles } = await this.composing.source(graphic);
      const step = routineStep(name, before.graphic, graphic, roles);
      if (step) rows.push({ step, wanted: true });
    }
    this.rows.set(rows);
  }

  protected want(at: number, wanted: boolean): void {
    this.rows.update((all) => all?.map((r, i) => (i === at ? { ...r, wanted } : r)) ?? null);
  }

  protected rolesOf({ changes }: RoutineStep): string {
    const of = changes.map((c) => (c.of === 'backdrop' ? 'ground' : c.of === 'new-veil' ? 'veil' : c.role));
    return [...new Set(of)].join(', ');
  }

  protected async keep(): Promise<void> {
    const graphic = this.data.line[this.data.at]?.graphic;
    if (!graphic || !this.ready()) return;
    const steps = (this.rows() ?? []).filter((r) => r.wanted).map((r) => r.step);
    const routine = routineOf({ id: this.id, name: this.name() }, graphic.canvas, steps);
    const problem = await this.routines.keep(routine);
    this.problem.set(problem?.message ?? '');
    if (!problem) this.kept.set(routine.name);
  }
}
