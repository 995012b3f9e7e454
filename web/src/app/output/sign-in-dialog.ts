import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { wayText, type Secret, type SiteRecord } from '@bright-slot/core';
import { Vault } from '../connector/vault';
import { storageProblem } from '../storage/storage-problem';
import { valueOf } from '../ui/event-value';
import { SHORTEST, SecretFields, nothingTyped, type TypedSecret } from './secret-fields';

/** What is asked for: at which site, whether something is kept for it, and what went wrong last. */
export interface SigningIn {
  readonly site: SiteRecord;
  readonly locked: boolean;
  readonly why: string;
}

/** Asks for what signs in at a site, or for the passphrase that opens it. */
@Component({
  selector: 'bs-sign-in-dialog',
  imports: [MatDialogModule, SecretFields],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (submit)="go($event)">
      <h2 mat-dialog-title>Sign in at {{ data.site.name }}</h2>
      <mat-dialog-content>
        <p class="quiet">{{ way }}</p>
        @if (problem()) {
          <p class="problem-text" role="alert">{{ problem() }}</p>
        }
        @if (locked()) {
          <label class="field"
            ><span class="field-label">Passphrase</span
            ><input
              type="password"
              autocomplete="off"
              cdkFocusInitial
              [value]="passphrase()"
              (input)="passphrase.set(valueOf($event))"
          /></label>
          <button type="button" class="button bare small" (click)="locked.set(false)">Type the password instead</button>
        } @else {
          <bs-secret-fields [kind]="data.site.way.kind" [(typed)]="typed" />
        }
      </mat-dialog-content>
      <mat-dialog-actions align="end">
        <button type="button" class="button" (click)="ref.close(null)">Not now</button>
        <button type="submit" class="button main" [disabled]="busy() || !complete()">
          {{ busy() ? 'Opening …' : 'Sign in' }}
        </button>
      </mat-dialog-actions>
    </form>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: 10px;
    }
    p {
      margin: 0;
    }
    mat-dialog-actions {
      gap: 8px;
      padding: 12px 24px 18px;
    }
  `,
})
export class SignInDialog {
  protected readonly valueOf = valueOf;
  protected readonly ref = inject<MatDialogRef<SignInDialog, Secret | null>>(MatDialogRef);
  protected readonly data = inject<SigningIn>(MAT_DIALOG_DATA);
  private readonly vault = inject(Vault);
  protected readonly way = `${this.data.site.address}, ${wayText(this.data.site.way)}`;
  protected readonly locked = signal(this.data.locked);
  protected readonly passphrase = signal('');
  protected readonly typed = signal<TypedSecret>(nothingTyped);
  protected readonly problem = signal(this.data.why);
  protected readonly busy = signal(false);

  protected complete(): boolean {
    if (this.locked()) return this.passphrase().length > 0;
    const { password, key, keep, passphrase } = this.typed();
    return (password.length > 0 || key.length > 0) && (!keep || passphrase.length >= SHORTEST);
  }

  protected async go(event: Event): Promise<void> {
    event.preventDefault();
    if (this.busy() || !this.complete()) return;
    this.busy.set(true);
    const { id } = this.data.site;
    if (this.locked()) {
      const opened = await this.vault.unlock(id, this.passphrase());
      this.busy.set(false);
      if (opened.ok) this.ref.close(opened.value);
      else this.problem.set(opened.problem.message);
      return;
    }
    const { password, key, keep, passphrase } = this.typed();
    const secret = { password, key };
    this.vault.keep(id, secret);
    try {
      if (keep) await this.vault.lock(id, secret, passphrase);
      this.ref.close(secret);
    } catch (error) {
      this.problem.set(storageProblem(error).message);
    }
    this.busy.set(false);
  }
}
