import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { isPicture, type PictureLayer, type ShapeLayer, type VeilLayer, type WordsLayer } from '@bright-slot/core';
import { Workbench } from '../../document/workbench';
import { BACKDROP } from '../../document/workbench.store';
import { BackdropSettings } from './backdrop/backdrop-settings';
import { PictureSettings } from './picture/picture-settings';
import { SeveralSettings } from './several/several-settings';
import { ShapeSettings } from './shape/shape-settings';
import { VeilSettings } from './veil/veil-settings';
import { WordsSettings } from './words/words-settings';

/** The selected layer's settings; nothing else stands here. */
@Component({
  selector: 'bs-settings',
  imports: [WordsSettings, PictureSettings, ShapeSettings, VeilSettings, BackdropSettings, SeveralSettings],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section
      [attr.aria-label]="
        layer() ? 'Settings of ' + layer()!.name : several().length ? 'Settings of several' : 'Settings'
      "
    >
      @if (layer()?.locked) {
        <p class="locked small-text">
          “{{ layer()!.name }}” is locked, so that nothing of it is changed by mistake.
          <button type="button" class="button small" (click)="unlock()">Unlock</button>
        </p>
      }
      @if (words(); as w) {
        <bs-words-settings [layer]="w" />
      } @else if (picture(); as p) {
        <bs-picture-settings [layer]="p" />
      } @else if (shape(); as s) {
        <bs-shape-settings [layer]="s" />
      } @else if (veil(); as v) {
        <bs-veil-settings [layer]="v" />
      } @else if (several().length) {
        <bs-several-settings [layers]="several()" />
      } @else if (backdrop()) {
        <bs-backdrop-settings />
      } @else {
        <p class="quiet">Choose a layer above or on the canvas to change it. Everything stays changeable.</p>
      }
    </section>
  `,
  styles: `
    section {
      background: var(--ground);
      padding: 12px 20px 14px;
      height: 178px;
      overflow: hidden auto;
    }
    .locked {
      display: flex;
      align-items: center;
      gap: 10px;
      margin: 0 0 8px;
    }
    :host-context(.beside) section {
      height: auto;
      min-height: 100%;
    }
  `,
})
export class Settings {
  private readonly workbench = inject(Workbench);
  /** Whether there is to be anything: from nothing, a frame late, so that a layer just added is seen before them. */
  private readonly begun = signal(false);
  protected readonly layer = computed(() => (this.begun() ? this.workbench.selected() : null));
  protected readonly several = this.workbench.several;
  protected readonly backdrop = computed(() => this.workbench.selectedId() === BACKDROP);
  protected readonly words = computed<WordsLayer | null>(() => {
    const l = this.layer();
    return l?.role === 'words' ? l : null;
  });
  protected readonly shape = computed<ShapeLayer | null>(() => {
    const l = this.layer();
    return l?.role === 'shape' ? l : null;
  });
  protected readonly veil = computed<VeilLayer | null>(() => {
    const l = this.layer();
    return l?.role === 'veil' ? l : null;
  });
  protected readonly picture = computed<PictureLayer | null>(() => {
    const l = this.layer();
    return l && isPicture(l) ? l : null;
  });

  protected unlock(): void {
    const layer = this.layer()!;
    this.workbench.change({ ...layer, locked: false }, `${layer.name} unlocked`);
  }

  constructor() {
    const some = computed(() => this.workbench.selectedId() !== null);
    effect((cleanUp) => {
      if (!some()) return this.begun.set(false);
      const frame = requestAnimationFrame(() => this.begun.set(true));
      cleanUp(() => cancelAnimationFrame(frame));
    });
  }
}
