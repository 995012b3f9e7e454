import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { Backdrop } from '@bright-slot/core';
import { FillFields } from '../../../ui/fill-fields';
import { SectionTabs } from '../../../ui/section-tabs';
import { Workbench } from '../../../document/workbench';

/** The canvas's ground: none, a colour, or a gradient. */
@Component({
  selector: 'bs-backdrop-settings',
  imports: [FillFields, SectionTabs],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <bs-section-tabs [sections]="[{ id: 'backdrop', name: 'Backdrop' }]" open="backdrop" />
    <div role="tabpanel" aria-label="Backdrop">
      <bs-fill-fields
        label="Backdrop"
        what="backdrop"
        [fill]="backdrop()"
        [size]="size()"
        (drafted)="draft($event)"
        (changed)="set($event)"
      />
      <p class="quiet small-text">
        {{
          backdrop().kind === 'none'
            ? 'Where nothing lies on the canvas, the page’s own ground shows through.'
            : backdrop().kind === 'gradient'
              ? 'It fills the canvas behind everything else. Its two ends can be moved on the canvas.'
              : 'It fills the canvas behind everything else.'
        }}
      </p>
    </div>
  `,
  styles: 'p { margin: 8px 0 0; }',
})
export class BackdropSettings {
  private readonly workbench = inject(Workbench);
  protected readonly backdrop = computed<Backdrop>(() => this.workbench.shown()?.backdrop ?? { kind: 'none' });
  protected readonly size = computed(() => this.workbench.graphic()!.canvas);

  protected set(backdrop: Backdrop): void {
    const name =
      backdrop.kind === 'none'
        ? 'Backdrop: none'
        : `Backdrop: ${backdrop.kind === 'colour' ? backdrop.colour : 'gradient'}`;
    this.workbench.edit({ type: 'set-backdrop', backdrop, name, merge: `backdrop:${backdrop.kind}` });
  }

  protected draft(backdrop: Backdrop): void {
    this.workbench.draft.set({ type: 'set-backdrop', backdrop, name: 'Backdrop' });
  }
}
