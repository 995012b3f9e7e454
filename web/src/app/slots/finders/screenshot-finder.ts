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
import { densitiesKnown, figure, shotDevice, sizeText, type Slot } from '@bright-slot/core';
import { ShotService, type Found } from '../shot.service';
import { fileText } from '../slot-facts';
import { AddSlot, type TogetherAs } from './add-slot';
import { tickedOf, valueOf } from '../../ui/event-value';

/** What was found on the screenshot, in CSS px, with the sums. */
@Component({
  selector: 'bs-screenshot-finder',
  imports: [AddSlot],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './screenshot-finder.html',
  styleUrl: './_finder.scss',
  styles: `
    .size {
      font-size: 22px;
      line-height: 1.2;
    }
    .doubt {
      font-size: 13px;
      font-weight: 600;
    }
  `,
})
export class ScreenshotFinder {
  protected readonly tickedOf = tickedOf;
  protected readonly valueOf = valueOf;
  readonly added = output<readonly Slot[]>();
  /** The slot whose own page the screenshot is to be; null where slots are looked for. */
  readonly pageOf = input<Slot | null>(null);
  /** Whether slots that are added keep the screenshot as their page. */
  protected readonly keeps = signal(true);
  /** It is the page of the slot now: a way to take that back comes along. */
  readonly kept = output<() => Promise<void>>();
  protected readonly device = computed(() => {
    const shot = this.shots.shot();
    return shot && shotDevice({ width: shot.bitmap.width, density: this.shots.density() });
  });
  /** What differs between what was measured and the slot. */
  protected readonly unlike = computed(() => {
    const [slot, found] = [this.pageOf(), this.shots.selected()];
    if (!slot || !found) return '';
    const { width, height } = found.measured.box;
    const off = width / height / (slot.width / slot.height);
    if (Math.abs(off - 1) < 0.04) return '';
    return `The slot is ${sizeText(slot)}; what is marked is ${off > 1 ? 'wider' : 'higher'} than that. Move an edge, or leave it: the page may cut the picture so.`;
  });

  protected async makePage(slot: Slot, { measured: { box } }: Found): Promise<void> {
    const done = await this.shots.keepAsPage([{ slot: slot.id, box }]);
    if (done.ok) this.kept.emit(done.value);
    else this.shots.problem.set(done.problem.message);
  }

  protected async addedTo(slots: readonly Slot[]): Promise<void> {
    const found = this.shots.selected();
    if (this.keeps() && found) {
      const { box, grid } = found.measured;
      const done = await this.shots.keepAsPage(
        slots.map((slot, i) => ({ slot: slot.id, box: slots.length > 1 ? (grid.boxes[i] ?? box) : box })),
      );
      if (!done.ok) this.shots.problem.set(done.problem.message);
    }
    this.added.emit(slots);
  }

  protected readonly shots = inject(ShotService);
  protected readonly densities = densitiesKnown;
  protected readonly file = fileText;
  protected readonly n = (value: number) => figure(value);
  protected readonly all = linkedSignal({ source: this.shots.selectedId, computation: () => false });
  protected readonly slot = computed(() => {
    const f = this.shots.selected();
    return f && this.shots.slotOf(f, this.suggested());
  });
  protected readonly suggested = computed(() => {
    const name = (this.shots.shot()?.name ?? '').replace(/\.[a-z0-9]+$/i, '').slice(0, 40);
    const at = this.shots.found().findIndex((f) => f.id === this.shots.selectedId()) + 1;
    return name ? `${name} ${Math.max(1, at)}` : 'Measured slot';
  });
  protected readonly slots = computed(() => {
    const [f, slot] = [this.shots.selected(), this.slot()];
    if (!f || !slot) return [];
    return this.all() ? f.measured.grid.boxes.map((_, i) => ({ ...slot, name: String(i + 1) })) : [slot];
  });

  /** A row or a grid of equals: one slot for all of its places, or one for each. */
  protected readonly together = computed(() => (slots: readonly Slot[]): TogetherAs | null => {
    const grid = this.shots.selected()?.measured.grid;
    const [first] = slots;
    if (!grid || !first || grid.boxes.length < 2) return null;
    const { columns, rows } = grid;
    // To a quarter of a CSS px, as they are told.
    const css = (gap: number) => Math.round((gap / this.shots.density()) * 4) / 4;
    const gap = { across: css(grid.gapX), down: css(grid.gapY) };
    if (slots.length === 1) return { kind: 'row', slot: first.id, columns, rows, gap };
    return {
      kind: 'mosaic',
      width: columns * first.width + (columns - 1) * gap.across,
      height: rows * first.height + (rows - 1) * gap.down,
      gap,
      columns,
      rows,
      cells: slots.map((s) => ({ slot: s.id, columns: 1, rows: 1 })),
    };
  });

  protected working({ measured: { box } }: Found): string {
    const d = this.shots.density();
    const css = (l: number) => `${figure(l)} ÷ ${figure(d)} = ${figure(l / d)}`;
    return d === 1
      ? `${figure(box.width)} × ${figure(box.height)} px on the screenshot, good to 1 px.`
      : `${css(box.width)}, ${css(box.height)}; good to ${figure(1 / d)} px.`;
  }

  protected shape({ shape }: Slot): string {
    if (shape.kind === 'ellipse') return 'round';
    return shape.kind === 'rounded' ? `corners of ${figure(shape.radius)} px` : 'straight corners';
  }

  protected equals({ measured: { grid } }: Found): string {
    const d = this.shots.density();
    const gap = (g: number) => figure(Math.round((g / d) * 4) / 4);
    if (grid.rows === 1) return `${grid.columns} in a row, gaps of ${gap(grid.gapX)} px`;
    if (grid.columns === 1) return `${grid.rows} one under another, gaps of ${gap(grid.gapY)} px`;
    return `${grid.columns} × ${grid.rows}, gaps of ${gap(grid.gapX)} and ${gap(grid.gapY)} px`;
  }

  protected doubts({ measured: m, byHand }: Found): string[] {
    const said: string[] = [];
    if (m.blurred && !byHand)
      said.push('The edge is blurred, spread over several pixels: good to a pixel or two only.');
    const names = { left: 'left', right: 'right', top: 'top', bottom: 'lower' };
    if (m.unsure.length && m.unsure.length < 4)
      said.push(
        `No clear edge at the ${m.unsure.map((s) => names[s]).join(' and ')} side: move it with the arrow keys.`,
      );
    if (m.unsure.length === 4) said.push('No clear edges here. Drag again, closer to the slot.');
    return said;
  }
}
