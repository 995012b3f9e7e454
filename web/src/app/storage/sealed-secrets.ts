import { Injectable } from '@angular/core';
import { database, type SecretRecord } from './database';

/** What signs in at sites, encrypted before it comes here; in no backup. */
@Injectable({ providedIn: 'root' })
export class SealedSecrets {
  private readonly db = database();

  async of(site: string): Promise<unknown> {
    return this.db.secrets.get(site).catch(() => undefined);
  }

  async put(record: SecretRecord): Promise<void> {
    await this.db.secrets.put(record);
  }

  async remove(site: string): Promise<void> {
    await this.db.secrets.delete(site);
  }
}
