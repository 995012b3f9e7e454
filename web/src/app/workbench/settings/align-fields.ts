import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal } from '@angular/core';
import { MatOption, MatSelect } from '@angular/material/select';
import { MatTooltip } from '@angular/material/tooltip';
import type { Alignment } from '@bright-slot/core';
import { withKeys } from '../../document/shortcuts';
import { Workbench } from '../../document/workbench';
import { Icon, type IconName } from '../../ui/icon';
import { LayerActions, type AlignTo } from '../layers/layer-actions';

/** What is selected brought in line: with the canvas, the safe area, each other or the one selected last. */
@Component({
  selector: 'bs-align-fields',
  imports: [Icon, MatOption, MatSelect, MatTooltip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-select
      class="field to"
      aria-label="Bring in line with"
      [value]="to()"
      [disabled]="locked()"
      (selectionChange)="to.set($event.value)"
    >
      <mat-option value="canvas">To the canvas</mat-option>
      @if (safe()) {
        <mat-option value="safe">To the safe area</mat-option>
      }
      @if (several()) {
        <mat-option value="selection">To each other</mat-option>
        <mat-option value="last">To the last selected</mat-option>
      }
    </mat-select>
    @for (set of sets; track $index) {
      <span class="set" role="group" [attr.aria-label]="$first ? 'Across' : 'Up and down'">
        @for (a of set; track a.by) {
          <button
            type="button"
            class="button icon"
            [attr.aria-label]="a.name"
            [matTooltip]="a.name"
            [disabled]="locked()"
            (click)="actions.align(a.by, to())"
          >
            <bs-icon [name]="a.icon" />
          </button>
        }
      </span>
    }
    <button
      type="button"
      class="button icon"
      aria-label="To the middle, both ways"
      [matTooltip]="middleTip"
      [disabled]="locked()"
      (click)="actions.centre(to() === 'safe' ? 'safe' : 'canvas')"
    >
      <bs-icon name="in-middle" />
    </button>
    @if (several()) {
      <span class="set" role="group" aria-label="Gaps">
        @for (g of gaps; track g.axis) {
          <button
            type="button"
            class="button icon"
            [attr.aria-label]="g.name"
            [matTooltip]="few() ? 'Equal gaps need three things, or the canvas' : g.name"
            [disabled]="locked() || few()"
            (click)="actions.spread(g.axis, to())"
          >
            <bs-icon [name]="g.icon" />
          </button>
        }
      </span>
      <span class="set" role="group" aria-label="Sizes">
        @for (s of sizes; track s.axis) {
          <button
            type="button"
            class="button icon"
            [attr.aria-label]="s.name + asWhat()"
            [matTooltip]="s.name + asWhat()"
            [disabled]="locked()"
            (click)="actions.sameSize(s.axis, to())"
          >
            <bs-icon [name]="s.icon" />
          </button>
        }
      </span>
    }
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      flex-wrap: wrap;
      gap: 8px;
    }
    .to {
      width: 168px;
      font-size: 13px;
    }
    .set {
      display: inline-flex;
      gap: 2px;
    }
  `,
})
export class AlignFields {
  protected readonly actions = inject(LayerActions);
  private readonly workbench = inject(Workbench);
  protected readonly middleTip = withKeys('To the middle, both ways', 'centre');
  protected readonly sets: readonly (readonly { by: Alignment; name: string; icon: IconName }[])[] = [
    [
      { by: 'left', name: 'To the left edge', icon: 'edge-left' },
      { by: 'centre', name: 'Centre across', icon: 'middle-across' },
      { by: 'right', name: 'To the right edge', icon: 'edge-right' },
    ],
    [
      { by: 'top', name: 'To the top', icon: 'edge-top' },
      { by: 'middle', name: 'Centre up and down', icon: 'middle-down' },
      { by: 'bottom', name: 'To the foot', icon: 'edge-foot' },
    ],
  ];
  protected readonly gaps = [
    { axis: 'x', name: 'Equal gaps across', icon: 'gaps-across' },
    { axis: 'y', name: 'Equal gaps down', icon: 'gaps-down' },
  ] as const;
  protected readonly sizes = [
    { axis: 'x', name: 'As wide', icon: 'as-wide' },
    { axis: 'y', name: 'As high', icon: 'as-high' },
  ] as const;

  protected readonly several = computed(() => this.workbench.several().length > 1);
  protected readonly locked = computed(() => this.actions.chosen().every((l) => l.locked));
  protected readonly safe = computed(() => this.workbench.frame()?.slot.safe.kind !== 'all');
  /** What it is done to; each other is meant where several are, the canvas for one. */
  protected readonly to = linkedSignal<boolean, AlignTo>({
    source: this.several,
    computation: (several, before) => (before?.source === several ? before.value : several ? 'selection' : 'canvas'),
  });
  protected readonly asWhat = computed(() =>
    this.to() === 'canvas' ? ' as the canvas' : this.to() === 'safe' ? ' as the safe area' : ' as the last selected',
  );

  /** Whether there are too few for gaps between them. */
  protected few(): boolean {
    const most = this.to() === 'canvas' || this.to() === 'safe' ? 2 : 3;
    return this.actions.units().length < most;
  }
}
