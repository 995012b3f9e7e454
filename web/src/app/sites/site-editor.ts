import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import {
  SITE_VERSION,
  SiteRecord,
  isPlain,
  isOpen,
  lookOf,
  readUrl,
  trySteps,
  wayKinds,
  wayNames,
  type TryStep,
  type WayIn,
} from '@bright-slot/core';
import { RelayClient, type RelayProblem } from '../connector/relay-client';
import { Vault } from '../connector/vault';
import { SHORTEST, SecretFields, nothingTyped, type TypedSecret } from '../output/secret-fields';
import { HouseStyleService } from '../storage/house-style.service';
import { Sites } from '../storage/sites.service';
import { storageProblem } from '../storage/storage-problem';
import { Choice, type Option } from '../ui/choice';
import { valueOf } from '../ui/event-value';
import { Icon } from '../ui/icon';
import { TextField } from '../ui/text-field';
import { TickField } from '../ui/tick-field';
import { fieldsOf, wayFrom, type WayFields } from './way-fields';

/** What each step of a trial is called. */
const stepNames: Record<TryStep, string> = {
  'signed-in': 'Signs in',
  wrote: 'Writes a small file',
  read: 'Reads it as a visitor',
  removed: 'Takes it away again',
};

/** Sets up a site, or changes one: its name, its address, and how it takes files, tried before it is kept. */
@Component({
  selector: 'bs-site-editor',
  imports: [MatDialogModule, Choice, Icon, SecretFields, TextField, TickField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './site-editor.html',
  styleUrl: './site-editor.scss',
})
export class SiteEditor {
  private readonly ref = inject<MatDialogRef<SiteEditor, SiteRecord | 'removed'>>(MatDialogRef);
  private readonly sites = inject(Sites);
  private readonly house = inject(HouseStyleService);
  private readonly relay = inject(RelayClient);
  private readonly vault = inject(Vault);
  protected readonly known = inject<SiteRecord | null>(MAT_DIALOG_DATA);
  private readonly id = this.known?.id ?? crypto.randomUUID();
  protected readonly kinds: readonly Option<WayIn['kind']>[] = wayKinds.map((id) => ({ id, name: wayNames[id].name }));
  protected readonly about = computed(() => wayNames[this.f().kind].about);
  protected readonly f = signal<WayFields>(fieldsOf(this.known));
  protected readonly secret = signal<TypedSecret>({ ...nothingTyped, ...this.vault.of(this.id) });
  protected readonly valueOf = valueOf;
  protected readonly steps = trySteps;
  protected readonly stepNames = stepNames;
  /** How far the trial is; null before one. */
  protected readonly done = signal<ReadonlyMap<TryStep, string> | null>(null);
  protected readonly problem = signal<RelayProblem | null>(null);
  protected readonly trying = signal(false);
  protected readonly keeping = signal(false);
  /** Why it could not be kept. */
  protected readonly unkept = signal('');
  private stop: AbortController | undefined;

  protected readonly way = computed(() => wayFrom(this.f()));
  protected readonly open = computed(() => {
    const way = this.way();
    return way.ok && isOpen(way.value) ? way.value : null;
  });
  protected readonly plain = computed(() => {
    const way = this.way();
    return way.ok && isPlain(way.value);
  });
  /** Where a file would be found, to be compared with the site. */
  protected readonly example = computed(() => {
    const way = this.way();
    return way.ok && 'visitors' in way.value && way.value.visitors
      ? new URL('picture.jpg', way.value.visitors.replace(/\/?$/, '/')).href
      : '';
  });
  protected readonly missing = computed(() => {
    if (!this.f().name.trim()) return 'Give the site a name.';
    if (!this.f().address.trim()) return 'Say at which address it is.';
    const way = this.way();
    return way.ok ? '' : way.problem.message;
  });
  protected readonly mayTry = computed(() => {
    const { password, key } = this.secret();
    const signs = password.length > 0 || key.length > 0 || this.f().kind === 'form';
    return this.open() !== null && signs && !this.trying() && (!this.plain() || this.f().plain);
  });
  protected readonly works = computed(() => this.done()?.has('removed') ?? false);
  protected readonly mayKeep = computed(
    () => !this.keeping() && !this.missing() && (!this.secret().keep || this.secret().passphrase.length >= SHORTEST),
  );

  protected set(change: Partial<WayFields>): void {
    this.f.update((f) => ({ ...f, ...change }));
    // What was tried was another way in.
    if (!('name' in change)) this.forgetTrial();
  }

  protected choose(kind: WayIn['kind']): void {
    this.set({ kind, port: kind === 'sftp' ? '22' : '21', hostKey: null });
  }

  private forgetTrial(): void {
    this.stop?.abort();
    this.done.set(null);
    this.problem.set(null);
  }

  /** Signs in, writes, reads, removes; says which of them failed and why. */
  protected async try(): Promise<void> {
    const way = this.open();
    if (!way || !this.mayTry()) return;
    const stop = (this.stop = new AbortController());
    this.trying.set(true);
    this.done.set(new Map());
    this.problem.set(null);
    const { password, key } = this.secret();
    const tried = await this.relay.run(
      { do: 'try', way, secret: { password, key } },
      {
        signal: stop.signal,
        line: (l) => {
          if (l.at === 'step') this.done.update((all) => new Map(all).set(l.step, l.note));
        },
      },
    );
    this.trying.set(false);
    if (this.stop === stop && !tried.ok && tried.problem.code !== 'cancelled') this.problem.set(tried.problem);
  }

  /** The host's key is the right one: it is pinned, and the trial goes on. */
  protected async agree(hostKey: string): Promise<void> {
    this.f.update((f) => ({ ...f, hostKey }));
    await this.try();
  }

  protected async keep(event: Event): Promise<void> {
    event.preventDefault();
    const way = this.way();
    if (!this.mayKeep() || !way.ok) return;
    const { name, address } = this.f();
    const site: SiteRecord = {
      look: lookOf(this.house.style()),
      pages: [],
      holds: {},
      members: {},
      settings: [],
      standard: null,
      order: [],
      ...this.known,
      version: SITE_VERSION,
      id: this.id,
      name: name.trim().slice(0, 120),
      address: hostName(address),
      way: way.value,
    };
    const { password, key, keep, passphrase } = this.secret();
    this.keeping.set(true);
    try {
      if (password || key) this.vault.keep(this.id, { password, key });
      if (keep) await this.vault.lock(this.id, { password, key }, passphrase);
      await this.sites.put(site);
      this.ref.close(site);
    } catch (error) {
      this.unkept.set(storageProblem(error).message);
    }
    this.keeping.set(false);
  }

  protected async remove(): Promise<void> {
    await this.vault.forget(this.id);
    await this.sites.remove(this.id);
    this.ref.close('removed');
  }

  protected cancel(): void {
    this.stop?.abort();
    this.ref.close();
  }
}

/** A site's host from whatever was typed or pasted. */
function hostName(typed: string): string {
  const text = typed.trim();
  const address = /^https?:\/\//.test(text) ? text : `https://${text}`;
  return (readUrl(address)?.host ?? text).slice(0, 80);
}
