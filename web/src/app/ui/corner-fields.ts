import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import type { Corners } from '@bright-slot/core';
import { Choice, type Option } from './choice';
import { NumberField } from './number-field';

type Radii = (Corners & { kind: 'rounded' })['radii'];

/** Straight or rounded corners, all alike or each by itself; a circle where there can be one. */
@Component({
  selector: 'bs-corner-fields',
  imports: [Choice, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="label">Corners</span>
    <bs-choice
      label="Corners"
      [options]="kinds()"
      [value]="corners().kind"
      [disabled]="disabled()"
      (chosen)="choose($event)"
    />
    @if (radii(); as r) {
      @if (apart()) {
        @for (name of names; track name; let i = $index) {
          <bs-number
            [label]="name"
            [value]="r[i]!"
            [min]="0"
            [max]="4000"
            [places]="1"
            unit="px"
            [disabled]="disabled()"
            (changed)="radius(i, $event)"
          />
        }
      } @else {
        <bs-number
          label="Radius"
          [value]="r[0]"
          [min]="0"
          [max]="4000"
          [places]="1"
          unit="px"
          [disabled]="disabled()"
          (changed)="radius(null, $event)"
        />
        @if (eachOwn()) {
          <button type="button" class="button small" [disabled]="disabled()" (click)="each.set(true)">
            Each by itself
          </button>
        }
      }
    }
  `,
  styles: `
    @use 'fields';
    .label {
      font-size: 12.5px;
      font-weight: 600;
      color: var(--ink-soft);
      min-width: 84px;
    }
  `,
})
export class CornerFields {
  readonly corners = input.required<Corners>();
  readonly disabled = input(false);
  /** Whether a circle can be made of it. */
  readonly circle = input(false);
  /** Whether each corner can have a radius of its own. */
  readonly eachOwn = input(true);
  readonly changed = output<Corners>();
  readonly circled = output();
  protected readonly names = ['Top left', 'Top right', 'Bottom right', 'Bottom left'];
  protected readonly radii = computed(() => {
    const c = this.corners();
    return c.kind === 'rounded' ? c.radii : null;
  });
  protected readonly each = signal(false);
  protected readonly apart = computed(() => this.eachOwn() && (this.each() || new Set(this.radii()).size > 1));

  protected readonly kinds = computed((): Option<Corners['kind']>[] => [
    { id: 'straight', name: 'Straight' },
    { id: 'rounded', name: 'Rounded' },
    ...(this.circle() ? [{ id: 'round' as const, name: 'Circle' }] : []),
  ]);

  protected choose(kind: Corners['kind']): void {
    if (kind === 'round') this.circled.emit();
    else this.changed.emit(kind === 'straight' ? { kind } : { kind, radii: [16, 16, 16, 16] });
  }

  protected radius(which: number | null, to: number): void {
    const radii = this.radii()!.map((r, i) => (which === null || which === i ? to : r)) as Radii;
    this.changed.emit({ kind: 'rounded', radii });
  }
}
