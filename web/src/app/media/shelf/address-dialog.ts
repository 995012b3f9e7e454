import { ChangeDetectionStrategy, Component, OnDestroy, inject, signal } from '@angular/core';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { TextField } from '../../ui/text-field';
import { CurrentPictures } from '../current-picture.service';

/** A picture by its web address. */
@Component({
  selector: 'bs-address-dialog',
  imports: [MatDialogModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Picture from a web address</h2>
    <mat-dialog-content>
      <form id="address" (submit)="fetch($event)">
        <bs-text-field label="Address" [numeric]="false" placeholder="https://" [(text)]="address" />
      </form>
      <p class="quiet small-text">
        The address of the picture itself, copied from its page. Bright Slot’s server fetches it. Mind whose picture it
        is: use your own, or one whose licence lets you.
      </p>
      @if (busy()) {
        <p role="status">Fetching …</p>
      }
      @if (problem()) {
        <p class="problem-text" role="alert">{{ problem() }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" class="button" mat-dialog-close>Cancel</button>
      <button type="submit" form="address" class="button main" [disabled]="!address().trim() || busy()">
        Fetch it
      </button>
    </mat-dialog-actions>
  `,
  styles: 'form { padding-top: 6px; }',
})
export class AddressDialog implements OnDestroy {
  private readonly dialog = inject<MatDialogRef<AddressDialog, File>>(MatDialogRef);
  private readonly pictures = inject(CurrentPictures);
  private readonly running = new AbortController();
  protected readonly address = signal('');
  protected readonly busy = signal(false);
  protected readonly problem = signal('');

  ngOnDestroy(): void {
    this.running.abort();
  }

  protected async fetch(event: Event): Promise<void> {
    event.preventDefault();
    if (!this.address().trim() || this.busy()) return;
    this.busy.set(true);
    this.problem.set('');
    const file = await this.pictures.fileAt(this.address(), this.running.signal);
    this.busy.set(false);
    if (file.ok) this.dialog.close(file.value);
    else if (file.problem.code !== 'stopped') this.problem.set(file.problem.message);
  }
}
