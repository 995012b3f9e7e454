import { Injectable, effect, inject, untracked } from '@angular/core';
import { fieldValues, fieldsIn, type Change, type Graphic, type WordsLayer } from '@bright-slot/core';
import { HouseStyleService } from '../storage/house-style.service';
import { Workbench } from './workbench';

const withFieldsIn = (graphic: Graphic) =>
  graphic.layers.filter((l): l is WordsLayer => l.role === 'words' && fieldsIn(l).length > 0);

/** What fields in words say: kept as the house style and the day have it, until the graphic was sent. */
@Injectable({ providedIn: 'root' })
export class FieldsService {
  private readonly workbench = inject(Workbench);
  private readonly house = inject(HouseStyleService);

  constructor() {
    effect(() => {
      const graphic = this.workbench.graphic();
      const style = this.house.style();
      // A tab that only reads amends nothing; it looks again when it may write.
      if (!graphic || !this.house.loaded() || !this.workbench.writes()) return;
      const now = fieldValues(style, new Date());
      const edits = withFieldsIn(graphic).flatMap((layer): Change[] => {
        const { values, frozen } = layer.fields;
        if (frozen || fieldsIn(layer).every((f) => (values[f] ?? '') === now[f])) return [];
        return [{ type: 'replace-layer', layer: { ...layer, fields: { values: now, frozen: false } } }];
      });
      if (edits.length) untracked(() => this.workbench.amend({ type: 'together', edits }, graphic));
    });
  }

  /** A graphic was sent: its fields stay as they were then. Nothing, where another is open by now. */
  freeze(id: string): void {
    const graphic = this.workbench.graphic();
    if (graphic?.id !== id) return;
    const open = graphic ? withFieldsIn(graphic).filter((l) => !l.fields.frozen) : [];
    if (!open.length) return;
    this.workbench.edit({
      type: 'together',
      name: 'Fields kept as they were sent',
      edits: open.map((l) => ({ type: 'replace-layer', layer: { ...l, fields: { ...l.fields, frozen: true } } })),
    });
  }
}
