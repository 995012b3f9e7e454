import { Injectable, inject, signal } from '@angular/core';
import { bad, type Result, type Secret } from '@bright-slot/core';
import { SealedSecrets } from '../storage/sealed-secrets';
import { Sealed, seal, unseal } from './sealed';

/** What signs in at the person's sites: in memory until the page goes, and encrypted in the browser where that is asked. */
@Injectable({ providedIn: 'root' })
export class Vault {
  private readonly stored = inject(SealedSecrets);
  private readonly open = signal<ReadonlyMap<string, Secret>>(new Map());

  /** What is open now; null where it has to be asked for. */
  of(site: string): Secret | null {
    return this.open().get(site) ?? null;
  }

  keep(site: string, secret: Secret): void {
    this.open.update((all) => new Map(all).set(site, secret));
  }

  /** Whether something is kept for a site, encrypted. */
  async locked(site: string): Promise<boolean> {
    return Sealed.safeParse(await this.stored.of(site)).success;
  }

  /** Keeps it beyond this visit, encrypted by a passphrase. */
  async lock(site: string, secret: Secret, passphrase: string): Promise<void> {
    await this.stored.put(await seal(site, secret, passphrase));
  }

  /** Opens what is kept. Fails with `passphrase`. */
  async unlock(site: string, passphrase: string): Promise<Result<Secret>> {
    const kept = Sealed.safeParse(await this.stored.of(site));
    if (!kept.success) return bad('passphrase', 'Nothing is kept for this site. Type the password itself.');
    const opened = await unseal(kept.data, passphrase);
    if (opened.ok) this.keep(site, opened.value);
    return opened;
  }

  /** Forgets it, here and on disk. */
  async forget(site: string): Promise<void> {
    this.open.update((all) => new Map([...all].filter(([id]) => id !== site)));
    await this.stored.remove(site);
  }
}
