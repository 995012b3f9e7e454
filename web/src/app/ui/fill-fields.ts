import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import {
  angleOfEnds,
  gradientEnds,
  leadingColour,
  reversed,
  twoShades,
  type Fill,
  type Gradient,
  type Size,
  type Stop,
} from '@bright-slot/core';
import { Choice, type Option } from './choice';
import { ColourField } from './colour-field';
import { Icon } from './icon';
import { NumberField } from './number-field';

const MOST_STOPS = 12;

/** What something is filled with: nothing, a colour, or a gradient of several. */
@Component({
  selector: 'bs-fill-fields',
  imports: [Choice, ColourField, Icon, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './fill-fields.html',
  styles: `
    .line,
    .stops,
    li {
      display: flex;
      align-items: center;
      flex-wrap: wrap;
      gap: 6px;
    }
    .line {
      gap: 8px;
    }
    .stops {
      list-style: none;
      margin: 8px 0 0;
      padding: 0;
      gap: 6px 18px;
    }
    .angle {
      width: 112px;
    }
    .at {
      width: 88px;
    }
    .opacity {
      width: 122px;
    }
  `,
})
export class FillFields {
  readonly fill = input.required<Fill>();
  /** What is filled, in a word, as in "Colour of the backdrop". */
  readonly what = input.required<string>();
  readonly label = input.required<string>();
  /** Of the box that is filled, canvas px. */
  readonly size = input.required<Size>();
  readonly disabled = input(false);
  readonly drafted = output<Fill>();
  readonly changed = output<Fill>();
  protected readonly mostStops = MOST_STOPS;
  protected readonly kinds: readonly Option<Fill['kind']>[] = [
    { id: 'none', name: 'None' },
    { id: 'colour', name: 'A colour' },
    { id: 'gradient', name: 'A gradient' },
  ];
  protected readonly forms: readonly Option<Gradient['form']>[] = [
    { id: 'linear', name: 'Straight' },
    { id: 'radial', name: 'In rings' },
  ];
  protected readonly colour = computed(() => leadingColour(this.fill()) ?? '#f4e7cb');
  protected readonly gradient = computed<Gradient | null>(() => {
    const f = this.fill();
    return f.kind === 'gradient' ? f : null;
  });
  protected readonly angle = computed(() => {
    const g = this.gradient();
    return g ? angleOfEnds(this.size(), g.from, g.to) : 0;
  });

  protected asKind(kind: Fill['kind']): Fill {
    if (kind === 'none') return { kind };
    return kind === 'colour' ? { kind, colour: this.colour() } : this.shadesOf(this.colour());
  }

  /** From a darker to a lighter shade of one hue. */
  protected shadesOf(colour: string): Gradient {
    const [darker, lighter] = twoShades(colour);
    const now = this.gradient() ?? { form: 'linear' as const, ...gradientEnds(this.size(), 90) };
    return {
      kind: 'gradient',
      form: now.form,
      from: now.from,
      to: now.to,
      stops: [
        { at: 0, colour: darker, opacity: 1 },
        { at: 1, colour: lighter, opacity: 1 },
      ],
    };
  }

  protected straight(g: Gradient): Gradient {
    return g.form === 'linear' ? g : { ...g, form: 'linear', ...gradientEnds(this.size(), 90) };
  }

  /** Rings from the middle to the far corner. */
  protected inRings(g: Gradient): Gradient {
    return g.form === 'radial' ? g : { ...g, form: 'radial', from: { x: 0.5, y: 0.5 }, to: { x: 1, y: 1 } };
  }

  protected atAngle(g: Gradient, angle: number): Gradient {
    return { ...g, ...gradientEnds(this.size(), angle) };
  }

  protected readonly turnedRound = reversed;

  protected withStop(g: Gradient, i: number, change: Partial<Stop>): Gradient {
    // A stop goes no further than its neighbours.
    const before = g.stops[i - 1]?.at ?? 0;
    const after = g.stops[i + 1]?.at ?? 1;
    const at = Math.min(after, Math.max(before, change.at ?? g.stops[i]!.at));
    return { ...g, stops: g.stops.map((s, k) => (k === i ? { ...s, ...change, at } : s)) };
  }

  protected withoutStop(g: Gradient, i: number): Gradient {
    return { ...g, stops: g.stops.filter((_, k) => k !== i) };
  }

  /** One more, in the widest gap. */
  protected withMore(g: Gradient): Gradient {
    const gaps = g.stops.slice(1).map((s, i) => s.at - g.stops[i]!.at);
    const i = gaps.indexOf(Math.max(...gaps));
    const [a, b] = [g.stops[i]!, g.stops[i + 1]!];
    const between = { at: (a.at + b.at) / 2, colour: a.colour, opacity: (a.opacity + b.opacity) / 2 };
    return { ...g, stops: [...g.stops.slice(0, i + 1), between, ...g.stops.slice(i + 1)] };
  }
}
