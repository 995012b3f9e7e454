import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { ColorHueSlider, ColorSaturationPicker, parseColor, type ColorSource } from '@acrodata/color-picker';
import { colourOf, figuresOf, notations, readColour, type Notation } from '@bright-slot/core';
import { Choice, type Option } from './choice';
import { ColourHelp } from './colour-help';
import { NumberField } from './number-field';
import { SamplingService, type SampleSide } from './sampling.service';
import { valueOf } from './event-value';

/** All ways to choose a colour: by eye, in figures, among those to hand, from the canvas. */
@Component({
  selector: 'bs-colour-panel',
  imports: [Choice, ColorSaturationPicker, ColorHueSlider, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './colour-panel.html',
  styles: `
    :host {
      display: grid;
      grid-template-columns: 240px minmax(200px, 270px);
      gap: 14px 18px;
      padding: 14px;
      background: var(--surface);
      border: 1px solid var(--border);
      border-radius: var(--corner);
      box-shadow: 0 6px 24px rgb(31 42 48 / 20%);
      --cp-slider-height: 14px;
      --cp-slider-shape: 7px;
    }
    .eye {
      display: grid;
      gap: 12px;
      align-content: start;
    }
    color-saturation-picker {
      padding-bottom: 70%;
    }
    .hand {
      display: grid;
      gap: 12px;
      align-content: start;
    }
    .line {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px;
    }
    .chip {
      width: 34px;
      height: 34px;
      border-radius: var(--corner);
      border: 1px solid var(--border);
    }
    .hex {
      width: 150px;
      margin-right: 8px;
    }
    .figures {
      grid-column: 1 / -1;
      display: grid;
      gap: 8px;
    }
    .three {
      display: grid;
      grid-template-columns: repeat(3, 1fr);
      gap: 8px;
    }
    .group {
      display: grid;
      gap: 5px;
    }
    .title {
      font-size: 12.5px;
      font-weight: 600;
      color: var(--ink-soft);
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
    .swatch {
      width: 26px;
      height: 26px;
      border-radius: var(--corner);
      border: 1px solid var(--border);
      padding: 0;
      cursor: pointer;
    }
    .swatch[aria-pressed='true'] {
      outline: 2px solid var(--ink);
      outline-offset: 2px;
    }
  `,
})
export class ColourPanel {
  protected readonly valueOf = valueOf;
  readonly value = input.required<string>();
  readonly drafted = output<string>();
  /** A colour, chosen. */
  readonly chosen = output<string>();
  /** The panel is to go while a colour is taken from the canvas, and what was taken. */
  readonly sampled = output<Promise<string | null>>();
  protected readonly help = inject(ColourHelp);
  protected readonly sampling = inject(SamplingService);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly text = linkedSignal(() => this.value());
  protected readonly notation = signal<Notation>('rgb');
  protected readonly kinds: readonly Option<Notation>[] = [
    { id: 'rgb', name: 'RGB' },
    { id: 'hsl', name: 'HSL' },
    { id: 'oklch', name: 'OKLCH' },
  ];
  protected readonly channels = computed(() => notations[this.notation()]);
  protected readonly figures = computed(() => figuresOf(this.value(), this.notation()));
  /** The hue that was last chosen, which a grey does not have. */
  private hue = 0;
  protected readonly shown = computed(() => {
    const colour = parseColor(this.value(), this.hue);
    if (colour.hsv.s > 0) this.hue = colour.hsl.h;
    else colour.hsl.h = colour.hsv.h = this.hue;
    return colour;
  });
  protected readonly sides: readonly { side: SampleSide; name: string }[] = [
    { side: 1, name: 'One pixel' },
    { side: 3, name: '3 × 3' },
    { side: 7, name: '7 × 7' },
  ];

  constructor() {
    this.help.wanted.set(true);
    afterNextRender(() => {
      // The package's thumbs have no names of their own.
      const name = (css: string, text: string) =>
        this.host.nativeElement.querySelector(css)?.setAttribute('aria-label', text);
      name('color-saturation-picker button', 'Saturation and brightness; arrow keys change them');
      name('color-hue-slider button', 'Hue; arrow keys change it');
    });
  }

  protected byEye(source: ColorSource, complete: boolean): void {
    if (source.source === 'rgb' && 'h' in source) this.hue = source.h;
    const { hex } = parseColor(source, this.hue);
    if (complete) this.chosen.emit(hex.slice(0, 7));
    else this.drafted.emit(hex.slice(0, 7));
  }

  protected typed(): void {
    const read = readColour(this.text());
    if (read) this.chosen.emit(read);
    else this.text.set(this.value());
  }

  protected byFigure(which: number, to: number): void {
    const [a, b, c] = this.figures().map((f, i) => (i === which ? to : f));
    this.chosen.emit(colourOf(this.notation(), [a!, b!, c!]));
  }

  protected sample(from: 'seen' | 'layer'): void {
    this.sampled.emit(this.sampling.ask(from, this.help.layer() ?? ''));
  }
}
