import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import {
  atRatio,
  bad,
  figure,
  readNumber,
  sizeText,
  slotAtSize,
  type RatioCandidate,
  type Slot,
} from '@bright-slot/core';
import { TextField } from '../../ui/text-field';
import { SlotBook } from '../../storage/slot-book.service';
import { AddSlot } from './add-slot';
import { SlotSelect } from './slot-select';
import { SelectField } from '../../ui/select-field';

const percent = (share: number) => figure(Math.abs(share) * 100, Math.abs(share) < 0.001 ? 3 : 2);

/** Another working size for a slot, from its ratio and one side. */
@Component({
  selector: 'bs-ratio-finder',
  imports: [SelectField, TextField, AddSlot, SlotSelect],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Ratio and one side</h2>
    <bs-slot-select [slot]="basis()" (chosen)="picked.set($event)" />
    <div class="fields">
      <bs-select label="Given" [options]="sides" [value]="side()" (changed)="side.set($event)" />
      <bs-text-field label="Length" unit="px" [(text)]="length" [wrong]="!answer().ok" />
    </div>
    @if (found(); as f) {
      <p class="sum">{{ working() }}</p>
      <table aria-label="Whole pixels, nearest the ratio first">
        <thead>
          <tr>
            <th scope="col">whole px</th>
            <th scope="col">against the ratio</th>
            <th scope="col">the page cuts</th>
            <th><span class="visually-hidden">choose</span></th>
          </tr>
        </thead>
        <tbody>
          @for (c of f; track c.width + 'x' + c.height) {
            @if (c === firstNear()) {
              <tr>
                <td colspan="4" class="note">Close by, nearer the ratio</td>
              </tr>
            }
            <tr [class.here]="c === chosen()">
              <td>{{ sizeOf(c) }}</td>
              <td>{{ errorOf(c) }}</td>
              <td>{{ cutOf(c) }}</td>
              <td>
                <button
                  type="button"
                  class="button small"
                  [attr.aria-pressed]="c === chosen()"
                  [attr.aria-label]="'Take ' + sizeOf(c)"
                  (click)="chosen.set(c)"
                >
                  Take
                </button>
              </td>
            </tr>
          }
        </tbody>
      </table>
      @if (basis(); as b) {
        <bs-add-slot
          [slots]="slots()"
          [suggested]="b.name.slice(0, 50) + ' at ' + sizeOf(chosen()!)"
          (added)="added.emit($event)"
        />
      }
    } @else {
      <p class="small-text problem-text" role="alert">{{ problem() }}</p>
    }
  `,
  styleUrl: './_finder.scss',
})
export class RatioFinder {
  protected readonly sides = [
    { id: 'width', name: 'width' },
    { id: 'height', name: 'height' },
  ] as const;
  readonly slot = input<Slot | null>(null);
  readonly added = output<readonly Slot[]>();
  private readonly book = inject(SlotBook);
  protected readonly picked = signal<Slot | null>(null);
  protected readonly basis = computed(
    () => this.picked() ?? this.slot() ?? this.book.byId().get('page-cover') ?? (this.book.slots() ?? [])[0] ?? null,
  );
  protected readonly side = signal<'width' | 'height'>('width');
  protected readonly length = signal('900');
  protected readonly answer = computed(() => {
    const basis = this.basis();
    if (!basis) return bad('ratio', 'The book is empty. Add a slot first.');
    return atRatio(basis, this.side(), readNumber(this.length()) ?? NaN);
  });
  protected readonly problem = computed(() => {
    const a = this.answer();
    return a.ok ? '' : a.problem.message;
  });
  /** Whole px at the side given, then those close by that come nearer. */
  protected readonly found = computed(() => {
    const a = this.answer();
    return a.ok ? [...a.value.here, ...a.value.near] : null;
  });
  protected readonly firstNear = computed(() => {
    const a = this.answer();
    return a.ok ? a.value.near[0] : undefined;
  });
  protected readonly chosen = linkedSignal<RatioCandidate | null>(() => this.found()?.[0] ?? null);
  protected readonly slots = computed(() => {
    const [basis, c] = [this.basis(), this.chosen()];
    return basis && c ? [slotAtSize(basis, c)] : [];
  });
  protected readonly working = computed(() => {
    const [a, basis] = [this.answer(), this.basis()];
    if (!a.ok || !basis) return '';
    const { width, height } = basis;
    return this.side() === 'width'
      ? `${this.length()} × ${figure(height)} ÷ ${figure(width)} = ${figure(a.value.exact)} px high`
      : `${this.length()} × ${figure(width)} ÷ ${figure(height)} = ${figure(a.value.exact)} px wide`;
  });
  protected readonly sizeOf = sizeText;

  protected errorOf({ error }: RatioCandidate): string {
    if (Math.abs(error) < 1e-6) return 'exact';
    return `${percent(error)} % too ${error > 0 ? 'tall' : 'flat'}`;
  }

  protected cutOf({ cut }: RatioCandidate): string {
    return cut < 0.005 ? 'nothing' : `${figure(cut)} px`;
  }
}
