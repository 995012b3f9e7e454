import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import {
  enclosing,
  isAlike,
  isPicture,
  movedLayer,
  layerColour,
  scaledAbout,
  usualShadow,
  withColour,
  type Layer,
  type PictureLayer,
  type ShapeLayer,
  type Shadow,
  type VeilLayer,
  type WordsLayer,
} from '@bright-slot/core';
import { withKeys } from '../../../document/shortcuts';
import { Workbench } from '../../../document/workbench';
import { ColourField } from '../../../ui/colour-field';
import { NumberField } from '../../../ui/number-field';
import { SectionTabs } from '../../../ui/section-tabs';
import { ShadowFields } from '../../../ui/shadow-fields';
import { SliderField } from '../../../ui/slider-field';
import { LayerActions } from '../../layers/layer-actions';
import { AlignFields } from '../align-fields';
import { PictureSettings } from '../picture/picture-settings';
import { ShapeSettings } from '../shape/shape-settings';
import { VeilSettings } from '../veil/veil-settings';
import { WordsSettings } from '../words/words-settings';

/** Several layers' settings: how they stand to each other, and all that they share. */
@Component({
  selector: 'bs-several-settings',
  imports: [
    AlignFields,
    ColourField,
    NumberField,
    PictureSettings,
    SectionTabs,
    ShadowFields,
    ShapeSettings,
    SliderField,
    VeilSettings,
    WordsSettings,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <bs-section-tabs
        [sections]="[
          { id: 'arrange', name: 'Arrange' },
          { id: 'look', name: 'What they share' },
        ]"
        [open]="section()"
        (chosen)="section.set($event)"
      />
      <span class="quiet small-text">{{ said() }}</span>
    </div>
    @if (section() === 'arrange') {
      <div role="tabpanel" aria-label="Arrange">
        <bs-align-fields />
        <div class="line">
          @if (box(); as b) {
            <bs-number
              label="From the left"
              class="wide"
              [value]="b.x"
              [places]="1"
              unit="px"
              (changed)="moveTo('x', $event)"
            />
            <bs-number
              label="From the top"
              class="wide"
              [value]="b.y"
              [places]="1"
              unit="px"
              (changed)="moveTo('y', $event)"
            />
            <bs-number
              label="Width"
              [value]="b.width"
              [min]="1"
              [places]="1"
              unit="px"
              (changed)="scaleTo('width', $event)"
            />
            <bs-number
              label="Height"
              [value]="b.height"
              [min]="1"
              [places]="1"
              unit="px"
              (changed)="scaleTo('height', $event)"
            />
          }
          @if (actions.group(); as g) {
            <button
              type="button"
              class="button small"
              [title]="withKeys('Undo a group', 'ungroup')"
              (click)="actions.ungroup()"
            >
              Undo the group
            </button>
          } @else {
            <button
              type="button"
              class="button small"
              [title]="withKeys('Make a group', 'group')"
              (click)="actions.makeGroup()"
            >
              Make a group
            </button>
          }
          <button type="button" class="button small" (click)="actions.duplicate()">Duplicate</button>
          <button type="button" class="button small" (click)="actions.remove()">Delete</button>
        </div>
      </div>
    } @else {
      <div role="tabpanel" aria-label="What they share">
        @if (words(); as w) {
          <bs-words-settings [layer]="w" several />
        } @else if (picture(); as p) {
          <bs-picture-settings [layer]="p" several />
        } @else if (shape(); as s) {
          <bs-shape-settings [layer]="s" several />
        } @else if (veil(); as v) {
          <bs-veil-settings [layer]="v" />
        } @else {
          <div class="line">
            @if (colour(); as c) {
              <bs-colour label="Colour" [value]="c" (drafted)="draftColour($event)" (changed)="setColour($event)" />
            }
            @if (faint(); as l) {
              <bs-slider
                class="opacity"
                label="Opacity"
                share
                [value]="l.opacity"
                [usual]="1"
                (drafted)="workbench.draft.set(edit(l, { opacity: $event }, 'opacity'))"
                (changed)="workbench.edit(edit(l, { opacity: $event }, 'opacity'))"
              />
            }
          </div>
          @if (shadowed(); as l) {
            <bs-shadow-fields class="line" [shadow]="l.shadow" [usual]="usual" (changed)="setShadow(l, $event)" />
          }
          <p class="quiet small-text">
            They are of different kinds: this is what they share. Select things of one kind for all their settings.
          </p>
        }
      </div>
    }
  `,
  styles: `
    @use '../sections';
    .head {
      display: flex;
      gap: 24px;
      align-items: baseline;
    }
    .line {
      margin-top: 8px;
    }
    bs-number {
      width: 136px;
    }
    .wide {
      width: 166px;
    }
    .opacity {
      width: 300px;
    }
    p {
      margin: 8px 0 0;
    }
  `,
})
export class SeveralSettings {
  readonly layers = input.required<readonly Layer[]>();
  protected readonly workbench = inject(Workbench);
  protected readonly actions = inject(LayerActions);
  protected readonly withKeys = withKeys;
  protected readonly section = linkedSignal<'arrange' | 'look'>(() => 'arrange');
  protected readonly said = computed(() => {
    const locked = this.layers().filter((l) => l.locked).length;
    const name = this.actions.group()?.name;
    return `${name ? `${name}: ` : ''}${this.layers().length} layers${locked ? `, ${locked} locked` : ''}`;
  });

  /** The one selected last of those that can be changed: its settings are shown, and a change of it is one of all. */
  private readonly lead = computed(() => this.layers().findLast((l) => !l.locked) ?? this.layers().at(-1)!);
  private readonly alike = computed(() => this.layers().every((l) => isAlike(l, this.lead())));
  private readonly as = <L extends Layer>(is: (l: Layer) => l is L) =>
    computed(() => {
      const lead = this.lead();
      return this.alike() && is(lead) ? lead : null;
    });
  protected readonly words = this.as((l): l is WordsLayer => l.role === 'words');
  protected readonly shape = this.as((l): l is ShapeLayer => l.role === 'shape');
  protected readonly veil = this.as((l): l is VeilLayer => l.role === 'veil');
  protected readonly picture = this.as((l): l is PictureLayer => isPicture(l));

  private last<K extends string>(key: K) {
    return computed(
      () =>
        (this.layers().findLast((l) => key in l && !l.locked) as
          (Layer & Record<K, K extends 'opacity' ? number : Shadow | null>) | undefined) ?? null,
    );
  }
  protected readonly faint = this.last('opacity');
  protected readonly shadowed = this.last('shadow');
  protected readonly colour = computed(
    () =>
      this.layers()
        .map(layerColour)
        .findLast((c) => c !== null) ?? null,
  );

  protected edit(layer: Layer, change: Partial<{ opacity: number; shadow: Shadow | null }>, what: string) {
    return {
      type: 'replace-layer' as const,
      layer: { ...layer, ...change } as Layer,
      name: `${layer.name}: ${what}`,
      merge: `${what}:${layer.id}`,
    };
  }

  protected setShadow(layer: Layer, shadow: Shadow | null): void {
    this.workbench.edit(this.edit(layer, { shadow }, 'shadow'));
  }

  private coloured(colour: string) {
    const layers = this.layers().filter((l) => !l.locked && layerColour(l) !== null);
    return {
      type: 'together' as const,
      name: `${layers.length} layers: colour ${colour}`,
      merge: `colour:${layers.map((l) => l.id).join()}`,
      edits: layers.map((l) => ({ type: 'replace-layer' as const, layer: withColour(l, colour) })),
    };
  }

  protected draftColour(colour: string): void {
    this.workbench.draft.set(this.coloured(colour));
  }

  protected setColour(colour: string): void {
    this.workbench.edit(this.coloured(colour));
  }

  /** The box around all that can be moved, canvas px. */
  protected readonly box = computed(() => {
    this.workbench.graphic();
    return enclosing(this.actions.units().map((u) => u.box));
  });

  private changed(layers: readonly Layer[], what: string): void {
    this.workbench.changeAll(layers, `${this.said()} ${what}`, `${what}:${this.workbench.selection().join()}`);
  }

  protected moveTo(axis: 'x' | 'y', to: number): void {
    const { canvas } = this.workbench.graphic()!;
    const by = { x: 0, y: 0, [axis]: to - this.box()![axis] };
    this.changed(
      this.actions.units().flatMap((u) => u.layers.map((l) => movedLayer(l, by, canvas))),
      'moved',
    );
  }

  /** In proportion, about the corner they begin at. */
  protected scaleTo(side: 'width' | 'height', to: number): void {
    const { canvas } = this.workbench.graphic()!;
    const box = this.box()!;
    const by = to / box[side];
    this.changed(
      this.actions.units().flatMap((u) => u.layers.map((l) => scaledAbout(l, by, box, canvas))),
      'resized',
    );
  }

  protected readonly usual = usualShadow;
}
