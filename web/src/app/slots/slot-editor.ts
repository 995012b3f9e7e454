import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import { SlotRecord, type Box, type CoveredZone, type ShownAt, type Size, type Slot } from '@bright-slot/core';
import { ColourField } from '../ui/colour-field';
import { Icon } from '../ui/icon';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';
import { BoxFields } from '../ui/box-fields';
import { slotLists } from './slot-lists';
import { SlotBook } from '../storage/slot-book.service';
import { SelectField } from '../ui/select-field';
import { SeveralField } from '../ui/several-field';
import { TickField } from '../ui/tick-field';

/** Every figure of a slot, to be changed; the slot on its page follows as it is. */
@Component({
  selector: 'bs-slot-editor',
  imports: [BoxFields, ColourField, Icon, NumberField, SelectField, SeveralField, TextField, TickField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(keydown.escape)': 'closed.emit()' },
  templateUrl: './slot-editor.html',
  styleUrl: './slot-editor.scss',
})
export class SlotEditor {
  protected readonly lists = slotLists;
  readonly slot = input.required<Slot>();
  readonly saved = output<Slot>();
  readonly closed = output();
  /** The slot as it stands in the form, whenever that is a whole one. */
  readonly draft = output<Slot>();
  private readonly book = inject(SlotBook);

  /** Whether all fields are shown; stays so from slot to slot. */
  protected readonly all = this.book.editingAll;
  protected readonly s = linkedSignal(() => this.slot());
  protected readonly known = computed(() => this.book.byId().has(this.slot().id));

  /** What keeps the slot from being saved, in words. */
  protected readonly problem = computed(() => {
    const read = SlotRecord.safeParse(this.s());
    if (read.success) return '';
    const [issue] = read.error.issues;
    const where = String(issue?.path[0] ?? '');
    const named: Record<string, string> = {
      name: 'The name',
      dated: 'The date',
      formats: 'The formats',
      densities: 'The densities',
    };
    return `${named[where] ?? 'A figure'} is not as it should be${where && !named[where] ? ` (${where})` : ''}.`;
  });

  constructor() {
    effect(() => {
      if (!this.problem()) this.draft.emit(this.s());
    });
  }

  protected set(change: Partial<Slot>): void {
    this.s.update((s) => ({ ...s, ...change }));
  }

  /** The width it is shown at goes along while it is the width itself. */
  protected setWidth(width: number): void {
    const { shownWidth, width: before } = this.s();
    this.set({ width, ...(shownWidth === before ? { shownWidth: width } : {}) });
  }

  protected setShape(kind: string): void {
    this.set({
      shape: kind === 'rounded' ? { kind, radius: 12 } : kind === 'ellipse' ? { kind } : { kind: 'rectangle' },
    });
  }

  protected setSafe(kind: string): void {
    const { width, height } = this.s();
    const inset = Math.round(Math.min(width, height) * 0.08);
    this.set({
      safe:
        kind === 'insets'
          ? { kind, top: inset, right: inset, bottom: inset, left: inset }
          : kind === 'boxes'
            ? { kind, boxes: [{ x: inset, y: inset, width: width - 2 * inset, height: height - 2 * inset }] }
            : { kind: 'all' },
    });
  }

  protected setDarkening(kind: string): void {
    const before = this.s().darkening;
    this.set({
      darkening:
        kind === 'none'
          ? null
          : { strength: 0.4, switchable: false, on: true, ...before, kind: kind === 'foot' ? 'foot' : 'all' },
    });
  }

  protected setDarkened(change: Partial<NonNullable<Slot['darkening']>>): void {
    const { darkening } = this.s();
    if (darkening) this.set({ darkening: { ...darkening, ...change } });
  }

  protected setShown(at: 'tablet' | 'phone', mode: string): void {
    const { width, height } = this.s();
    const shown: ShownAt =
      mode === 'height'
        ? { mode, height: Math.round(height) }
        : mode === 'size'
          ? { mode, width, height }
          : mode === 'hidden'
            ? { mode }
            : { mode: 'scales' };
    this.set({ [at]: shown });
  }

  protected putShown(at: 'tablet' | 'phone', shown: ShownAt): void {
    this.set({ [at]: shown });
  }

  protected setSize(key: 'least' | 'most', size: { width: number; height: number }): void {
    this.set({ [key]: size });
  }

  protected addZone(): void {
    const { width, height, covered } = this.s();
    const zone: CoveredZone = {
      what: 'Portrait',
      kind: 'portrait',
      x: Math.round(width * 0.04),
      y: Math.round(height * 0.5),
      width: Math.round(Math.min(width, height) * 0.5),
      height: Math.round(Math.min(width, height) * 0.5),
    };
    this.set({ covered: [...covered, zone].slice(0, 20) });
  }

  protected setZone(i: number, change: Partial<CoveredZone>): void {
    this.set({ covered: this.s().covered.map((z, k) => (k === i ? { ...z, ...change } : z)) });
  }

  protected dropZone(i: number): void {
    this.set({ covered: this.s().covered.filter((_, k) => k !== i) });
  }

  protected setInset(key: 'top' | 'right' | 'bottom' | 'left', value: number): void {
    const { safe } = this.s();
    if (safe.kind === 'insets') this.set({ safe: { ...safe, [key]: value } });
  }

  protected boxOf({ x, y, width, height }: Box): Box {
    return { x, y, width, height };
  }

  protected sizeOf({ width, height }: Size): Size {
    return { width, height };
  }

  protected setBox(i: number, change: Partial<Box>): void {
    const { safe } = this.s();
    if (safe.kind === 'boxes')
      this.set({ safe: { ...safe, boxes: safe.boxes.map((b, k) => (k === i ? { ...b, ...change } : b)) } });
  }

  protected toBytes(kilobytes: number): number {
    return Math.round(kilobytes * 1000);
  }

  protected setLimit(key: 'least' | 'most', on: boolean): void {
    const { width, height } = this.s();
    this.set({ [key]: on ? { width, height } : null });
  }

  protected save(event: Event): void {
    event.preventDefault();
    const name = this.s().name.trim();
    if (!this.problem() && name) this.saved.emit({ ...this.s(), name });
  }
}
