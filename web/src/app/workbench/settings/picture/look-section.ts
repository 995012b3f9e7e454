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
  templateUrl: './look-section.html',
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
