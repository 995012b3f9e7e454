import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { filterSlots, noFilter, readNumber, sizeText, slotGroups, typedSlot, type Slot } from '@bright-slot/core';
import { RouterLink } from '@angular/router';
import { Icon } from '../shared/icon';
import { SlotBook } from '../slots/slot-book.service';

/** One question first: which slot? */
@Component({
  selector: 'bs-new-graphic',
  imports: [MatDialogModule, RouterLink, Icon],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Which slot is it for?</h2>
    <mat-dialog-content>
      <label class="field find">
        <bs-icon name="magnify" />
        <span class="visually-hidden">Find a slot by name or size</span>
        <input
          type="search"
          placeholder="Name, or 940x198"
          [value]="words()"
          (input)="words.set($any($event.target).value)"
        />
      </label>
      <div class="groups">
        @for (group of groups(); track group.name) {
          <section [attr.aria-label]="group.name">
            <h3 class="quiet">{{ group.name }}</h3>
            <div class="row">
              @for (slot of group.slots; track slot.id) {
                <button
                  type="button"
                  class="slot"
                  [attr.aria-label]="slot.name + ', ' + sizeOf(slot)"
                  (click)="choose(slot)"
                >
                  <span class="outline-room"
                    ><span
                      class="outline"
                      [class.round]="slot.shape.kind === 'ellipse'"
                      [style.width.px]="outlineOf(slot).width"
                      [style.height.px]="outlineOf(slot).height"
                    ></span
                  ></span>
                  <span class="name">{{ slot.name }}</span>
                  <span class="quiet small-text">{{ sizeOf(slot) }}</span>
                </button>
              }
            </div>
          </section>
        }
      </div>
      <h3 class="quiet">Another size</h3>
      <form class="typed" (submit)="chooseTyped($event)">
        <label class="field"
          ><span class="field-label">Width</span
          ><input
            inputmode="decimal"
            name="width"
            [value]="width()"
            (input)="width.set($any($event.target).value)"
            autocomplete="off"
          /><span class="unit">px</span></label
        >
        <span aria-hidden="true">×</span>
        <label class="field"
          ><span class="field-label">Height</span
          ><input
            inputmode="decimal"
            name="height"
            [value]="height()"
            (input)="height.set($any($event.target).value)"
            autocomplete="off"
          /><span class="unit">px</span></label
        >
        <button type="submit" class="button main" [disabled]="!width() || !height()">Start at this size</button>
      </form>
      <p class="small-text problem-text" role="alert">{{ problem() }}</p>
      <p class="quiet small-text note">
        The slots are yours to change and to add to:
        <a routerLink="/slots" (click)="close()">measure one, or open the book</a>.
      </p>
    </mat-dialog-content>
  `,
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
  private readonly dialog = inject<MatDialogRef<NewGraphicDialog, Slot>>(MatDialogRef);
  private readonly book = inject(SlotBook);
  protected readonly words = signal('');
  private readonly found = computed(() => filterSlots(this.book.slots() ?? [], { ...noFilter, words: this.words() }));
  /** The site's own slots come first: a graphic made for one can be sent there. */
  protected readonly groups = computed(() => {
    const sites = [...new Set(this.found().map((s) => s.site))].filter(Boolean).sort();
    const on = sites.map((name) => ({ name, slots: this.found().filter((s) => s.site === name) }));
    const common = slotGroups.map((name) => ({ name, slots: this.found().filter((s) => s.group === name && !s.site) }));
    return [...on, ...common].filter((g) => g.slots.length > 0);
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

  protected close(): void {
    this.dialog.close();
  }

  protected choose(slot: Slot): void {
    this.dialog.close(slot);
  }

  protected chooseTyped(event: Event): void {
    event.preventDefault();
    this.asked.set(true);
    const typed = this.typed();
    if (typed.ok) this.dialog.close(typed.value);
  }
}
