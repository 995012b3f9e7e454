import { Clipboard } from '@angular/cdk/clipboard';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { coloursCss, families, familyNamed, missedContrasts, type PageColours } from '@bright-slot/core';
import { PageColoursService } from '../../document/page-colours.service';
import { storageProblem } from '../../storage/storage-problem';
import { FontsService } from '../../type/fonts.service';
import { ColourField } from '../../ui/colour-field';
import { SelectField } from '../../ui/select-field';

/** Colours for the page around the graphic: tried on it at once, kept with it, or copied. */
@Component({
  selector: 'bs-page-colours',
  imports: [ColourField, SelectField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="palettes" role="group" aria-label="Palettes made of the graphic">
      <button type="button" class="palette" [attr.aria-pressed]="!colours.tried()" (click)="colours.tried.set(null)">
        <span class="name">As it is</span>
      </button>
      @for (p of colours.palettes(); track $index) {
        <button
          type="button"
          class="palette"
          [attr.aria-label]="'Ground ' + p.ground + ', words ' + p.words + ', headings ' + p.accent"
          [attr.aria-pressed]="same(p)"
          [style.background]="p.ground"
          [style.border-color]="p.border"
          (click)="colours.tried.set(p)"
        >
          <span class="name" [style.color]="p.words">Aa</span>
          <span class="mark" [style.background]="p.accent"></span>
        </button>
      } @empty {
        <span class="quiet small-text" role="status">Palettes are being made of the pictures …</span>
      }
    </div>
    @if (shown(); as c) {
      <div class="own">
        <span class="small-text">Ground</span
        ><bs-colour label="Ground" [swatches]="[]" [value]="c.ground" (changed)="set({ ground: $event })" />
        <span class="small-text">Words</span
        ><bs-colour label="Words" [swatches]="[]" [value]="c.words" (changed)="set({ words: $event })" />
        <span class="small-text">Headings</span
        ><bs-colour label="Headings" [swatches]="[]" [value]="c.accent" (changed)="set({ accent: $event })" />
        <bs-select label="Type" [options]="headings()" [value]="c.heading ?? ''" (changed)="head($event)" />
        <span class="grow"></span>
        @if (missed(); as line) {
          <span class="problem-text small-text" role="status">{{ line }}</span>
        }
        @if (colours.tried(); as tried) {
          <button type="button" class="button small" (click)="copy(tried)">Copy as CSS</button>
          <button type="button" class="button small main" (click)="keep(tried)">Keep for this page</button>
        } @else if (colours.kept()) {
          <button type="button" class="button small" (click)="keep(null)">Back to the site’s own</button>
        }
      </div>
    }
  `,
  styleUrl: './page-colours.scss',
})
export class PageColoursPanel {
  protected readonly colours = inject(PageColoursService);
  private readonly snack = inject(MatSnackBar);
  private readonly fonts = inject(FontsService);
  private readonly clipboard = inject(Clipboard);
  protected readonly shown = computed(() => this.colours.tried() ?? this.colours.now());
  protected readonly missed = computed(() => {
    const shown = this.shown();
    const [first] = shown ? missedContrasts(shown) : [];
    if (!first) return '';
    const what = first.of === 'words' ? 'Words' : 'Headings';
    return `${what} have ${(Math.floor(first.contrast * 10) / 10).toFixed(1)} : 1, need ${first.needed}.`;
  });

  protected readonly headings = computed(() => [
    { id: '', name: 'the page’s own type' },
    ...families.map(({ name }) => ({ id: name, name })),
  ]);

  protected head(family: string): void {
    const found = familyNamed(family);
    if (found) void this.fonts.show(found);
    this.set({ heading: found ? family : null });
  }

  protected same(p: PageColours): boolean {
    return JSON.stringify(p) === JSON.stringify(this.colours.tried());
  }

  protected set(change: Partial<PageColours>): void {
    const shown = this.shown();
    if (shown) this.colours.tried.set({ ...shown, ...change });
  }

  protected copy(colours: PageColours): void {
    const done = this.clipboard.copy(coloursCss(colours));
    this.snack.open(
      done ? 'Copied as CSS.' : 'The browser did not let it be copied; the figures stand in the fields.',
      'Close',
    );
  }

  protected async keep(colours: PageColours | null): Promise<void> {
    try {
      const undo = await this.colours.keep(colours);
      this.snack
        .open(
          colours
            ? 'Kept with the page; it goes along when the graphic is sent.'
            : 'The page has its site’s colours again.',
          'Undo',
        )
        .onAction()
        .subscribe(() => void undo());
    } catch (error) {
      this.snack.open(storageProblem(error).message, 'Close');
    }
  }
}
