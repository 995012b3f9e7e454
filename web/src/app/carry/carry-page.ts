import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from '@angular/core';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { MatOption, MatSelect } from '@angular/material/select';
import { MatSnackBar } from '@angular/material/snack-bar';
import { MatTooltip } from '@angular/material/tooltip';
import { RouterLink } from '@angular/router';
import {
  composeNames,
  frameOf,
  measures,
  rolesFor,
  sizeText,
  type ComposeRole,
  type Layer,
  type MeasureName,
  type Slot,
} from '@bright-slot/core';
import { SlotBook } from '../storage/slot-book.service';
import { tickedOf } from '../ui/event-value';
import { Icon } from '../ui/icon';
import { CarrySession, shownOf, type Target, type Try } from './carry-session';

const names = Object.keys(measures) as MeasureName[];

/** The same graphic composed anew for other slots: the best of a few ways first, the others a press away. */
@Component({
  selector: 'bs-carry-page',
  imports: [Icon, MatMenu, MatMenuItem, MatMenuTrigger, MatOption, MatSelect, MatTooltip, RouterLink],
  providers: [CarrySession],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './carry-page.html',
  styleUrl: './carry-page.scss',
})
export class CarryPage {
  readonly id = input.required<string>();
  protected readonly carry = inject(CarrySession);
  private readonly book = inject(SlotBook);
  private readonly snack = inject(MatSnackBar);
  protected readonly tickedOf = tickedOf;
  protected readonly sizeText = sizeText;
  protected readonly shownOf = shownOf;
  protected readonly wayNames = composeNames;
  protected readonly name = computed(() => this.carry.source()?.graphic.name ?? '');
  protected readonly from = computed(() => {
    const graphic = this.carry.source()?.graphic;
    return graphic ? frameOf(graphic).slot : null;
  });

  /** Slots that can be added. */
  protected readonly others = computed(() => {
    const there = new Set(this.carry.targets().map((t) => t.slot.id));
    return [...(this.book.slots() ?? [])]
      .filter((s) => !there.has(s.id))
      .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
  });

  /** What the source is made of, and what becomes of each in the slot in focus. */
  protected readonly made = computed(() => {
    const source = this.carry.source();
    const target = this.carry.target();
    const shown = target && shownOf(target);
    if (!source) return [];
    return source.graphic.layers.flatMap((layer) => {
      const role = source.roles.get(layer.id);
      if (!role) return [];
      return [{ layer, role, roles: rolesFor(layer), becomes: shown ? becomes(layer, role, shown) : '' }];
    });
  });

  protected readonly measured = computed(() => {
    const target = this.carry.target();
    const shown = target && shownOf(target);
    return shown ? names.map((id) => ({ ...measures[id], value: shown.measures[id] })) : [];
  });

  constructor() {
    // The book says which slots there are; what is changed in it later is no reason to begin anew.
    const known = computed(() => this.book.slots() !== null);
    effect(() => {
      const id = this.id();
      if (known()) untracked(() => void this.carry.open(id));
    });
  }

  /** How large a slot is shown here, CSS px: wide ones as wide as the column, others as high as their row. */
  protected sizeOf({ width, height }: Slot): { width: number; height: number } {
    const by = Math.min(width / height >= 2 ? 430 / width : 290 / width, 150 / height, 2);
    return { width: Math.round(width * by), height: Math.round(height * by) };
  }

  /** As wide as its name and the row of ways need at the least. */
  protected wide(picture: number): number {
    return Math.max(picture, 210);
  }

  /** Small pictures of the ways. */
  protected smallOf({ width, height }: Slot): { width: number; height: number } {
    const by = Math.min(62 / width, 34 / height);
    return { width: Math.max(18, Math.round(width * by)), height: Math.max(12, Math.round(height * by)) };
  }

  protected said(t: Target): string {
    if (t.problem) return t.problem;
    if (!t.tries) return 'Composing …';
    const shown = shownOf(t);
    if (!shown) return 'No way fits here';
    return t.fit || 'Looking …';
  }

  protected percent(value: number | null): string {
    return value === null ? '…' : `${Math.round(value * 100)} %`;
  }

  protected async make(): Promise<void> {
    const problem = await this.carry.make();
    if (problem) this.snack.open(problem.message, 'Close', { duration: 15_000, politeness: 'assertive' });
  }
}

/** What a layer is in a composition, in a few words. */
function becomes(layer: Layer, role: ComposeRole, { composition }: Try): string {
  const left = composition.left.find((l) => l.layer === layer.id);
  if (left) return `left out: ${left.why}`;
  const now = composition.graphic.layers.find((l) => l.id === layer.id);
  const { height } = composition.graphic.canvas;
  if (now?.role === 'veil') return `${Math.round((now.strength / 255) * 100)} %, just enough`;
  if (now?.role === 'words') {
    const size = Math.max(...now.paragraphs.flatMap((p) => p.runs.map((r) => r.size)));
    return `${Math.round(size)} px, ${Math.round((size / height) * 100)} % of the height`;
  }
  if (role === 'photo') return 'covers it, subject kept';
  return 'kept';
}
