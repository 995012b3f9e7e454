import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { fileName, patternProblem } from '@bright-slot/core';
import { PlaceBar } from '../frame/place-bar';
import { ColourField } from '../shared/colour-field';
import { Icon } from '../shared/icon';
import { HouseStyleService } from './house-style.service';
import { today } from '../shared/when';

/** What the business's graphics have in common: colours to hand, names, the copyright line. */
@Component({
  selector: 'bs-house-style-page',
  imports: [PlaceBar, ColourField, Icon],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'place' },
  templateUrl: './house-style-page.html',
  styleUrl: './house-style-page.scss',
})
export class HouseStylePage {
  private readonly house = inject(HouseStyleService);
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
    }),
  );
  protected readonly parts = ['{graphic}', '{slot}', '{date}', '{letter}'];
  protected readonly next = signal('#8a6f4e');

  protected setCopyright(copyright: string): void {
    void this.house.change({ copyright: copyright.trim().slice(0, 200) });
  }

  protected addPart(part: string): void {
    this.pattern.update((p) => (p ? `${p}-${part}` : part));
    this.commitPattern();
  }

  protected commitPattern(): void {
    if (!this.patternProblem()) void this.house.change({ namePattern: this.pattern() });
  }

  protected addColour(colour: string): void {
    const { colours } = this.style();
    if (!colours.includes(colour)) void this.house.change({ colours: [...colours, colour].slice(-24) });
  }

  protected removeColour(colour: string): void {
    void this.house.change({ colours: this.style().colours.filter((c) => c !== colour) });
  }
}
