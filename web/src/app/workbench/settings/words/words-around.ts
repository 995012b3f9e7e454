import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { MatOption, MatSelect } from '@angular/material/select';
import {
  firstRun,
  usualShadow,
  withRuns,
  type LetterCase,
  type LetterOutline,
  type Shadow,
  type WordsGround,
  type WordsLayer,
} from '@bright-slot/core';
import { ColourField } from '../../../ui/colour-field';
import { LineFields } from '../../../ui/line-fields';
import { NumberField } from '../../../ui/number-field';
import { ShadowFields } from '../../../ui/shadow-fields';
import { LayerSection } from '../section';
import { tickedOf } from '../../../ui/event-value';

const plainGround: WordsGround = { colour: '#ffffff', opacity: 0.85, across: 14, down: 6, radius: 6 };
const plainOutline: LetterOutline = { width: 2, colour: '#1f2a30' };

/** What is around letters: the room between them, their case, a line outside them, a shadow, a ground of their own. */
@Component({
  selector: 'bs-words-around',
  imports: [NumberField, ColourField, LineFields, ShadowFields, MatSelect, MatOption],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './words-around.html',
  styles: `
    @use '../sections';
    :host {
      display: block;
    }
    .line + .line {
      margin-top: 6px;
    }
    bs-number {
      width: 128px;
    }
    .spaced {
      width: 172px;
    }
    .case {
      width: 150px;
      display: flex;
      font-size: 13px;
    }
  `,
})
export class WordsAround extends LayerSection<WordsLayer> {
  protected readonly tickedOf = tickedOf;
  protected readonly plainOutline = plainOutline;
  protected readonly run = computed(() => firstRun(this.layer()));
  protected readonly cases: readonly { id: LetterCase; name: string }[] = [
    { id: 'typed', name: 'As typed' },
    { id: 'upper', name: 'ALL LARGE' },
    { id: 'lower', name: 'all small' },
    { id: 'title', name: 'Each Word Large' },
  ];

  protected runs(change: Parameters<typeof withRuns>[1], what: string): void {
    this.set(withRuns(this.layer(), change), what);
  }

  protected groundWith(change: Partial<WordsGround> | null) {
    return { ground: change && { ...(this.layer().ground ?? plainGround), ...change } };
  }

  protected grounded(change: Partial<WordsGround> | null): void {
    this.set(this.groundWith(change), 'ground');
  }

  /** Closer and firmer than a picture's: letters are thin. */
  protected readonly usual: Shadow = { ...usualShadow, distance: 3, blur: 6, strength: 0.6 };
}
