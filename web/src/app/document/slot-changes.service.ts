import { Injectable, inject, signal } from '@angular/core';
import { mainFrame, slotChanges, type Graphic, type Slot } from '@bright-slot/core';
import { GraphicsRepository } from '../storage/graphics-repository';
import { SlotBook } from '../storage/slot-book.service';

const KEY = 'slots-kept';

/** Graphics keep the slot they were made for; this tells where the book has another by now. */
@Injectable({ providedIn: 'root' })
export class SlotChanges {
  private readonly book = inject(SlotBook);
  private readonly repository = inject(GraphicsRepository);
  /** For a graphic, the state of its slot that a person chose not to follow. */
  private readonly kept = signal<Readonly<Record<string, string>>>({});

  constructor() {
    void this.repository.setting(KEY).then(
      (value) => {
        if (typeof value === 'object' && value !== null) this.kept.set(value as Record<string, string>);
      },
      () => undefined,
    );
  }

  /** The slot as it is in the book now, where it differs in what matters to the graphic and was not declined. */
  changed(graphic: Graphic): Slot | null {
    const { slot } = mainFrame(graphic);
    const now = this.book.byId().get(slot.id);
    if (!now || slotChanges(slot, now).length === 0) return null;
    return this.kept()[graphic.id] === JSON.stringify(now) ? null : now;
  }

  /** Leaves a graphic with the slot it was made for, until the book's changes again. */
  async keep(graphicId: string, slot: Slot): Promise<void> {
    const kept = { ...this.kept(), [graphicId]: JSON.stringify(slot) };
    this.kept.set(kept);
    await this.repository.setSetting(KEY, kept).catch(() => undefined);
  }
}
