import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { NumberField } from './number-field';

const labels = { x: 'x', y: 'y', width: 'w', height: 'h' } as const;
export type BoxKey = keyof typeof labels;

/** The figures of a box, or of a size, in one row; px. */
@Component({
  selector: 'bs-box-fields',
  imports: [NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (key of keys(); track key) {
      <bs-number
        [label]="labels[key]"
        [min]="isPlace(key) ? least() : 1"
        [max]="8192"
        [value]="box()[key] ?? 0"
        (changed)="set(key, $event)"
      />
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-auto-flow: column;
      grid-auto-columns: minmax(0, 1fr);
      gap: 6px;
    }
  `,
})
export class BoxFields<T extends Partial<Record<BoxKey, number>>> {
  readonly box = input.required<T>();
  /** Least x and y. */
  readonly least = input(0);
  readonly changed = output<T>();
  protected readonly labels = labels;
  protected readonly keys = computed(() => (Object.keys(labels) as BoxKey[]).filter((k) => k in this.box()));

  protected isPlace(key: BoxKey): boolean {
    return key === 'x' || key === 'y';
  }

  protected set(key: BoxKey, value: number): void {
    this.changed.emit({ ...this.box(), [key]: value });
  }
}
