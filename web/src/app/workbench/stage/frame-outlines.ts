import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { sizeText } from '@bright-slot/core';
import { Workbench } from '../../document/workbench';
import type { View } from './canvas-handles';

/** Where each frame of a canvas lies, and which of them is in hand: pressed to be taken. */
@Component({
  selector: 'bs-frame-outlines',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div role="group" aria-label="Frames">
      @for (f of outlines(); track f.id) {
        <span
          class="outline"
          [class.in-hand]="f.inHand"
          [class.round]="f.round"
          [style.left.px]="f.left"
          [style.top.px]="f.top"
          [style.width.px]="f.width"
          [style.height.px]="f.height"
        ></span>
        <button
          type="button"
          class="tag"
          [attr.aria-label]="f.label"
          [attr.aria-pressed]="f.inHand"
          [title]="f.label"
          [style.left.px]="f.left"
          [style.top.px]="f.top"
          (click)="workbench.take(f.id)"
        >
          {{ f.number }}
        </button>
      }
    </div>
  `,
  styles: `
    .outline {
      position: absolute;
      box-shadow: 0 0 0 1px var(--ink);
      pointer-events: none;
    }
    .outline.round {
      border-radius: 50%;
    }
    .outline.in-hand {
      box-shadow:
        0 0 0 1px var(--ink),
        0 0 0 3px var(--light),
        0 0 36px 4px rgb(242 176 30 / 28%);
    }
    .tag {
      position: absolute;
      z-index: 4;
      min-width: 24px;
      height: 24px;
      transform: translate(-1px, calc(-100% - 2px));
      padding: 0 6px;
      border: 1px solid var(--ink);
      border-radius: var(--corner) var(--corner) 0 0;
      background: var(--surface);
      color: var(--ink);
      font: inherit;
      font-size: 12.5px;
      font-weight: 600;
      cursor: pointer;
    }
    .tag[aria-pressed='true'] {
      background: var(--light);
    }
  `,
})
export class FrameOutlines {
  readonly view = input.required<View>();
  protected readonly workbench = inject(Workbench);
  protected readonly outlines = computed(() => {
    const { x, y, zoom } = this.view();
    const graphic = this.workbench.shown();
    const inHand = this.workbench.frame()?.id;
    return (graphic?.frames ?? []).map(({ id, rect, slot }, i) => ({
      id,
      number: i + 1,
      label: `Frame ${i + 1}: ${slot.name}, ${sizeText(slot)} px`,
      inHand: id === inHand,
      round: slot.shape.kind === 'ellipse',
      left: x + rect.x * zoom,
      top: y + rect.y * zoom,
      width: rect.width * zoom,
      height: rect.height * zoom,
    }));
  });
}
