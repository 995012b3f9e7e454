import { ChangeDetectionStrategy, Component, ElementRef, computed, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import {
  cutText,
  filterSlots,
  noFilter,
  readNumber,
  setCanvas,
  setFrames,
  setText,
  sizeText,
  slotGroups,
  typedSlot,
  type Slot,
  type SlotSet,
} from '@bright-slot/core';
import { RouterLink } from '@angular/router';
import { Icon } from '../ui/icon';
import { SlotBook } from '../storage/slot-book.service';
import { valueOf } from '../ui/event-value';

/** That tiles of one layout are to be made for a slot, so many of them. */
export interface TilesAsked {
  readonly tiles: Slot;
  readonly count: number;
}
export type Started = Slot | SlotSet | TilesAsked;

/** Rows that show a great many begin with so many tiles. */
const MOST_BEGUN = 12;

/** One question first: which slot? */
@Component({
  selector: 'bs-new-graphic',
  imports: [MatDialogModule, RouterLink, Icon],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './new-graphic-dialog.html',
  styles: `
    h3 {
      margin: 12px 0 6px;
      font-size: 13px;
    }

    .find {
      width: 240px;
      margin: 4px 0 8px 3px;
    }
    .find input {
      font-weight: 400;
    }
    .groups {
      display: flex;
      flex-wrap: wrap;
      column-gap: 28px;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    .slot {
      display: flex;
      flex-direction: column;
      align-items: flex-start;
      gap: 1px;
      padding: 6px 12px 8px;
      border: 1px solid var(--hairline);
      border-radius: var(--corner);
      background: var(--surface);
      cursor: pointer;
      font: inherit;
      color: var(--ink);
      text-align: left;
    }
    .slot:hover {
      border-color: var(--ink);
      background: var(--ground);
    }
    .slot.next {
      border-color: var(--ink);
      box-shadow: inset 0 3px 0 var(--light);
    }
    .slot svg {
      display: block;
      fill: var(--light-pale);
      stroke: var(--ink);
    }
    .enter {
      margin: 0 0 6px 4px;
    }
    .outline-room {
      height: 40px;
      display: flex;
      align-items: center;
    }
    .outline {
      display: block;
      background: var(--light-pale);
      border: 1px solid var(--ink);
      min-height: 4px;
    }
    .outline.round {
      border-radius: 50%;
    }
    .name {
      font-weight: 600;
      font-size: 13px;
    }
    .typed {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    .typed .field {
      width: 150px;
    }
    .typed input {
      text-align: right;
    }
    .note {
      margin-top: 4px;
    }
  `,
})
export class NewGraphicDialog {
  protected readonly valueOf = valueOf;
  private readonly dialog = inject<MatDialogRef<NewGraphicDialog, Started>>(MatDialogRef);
  private readonly book = inject(SlotBook);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  /** What it begins with, where a picture was dropped. */
  protected readonly picture = cutText(inject<string>(MAT_DIALOG_DATA), 60, true);
  protected readonly words = signal('');
  private readonly found = computed(() => filterSlots(this.book.slots() ?? [], { ...noFilter, words: this.words() }));
  /** The site's own slots come first: a graphic made for one can be sent there. */
  protected readonly groups = computed(() => {
    const sites = [...new Set(this.found().map((s) => s.site))].filter(Boolean).sort();
    const on = sites.map((name) => ({ name, slots: this.found().filter((s) => s.site === name) }));
    // A size that stands on the site too is found there; its twin in common use would only be in the way.
    const own = new Set(on.flatMap((g) => g.slots.map((s) => sizeText(s) + s.shape.kind)));
    const twin = (s: Slot) => !this.unfolded() && own.has(sizeText(s) + s.shape.kind);
    const common = slotGroups.map((name) => ({
      name,
      slots: this.found().filter((s) => s.group === name && !s.site && !twin(s)),
    }));
    return [...on, ...common].filter((g) => g.slots.length > 0);
  });
  /** Strips and mosaics of the book that are whole: one picture over several places. */
  protected readonly sets = computed(() => {
    const has = this.book.byId();
    const words = this.words().toLowerCase().trim();
    return this.book.sets().flatMap((set) => {
      const frames = set.name.toLowerCase().includes(words) ? setFrames(set, (id) => has.get(id)) : null;
      if (!frames?.ok) return [];
      const { width, height } = setCanvas(frames.value);
      return [
        {
          set,
          frames: frames.value,
          view: `0 0 ${width} ${height}`,
          by: Math.min(40 / height, 130 / width),
          width,
          height,
        },
      ];
    });
  });
  /** Slots that stand in a row, each with a picture of its own. */
  protected readonly rows = computed(() => {
    const strips = new Set(this.book.sets().flatMap((s) => (s.kind === 'strip' ? [s.slot] : [])));
    const counts = new Map(this.book.sets().flatMap((s) => (s.kind === 'row' ? [[s.slot, s.columns * s.rows]] : [])));
    const shown = this.groups().flatMap((g) => g.slots);
    return shown.flatMap((slot) => {
      const count = counts.get(slot.id) ?? slot.rowShows;
      if (count < 2 || strips.has(slot.id)) return [];
      const by = Math.min(40 / slot.height, 130 / ((slot.width + 4) * Math.min(count, 7)), 1);
      return [
        {
          asked: { tiles: slot, count: Math.min(count, MOST_BEGUN) },
          drawn: Array.from({ length: Math.min(count, 7) }, (_, i) => i * (slot.width + slot.width / 9) * by),
          width: slot.width * by,
          height: slot.height * by,
        },
      ];
    });
  });
  protected readonly setText = setText;

  /** Sizes in common use are shown too where the site has a slot of the same size. */
  protected readonly unfolded = signal(false);
  protected readonly folded = computed(() => {
    const shown = this.groups().reduce((n, g) => n + g.slots.length, 0);
    return this.found().length - shown;
  });
  /** A size that was typed into the search and that no slot has: it can be started at. */
  protected readonly size = computed(() => {
    const sides = /^\s*(\d+(?:[.,]\d+)?)\s*[x×*]\s*(\d+(?:[.,]\d+)?)\s*(?:px)?\s*$/i.exec(this.words());
    if (!sides || this.groups().length) return null;
    const typed = typedSlot(readNumber(sides[1]!) ?? NaN, readNumber(sides[2]!) ?? NaN);
    return typed.ok ? typed.value : null;
  });
  protected readonly width = signal('');
  protected readonly height = signal('');
  private readonly asked = signal(false);
  private readonly typed = computed(() => {
    return typedSlot(readNumber(this.width()) ?? NaN, readNumber(this.height()) ?? NaN);
  });
  protected readonly problem = computed(() => {
    const typed = this.typed();
    return this.asked() && !typed.ok ? typed.problem.message : '';
  });

  protected readonly sizeOf = sizeText;

  /** Outlines drawn to one scale, so that a strip, a card and an avatar are told apart at a glance. */
  protected outlineOf(slot: Slot): { width: number; height: number } {
    const scale = 0.085;
    return { width: slot.width * scale, height: Math.min(40, slot.height * scale) };
  }

  /** Enter in the search takes what stands first. */
  protected first(event: Event): void {
    event.preventDefault();
    const slot = this.size() ?? this.groups()[0]?.slots[0];
    if (slot && this.words().trim()) this.choose(slot);
  }

  /** Arrow keys go through the slots that are shown, and back into the search. */
  protected arrow(event: KeyboardEvent): void {
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (by) this.go(event, by);
  }

  protected go(event: Event, by: number): void {
    event.preventDefault();
    const slots = [...this.host.nativeElement.querySelectorAll<HTMLElement>('button.slot')];
    const next = slots.indexOf(document.activeElement as HTMLElement) + by;
    if (next < 0) this.host.nativeElement.querySelector<HTMLElement>('input[type=search]')?.focus();
    else slots[Math.min(slots.length - 1, next)]?.focus();
  }

  protected close(): void {
    this.dialog.close();
  }

  protected choose(slot: Started): void {
    this.dialog.close(slot);
  }

  protected chooseTyped(event: Event): void {
    event.preventDefault();
    this.asked.set(true);
    const typed = this.typed();
    if (typed.ok) this.dialog.close(typed.value);
  }
}
