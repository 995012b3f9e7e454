import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from '@angular/core';
import { RouterLink } from '@angular/router';
import { frameOf, ratioOf } from '@bright-slot/core';
import { Choice, type Option } from '../ui/choice';
import { ColourField } from '../ui/colour-field';
import { tickedOf, valueOf } from '../ui/event-value';
import { Icon } from '../ui/icon';
import { EverywhereSession, type Tried, type UsedKind } from './everywhere-session';

/** One picture, colour or phrase in all graphics that use it: each looked at before, all replaced at once. */
@Component({
  selector: 'bs-everywhere-page',
  imports: [Choice, ColourField, Icon, RouterLink],
  providers: [EverywhereSession],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './everywhere-page.html',
  styleUrl: './everywhere-page.scss',
})
export class EverywherePage {
  /** From the address: a picture's hash, or a colour. */
  readonly picture = input<string>();
  readonly colour = input<string>();
  readonly routine = input<string>();
  protected readonly all = inject(EverywhereSession);
  protected readonly valueOf = valueOf;
  protected readonly tickedOf = tickedOf;
  protected readonly kinds: readonly Option<UsedKind>[] = [
    { id: 'picture', name: 'A picture' },
    { id: 'colour', name: 'A colour' },
    { id: 'words', name: 'Words' },
    { id: 'routine', name: 'A routine' },
  ];
  /** Pictures that graphics use, the most used first. */
  protected readonly inUse = computed(() =>
    this.all
      .items()
      .filter((i) => i.hash !== undefined && i.usedIn.length > 0)
      .sort((a, b) => b.usedIn.length - a.usedIn.length),
  );
  protected readonly others = computed(() => this.all.items().filter((i) => i.id !== this.all.picture()?.id));
  protected readonly count = computed(() => this.all.wanted().length);

  constructor() {
    effect(() => {
      const asked = { picture: this.picture(), colour: this.colour(), routine: this.routine() };
      untracked(() => void this.all.open(asked));
    });
  }

  /** So high is a graphic shown, whatever its shape, px. */
  protected sizeOf({ graphic }: Tried): { width: number; height: number } {
    const ratio = ratioOf(frameOf(graphic).rect);
    const width = Math.min(300, Math.round(110 * ratio));
    return { width, height: Math.round(width / ratio) };
  }
}
