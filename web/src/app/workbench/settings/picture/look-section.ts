import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { plainLook, type Look, type Tint } from '@bright-slot/core';
import { ColourField } from '../../../ui/colour-field';
import { SliderField } from '../../../ui/slider-field';
import { PictureSection } from './section';

interface Slider {
  readonly key: keyof Look;
  readonly label: string;
  readonly min: number;
  readonly max: number;
}

/** How a picture's pixels are shown: opacity, light, colour, sharpness, and other colours altogether. */
@Component({
  selector: 'bs-look-section',
  imports: [SliderField, ColourField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sliders">
      <bs-slider
        label="Opacity"
        [value]="layer().opacity"
        [usual]="1"
        share
        [disabled]="locked()"
        (drafted)="draft({ opacity: $event }, 'opacity')"
        (changed)="set({ opacity: $event }, 'opacity')"
      />
      @for (s of sliders; track s.key) {
        <bs-slider
          [label]="s.label"
          [value]="layer().look[s.key]"
          [usual]="usual[s.key]"
          share
          [min]="s.min"
          [max]="s.max"
          [disabled]="locked()"
          (drafted)="draft(looking(s.key, $event), s.label)"
          (changed)="set(looking(s.key, $event), s.label)"
        />
      }
    </div>
    <div class="line">
      <span class="label">Colours</span>
      <span class="group" role="group" aria-label="Colours of the picture">
        <button
          type="button"
          class="button small"
          [attr.aria-pressed]="!tint()"
          [disabled]="locked()"
          (click)="tinted(null)"
        >
          Its own
        </button>
        @for (k of kinds; track k.kind) {
          <button
            type="button"
            class="button small"
            [attr.aria-pressed]="tint()?.kind === k.kind"
            [disabled]="locked()"
            (click)="tinted(fresh(k.kind))"
          >
            {{ k.name }}
          </button>
        }
      </span>
      @if (tint(); as t) {
        @if (t.kind === 'two') {
          <bs-colour
            label="Dark parts"
            [value]="t.dark"
            [swatches]="[]"
            (drafted)="draft({ tint: { kind: 'two', dark: $event, light: t.light } }, 'colours')"
            (changed)="tinted({ kind: 'two', dark: $event, light: t.light })"
          />
          <bs-colour
            label="Light parts"
            [value]="t.light"
            (drafted)="draft({ tint: { kind: 'two', dark: t.dark, light: $event } }, 'colours')"
            (changed)="tinted({ kind: 'two', dark: t.dark, light: $event })"
          />
        } @else {
          <bs-colour
            label="Colour of the picture"
            [value]="t.colour"
            (drafted)="draft({ tint: { kind: t.kind, colour: $event } }, 'colours')"
            (changed)="tinted({ kind: t.kind, colour: $event })"
          />
        }
      }
    </div>
  `,
  styles: "@use 'picture';",
})
export class LookSection extends PictureSection {
  protected readonly usual = plainLook;
  protected readonly sliders: readonly Slider[] = [
    { key: 'brightness', label: 'Brightness', min: 0, max: 200 },
    { key: 'contrast', label: 'Contrast', min: 0, max: 200 },
    { key: 'saturation', label: 'Saturation', min: 0, max: 200 },
    { key: 'warmth', label: 'Warmth', min: -100, max: 100 },
    { key: 'sharpening', label: 'Sharpening', min: 0, max: 100 },
  ];
  protected readonly kinds: readonly { kind: Tint['kind']; name: string }[] = [
    { kind: 'one', name: 'Shades of one' },
    { kind: 'two', name: 'Between two' },
    { kind: 'flat', name: 'One flat colour' },
  ];
  protected readonly tint = computed(() => this.layer().tint);

  protected looking(key: keyof Look, value: number) {
    return { look: { ...this.layer().look, [key]: value } };
  }

  protected fresh(kind: Tint['kind']): Tint {
    const now = this.tint();
    const colour = now && now.kind !== 'two' ? now.colour : '#1f6f5c';
    return kind === 'two' ? { kind, dark: '#1f2a30', light: '#f4e7cb' } : { kind, colour };
  }

  protected tinted(tint: Tint | null): void {
    this.set({ tint }, 'colours');
  }
}
