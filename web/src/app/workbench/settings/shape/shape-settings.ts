import { ChangeDetectionStrategy, Component, booleanAttribute, computed, inject, input } from '@angular/core';
import { shapeBox, type ShapeLayer } from '@bright-slot/core';
import { FillFields } from '../../../ui/fill-fields';
import { SectionTabs, type Section } from '../../../ui/section-tabs';
import { SliderField } from '../../../ui/slider-field';
import { TypeService } from '../../../type/type.service';
import { LayerSection } from '../section';
import { ShapeEdge } from './shape-edge';
import { ShapePlaceSection } from './shape-place';

/** A shape's settings: what fills it, its edge, where it lies. */
@Component({
  selector: 'bs-shape-settings',
  imports: [FillFields, SectionTabs, SliderField, ShapeEdge, ShapePlaceSection],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <bs-section-tabs [sections]="sections()" [open]="open()" (chosen)="workbench.shapeSection.set($event)" />
    @switch (open()) {
      @case ('fill') {
        <div role="tabpanel" aria-label="Fill">
          <bs-fill-fields
            label="Fill"
            what="shape"
            [fill]="layer().fill"
            [size]="box()"
            [disabled]="locked()"
            (drafted)="draft({ fill: $event }, 'fill')"
            (changed)="set({ fill: $event }, 'fill')"
          >
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
          </bs-fill-fields>
        </div>
      }
      @case ('edge') {
        <bs-shape-edge role="tabpanel" aria-label="Edge" [layer]="layer()" />
      }
      @default {
        <bs-shape-place role="tabpanel" aria-label="Place" [layer]="layer()" />
      }
    }
  `,
  styles: '.opacity { width: 300px; }',
})
export class ShapeSettings extends LayerSection<ShapeLayer> {
  /** What is set is set for several: where one lies is not shown. */
  readonly several = input(false, { transform: booleanAttribute });
  private readonly type = inject(TypeService);
  private readonly line = computed(() => this.layer().form.kind === 'line');
  protected readonly sections = computed<readonly Section<'fill' | 'edge' | 'place'>[]>(() => [
    ...(this.line() ? [] : [{ id: 'fill', name: 'Fill' } as const]),
    { id: 'edge', name: this.line() ? 'Line' : 'Edge' },
    ...(this.several() ? [] : [{ id: 'place', name: 'Place' } as const]),
  ]);
  protected readonly open = computed(() => {
    const asked = this.workbench.shapeSection();
    const open = this.several() && asked === 'place' ? 'fill' : asked;
    return open === 'fill' && this.line() ? 'edge' : open;
  });
  protected readonly box = computed(() => {
    const shaper = this.type.shaper();
    return shaper ? shapeBox(this.layer(), this.workbench.shown()!, shaper) : this.canvas();
  });
}
