import { ChangeDetectionStrategy, Component, computed, output, signal } from '@angular/core';
import {
  bad,
  figure,
  fromPx,
  lengthUnits,
  PPI,
  readLength,
  readNumber,
  roundingOf,
  sizeText,
  toPx,
  typedSlot,
  type LengthUnit,
  type Slot,
} from '@bright-slot/core';
import { TextField } from '../../ui/text-field';
import { AddSlot } from './add-slot';
import { SelectField } from '../../ui/select-field';

/** A size typed in any unit, converted as it is typed. */
@Component({
  selector: 'bs-type-finder',
  imports: [SelectField, TextField, AddSlot],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Type it</h2>
    <div class="fields">
      <bs-text-field label="Width" [(text)]="width" [unit]="unit()" [wrong]="!across().ok" />
      <bs-text-field label="Height" [(text)]="height" [unit]="unit()" [wrong]="!down().ok" />
      <bs-select label="Unit" [options]="units" [value]="unit()" (changed)="setUnit($event)" />
      <bs-text-field label="Pixels an inch" [(text)]="ppiText" [wrong]="ppi() === null" />
    </div>
    @if (problem()) {
      <p class="small-text problem-text" role="alert">{{ problem() }}</p>
    }
    @if (px(); as p) {
      <table aria-label="The same size in every unit">
        <thead>
          <tr>
            <th scope="col">unit</th>
            <th scope="col">exactly</th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.unit) {
            <tr [class.here]="row.unit === unit()">
              <td>{{ row.unit }}</td>
              <td>
                {{ row.exact }}
                @if (row.back) {
                  <br /><span class="back">{{ row.back }}</span>
                }
              </td>
            </tr>
          }
        </tbody>
      </table>
      <table aria-label="Whole pixels of the file">
        <thead>
          <tr>
            <th scope="col">file</th>
            <th scope="col">px</th>
            <th scope="col">runs over by</th>
          </tr>
        </thead>
        <tbody>
          @for (f of files(); track f.density) {
            <tr>
              <td>{{ f.density }}×</td>
              <td>{{ f.size }}</td>
              <td>{{ f.over }}</td>
            </tr>
          }
        </tbody>
      </table>
      <p class="note">
        Pixels an inch change nothing on a screen: {{ sizeOf(p) }} px take the same room on the page at 72 an inch and
        at 300. They only turn {{ unit() === 'px' ? 'inches' : unit() }} into pixels here.
      </p>
      <bs-add-slot [slots]="slots()" suggested="My slot" (added)="added.emit($event)" />
    }
  `,
  styleUrl: './_finder.scss',
  styles: '.back { color: var(--ink-soft); font-weight: 400; font-size: 12px; white-space: normal; }',
})
export class TypeFinder {
  readonly added = output<readonly Slot[]>();
  protected readonly units = lengthUnits.map((id) => ({ id, name: id }));
  protected readonly width = signal('1600');
  protected readonly height = signal('400');
  protected readonly unit = signal<LengthUnit>('px');
  protected readonly ppiText = signal(String(PPI.css));
  protected readonly sizeOf = sizeText;

  protected readonly ppi = computed(() => {
    const n = readNumber(this.ppiText());
    return n !== null && n >= PPI.least && n <= PPI.most ? n : null;
  });
  protected readonly across = computed(() => readLength(this.width(), this.unit(), this.ppi() ?? PPI.css));
  protected readonly down = computed(() => readLength(this.height(), this.unit(), this.ppi() ?? PPI.css));
  private readonly slot = computed(() => {
    const [w, h] = [this.across(), this.down()];
    if (this.ppi() === null) return bad('ppi', `Pixels an inch are a number from ${PPI.least} to ${PPI.most}.`);
    if (!w.ok) return w;
    if (!h.ok) return h;
    const exact = (n: number) => Math.round(n * 1e4) / 1e4;
    return typedSlot(exact(w.value), exact(h.value));
  });
  protected readonly problem = computed(() => {
    const slot = this.slot();
    return slot.ok ? '' : slot.problem.message;
  });
  protected readonly px = computed(() => {
    const slot = this.slot();
    return slot.ok ? { width: slot.value.width, height: slot.value.height } : null;
  });
  protected readonly slots = computed(() => {
    const slot = this.slot();
    return slot.ok ? [slot.value] : [];
  });
  protected readonly rows = computed(() => {
    const p = this.px();
    const ppi = this.ppi();
    if (!p || ppi === null) return [];
    return lengthUnits.map((unit) => {
      const [w, h] = [fromPx(p.width, unit, ppi), fromPx(p.height, unit, ppi)];
      const [rw, rh] = [w, h].map((n) => Math.round(n * 100) / 100) as [number, number];
      const back = { width: toPx(rw, unit, ppi), height: toPx(rh, unit, ppi) };
      return {
        unit,
        exact: `${figure(w, 3)} × ${figure(h, 3)}`,
        back: unit === 'px' ? '' : `typed back as ${figure(rw)} × ${figure(rh)} it is ${sizeText(back)} px`,
      };
    });
  });
  protected readonly files = computed(() => {
    const p = this.px();
    if (!p) return [];
    return [1, 2, 3].map((density) => {
      const [w, h] = [roundingOf(p.width, density), roundingOf(p.height, density)];
      const over = w.over < 0.005 && h.over < 0.005 ? 'nothing' : `${figure(w.over)} × ${figure(h.over)} px shown`;
      return { density, size: `${w.file} × ${h.file}`, over };
    });
  });

  /** Another unit for the same size. */
  protected setUnit(unit: LengthUnit): void {
    const [w, h, ppi] = [this.across(), this.down(), this.ppi() ?? PPI.css];
    if (w.ok) this.width.set(figure(fromPx(w.value, unit, ppi), 4));
    if (h.ok) this.height.set(figure(fromPx(h.value, unit, ppi), 4));
    this.unit.set(unit);
  }
}
