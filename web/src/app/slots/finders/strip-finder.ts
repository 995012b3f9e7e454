import { ChangeDetectionStrategy, Component, computed, output, signal } from '@angular/core';
import { figure, filePixels, readNumber, stripOf, typedSlot, type Slot } from '@bright-slot/core';
import { TextField } from '../../ui/text-field';
import { AddSlot, type TogetherAs } from './add-slot';
import { SelectField } from '../../ui/select-field';

/** Equal tiles in a row, cut from one picture. */
@Component({
  selector: 'bs-strip-finder',
  imports: [SelectField, TextField, AddSlot],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Strip</h2>
    <div class="fields">
      <bs-text-field label="Tiles" [(text)]="count" />
      <bs-text-field label="Each" unit="px" [(text)]="tile" placeholder="from the total" />
      <bs-text-field label="Gap" unit="px" [(text)]="gap" />
      <bs-text-field label="Total" unit="px" [(text)]="total" placeholder="from the tiles" />
      <bs-select
        class="whole"
        label="The picture"
        [options]="behinds"
        [value]="behind()"
        (changed)="behind.set($event)"
      />
    </div>
    @if (answer(); as a) {
      @if (a.ok) {
        <svg class="drawing" [attr.viewBox]="viewBox()" role="img" aria-label="The strip to scale">
          @for (t of a.value.tiles; track t.number) {
            <rect
              class="cell"
              [class.cut]="t.on + t.length > a.value.total + 0.001"
              [attr.x]="t.on"
              y="0"
              [attr.width]="t.length"
              [attr.height]="t.length"
            />
            <text [attr.x]="t.on + t.length / 2" [attr.y]="t.length / 2" [attr.font-size]="a.value.needs / 24">
              {{ t.number }}
            </text>
          }
          <line class="end" [attr.x1]="a.value.total" [attr.x2]="a.value.total" y1="-6" [attr.y2]="a.value.tile + 6" />
        </svg>
        <p class="sum">{{ a.value.sum }}</p>
        @if (a.value.suffers) {
          <p class="suffers" role="status">{{ a.value.suffers }}</p>
        } @else {
          <p class="note">The tiles and gaps come to the total exactly.</p>
        }
        <p class="note">
          One picture of {{ f(a.value.picture) }} × {{ f(a.value.tile) }} px; tile by tile it begins at {{ starts() }}.
          {{
            behind() === 'runs-on'
              ? 'What lies behind the gaps is not seen.'
              : 'The page sets the parts apart; nothing of the picture is lost.'
          }}
          {{ whole() }}
        </p>
        <bs-add-slot
          [slots]="slots()"
          [suggested]="'Strip of ' + count() + ', square ' + f(a.value.tile)"
          [together]="together()"
          (added)="added.emit($event)"
        />
      } @else {
        <p class="small-text problem-text" role="alert">{{ a.problem.message }}</p>
      }
    }
  `,
  styleUrl: './_finder.scss',
  styles: `
    .drawing .cell.cut {
      fill: #fbe9e4;
      stroke: var(--problem);
    }
    .end {
      stroke: var(--problem);
      stroke-dasharray: 4 3;
      vector-effect: non-scaling-stroke;
    }
    .suffers {
      font-weight: 600;
      font-size: 13px;
      color: var(--problem);
    }
  `,
})
export class StripFinder {
  protected readonly behinds = [
    { id: 'runs-on', name: 'runs on behind the gaps' },
    { id: 'skips', name: 'is cut only where the tiles are' },
  ] as const;
  readonly added = output<readonly Slot[]>();
  protected readonly count = signal('5');
  protected readonly tile = signal('134');
  protected readonly gap = signal('0');
  protected readonly total = signal('670');
  protected readonly behind = signal<'runs-on' | 'skips'>('runs-on');
  protected readonly f = (n: number) => figure(n);

  protected readonly answer = computed(() => {
    const optional = (text: string) => (text.trim() === '' ? null : (readNumber(text) ?? NaN));
    return stripOf({
      count: readNumber(this.count()) ?? NaN,
      tile: optional(this.tile()),
      gap: readNumber(this.gap()) ?? NaN,
      total: optional(this.total()),
      behind: this.behind(),
    });
  });
  protected readonly viewBox = computed(() => {
    const a = this.answer();
    if (!a.ok) return '0 0 1 1';
    const width = Math.max(a.value.needs, a.value.total);
    return `-2 -8 ${width + 4} ${a.value.tile + 16}`;
  });
  protected readonly starts = computed(() => {
    const a = this.answer();
    return a.ok ? a.value.tiles.map((t) => figure(t.from)).join(', ') : '';
  });
  protected readonly whole = computed(() => {
    const a = this.answer();
    if (!a.ok) return '';
    const { tile } = a.value;
    const one = filePixels({ width: tile, height: tile }, 1);
    return Number.isInteger(Math.round(tile * 1e6) / 1e6)
      ? ''
      : `A tile of ${figure(tile, 3)} px needs a file of ${one.width} px; the page cuts ${figure(one.width - tile)} px.`;
  });
  protected readonly together = computed(() => ([slot]: readonly Slot[]): TogetherAs | null => {
    const a = this.answer();
    if (!a.ok || !slot || a.value.tiles.length < 2) return null;
    const gap = readNumber(this.gap()) ?? 0;
    return { kind: 'strip', slot: slot.id, count: a.value.tiles.length, gap, behind: this.behind() };
  });
  protected readonly slots = computed(() => {
    const a = this.answer();
    if (!a.ok) return [];
    const { tile } = a.value;
    const slot = typedSlot(Math.round(tile * 1e4) / 1e4, Math.round(tile * 1e4) / 1e4, {
      group: 'Mosaics and strips',
      page: 'strip',
      rowShows: a.value.tiles.length,
      source: `one of ${a.value.tiles.length} in a strip, gap ${this.gap()}`,
    });
    return slot.ok ? [slot.value] : [];
  });
}
