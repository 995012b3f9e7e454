import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  booleanAttribute,
  computed,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { MatSelect, MatOption } from '@angular/material/select';
import {
  families,
  fieldNames,
  fieldValues,
  fieldsIn,
  cutText,
  lineStretch,
  runAt,
  wholeStretch,
  withLook,
  layoutOf,
  textOf,
  typographic,
  weightWithin,
  type Align,
  type FieldName,
  type RunLook,
  type WordsLayer,
  limits,
} from '@bright-slot/core';
import { HouseStyleService } from '../../../storage/house-style.service';
import { ColourField } from '../../../ui/colour-field';
import { FontsService } from '../../../type/fonts.service';
import { Icon } from '../../../ui/icon';
import { NumberField } from '../../../ui/number-field';
import { SectionTabs, type Section } from '../../../ui/section-tabs';
import { TypeService } from '../../../type/type.service';
import { Workbench } from '../../../document/workbench';
import { FamilyField } from '../../../type/family-field';
import { FitReportService } from '../../../document/fit-report.service';
import { WordsPlace } from './words-place';
import { WordsAround } from './words-around';
import { centred, written } from './writing';
import { valueOf } from '../../../ui/event-value';

/** So many lines can be chosen by a press; others are selected in the field. */
const MOST_LINES = 5;

const weightNames: Record<number, string> = {
  200: 'Extra light',
  300: 'Light',
  400: 'Regular',
  500: 'Medium',
  600: 'Semibold',
  700: 'Bold',
  800: 'Extra bold',
  900: 'Black',
};

const fieldLabels: Record<FieldName, string> = {
  business: 'Business name',
  address: 'Address',
  date: 'Date',
};

@Component({
  selector: 'bs-words-settings',
  imports: [
    ColourField,
    FamilyField,
    NumberField,
    SectionTabs,
    Icon,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    MatSelect,
    MatOption,
    WordsAround,
    WordsPlace,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './words-settings.html',
  styleUrl: './words-settings.scss',
})
export class WordsSettings {
  protected readonly valueOf = valueOf;
  readonly layer = input.required<WordsLayer>();
  /** What is set is set for several: what one says and where it stands is not shown. */
  readonly several = input(false, { transform: booleanAttribute });
  private readonly field = viewChild<ElementRef<HTMLTextAreaElement>>('field');
  private readonly fonts = inject(FontsService);
  private readonly report = inject(FitReportService);
  private readonly house = inject(HouseStyleService);
  protected readonly workbench = inject(Workbench);
  protected readonly most = limits.letters;
  private readonly type = inject(TypeService);
  protected readonly section = signal<'words' | 'around' | 'place'>('words');
  protected readonly sections = computed((): readonly Section<'words' | 'around' | 'place'>[] => [
    { id: 'words', name: 'Words' },
    { id: 'around', name: 'Around them' },
    ...(this.several() ? [] : [{ id: 'place', name: 'Place' } as const]),
  ]);
  /** What the settings are for, held to the words as they are now. */
  protected readonly stretch = computed(() => {
    const asked = this.workbench.stretch();
    const whole = asked && wholeStretch(this.text(), asked);
    return whole && whole.to > whole.from && whole.to - whole.from < this.text().length ? whole : null;
  });
  protected readonly run = computed(() => runAt(this.layer(), this.stretch()));
  /** Lines that can be chosen to look otherwise than the rest; none where there is but one. */
  protected readonly lines = computed(() => {
    const { paragraphs } = this.layer();
    return paragraphs.length > 1 ? paragraphs.slice(0, MOST_LINES).map((_, i) => i) : [];
  });
  protected readonly line = computed(() => {
    const chosen = this.stretch();
    return chosen
      ? this.lines().findIndex((i) => {
          const { from, to } = lineStretch(this.layer(), i);
          return from === chosen.from && to === chosen.to;
        })
      : -1;
  });
  protected readonly chosenText = computed(() => {
    const chosen = this.stretch();
    return chosen && this.line() < 0 ? cutText(this.text().slice(chosen.from, chosen.to), 24, true) : '';
  });
  protected readonly text = computed(() => textOf(this.layer()));
  protected readonly align = computed(() => this.layer().paragraphs[0]!.align);
  protected readonly family = computed(() => this.fonts.named(this.run().face.family) ?? families[0]!);
  protected readonly weights = computed(() => {
    const [least, most] = this.family().weights;
    const named = Object.entries(weightNames)
      .map(([w, name]) => ({ weight: Number(w), name }))
      .filter(({ weight }) => weight >= least && weight <= most);
    return named.length ? named : [{ weight: least, name: 'Its own' }];
  });
  protected readonly box = computed(() => {
    const shaper = this.type.shaper();
    return shaper ? layoutOf(this.layer(), shaper).box : { x: 0, y: 0, width: 0, height: 0 };
  });

  /** How the words stand out where they do least, in figures. */
  protected readonly contrast = computed(() => {
    const colours = new Set(this.layer().paragraphs.flatMap((p) => p.runs.map((r) => r.colour)));
    // Where there are several, each letter counts in its own.
    const found = this.report.contrastOf(this.layer().id, colours.size === 1 ? this.run().colour : undefined);
    if (!found) return null;
    const figure = (Math.floor(found.contrast * 10) / 10).toFixed(1);
    return { text: `${figure} : 1`, needs: `needs ${found.needed}`, passes: found.contrast >= found.needed };
  });
  /** The size its words were given to fill a box; null where they have their own. */
  protected readonly filled = computed(() => {
    const shaper = this.type.shaper();
    if (this.layer().sizing.kind !== 'fill' || !shaper) return null;
    return this.run().size * layoutOf(this.layer(), shaper).by;
  });
  protected readonly typographic = computed(() => typographic(this.text()) !== this.text());
  protected readonly fields = computed(() => {
    const values = fieldValues(this.house.style(), new Date());
    return fieldNames.map((id) => ({ id, name: fieldLabels[id], says: values[id] }));
  });
  protected readonly holds = computed(() => fieldsIn(this.layer()).map((f) => fieldLabels[f].toLowerCase()));
  protected readonly frozen = computed(() => this.layer().fields.frozen && this.holds().length > 0);

  /** What is selected in the field is what the settings are for. */
  protected selected(): void {
    const field = this.field()?.nativeElement;
    if (!field) return;
    const { selectionStart: from, selectionEnd: to } = field;
    this.workbench.stretch.set(from === to ? null : { from, to });
  }

  protected chooseLine(line: number): void {
    const chosen = lineStretch(this.layer(), line);
    this.workbench.stretch.set(chosen);
    this.field()?.nativeElement.setSelectionRange(chosen.from, chosen.to);
  }

  /** A change to the block; where it stood in the middle of the canvas it stays there. */
  private centred(layer: WordsLayer): WordsLayer {
    return centred(this.layer(), layer, this.workbench.graphic(), this.type.shaper());
  }

  protected write(text: string): void {
    const { layer, name, merge, left } = written(this.layer(), this.text(), text);
    this.workbench.change(this.centred(layer), name, merge);
    if (!left) return;
    this.workbench.say(left);
    // The field still holds all of it.
    const field = this.field()?.nativeElement;
    if (field) field.value = textOf(layer);
  }

  protected setTypographic(): void {
    const { layer } = written(this.layer(), this.text(), typographic(this.text()));
    this.workbench.change(layer, `${layer.name}: quotes and dashes of print`);
  }

  /** A field goes where the caret is. */
  protected insert(field: FieldName): void {
    const element = this.field()?.nativeElement;
    const text = this.text();
    const at = element?.selectionStart ?? text.length;
    const end = element?.selectionEnd ?? at;
    const { layer } = written(this.layer(), text, `${text.slice(0, at)}{${field}}${text.slice(end)}`);
    const values = fieldValues(this.house.style(), new Date());
    this.workbench.change(
      { ...layer, fields: { values, frozen: false } },
      `${layer.name}: ${fieldLabels[field].toLowerCase()} as a field`,
    );
  }

  protected thaw(): void {
    const values = fieldValues(this.house.style(), new Date());
    this.workbench.change(
      { ...this.layer(), fields: { values, frozen: false } },
      `${this.layer().name}: fields of today`,
    );
  }

  /** A change to how the chosen stretch looks, or all of the words. */
  protected changeRuns(change: RunLook, name: string, merge?: string): void {
    const stretch = this.stretch();
    const of = stretch ? `${this.layer().name}, part of it: ` : `${this.layer().name}: `;
    const key = merge && stretch ? `${merge}:${stretch.from}` : merge;
    this.workbench.change(this.centred(withLook(this.layer(), change, stretch)), of + name, key);
  }

  protected draftColour(colour: string): void {
    this.workbench.draft.set({
      type: 'replace-layer',
      layer: withLook(this.layer(), { colour }, this.stretch()),
      name: `${this.layer().name}: colour ${colour}`,
    });
  }

  protected setFamily(name: string): void {
    const family = this.fonts.named(name)!;
    const { weight, italic } = this.run().face;
    this.changeRuns(
      { face: { family: name, weight: weightWithin(family, weight), italic: italic && family.italic } },
      name,
    );
  }

  protected setWeight(weight: number): void {
    this.changeRuns({ face: { ...this.run().face, weight } }, `${weightNames[weight] ?? ''} ${weight}`.trim());
  }

  protected setItalic(italic: boolean): void {
    this.changeRuns({ face: { ...this.run().face, italic } }, italic ? 'italic' : 'upright');
  }

  /** The block stays where it is seen; only its lines move within it. */
  protected setAlign(align: Align): void {
    const { box } = { box: this.box() };
    const x = align === 'left' ? box.x : align === 'centre' ? box.x + box.width / 2 : box.x + box.width;
    const layer = this.layer();
    this.workbench.change(
      { ...layer, place: { ...layer.place, x }, paragraphs: layer.paragraphs.map((p) => ({ ...p, align })) },
      `${layer.name}: ${align === 'centre' ? 'centred' : `aligned ${align}`}`,
    );
  }

  protected setLineSpacing(lineSpacing: number): void {
    const layer = this.layer();
    this.workbench.change(
      this.centred({ ...layer, lineSpacing }),
      `${layer.name}: line spacing ${lineSpacing}`,
      `spacing:${layer.id}`,
    );
  }
}
