import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { exportRoutineOf, routineText, weightText, type ExportRoutine } from '@bright-slot/core';
import { ExportSession } from '../output/export-session';
import { RoutineRun } from '../output/routine-run';
import { ExportRoutines } from '../storage/export-routines.service';
import { valueOf } from '../ui/event-value';
import { panelStyles } from './panel-styles';

/** The routines of a graphic's slot, each done in one press; and the choices that are made here, kept as one. */
@Component({
  selector: 'bs-routines-here',
  imports: [RouterLink],
  providers: [RoutineRun],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<h3>Routines</h3>
    @for (r of here(); track r.id) {
      <div class="routine">
        <button
          type="button"
          class="button small main"
          [disabled]="run.done() !== null"
          [title]="text(r)"
          (click)="start(r)"
        >
          Run “{{ r.name }}”
        </button>
        <span class="quiet small-text">{{ text(r) }}</span>
        <button type="button" class="button bare small" (click)="putOn(r, false)">
          Take “{{ r.name }}” off this slot
        </button>
      </div>
    }
    @if (others().length) {
      <label class="field small-text"
        >Put another on this slot
        <select #another (change)="putOnBy(another)">
          <option value="" selected>Choose a routine</option>
          @for (r of others(); track r.id) {
            <option [value]="r.id">{{ r.name }}</option>
          }
        </select></label
      >
    }
    @if (run.done(); as d) {
      <div class="row" role="status">
        <span class="small-text">{{ d.made }} of {{ d.of }} made …</span>
        <button type="button" class="button small" (click)="run.cancel()">Cancel</button>
      </div>
    }
    @for (made of run.report(); track made.name) {
      <p class="small-text made">
        <strong>{{ made.name }}</strong> {{ weight(made.bytes) }}{{ made.told ? '. ' + made.told : '' }}
      </p>
    }
    <p class="small-text" role="status">{{ run.said() || told() }}</p>
    <p class="small-text problem-text" role="alert">{{ run.problem() }}</p>
    <form class="row" (submit)="keep($event)">
      <label class="field"
        ><span class="visually-hidden">Name of the routine</span
        ><input maxlength="60" placeholder="Name these choices" [value]="name()" (input)="name.set(valueOf($event))"
      /></label>
      <button type="submit" class="button small">Keep as a routine</button>
    </form>
    <a class="small-text" routerLink="/exports">Several graphics and routines in one go</a>`,
  styles: [
    panelStyles,
    `
      .routine {
        display: flex;
        flex-direction: column;
        align-items: flex-start;
        gap: 3px;
      }
      .made {
        overflow-wrap: anywhere;
      }
      .row {
        display: flex;
        align-items: center;
        gap: 8px;
      }
      .row .field {
        flex: 1;
      }
    `,
  ],
})
export class RoutinesHere {
  protected readonly valueOf = valueOf;
  protected readonly text = routineText;
  protected readonly weight = weightText;
  private readonly out = inject(ExportSession);
  private readonly routines = inject(ExportRoutines);
  protected readonly run = inject(RoutineRun);
  protected readonly name = signal('');
  protected readonly told = signal('');
  /** Those that are put on this slot. */
  protected readonly here = computed(() => {
    const id = this.out.slot()?.id;
    return this.routines.all().filter((r) => id !== undefined && r.slots.includes(id));
  });

  protected readonly others = computed(() => {
    const own = this.here();
    return this.routines.all().filter((r) => !own.includes(r));
  });

  protected async putOn({ id, name }: ExportRoutine, is: boolean): Promise<void> {
    const slot = this.out.slot();
    if (!slot) return;
    const problem = await this.routines.putOn(id, slot.id, is);
    this.told.set(
      problem
        ? problem.message
        : `“${name}” is ${is ? 'put on' : 'taken off'} “${slot.name}”${is ? '' : '; it is still kept'}.`,
    );
  }

  protected async putOnBy(select: HTMLSelectElement): Promise<void> {
    const routine = this.others().find((r) => r.id === select.value);
    select.value = '';
    if (routine) await this.putOn(routine, true);
  }

  protected async start(routine: ExportRoutine): Promise<void> {
    this.told.set('');
    await this.run.run([this.out.graphic()!.id], [routine]);
  }

  protected async keep(event: Event): Promise<void> {
    event.preventDefault();
    const [frame, slot] = [this.out.frame(), this.out.slot()];
    if (!frame || !slot) return;
    const routine = exportRoutineOf(crypto.randomUUID(), this.name(), frame.export, slot);
    const problem = await this.routines.keep(routine);
    this.told.set(problem ? problem.message : `“${routine.name}” is kept, for every graphic of “${slot.name}”.`);
    if (!problem) this.name.set('');
  }
}
