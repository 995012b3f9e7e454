import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { MatOption, MatSelect } from '@angular/material/select';
import type { LineStyle, ShapeBorder, ShapeLayer } from '@bright-slot/core';
import { CornerFields } from '../../../ui/corner-fields';
import { LineFields } from '../../../ui/line-fields';
import { ShadowFields } from '../../../ui/shadow-fields';
import { SliderField } from '../../../ui/slider-field';
import { LayerSection } from '../section';

const plainBorder: ShapeBorder = { width: 2, colour: '#1f2a30', style: 'solid' };

/** A shape's edge: its border or line, its corners, its shadow. */
@Component({
  selector: 'bs-shape-edge',
  imports: [CornerFields, LineFields, ShadowFields, SliderField, MatSelect, MatOption],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="line">
      <bs-line-fields
        [name]="line() ? 'Line' : 'Border'"
        [wide]="line() ? 'Thick' : 'Width'"
        [always]="line()"
        [line]="layer().border"
        [usual]="plainBorder"
        [disabled]="locked()"
        (drafted)="draft({ border: $event }, 'border')"
        (changed)="set({ border: $event }, 'border')"
      >
        <mat-select
          class="style field"
          aria-label="How the line runs"
          [value]="layer().border?.style"
          [disabled]="locked()"
          (selectionChange)="runs($event.value)"
        >
          @for (s of styles; track s.id) {
            <mat-option [value]="s.id">{{ s.name }}</mat-option>
          }
        </mat-select>
      </bs-line-fields>
      @if (line()) {
        <bs-slider
          class="opacity"
          label="Opacity"
          [value]="layer().opacity"
          share
          [usual]="1"
          [disabled]="locked()"
          (drafted)="draft({ opacity: $event }, 'opacity')"
          (changed)="set({ opacity: $event }, 'opacity')"
        />
      }
    </div>
    @if (layer().form.kind === 'rectangle' || layer().form.kind === 'bubble') {
      <bs-corner-fields
        class="line"
        [corners]="layer().corners"
        [eachOwn]="layer().form.kind === 'rectangle'"
        [disabled]="locked()"
        (changed)="set({ corners: $event }, 'corners')"
      />
    }
    <bs-shadow-fields
      class="line"
      [shadow]="layer().shadow"
      [disabled]="locked()"
      (drafted)="draft({ shadow: $event }, 'shadow')"
      (changed)="set({ shadow: $event }, 'shadow')"
    />
  `,
  styles: `
    @use '../sections';
    :host {
      display: block;
    }
    .line + .line {
      margin-top: 8px;
    }
    .style {
      width: 120px;
      display: flex;
      font-size: 13px;
    }
    .opacity {
      width: 300px;
    }
  `,
})
export class ShapeEdge extends LayerSection<ShapeLayer> {
  protected readonly plainBorder = plainBorder;
  protected readonly line = computed(() => this.layer().form.kind === 'line');
  protected readonly styles: readonly { id: LineStyle; name: string }[] = [
    { id: 'solid', name: 'Solid' },
    { id: 'dashed', name: 'Dashes' },
    { id: 'dotted', name: 'Dots' },
  ];

  protected runs(style: LineStyle): void {
    const { border } = this.layer();
    if (border) this.set({ border: { ...border, style } }, 'border');
  }
}
