import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { MatAutocomplete, MatAutocompleteTrigger, MatOptgroup, MatOption } from '@angular/material/autocomplete';
import { MatSnackBar } from '@angular/material/snack-bar';
import type { Family } from '@bright-slot/core';
import { HouseStyleService } from '../storage/house-style.service';
import { afterFrame } from '../ui/after-frame';
import { FontsService } from './fonts.service';
import { FontReader } from './font-reader';

const kinds: readonly { kind: Family['kind']; name: string }[] = [
  { kind: 'own', name: 'Your own' },
  { kind: 'plain', name: 'Plain' },
  { kind: 'serif', name: 'Serif' },
  { kind: 'slab', name: 'Slab' },
  { kind: 'display', name: 'Display' },
  { kind: 'hand', name: 'Hand' },
  { kind: 'mono', name: 'Mono' },
];

const BRING = 'Bring a font …';
/** So many rows are seen before one scrolls. */
const FIRST = 12;

/** Type families, each in its own face, the house's first; searched by name or kind; others are brought from a file. */
@Component({
  selector: 'bs-family-field',
  imports: [MatAutocomplete, MatAutocompleteTrigger, MatOptgroup, MatOption],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="field">
      <input
        #field
        type="text"
        spellcheck="false"
        autocomplete="off"
        [attr.aria-label]="label()"
        [value]="typed() ?? value()"
        [style.font-family]="faceOf(value())"
        [disabled]="disabled()"
        [matAutocomplete]="list"
        (focus)="field.select()"
        (click)="field.select()"
        (input)="typed.set(field.value)"
      />
    </span>
    <mat-autocomplete
      #list
      class="families"
      [panelWidth]="320"
      (opened)="opened()"
      (closed)="typed.set(null); drawn.set(first); field.value = value()"
      (optionSelected)="choose($event.option.value)"
    >
      @for (g of groups(); track g.name) {
        <mat-optgroup [label]="g.name">
          @for (f of g.families; track f.name) {
            <mat-option [value]="f.name"
              ><span [style.font-family]="faceOf(f.name)" [style.font-size.px]="17">{{ f.name }}</span></mat-option
            >
          }
        </mat-optgroup>
      } @empty {
        <mat-option disabled>No family is called that.</mat-option>
      }
      <mat-option [value]="bring">{{ bring }}</mat-option>
    </mat-autocomplete>
    <input
      #file
      type="file"
      class="visually-hidden"
      accept=".ttf,.otf,.woff2,font/ttf,font/otf,font/woff2"
      aria-label="Bring a font"
      tabindex="-1"
      (change)="brought(file.files); file.value = ''"
    />
  `,
  styles: `
    :host {
      display: block;
      width: 190px;
    }
    input[type='text'] {
      font-size: 15px;
    }
  `,
})
export class FamilyField {
  readonly value = input.required<string>();
  readonly label = input('Type family');
  readonly disabled = input(false);
  readonly changed = output<string>();
  private readonly fonts = inject(FontsService);
  private readonly reader = inject(FontReader);
  private readonly style = inject(HouseStyleService).style;
  private readonly snack = inject(MatSnackBar);
  private readonly file = viewChild.required<ElementRef<HTMLInputElement>>('file');
  private readonly text = viewChild.required<ElementRef<HTMLInputElement>>('field');
  protected readonly bring = BRING;
  /** What is being looked for; null while nothing is. */
  protected readonly typed = linkedSignal<string, string | null>({ source: this.value, computation: () => null });
  /** How many are drawn: at first those that are seen, so that the list is there at once, then all. */
  protected readonly first = FIRST;
  protected readonly drawn = signal(FIRST);
  protected readonly groups = computed(() => {
    let left = this.drawn();
    return this.all().flatMap(({ name, families }) => {
      const some = families.slice(0, Math.max(0, left));
      left -= some.length;
      return some.length ? [{ name, families: some }] : [];
    });
  });
  private readonly all = computed(() => {
    const wanted = (this.typed() ?? '').trim().toLowerCase();
    const all = this.fonts.families();
    const { heading, body } = this.style().type;
    const house = [...new Set([heading.family, body.family])].flatMap((n) => all.find((f) => f.name === n) ?? []);
    const groups = [
      { name: 'House type', families: house },
      ...kinds.map(({ kind, name }) => ({
        name,
        families: all.filter((f) => f.kind === kind && !house.includes(f)),
      })),
    ];
    return groups
      .map(({ name, families }) => ({
        name,
        families: families.filter(
          (f) => f.name.toLowerCase().includes(wanted) || name.toLowerCase().startsWith(wanted),
        ),
      }))
      .filter((g) => g.families.length);
  });

  protected faceOf(name: string): string {
    const family = this.fonts.named(name);
    return family ? `${this.fonts.cssName(family)}, sans-serif` : 'sans-serif';
  }

  /** Faces come one after the other, so that the list itself is there at once. */
  protected async opened(): Promise<void> {
    afterFrame(() => this.drawn.set(Infinity));
    for (const { families } of this.all()) for (const f of families) await this.fonts.show(f);
  }

  protected choose(name: string): void {
    if (name === BRING) {
      this.text().nativeElement.value = this.value();
      this.file().nativeElement.click();
    } else if (name !== this.value()) this.changed.emit(name);
  }

  protected async brought(files: FileList | null): Promise<void> {
    const file = files?.[0];
    if (!file) return;
    const font = await this.fonts.bring(file, this.reader);
    if (!font.ok) {
      this.snack.open(font.problem.message, 'Close', { duration: 15_000, politeness: 'assertive' });
      return;
    }
    const { family, licence } = font.value;
    this.snack.open(`${family} is here now. ${licence || 'The file says nothing of its licence.'}`, 'Close', {
      duration: 12_000,
    });
    this.changed.emit(family);
  }
}
