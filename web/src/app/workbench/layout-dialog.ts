import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import {
  contentsOf,
  followedLayout,
  frameOf,
  inLayout,
  isPicture,
  layoutName,
  applyEdit,
  type Edit,
  type Graphic,
  type PlacedPicture,
} from '@bright-slot/core';
import { Workbench } from '../document/workbench';
import { LayoutTiles, tileSize } from '../layouts/layout-tiles';
import { LayoutTries, type LayoutTry, type ToTry } from '../layouts/layout-tries';
import { PixelsService } from '../pixels/pixels.service';
import { GraphicsRepository } from '../storage/graphics-repository';

/** The graphic at work as it would be in each layout: with what it holds, and with what was changed by hand. */
@Component({
  selector: 'bs-layout-dialog',
  imports: [LayoutTiles, MatDialogModule],
  providers: [LayoutTries],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Change the layout</h2>
    <mat-dialog-content>
      <p class="quiet small-text">
        What stands in its places stays, and so does what you changed by hand. One press changes it, undo brings it
        back.
      </p>
      @if (tries.problem()) {
        <p class="problem-text" role="alert">{{ tries.problem() }}</p>
      }
      @if (!tries.tries()) {
        <p class="quiet" role="status">Composing the layouts …</p>
      }
      <bs-layout-tiles
        [slot]="slot"
        [tries]="tries.tries() ?? []"
        [busy]="tries.busy()"
        [now]="now"
        (chosen)="choose($event)"
      />
    </mat-dialog-content>
    <mat-dialog-actions align="end"
      ><button type="button" class="button" mat-dialog-close>Close</button></mat-dialog-actions
    >
  `,
  styles: `
    bs-layout-tiles {
      display: block;
      padding: 4px 3px;
      min-height: 200px;
    }
    p {
      margin: 0 0 12px;
    }
  `,
})
export class LayoutDialog {
  private readonly dialog = inject<MatDialogRef<LayoutDialog>>(MatDialogRef);
  private readonly workbench = inject(Workbench);
  private readonly pixels = inject(PixelsService);
  private readonly repository = inject(GraphicsRepository);
  protected readonly tries = inject(LayoutTries);
  private readonly graphic = this.workbench.graphic()!;
  protected readonly slot = frameOf(this.graphic).slot;
  protected readonly now = followedLayout(this.graphic.follows);

  constructor() {
    void this.tries.show((stop) => this.all(stop), tileSize(this.slot).width);
  }

  private async all(stop: AbortSignal): Promise<ToTry[]> {
    const graphic = this.graphic;
    const subjects = new Map<string, PlacedPicture['subject']>();
    for (const layer of graphic.layers.filter(isPicture)) {
      const asset = await this.repository.asset(layer.asset);
      if (asset?.subject) subjects.set(layer.asset, asset.subject);
    }
    const contents = contentsOf(graphic, subjects);
    const look = graphic.follows?.layout?.look;
    if (!contents || !look) return [];
    const found = await this.pixels.layouts(contents, look, this.slot, stop);
    return found.map(({ layout, derived }) => ({
      key: layout,
      name: layoutName(layout, this.slot),
      graphic: applyEdit(graphic, { type: 'follow', ...inLayout(graphic, layout, derived, contents, look) }),
    }));
  }

  protected choose({ key, name, graphic }: LayoutTry): void {
    this.dialog.close();
    if (key === this.now || this.workbench.graphic()?.id !== graphic.id) return;
    this.workbench.edit(followingEdit(graphic, name));
  }
}

const followingEdit = ({ layers, backdrop, follows }: Graphic, name: string): Edit & { readonly name: string } => ({
  type: 'follow',
  derived: { layers, backdrop },
  follows: follows!,
  name: `Layout: ${name}`,
});
