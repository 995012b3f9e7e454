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

const plainGround: WordsGround = { colour: '#ffffff', opacity: 0.85, across: 14, down: 6, radius: 6 };
const plainOutline: LetterOutline = { width: 2, colour: '#1f2a30' };

/** What is around letters: the room between them, their case, a line outside them, a shadow, a ground of their own. */
@Component({
  selector: 'bs-words-around',
  imports: [NumberField, ColourField, LineFields, ShadowFields, MatSelect, MatOption],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="line">
      <bs-number
        label="Letter spacing"
        class="spaced"
        [value]="run().tracking * 100"
        [min]="-50"
        [max]="300"
        [places]="1"
        unit="%"
        [disabled]="locked()"
        (changed)="runs({ tracking: $event / 100 }, 'letter spacing')"
      />
      <mat-select
        class="case field"
        aria-label="Case"
        [value]="run().case"
        (selectionChange)="runs({ case: $event.value }, 'case')"
        [disabled]="locked()"
      >
        @for (c of cases; track c.id) {
          <mat-option [value]="c.id">{{ c.name }}</mat-option>
        }
      </mat-select>
      <bs-line-fields
        name="Outline"
        wide="Wide"
        [most]="200"
        [swatches]="[]"
        [line]="layer().outline"
        [usual]="plainOutline"
        [disabled]="locked()"
        (drafted)="draft({ outline: $event }, 'outline')"
        (changed)="set({ outline: $event }, 'outline')"
      />
    </div>
    <div class="line">
      <label class="tick"
        ><input
          type="checkbox"
          [checked]="!!layer().ground"
          [disabled]="locked()"
          (change)="grounded($any($event.target).checked ? {} : null)"
        />
        Ground</label
      >
      @if (layer().ground; as g) {
        <bs-number
          label="Sides"
          [value]="g.across"
          [min]="0"
          [max]="2000"
          [places]="1"
          unit="px"
          [disabled]="locked()"
          (changed)="grounded({ across: $event })"
        />
        <bs-number
          label="Above"
          [value]="g.down"
          [min]="0"
          [max]="2000"
          [places]="1"
          unit="px"
          [disabled]="locked()"
          (changed)="grounded({ down: $event })"
        />
        <bs-number
          label="Corners"
          [value]="g.radius"
          [min]="0"
          [max]="2000"
          [places]="1"
          unit="px"
          [disabled]="locked()"
          (changed)="grounded({ radius: $event })"
        />
        <bs-number
          label="Opacity"
          [value]="g.opacity * 100"
          [min]="0"
          [max]="100"
          unit="%"
          [disabled]="locked()"
          (changed)="grounded({ opacity: $event / 100 })"
        />
        <bs-colour
          label="Colour of the ground"
          [swatches]="[]"
          [value]="g.colour"
          [disabled]="locked()"
          (drafted)="draft(groundWith({ colour: $event }), 'ground')"
          (changed)="grounded({ colour: $event })"
        />
      }
    </div>
    <bs-shadow-fields
      class="line"
      [shadow]="layer().shadow"
      [usual]="usual"
      [disabled]="locked()"
      (drafted)="draft({ shadow: $event }, 'shadow')"
      (changed)="set({ shadow: $event }, 'shadow')"
    />
  `,
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
