import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatOption, MatSelect } from '@angular/material/select';
import { usualShadow, type LineStyle, type Shadow, type ShapeBorder, type ShapeLayer } from '@bright-slot/core';
import { ColourField } from '../../shared/colour-field';
import { CornerFields } from '../../shared/corner-fields';
import { NumberField } from '../../shared/number-field';
import { ShadowFields } from '../../shared/shadow-fields';
import { SliderField } from '../../shared/slider-field';
import { LayerSection } from '../section';

const plainBorder: ShapeBorder = { width: 2, colour: '#1f2a30', style: 'solid' };

/** A shape's edge: its border or line, its corners, its shadow. */
@Component({
  selector: 'bs-shape-edge',
  imports: [NumberField, ColourField, CornerFields, ShadowFields, SliderField, MatSelect, MatOption],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="line">
      @if (layer().form.kind !== 'line') {
        <label class="tick"
          ><input
            type="checkbox"
            [checked]="!!layer().border"
            [disabled]="locked()"
            (change)="bordered($any($event.target).checked ? {} : null)"
          />
          Border</label
        >
      }
      @if (layer().border; as b) {
        <bs-number
          [label]="layer().form.kind === 'line' ? 'Thick' : 'Width'"
          [value]="b.width"
          [min]="0.1"
          [max]="500"
          [places]="1"
          unit="px"
          [disabled]="locked()"
          (changed)="bordered({ width: $event })"
        />
        <mat-select
          class="style field"
          aria-label="How the line runs"
          [value]="b.style"
          [disabled]="locked()"
          (selectionChange)="bordered({ style: $event.value })"
        >
          @for (s of styles; track s.id) {
            <mat-option [value]="s.id">{{ s.name }}</mat-option>
          }
        </mat-select>
        <bs-colour
          [label]="layer().form.kind === 'line' ? 'Colour of the line' : 'Colour of the border'"
          [value]="b.colour"
          [disabled]="locked()"
          (drafted)="draft({ border: { width: b.width, style: b.style, colour: $event } }, 'border')"
          (changed)="bordered({ colour: $event })"
        />
      }
      @if (layer().form.kind === 'line') {
        <bs-slider
          class="opacity"
          label="Opacity"
          [value]="layer().opacity"
          [by]="100"
          [min]="0"
          [max]="100"
          unit="%"
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
      (drafted)="draft(withShadow($event), 'shadow')"
      (changed)="set(withShadow($event), 'shadow')"
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
    bs-number {
      width: 128px;
    }
    .style {
      width: 120px;
      display: flex;
      font-size: 13px;
    }
    .opacity {
      width: 300px;
    }
    .tick {
      display: inline-flex;
      align-items: center;
      gap: 6px;
      min-width: 74px;
      font-size: 12.5px;
      font-weight: 600;
    }
  `,
})
export class ShapeEdge extends LayerSection<ShapeLayer> {
  protected readonly styles: readonly { id: LineStyle; name: string }[] = [
    { id: 'solid', name: 'Whole' },
    { id: 'dashed', name: 'Dashes' },
    { id: 'dotted', name: 'Dots' },
  ];

  protected bordered(change: Partial<ShapeBorder> | null): void {
    this.set({ border: change && { ...(this.layer().border ?? plainBorder), ...change } }, 'border');
  }

  protected withShadow(change: Partial<Shadow> | null) {
    return { shadow: change && { ...(this.layer().shadow ?? usualShadow), ...change } };
  }
}
