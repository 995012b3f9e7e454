import { ChangeDetectionStrategy, Component, DestroyRef, inject } from '@angular/core';
import { ExportSession } from '../output/export-session';
import { OtherPrograms, type HandedOn } from '../output/other-programs';
import { panelStyles } from './panel-styles';

const ways: readonly { id: HandedOn; name: string; what: string; more: string }[] = [
  { id: 'svg', name: 'SVG', what: 'Outlines, sharp at any size', more: 'Words as outlines, photos within the file.' },
  { id: 'png', name: 'PNG', what: 'Nothing lost', more: 'What is transparent stays so: straight alpha, 8 bit.' },
  { id: 'layers', name: 'OpenRaster', what: 'Its layers, for painting', more: 'Each layer a picture, words too.' },
  { id: 'bundle', name: 'Bundle', what: 'To work on elsewhere', more: '“Bring back” takes it, in any browser.' },
];

/** A graphic as something to go on with elsewhere, rather than as the file for its slot. */
@Component({
  selector: 'bs-other-programs',
  providers: [OtherPrograms],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<h3>To go on with elsewhere</h3>
    <!-- Not disabled while one is made: whoever works by keyboard would lose their place. -->
    @for (w of ways; track w.id) {
      <div class="way">
        <button
          type="button"
          class="button small"
          [attr.aria-disabled]="hand.busy() !== null || null"
          [attr.aria-label]="'Save as ' + w.name"
          [title]="w.more"
          (click)="give(w.id)"
        >
          {{ hand.busy() === w.id ? 'Making …' : w.name }}
        </button>
        <span class="quiet small-text">{{ w.what }}</span>
      </div>
    }
    @if (hand.busy()) {
      <button type="button" class="button small" (click)="hand.cancel()">Cancel</button>
    }
    <p class="small-text" role="status">{{ hand.said() }}</p>
    <p class="small-text problem-text" role="alert">{{ hand.problem() }}</p>`,
  styles: [
    panelStyles,
    `
      :host {
        align-items: flex-start;
      }
      p {
        overflow-wrap: anywhere;
      }
      .way {
        display: grid;
        grid-template-columns: 104px 1fr;
        gap: 10px;
        align-items: center;
      }
    `,
  ],
})
export class OtherProgramsPanel {
  protected readonly ways = ways;
  protected readonly hand = inject(OtherPrograms);
  private readonly out = inject(ExportSession);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.hand.cancel());
  }

  protected give(as: HandedOn): void {
    const [graphic, frame] = [this.out.graphic(), this.out.frame()];
    if (graphic && frame) void this.hand.give(as, graphic, frame);
  }
}
