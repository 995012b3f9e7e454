import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatOption, MatSelect } from '@angular/material/select';
import { withRuns, type VeilForm, type VeilLayer, type WordsLayer } from '@bright-slot/core';
import { Choice, type Option } from '../../../ui/choice';
import { ColourField } from '../../../ui/colour-field';
import { NumberField } from '../../../ui/number-field';
import { SectionTabs } from '../../../ui/section-tabs';
import { SliderField } from '../../../ui/slider-field';
import type { Offer } from '../../../pixels/jobs/least-veil';
import { LeastVeilService } from '../../../document/least-veil.service';
import { LayerSection } from '../section';

const names: Record<string, string> = { '#ffffff': 'white', '#000000': 'black' };

/** A veil's settings: where it lies, its colour, and how strong it is, by hand or just enough. */
@Component({
  selector: 'bs-veil-settings',
  imports: [Choice, ColourField, NumberField, SectionTabs, SliderField, MatSelect, MatOption],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './veil-settings.html',
  styles: `
    @use '../sections';
    .line + .line {
      margin-top: 8px;
    }
    bs-number {
      width: 122px;
    }
    .wide {
      width: 152px;
    }
    .side,
    .for {
      display: flex;
      width: 130px;
      font-size: 13px;
    }
    .for {
      width: 210px;
    }
    .strength {
      width: 300px;
    }
  `,
})
export class VeilSettings extends LayerSection<VeilLayer> {
  private readonly enough = inject(LeastVeilService);
  protected readonly usual = 102 / 255;
  protected readonly forms = computed((): Option<VeilForm['kind']>[] => [
    { id: 'whole', name: 'Over all of it' },
    { id: 'band', name: 'A band' },
    { id: 'side', name: 'From a side' },
    { id: 'behind', name: 'Behind words', disabled: !this.words().length, why: 'There are no words yet' },
  ]);
  protected readonly ways: readonly Option<'across' | 'down'>[] = [
    { id: 'across', name: 'Across' },
    { id: 'down', name: 'Down' },
  ];
  protected readonly words = computed(() =>
    (this.workbench.working()?.layers ?? []).filter((l): l is WordsLayer => l.role === 'words'),
  );
  private readonly as = <K extends VeilForm['kind']>(kind: K) =>
    computed(() => {
      const form = this.layer().form;
      return form.kind === kind ? (form as VeilForm & { kind: K }) : null;
    });
  protected readonly band = this.as('band');
  protected readonly side = this.as('side');
  protected readonly behind = this.as('behind');

  private readonly found = computed(() =>
    this.layer().justEnough ? this.enough.found().get(this.layer().id) : undefined,
  );
  protected readonly said = computed(() => {
    if (!this.layer().justEnough) return '';
    if (this.enough.problem()) return this.enough.problem();
    const found = this.found();
    if (this.enough.looking() === this.layer().id && !found) return 'Looking …';
    if (!found) return '';
    if (!found.words) return 'There are no words in front of it.';
    if (found.strength === 0) return 'The words stand out without it.';
    if (found.strength !== null) return `${Math.round((found.strength / 255) * 1000) / 10} % is just enough.`;
    return 'No strength of this colour makes these words stand out.';
  });
  protected readonly hint = computed(() =>
    this.words().length
      ? 'Just enough finds the least strength with which the words stand out, at the pixels behind their letters, and keeps to it.'
      : 'A veil is for words: add some, and it can find how strong it has to be.',
  );
  protected readonly offers = computed(() => {
    const found = this.found();
    return found && found.words && found.strength === null ? found.offers : [];
  });

  protected form(change: Partial<{ at: number; size: number; soft: number; reach: number; grow: number }>): void {
    this.set({ form: { ...this.layer().form, ...change } }, 'place');
  }

  protected formed(kind: VeilForm['kind']): void {
    if (kind === this.layer().form.kind) return;
    const { width, height } = this.canvas();
    const forms: Record<VeilForm['kind'], VeilForm> = {
      whole: { kind: 'whole' },
      band: {
        kind: 'band',
        way: 'across',
        at: Math.round(height * 0.25),
        size: Math.round(height / 2),
        soft: Math.round(height / 8),
      },
      side: { kind: 'side', side: 'left', reach: Math.round(width * 0.6) },
      behind: { kind: 'behind', grow: 16, soft: 24 },
    };
    this.set({ form: forms[kind] }, 'form');
  }

  protected turned(way: 'across' | 'down'): void {
    const { width, height } = this.canvas();
    const room = way === 'across' ? height : width;
    this.set(
      {
        form: {
          kind: 'band',
          way,
          at: Math.round(room * 0.25),
          size: Math.round(room / 2),
          soft: Math.round(room / 8),
        },
      },
      'place',
    );
  }

  protected fromSide(side: (VeilForm & { kind: 'side' })['side']): void {
    const { width, height } = this.canvas();
    const reach = Math.round((side === 'left' || side === 'right' ? width : height) * 0.6);
    this.set({ form: { kind: 'side', side, reach } }, 'place');
  }

  /** Set by hand, it is no longer looked for. */
  protected strengthOf(share: number): Partial<VeilLayer> {
    return { strength: Math.round(share * 255), justEnough: false };
  }

  protected keepJustEnough(justEnough: boolean): void {
    this.set({ justEnough }, justEnough ? 'just enough' : 'strength by hand');
  }

  protected offered({ kind, colour, strength }: Offer): string {
    const share = `${Math.round((strength / 255) * 100)} %`;
    return kind === 'ink'
      ? `Make the words ${names[colour] ?? colour} (${share})`
      : `Make the veil ${names[colour] ?? colour} (${share})`;
  }

  protected take({ kind, colour }: Offer): void {
    if (kind === 'veil') return this.set({ colour }, `colour ${colour}`);
    const chosen = this.layer().words;
    const layers = this.workbench.graphic()!.layers;
    const at = layers.findIndex((l) => l.id === this.layer().id);
    const words = this.words().filter((w) =>
      chosen.length ? chosen.includes(w.id) : w.visible && layers.findIndex((l) => l.id === w.id) > at,
    );
    this.workbench.edit({
      type: 'together',
      name: `Words ${names[colour] ?? colour}`,
      edits: words.map((w) => ({ type: 'replace-layer', layer: withRuns(w, { colour }) })),
    });
  }
}
