import { Injectable, inject } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import {
  applyEdit,
  contentsOf,
  followedLayout,
  frameOf,
  inLayout,
  isPicture,
  layoutName,
  type Graphic,
  type PlacedPicture,
} from '@bright-slot/core';
import { Workbench } from '../document/workbench';
import type { ToTry } from '../layouts/layout-tries';
import { PixelsService } from '../pixels/pixels.service';
import { GraphicsRepository } from '../storage/graphics-repository';

/** Another layout for the graphic at work: with what it holds, and with what was changed by hand. */
@Injectable({ providedIn: 'root' })
export class ChangeLayout {
  private readonly dialogs = inject(MatDialog);
  private readonly workbench = inject(Workbench);
  private readonly pixels = inject(PixelsService);
  private readonly repository = inject(GraphicsRepository);

  /** Asks, and changes it in one step. */
  async ask(): Promise<void> {
    const before = this.workbench.graphic();
    if (!before) return;
    const { askLayout } = await import('../layouts/layout-dialog');
    const chosen = await askLayout(this.dialogs, {
      title: 'Change the layout',
      said: 'What stands in its places stays, and so does what you changed by hand. One press changes it, undo brings it back.',
      slot: frameOf(before).slot,
      now: followedLayout(before.follows),
      all: (stop) => this.all(before, stop),
    });
    if (!chosen || this.workbench.graphic()?.id !== before.id) return;
    const { layers, backdrop, follows } = chosen.graphic;
    const derived = { layers, backdrop };
    this.workbench.edit({ type: 'follow', derived, follows: follows!, name: `Layout: ${chosen.name}` });
  }

  /** The graphic in each layout there is for its slot. */
  private async all(graphic: Graphic, stop: AbortSignal): Promise<ToTry[]> {
    const { slot } = frameOf(graphic);
    const subjects = new Map<string, PlacedPicture['subject']>();
    for (const layer of graphic.layers.filter(isPicture)) {
      const asset = await this.repository.asset(layer.asset);
      if (asset?.subject) subjects.set(layer.asset, asset.subject);
    }
    const contents = contentsOf(graphic, subjects);
    const look = graphic.follows?.layout?.look;
    if (!contents || !look) return [];
    const found = await this.pixels.layouts(contents, look, slot, stop);
    return found.map(({ layout, derived }) => ({
      key: layout,
      name: layoutName(layout, slot),
      graphic: applyEdit(graphic, { type: 'follow', ...inLayout(graphic, layout, derived, contents, look) }),
    }));
  }
}
