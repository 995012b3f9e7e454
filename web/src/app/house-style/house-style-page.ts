import { ChangeDetectionStrategy, Component, computed, effect, inject, linkedSignal, signal } from '@angular/core';
import { MatOption, MatSelect } from '@angular/material/select';
import { MatSnackBar } from '@angular/material/snack-bar';
import { RouterLink } from '@angular/router';
import {
  cutText,
  fileName,
  nameFields,
  patternProblem,
  weightWithin,
  withHouseColour,
  type BroughtFont,
  type ColourRole,
  type Face,
  type HouseColour,
  type HouseStyle,
} from '@bright-slot/core';
import { PlaceBar } from '../shell/place-bar';
import { ColourField } from '../ui/colour-field';
import { FontsService } from '../type/fonts.service';
import { saveFile } from '../ui/download';
import { Icon } from '../ui/icon';
import { NumberField } from '../ui/number-field';
import { PicturesService } from '../media/pictures.service';
import { today } from '../ui/when';
import { GraphicsRepository } from '../storage/graphics-repository';
import { FamilyField } from '../type/family-field';
import { HouseStyleService } from '../storage/house-style.service';
import { Everywhere, replacing, type Use } from '../document/everywhere.service';
import { readTokens, tokensFile } from './token-files';
import { valueOf } from '../ui/event-value';

/** Graphics that have a house colour as it was before it was changed. */
interface Offer {
  readonly at: number;
  readonly from: string;
  readonly to: string;
  readonly uses: readonly Use[];
}

const parts = nameFields.map((field) => `{${field}}`);
const roles: readonly { id: ColourRole | 'any'; name: string }[] = [
  { id: 'any', name: 'Any use' },
  { id: 'words', name: 'Words' },
  { id: 'ground', name: 'Ground' },
  { id: 'accent', name: 'Accent' },
  { id: 'second', name: 'Second accent' },
];
const uses: readonly { id: keyof HouseStyle['type']; name: string }[] = [
  { id: 'heading', name: 'Headings' },
  { id: 'body', name: 'Text' },
];

/** The lines that every file says, as fields. */
const fileLines = [
  { key: 'copyright', label: 'Line', hint: 'For example: © 2026, and whose it is' },
  { key: 'creator', label: 'Made by', hint: 'A name, if the files are to say it' },
  { key: 'credit', label: 'Credit', hint: 'Whom to name where they are shown' },
] as const;

/** What the business's graphics have in common: colours, type, logos, fields, names, the copyright line. */
@Component({
  selector: 'bs-house-style-page',
  imports: [PlaceBar, ColourField, FamilyField, Icon, NumberField, MatSelect, MatOption, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'place' },
  templateUrl: './house-style-page.html',
  styleUrl: './house-style-page.scss',
})
export class HouseStylePage {
  protected readonly valueOf = valueOf;
  protected readonly fileLines = fileLines;
  private readonly house = inject(HouseStyleService);
  private readonly everywhere = inject(Everywhere);
  private readonly pictures = inject(PicturesService);
  private readonly repository = inject(GraphicsRepository);
  private readonly snack = inject(MatSnackBar);
  protected readonly fonts = inject(FontsService);
  protected readonly style = this.house.style;
  protected readonly problem = this.house.problem;
  protected readonly pattern = linkedSignal(() => this.style().namePattern);
  protected readonly patternProblem = computed(() => patternProblem(this.pattern()));
  protected readonly example = computed(() =>
    fileName(this.pattern(), {
      graphic: 'Autumn glazes',
      slot: 'Blog header',
      date: today(),
      format: 'jpeg',
      site: this.style().business || 'Site',
      version: 2,
      size: { width: 940, height: 198 },
      density: 1,
      number: '1',
    }),
  );
  protected readonly parts = parts;
  protected readonly specimen = 'Open on Saturday from ten to four: come in, look round, take one home.';
  protected readonly roles = roles;
  protected readonly uses = uses;
  protected readonly offer = signal<Offer | null>(null);
  protected readonly changing = signal(false);
  protected readonly told = signal('');
  /** The file that is being brought in. */
  protected readonly busy = signal('');
  private bringing = new AbortController();
  protected readonly logos = signal<readonly { hash: string; name: string; url: string }[]>([]);

  constructor() {
    effect(() => {
      for (const { id } of this.uses) {
        const family = this.fonts.named(this.style().type[id].family);
        if (family) void this.fonts.show(family);
      }
    });
    effect((cleanUp) => {
      const urls: string[] = [];
      let gone = false;
      cleanUp(() => {
        gone = true;
        urls.forEach((u) => URL.revokeObjectURL(u));
      });
      void Promise.all(this.style().logos.map((hash) => this.repository.asset(hash))).then((found) => {
        if (gone) return;
        this.logos.set(
          found.flatMap((a) => {
            if (!a) return [];
            const url = URL.createObjectURL(a.thumb ?? a.blob);
            urls.push(url);
            return [{ hash: a.hash, name: a.name, url }];
          }),
        );
      });
    });
  }

  protected set(change: Partial<Omit<HouseStyle, 'version'>>): void {
    void this.house.change(change);
  }

  protected trimmed(event: Event, most: number): string {
    return cutText(valueOf(event).toWellFormed().trim(), most);
  }

  protected setFileLine(key: (typeof fileLines)[number]['key'], event: Event): void {
    this.set({ [key]: this.trimmed(event, 200) });
  }

  protected setColour(at: number, change: Partial<HouseColour>): void {
    this.set({ colours: withHouseColour(this.style(), at, change).colours });
  }

  /** A colour without a name has none to be found by. */
  protected rename(at: number, field: HTMLInputElement): void {
    const name = field.value.trim().slice(0, 40);
    if (name) this.setColour(at, { name });
    field.value = this.style().colours[at]!.name;
  }

  /** The colour is changed here at once; the graphics that have it are shown, and asked about. */
  protected async recolour(at: number, to: string): Promise<void> {
    const from = this.style().colours[at]!.colour;
    if (from === to) return;
    this.told.set('');
    // Tried twice in a row, the graphics still have the first.
    const before = this.offer();
    const was = before?.at === at && before.to === from ? before.from : from;
    this.setColour(at, { colour: to });
    const uses = await this.everywhere.uses({ kind: 'colour', colour: was });
    this.offer.set(uses.length && was !== to ? { at, from: was, to, uses } : null);
  }

  protected async changeThem(): Promise<void> {
    const offer = this.offer();
    if (!offer) return;
    this.changing.set(true);
    const called = this.style().colours[offer.at]?.name ?? 'changed';
    const { before, busy, problem } = await this.everywhere.change(
      offer.uses.map((u) => u.graphic.id),
      replacing(
        { kind: 'colour', colour: offer.from },
        { kind: 'colour', colour: offer.to },
        `House colour ${called}: ${offer.to}`,
      ),
    );
    const changed = before.length;
    this.changing.set(false);
    this.offer.set(null);
    const done = `${changed === 1 ? 'One graphic has' : `${changed} graphics have`} it now; in each it is one step, undone like any other.`;
    this.told.set(
      problem?.message ??
        (busy ? `${done} ${busy === 1 ? 'One is' : `${busy} are`} at work in another tab and stayed as before.` : done),
    );
  }

  protected addColour(): void {
    this.setColour(this.style().colours.length, { name: 'New colour' });
  }

  protected removeColour(at: number): void {
    const before = this.style().colours;
    const { name } = before[at]!;
    this.offer.set(null);
    this.set({ colours: before.filter((_, i) => i !== at) });
    this.snack
      .open(`${name} removed. Graphics keep it.`, 'Undo', { duration: 8000 })
      .onAction()
      .subscribe(() => this.set({ colours: before }));
  }

  protected weights(use: keyof HouseStyle['type']): readonly [number, number] {
    return this.fonts.named(this.style().type[use].family)?.weights ?? [1, 1000];
  }

  protected cssFamily(use: keyof HouseStyle['type']): string {
    const family = this.fonts.named(this.style().type[use].family);
    return family ? `${this.fonts.cssName(family)}, sans-serif` : 'sans-serif';
  }

  protected setType(use: keyof HouseStyle['type'], change: Partial<Face>): void {
    const { type } = this.style();
    const face = { ...type[use], ...change };
    const family = this.fonts.named(face.family);
    const weight = family ? weightWithin(family, face.weight) : face.weight;
    this.set({ type: { ...type, [use]: { ...face, weight } } });
  }

  protected async removeFont({ hash, family }: BroughtFont): Promise<void> {
    await this.fonts.remove(hash);
    this.snack.open(`${family} removed. Words set in it show another family until it is brought again.`, 'Close', {
      duration: 8000,
    });
  }

  protected async addLogo(files: FileList | null): Promise<void> {
    const file = files?.[0];
    if (!file) return;
    const stop = (this.bringing = new AbortController());
    this.busy.set(file.name || 'a logo');
    const brought = await this.pictures.bringIn(file, {}, { signal: stop.signal }).catch(() => null);
    this.busy.set('');
    if (!brought || (!brought.ok && brought.problem.code === 'stopped')) return;
    if (!brought.ok) {
      this.snack.open(brought.problem.message, 'Close', { duration: 15_000, politeness: 'assertive' });
      return;
    }
    const { logos } = this.style();
    if (!logos.includes(brought.value.hash)) this.set({ logos: [...logos, brought.value.hash].slice(-12) });
  }

  protected stopBringing(): void {
    this.bringing.abort();
  }

  protected removeLogo(hash: string): void {
    this.set({ logos: this.style().logos.filter((l) => l !== hash) });
  }

  protected addPart(part: string): void {
    this.pattern.update((p) => (p ? `${p}-${part}` : part));
    this.commitPattern();
  }

  protected commitPattern(): void {
    if (!this.patternProblem()) this.set({ namePattern: this.pattern() });
  }

  protected async saveTokens(): Promise<void> {
    saveFile(await tokensFile(this.style()), 'house-style.tokens.json');
  }

  protected async bringTokens(files: FileList | null): Promise<void> {
    const file = files?.[0];
    if (!file) return;
    const read = await readTokens(file);
    if (!read.ok) {
      this.snack.open(read.problem.message, 'Close', { duration: 15_000, politeness: 'assertive' });
      return;
    }
    const before = { colours: this.style().colours, type: this.style().type };
    const { colours, type } = read.value;
    this.set({ ...(colours.length ? { colours } : {}), type: { ...before.type, ...type } });
    const told = `${colours.length} colours came in${(type.heading ?? type.body) ? ', and type' : ''}.`;
    this.snack
      .open(told, 'Undo', { duration: 12_000 })
      .onAction()
      .subscribe(() => this.set(before));
  }
}
