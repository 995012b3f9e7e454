import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import {
  WATERMARK_LETTERS,
  cutText,
  watermarkFaces,
  withWatermark,
  type Watermark,
  type WatermarkPlace,
} from '@bright-slot/core';
import { ExportSession } from '../output/export-session';
import { GraphicsRepository } from '../storage/graphics-repository';
import { HouseStyleService } from '../storage/house-style.service';
import { TypeService } from '../type/type.service';
import { Choice, type Option } from '../ui/choice';
import { SelectField } from '../ui/select-field';
import { SliderField } from '../ui/slider-field';
import { tickedOf, valueOf } from '../ui/event-value';
import { panelStyles } from './panel-styles';

const placeNames: Record<WatermarkPlace, string> = {
  room: 'Where there is room',
  'top-left': 'Top left',
  top: 'Top',
  'top-right': 'Top right',
  left: 'Left',
  middle: 'In the middle',
  right: 'Right',
  'bottom-left': 'Bottom left',
  bottom: 'Bottom',
  'bottom-right': 'Bottom right',
};
const places = (Object.keys(placeNames) as WatermarkPlace[]).map((id) => ({ id, name: placeNames[id] }));

/** Where sliders begin, and what their way back goes to. */
const usual = { place: 'room', size: 0.24, strength: 0.6, repeated: false } as const;

interface Logo {
  readonly id: string;
  readonly name: string;
  readonly mark: Watermark['mark'];
}

/** The person's own watermark: whether this file carries it, and what it is for all files. */
@Component({
  selector: 'bs-watermark-here',
  imports: [Choice, RouterLink, SelectField, SliderField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<h3>Watermark</h3>
    <label class="tick small-text"
      ><input type="checkbox" [checked]="on()" (change)="put(tickedOf($event))" /> Put my watermark over the file</label
    >
    @if (on()) {
      @if (mark(); as w) {
        <div class="kind">
          <bs-choice
            label="What the watermark is"
            [options]="kinds()"
            [value]="w.mark.kind"
            (chosen)="setKind($event)"
          />
          <bs-choice
            label="How often"
            [options]="often"
            [value]="w.repeated ? 'all' : 'once'"
            (chosen)="set({ repeated: $event === 'all' })"
          />
        </div>
        @if (w.mark.kind === 'words') {
          <label class="field"
            ><span class="field-label">It says</span
            ><input [maxLength]="letters" [value]="w.mark.text" (change)="setText($event)"
          /></label>
        } @else {
          <bs-select label="Logo" [options]="logos()" [value]="w.mark.asset" (changed)="setLogo($event)" />
        }
        @if (!logos().length) {
          <p class="quiet small-text">For a logo, put one in <a routerLink="/house-style">House style</a>.</p>
        }
        @if (!w.repeated) {
          <bs-select label="Where it stands" [options]="places" [value]="w.place" (changed)="set({ place: $event })" />
        }
        <bs-slider
          label="Size"
          share
          [min]="5"
          [max]="100"
          [usual]="usual.size"
          [value]="w.size"
          (changed)="set({ size: $event })"
        />
        <bs-slider
          label="Strength"
          share
          [min]="5"
          [max]="100"
          [usual]="usual.strength"
          [value]="w.strength"
          (changed)="set({ strength: $event })"
        />
        @if (covers().length) {
          <p class="small-text problem-text" role="status">
            It lies over {{ covers().join(', ') }}.
            @if (!w.repeated && w.place !== 'room') {
              <button type="button" class="button small" (click)="set({ place: 'room' })">
                Put it where there is room
              </button>
            }
          </p>
        }
        <p class="small-text problem-text" role="alert">{{ problem() || house.problem() }}</p>
        <p class="quiet small-text">The same for all your graphics; each says whether it carries it.</p>
      }
    }`,
  styles: [
    panelStyles,
    `
      .kind {
        display: flex;
        flex-wrap: wrap;
        justify-content: space-between;
        gap: 6px;
      }
    `,
  ],
})
export class WatermarkHere {
  protected readonly tickedOf = tickedOf;
  protected readonly places = places;
  protected readonly usual = usual;
  protected readonly letters = WATERMARK_LETTERS;
  private readonly out = inject(ExportSession);
  private readonly repository = inject(GraphicsRepository);
  private readonly type = inject(TypeService);
  protected readonly house = inject(HouseStyleService);
  protected readonly often: readonly Option<'once' | 'all'>[] = [
    { id: 'once', name: 'Once' },
    { id: 'all', name: 'All over' },
  ];
  protected readonly on = computed(() => !!this.out.frame()?.export.watermark);
  protected readonly mark = computed(() => this.house.style().watermark);
  protected readonly logos = signal<readonly Logo[]>([]);
  protected readonly kinds = computed((): readonly Option<'words' | 'logo'>[] => [
    { id: 'words', name: 'Words' },
    { id: 'logo', name: 'Logo', disabled: !this.logos().length, why: 'Put a logo in House style first.' },
  ]);
  /** What of the graphic it lies over, by name; and why it cannot be drawn. */
  protected readonly covers = signal<readonly string[]>([]);
  protected readonly problem = signal('');

  constructor() {
    effect(() => void this.readLogos(this.house.style().logos));
    effect((cleanUp) => {
      const [graphic, frame, mark] = [this.out.graphic(), this.out.frame(), this.mark()];
      let gone = false;
      cleanUp(() => (gone = true));
      if (!graphic || !frame || !mark || !this.on()) return this.covers.set([]);
      this.type.ensure(graphic, watermarkFaces(mark)).then(
        (shaper) => {
          if (gone) return;
          const marked = withWatermark(graphic, frame, mark, shaper);
          this.covers.set(marked.ok ? marked.value.covers : []);
          this.problem.set(marked.ok ? '' : marked.problem.message);
        },
        () => undefined,
      );
    });
  }

  private async readLogos(hashes: readonly string[]): Promise<void> {
    const found = await Promise.all(hashes.map((hash) => this.repository.asset(hash)));
    this.logos.set(
      found.flatMap((a) => {
        if (!a) return [];
        const { hash, name, width, height, opaque } = a;
        const vector = a.type === 'svg';
        const mark = { kind: 'logo' as const, asset: hash, natural: { width, height }, vector, opaque };
        return [{ id: hash, name: name || 'A logo', mark }];
      }),
    );
  }

  private words(text: string): Watermark['mark'] {
    return { kind: 'words', text, face: this.house.style().type.heading };
  }

  /** What it says before anyone wrote it. */
  private usualText(): string {
    const { copyright, business } = this.house.style();
    return cutText((copyright || business).trim(), WATERMARK_LETTERS) || 'Your name';
  }

  protected async put(on: boolean): Promise<void> {
    if (on && !this.mark()) await this.house.change({ watermark: { mark: this.words(this.usualText()), ...usual } });
    this.out.setWatermark(on);
  }

  protected set(change: Partial<Watermark>): void {
    const now = this.mark();
    if (now) void this.house.change({ watermark: { ...now, ...change } });
  }

  protected setKind(kind: 'words' | 'logo'): void {
    const mark = kind === 'words' ? this.words(this.usualText()) : this.logos()[0]?.mark;
    if (mark && kind !== this.mark()?.mark.kind) this.set({ mark });
  }

  protected setText(event: Event): void {
    const text = cutText(valueOf(event).toWellFormed().trim(), WATERMARK_LETTERS);
    const said = text || this.usualText();
    (event.target as HTMLInputElement).value = said;
    this.set({ mark: this.words(said) });
  }

  protected setLogo(id: string): void {
    const logo = this.logos().find((l) => l.id === id);
    if (logo) this.set({ mark: logo.mark });
  }
}
