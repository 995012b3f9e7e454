import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { Backdrop } from '@bright-slot/core';
import { ColourField } from '../shared/colour-field';
import { SectionTabs } from '../shared/section-tabs';
import { Workbench } from '../state/draft';

/** The canvas's ground: none, or a colour. */
@Component({
  selector: 'bs-backdrop-settings',
  imports: [ColourField, SectionTabs],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <bs-section-tabs [sections]="[{ id: 'backdrop', name: 'Backdrop' }]" open="backdrop" />
    <div class="line" role="tabpanel" aria-label="Backdrop">
      <span role="group" aria-label="Backdrop" class="line">
        <button
          type="button"
          class="button"
          [attr.aria-pressed]="backdrop().kind === 'none'"
          (click)="set({ kind: 'none' }, 'Backdrop: none')"
        >
          None
        </button>
        <button
          type="button"
          class="button"
          [attr.aria-pressed]="backdrop().kind === 'colour'"
          (click)="setColour(colour())"
        >
          A colour
        </button>
      </span>
      <bs-colour
        label="Colour of the backdrop"
        [value]="colour()"
        (drafted)="draft($event)"
        (changed)="setColour($event)"
      />
    </div>
    <p class="quiet small-text">
      {{
        backdrop().kind === 'none'
          ? 'Where nothing lies on the canvas, the page’s own ground shows through.'
          : 'It fills the canvas behind everything else.'
      }}
    </p>
  `,
  styleUrl: './picture-settings.scss',
})
export class BackdropSettings {
  private readonly workbench = inject(Workbench);
  protected readonly backdrop = computed<Backdrop>(() => this.workbench.shown()?.backdrop ?? { kind: 'none' });
  protected readonly colour = computed(() => {
    const b = this.backdrop();
    return b.kind === 'colour' ? b.colour : '#f4e7cb';
  });

  protected set(backdrop: Backdrop, name: string): void {
    this.workbench.edit({ type: 'set-backdrop', backdrop, name });
  }

  protected setColour(colour: string): void {
    this.set({ kind: 'colour', colour }, `Backdrop: ${colour}`);
  }

  protected draft(colour: string): void {
    this.workbench.draft.set({
      type: 'set-backdrop',
      backdrop: { kind: 'colour', colour },
      name: `Backdrop: ${colour}`,
    });
  }
}
