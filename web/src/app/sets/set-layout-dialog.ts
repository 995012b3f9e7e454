import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { layoutName, newTile, rowContents, type TileRow, type TileSet } from '@bright-slot/core';
import { LayoutTiles, tileSize } from '../layouts/layout-tiles';
import { LayoutTries, type LayoutTry, type ToTry } from '../layouts/layout-tries';
import { PixelsService } from '../pixels/pixels.service';

/** One tile of a set in each layout: what is chosen, all of them follow. */
@Component({
  selector: 'bs-set-layout-dialog',
  imports: [LayoutTiles, MatDialogModule],
  providers: [LayoutTries],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>The layout they share</h2>
    <mat-dialog-content>
      <p class="quiet small-text">All tiles follow the one you press; what was changed by hand on a tile stays.</p>
      @if (tries.problem()) {
        <p class="problem-text" role="alert">{{ tries.problem() }}</p>
      }
      @if (!tries.tries()) {
        <p class="quiet" role="status">Composing the layouts …</p>
      }
      <bs-layout-tiles
        [slot]="data.set.slot"
        [tries]="tries.tries() ?? []"
        [busy]="tries.busy()"
        [now]="data.set.layout"
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
export class SetLayoutDialog {
  private readonly dialog = inject<MatDialogRef<SetLayoutDialog, { key: string; name: string }>>(MatDialogRef);
  protected readonly data = inject<{ set: TileSet; row: TileRow }>(MAT_DIALOG_DATA);
  private readonly pixels = inject(PixelsService);
  protected readonly tries = inject(LayoutTries);

  constructor() {
    void this.tries.show((stop) => this.all(stop), tileSize(this.data.set.slot).width);
  }

  private async all(stop: AbortSignal): Promise<ToTry[]> {
    const { set, row } = this.data;
    const contents = rowContents(row, set);
    const found = await this.pixels.layouts(contents, set.look, set.slot, stop);
    return found.map(({ layout, derived }) => ({
      key: layout,
      name: layoutName(layout, set.slot),
      graphic: newTile({ id: 'tried', created: set.created }, { ...set, layout }, { contents, derived }),
    }));
  }

  protected choose({ key, name }: LayoutTry): void {
    this.dialog.close({ key, name });
  }
}
