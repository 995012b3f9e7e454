import { Injectable, inject, signal } from '@angular/core';
import { slotChanges, type Frame, type Graphic, type Slot } from '@bright-slot/core';
import { GraphicsRepository } from '../storage/graphics-repository';
import { SlotBook } from '../storage/slot-book.service';

const KEY = 'slots-kept';

/** A frame, and its slot as it is in the book now. */
export interface ChangedSlot {
  readonly frame: Frame;
  readonly now: Slot;
}

/** The frame a graphic is made with is known by the graphic alone. */
const keyOf = (graphic: string, frame: string) => (frame === 'main' ? graphic : `${graphic}/${frame}`);

/** Graphics keep the slot they were made for; this tells where the book has another by now. */
@Injectable({ providedIn: 'root' })
export class SlotChanges {
  private readonly book = inject(SlotBook);
  private readonly repository = inject(GraphicsRepository);
  /** For a frame, the state of its slot that a person chose not to follow. */
  private readonly kept = signal<Readonly<Record<string, string>>>({});

  constructor() {
    void this.repository.setting(KEY).then(
      (value) => {
        if (typeof value === 'object' && value !== null) this.kept.set(value as Record<string, string>);
      },
      () => undefined,
    );
  }

  /** The first frame whose slot the book has otherwise by now, in what matters to the graphic, unless that was declined. */
  changed(graphic: Pick<Graphic, 'id' | 'frames'>): ChangedSlot | null {
    for (const frame of graphic.frames) {
      const now = this.nowOf(graphic.id, frame);
      if (now) return { frame, now };
    }
    return null;
  }

  /** A frame's slot as the book has it by now, where that differs and was not declined; null otherwise. */
  nowOf(graphic: string, frame: Frame): Slot | null {
    const now = this.book.byId().get(frame.slot.id);
    if (!now || slotChanges(frame.slot, now).length === 0) return null;
    return this.kept()[keyOf(graphic, frame.id)] === JSON.stringify(now) ? null : now;
  }

  /** Leaves a frame with the slot it was made for, until the book's changes again. */
  async keep(graphic: string, { frame, now }: ChangedSlot): Promise<void> {
    const kept = { ...this.kept(), [keyOf(graphic, frame.id)]: JSON.stringify(now) };
    this.kept.set(kept);
    await this.repository.setSetting(KEY, kept).catch(() => undefined);
  }
}
