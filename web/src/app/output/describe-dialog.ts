import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { valueOf } from '../ui/event-value';

/** What to start from: words of the graphic's, or a description of an earlier state. */
export interface Described {
  readonly proposed: string;
  readonly stale: boolean;
}

/** Asks for the description before a graphic is sent without one. */
@Component({
  selector: 'bs-describe-dialog',
  imports: [MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>What does it show and say?</h2>
    <mat-dialog-content>
      <label class="words"
        ><span>{{
          data.stale
            ? 'Words or photo changed since this was written. People who cannot see the picture hear this instead: does it still say what it shows?'
            : 'People who cannot see the picture hear this instead: what it shows, and what its words say.'
        }}</span
        ><textarea rows="3" maxlength="500" [value]="text()" (input)="text.set(valueOf($event))"></textarea>
      </label>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" class="button" (click)="ref.close(null)">Not yet</button>
      <button type="button" class="button" (click)="ref.close('')">Send it without</button>
      <button type="button" class="button main" [disabled]="!text().trim()" (click)="ref.close(text().trim())">
        Send with this
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    .words {
      display: flex;
      flex-direction: column;
      gap: 8px;
      padding: 0 4px 6px;
    }
    textarea {
      font: inherit;
      color: var(--ink);
      padding: 8px 10px;
      border: 1px solid var(--border);
      border-radius: var(--corner);
      resize: vertical;
    }
    mat-dialog-actions {
      gap: 8px;
      padding: 12px 24px 18px;
    }
  `,
})
export class DescribeDialog {
  protected readonly valueOf = valueOf;
  protected readonly ref = inject<MatDialogRef<DescribeDialog, string | null>>(MatDialogRef);
  protected readonly data = inject<Described>(MAT_DIALOG_DATA);
  protected readonly text = signal(this.data.proposed);
}
