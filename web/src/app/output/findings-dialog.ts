import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';

/** Names what the fit report found before a graphic is sent with it. */
@Component({
  selector: 'bs-findings-dialog',
  imports: [MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ titles.length === 1 ? 'One thing is' : titles.length + ' things are' }} still open</h2>
    <mat-dialog-content>
      <ul>
        @for (title of titles; track title) {
          <li>{{ title }}</li>
        }
      </ul>
      <p class="quiet">Visitors will see it as it is. The fit report in the workbench can mend it.</p>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" class="button" (click)="ref.close(true)">Send it all the same</button>
      <button type="button" class="button main" cdkFocusInitial (click)="ref.close(false)">Not yet</button>
    </mat-dialog-actions>
  `,
  styles: `
    ul {
      margin: 0 0 10px;
      padding-left: 20px;
    }
    li {
      margin: 3px 0;
      font-weight: 600;
    }
    mat-dialog-actions {
      gap: 8px;
      padding: 12px 24px 18px;
    }
  `,
})
export class FindingsDialog {
  protected readonly ref = inject<MatDialogRef<FindingsDialog, boolean>>(MatDialogRef);
  protected readonly titles = inject<readonly string[]>(MAT_DIALOG_DATA);
}
