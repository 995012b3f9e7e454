import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import {
  arrangements,
  bad,
  figure,
  filePixels,
  mosaicOf,
  readNumber,
  readSpans,
  roundingOf,
  sizeText,
  typedSlot,
  type MosaicCell,
  type Slot,
} from '@bright-slot/core';
import { TextField } from '../../ui/text-field';
import { AddSlot, type TogetherAs } from './add-slot';
import { copyText } from '../../ui/download';
import { tickedOf } from '../../ui/event-value';
import { SelectField } from '../../ui/select-field';

interface Row {
  readonly name: string;
  readonly cell: MosaicCell;
  readonly numbers: readonly number[];
}

/** The exact cells of a mosaic with gaps, and the whole pixels each needs. */
@Component({
  selector: 'bs-mosaic-finder',
  imports: [SelectField, TextField, AddSlot],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './mosaic-finder.html',
  styleUrl: './_finder.scss',
  styles: `
    .all {
      fill: var(--surface);
      stroke: var(--hairline);
      vector-effect: non-scaling-stroke;
    }
  `,
})
export class MosaicFinder {
  protected readonly tickedOf = tickedOf;
  readonly added = output<readonly Slot[]>();
  private readonly snack = inject(MatSnackBar);
  protected readonly arrangements: readonly { id: string; name: string }[] = [
    ...arrangements,
    { id: 'own', name: 'Typed spans' },
  ];
  protected readonly width = signal('1050');
  protected readonly height = signal('600');
  protected readonly gap = signal('15');
  protected readonly arrangement = signal<string>(arrangements[0]!.id);
  protected readonly columns = signal(String(arrangements[0]!.columns));
  protected readonly rows = signal(String(arrangements[0]!.rows));
  protected readonly spans = signal(arrangements[0]!.spans);
  protected readonly outer = signal(false);
  protected readonly sizeOf = sizeText;

  protected readonly total = computed(() => ({
    width: readNumber(this.width()) ?? NaN,
    height: readNumber(this.height()) ?? NaN,
  }));
  protected readonly viewBox = computed(() => `-1 -1 ${this.total().width + 2} ${this.total().height + 2}`);
  protected readonly ratio = computed(() => this.total().width / this.total().height);
  protected readonly answer = computed(() => {
    const spans = readSpans(this.spans());
    if (!spans.ok) return spans;
    const read = (text: string) => readNumber(text) ?? NaN;
    const gap = read(this.gap());
    if (Number.isNaN(gap)) return bad('mosaic', 'The gap has to be a number of pixels, 0 or more.');
    return mosaicOf({
      ...this.total(),
      gap,
      columns: read(this.columns()),
      rows: read(this.rows()),
      outerGap: this.outer(),
      spans: spans.value,
    });
  });
  /** Cells of one size stand in one line. */
  protected readonly table = computed<Row[]>(() => {
    const a = this.answer();
    if (!a.ok) return [];
    const rows: { numbers: number[]; cell: MosaicCell }[] = [];
    a.value.cells.forEach((cell, i) => {
      const same = rows.find((r) => sizeText(r.cell.box) === sizeText(cell.box));
      if (same) same.numbers.push(i + 1);
      else rows.push({ numbers: [i + 1], cell });
    });
    return rows.map((r) => ({ ...r, name: r.numbers.join(', ') }));
  });
  protected readonly slots = computed(() => {
    const a = this.answer();
    if (!a.ok) return [];
    return a.value.cells.flatMap((cell, i) => {
      const { width, height } = cell.box;
      const slot = typedSlot(width, height, {
        name: `cell ${i + 1}`,
        group: 'Mosaics and strips',
        densities: [1, 2],
        page: 'mosaic',
        source: `cell ${i + 1} of a mosaic ${sizeText(this.total())}, gap ${this.gap()}`,
      });
      return slot.ok ? [slot.value] : [];
    });
  });
  protected readonly together = computed(() => (slots: readonly Slot[]): TogetherAs | null => {
    const a = this.answer();
    const gap = readNumber(this.gap()) ?? 0;
    const outside = this.outer() ? 2 * gap : 0;
    if (!a.ok || slots.length !== a.value.cells.length || slots.length < 2) return null;
    return {
      kind: 'mosaic',
      width: this.total().width - outside,
      height: this.total().height - outside,
      gap: { across: gap, down: gap },
      columns: readNumber(this.columns()) ?? 1,
      rows: readNumber(this.rows()) ?? 1,
      cells: a.value.cells.map(({ columns, rows }, i) => ({ slot: slots[i]!.id, columns, rows })),
    };
  });
  protected readonly rounding = computed(() => {
    const a = this.answer();
    if (!a.ok) return '';
    const most = Math.max(
      ...a.value.cells.flatMap((c) => [roundingOf(c.box.width, 1).over, roundingOf(c.box.height, 1).over]),
    );
    return most < 0.005
      ? 'All cells are whole pixels.'
      : `Whole pixels run over by at most ${figure(most)} px; the page cuts that much.`;
  });
  protected readonly outerNote = computed(() => {
    const gap = readNumber(this.gap()) ?? 0;
    const { width, height } = this.total();
    if (!gap) return '';
    return this.outer()
      ? `The width includes a gap on either side, so ${figure(width - 2 * gap)} × ${figure(height - 2 * gap)} are left for the cells.`
      : 'The width does not include a gap around the outside; where the page has one, tick the box, since it changes every cell.';
  });

  protected file(cell: MosaicCell, density: number): { width: number; height: number } {
    return filePixels(cell.box, density);
  }

  protected arrange(id: string): void {
    this.arrangement.set(id);
    const a = arrangements.find((x) => x.id === id);
    if (!a) return;
    this.columns.set(String(a.columns));
    this.rows.set(String(a.rows));
    this.spans.set(a.spans);
  }

  /** Anything typed makes the arrangement one's own. */
  protected own(field: { set(text: string): void }, text: string): void {
    field.set(text);
    this.arrangement.set('own');
  }

  protected async copy(): Promise<void> {
    const lines = this.table().map((r) =>
      [r.name, sizeText(r.cell.box), sizeText(this.file(r.cell, 1)), sizeText(this.file(r.cell, 2))].join('\t'),
    );
    const text = [['Cell', 'On the page', 'File at 1×', 'At 2×'].join('\t'), ...lines].join('\n');
    const done = await copyText(text);
    this.snack.open(done ? 'The table is on the clipboard.' : 'The browser does not allow copying here.', 'Close');
  }
}
