import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { MatSelect, MatOption } from '@angular/material/select';
import {
  families,
  familyNamed,
  firstRun,
  layoutOf,
  textOf,
  weightWithin,
  withRuns,
  withText,
  type Align,
  type Run,
  type WordsLayer,
} from '@bright-slot/core';
import { ColourField } from '../shared/colour-field';
import { Icon } from '../shared/icon';
import { NumberField } from '../shared/number-field';
import { SectionTabs } from '../shared/section-tabs';
import { TypeService } from '../shared/type.service';
import { Workbench } from '../state/draft';

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

@Component({
  selector: 'bs-words-settings',
  imports: [ColourField, NumberField, SectionTabs, Icon, MatSelect, MatOption],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './words-settings.html',
  styleUrl: './words-settings.scss',
})
export class WordsSettings {
  readonly layer = input.required<WordsLayer>();
  private readonly field = viewChild<ElementRef<HTMLTextAreaElement>>('field');
  private readonly workbench = inject(Workbench);
  private readonly type = inject(TypeService);
  protected readonly families = families;
  protected readonly section = signal<'words' | 'place'>('words');
  protected readonly run = computed(() => firstRun(this.layer()));
  protected readonly text = computed(() => textOf(this.layer()));
  protected readonly align = computed(() => this.layer().paragraphs[0]!.align);
  protected readonly family = computed(() => familyNamed(this.run().face.family) ?? families[0]!);
  protected readonly weights = computed(() => {
    const [least, most] = this.family().weights;
    return Object.entries(weightNames)
      .map(([w, name]) => ({ weight: Number(w), name }))
      .filter(({ weight }) => weight >= least && weight <= most);
  });
  protected readonly box = computed(() => {
    const shaper = this.type.shaper();
    return shaper ? layoutOf(this.layer(), shaper).box : { x: 0, y: 0, width: 0, height: 0 };
  });

  constructor() {
    let seen = this.workbench.writing();
    effect(() => {
      const writing = this.workbench.writing();
      if (writing === seen) return;
      seen = writing;
      this.section.set('words');
      setTimeout(() => this.field()?.nativeElement.select());
    });
  }

  protected write(text: string): void {
    const { id, name } = this.layer();
    // One step a word: the key changes where a word ends.
    const words = text.trim().split(/\s+/).length;
    const nameFor = (t: string) => t.replace(/\s+/g, ' ').trim().slice(0, 40) || 'Words';
    // A name that was not given by hand goes along with the words.
    const layer = withText(this.layer(), text);
    const renamed = name === nameFor(this.text()) ? { ...layer, name: nameFor(text) } : layer;
    this.workbench.change(renamed, `Words: “${text.replace(/\s+/g, ' ').trim().slice(-40)}”`, `words:${id}:${words}`);
  }

  protected changeRuns(change: Partial<Omit<Run, 'text'>>, name: string, merge?: string): void {
    this.workbench.change(withRuns(this.layer(), change), `${this.layer().name}: ${name}`, merge);
  }

  protected draftColour(colour: string): void {
    this.workbench.draft.set({
      type: 'replace-layer',
      layer: withRuns(this.layer(), { colour }),
      name: `${this.layer().name}: colour ${colour}`,
    });
  }

  protected setFamily(name: string): void {
    const family = familyNamed(name)!;
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
      { ...layer, lineSpacing },
      `${layer.name}: line spacing ${lineSpacing}`,
      `spacing:${layer.id}`,
    );
  }

  protected moveTo(axis: 'x' | 'y', to: number): void {
    const layer = this.layer();
    const by = to - this.box()[axis];
    this.workbench.change(
      { ...layer, place: { ...layer.place, [axis]: layer.place[axis] + by } },
      `${layer.name} moved`,
      `place:${layer.id}`,
    );
  }

  protected centre(axis: 'x' | 'y'): void {
    const { canvas } = this.workbench.graphic()!;
    const box = this.box();
    this.moveTo(axis, axis === 'x' ? (canvas.width - box.width) / 2 : (canvas.height - box.height) / 2);
  }
}
