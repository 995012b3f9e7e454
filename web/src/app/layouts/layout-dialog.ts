import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef, type MatDialog } from '@angular/material/dialog';
import { firstValueFrom } from 'rxjs';
import type { Slot } from '@bright-slot/core';
import { LayoutTiles, tileSize } from './layout-tiles';
import { LayoutTries, type LayoutTry, type ToTry } from './layout-tries';

/** What layouts are chosen for. */
export interface LayoutAsked {
  readonly title: string;
  /** What choosing one does. */
  readonly said: string;
  readonly slot: Slot;
  /** The one that is followed now. */
  readonly now: string | null;
  /** What it would be in each. */
  readonly all: (stop: AbortSignal) => Promise<ToTry[]>;
}

/** Each layout as it would be, to choose one of; what is chosen is given to whoever asked. */
@Component({
  selector: 'bs-layout-dialog',
  imports: [LayoutTiles, MatDialogModule],
  providers: [LayoutTries],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ asked.title }}</h2>
    <mat-dialog-content>
      <p class="quiet small-text">{{ asked.said }}</p>
      @if (tries.problem()) {
        <p class="problem-text" role="alert">{{ tries.problem() }}</p>
      }
      @if (!tries.tries()) {
        <p class="quiet" role="status">Composing the layouts …</p>
      }
      <bs-layout-tiles
        [slot]="asked.slot"
        [tries]="tries.tries() ?? []"
        [busy]="tries.busy()"
        [now]="asked.now"
        (chosen)="dialog.close($event)"
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
  protected readonly dialog = inject<MatDialogRef<LayoutDialog, LayoutTry>>(MatDialogRef);
  protected readonly asked = inject<LayoutAsked>(MAT_DIALOG_DATA);
  protected readonly tries = inject(LayoutTries);

  constructor() {
    void this.tries.show(this.asked.all, tileSize(this.asked.slot).width);
  }
}

/** Asks for another layout than the one that is followed; null where it stays. */
export async function askLayout(dialogs: MatDialog, asked: LayoutAsked): Promise<LayoutTry | null> {
  const ref = dialogs.open<LayoutDialog, LayoutAsked, LayoutTry>(LayoutDialog, {
    data: asked,
    width: '1010px',
    maxWidth: '94vw',
    autoFocus: 'dialog',
  });
  const chosen = await firstValueFrom(ref.afterClosed());
  return chosen && chosen.key !== asked.now ? chosen : null;
}
