import { Injectable, inject, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import {
  bad,
  finalAddress,
  good,
  holdsSeveral,
  identify,
  fileFormats,
  formatNamed,
  heldName,
  pictureFormats,
  formatsText,
  isFileFormat,
  isOpen,
  liveOf,
  nextFreeName,
  passes,
  waitBefore,
  wayCan,
  type Live,
  type Looked,
  type OpenWay,
  type PageColours,
  type Refusal,
  type Result,
  type Secret,
  type SentFile,
  type SiteRecord,
  type Slot,
} from '@bright-slot/core';
import { firstValueFrom } from 'rxjs';
import { RelayClient } from '../connector/relay-client';
import { Vault } from '../connector/vault';
import { PixelsService } from '../pixels/pixels.service';
import { sha256 } from '../storage/hash';
import { Sites } from '../storage/sites.service';
import { SlotBook } from '../storage/slot-book.service';
import { SentFiles } from '../storage/sent-files.service';
import { SignInDialog, type SigningIn } from './sign-in-dialog';

/** A file that is to stand in a place of a site. */
export interface ToSend {
  /** What it is to be known by: how far it is, and what became of it. */
  readonly id: string;
  readonly slot: Slot;
  readonly blob: Blob;
  readonly name: string;
  readonly alt: string;
  readonly graphic: { readonly id: string; readonly name: string; readonly state: string };
  readonly colours: PageColours | null;
}

/** How far a file is: a share, and whether it waits to be tried again. */
export interface UnderWay {
  readonly share: number;
  readonly waits: boolean;
  readonly tries: number;
}

const MOST_TRIES = 4;
const cancelled = bad('cancelled', 'It was called off; nothing of it is on the site.');

/** Sends files to sites of the person's, one after another at each, and looks at what visitors are shown. */
@Injectable({ providedIn: 'root' })
export class SiteSending {
  private readonly relay = inject(RelayClient);
  private readonly vault = inject(Vault);
  private readonly files = inject(SentFiles);
  private readonly sites = inject(Sites);
  private readonly book = inject(SlotBook);
  private readonly pixels = inject(PixelsService);
  private readonly dialogs = inject(MatDialog);
  /** By the id of the file. */
  readonly going = signal<ReadonlyMap<string, UnderWay>>(new Map());
  /** What a visitor was shown when it was last looked, by the id of the file; for this visit. */
  readonly seen = signal<ReadonlyMap<string, Blob>>(new Map());
  private readonly stops = new Map<string, AbortController>();
  /** What each site is busy with: one thing after another. */
  private readonly tails = new Map<string, Promise<unknown>>();

  /** What signs in: known, or asked for; null where the person would rather not. */
  private async secret(site: SiteRecord, why = ''): Promise<Secret | null> {
    const known = why ? null : this.vault.of(site.id);
    if (known) return known;
    const { way } = site;
    if (way.kind === 'form' && !way.user && !way.secretField) return { password: '', key: '' };
    const data: SigningIn = { site, locked: !why && (await this.vault.locked(site.id)), why };
    const ref = this.dialogs.open<SignInDialog, SigningIn, Secret | null>(SignInDialog, { width: '460px', data });
    return (await firstValueFrom(ref.afterClosed())) ?? null;
  }

  /** Does something signed in; asks once more where the password was refused. */
  private async signedIn<T>(
    site: SiteRecord,
    work: (way: OpenWay, secret: Secret) => Promise<Result<T, Refusal>>,
  ): Promise<Result<T, Refusal>> {
    const { way } = site;
    if (!isOpen(way)) return bad('by-hand', 'Files do not go to this site by themselves.');
    for (let why = ''; ;) {
      const secret = await this.secret(site, why);
      if (!secret) return cancelled;
      const done = await work(way, secret);
      if (done.ok || done.problem.code !== 'sign-in') return done;
      why = done.problem.message;
    }
  }

  /** Names that are taken there: as the site says where it can and we are signed in, else as far as is known here. */
  async names(site: SiteRecord): Promise<ReadonlySet<string>> {
    const known = (await this.files.of(site.id)).filter((f) => f.state !== 'failed').map((f) => f.name);
    const secret = this.vault.of(site.id);
    const { way } = site;
    if (!secret || !isOpen(way) || !wayCan(way).list) return new Set(known);
    const there = await this.relay.run({ do: 'names', way, secret });
    return new Set([...known, ...(there.ok ? (there.value.names ?? []) : [])]);
  }

  private mended(name: string): string {
    const format = formatNamed(name);
    const other = 'Give the place another name in Sites.';
    return format ? `Choose ${pictureFormats[format].name} on Export. ${other}` : other;
  }

  /** Sends a file to stand in a place. What it takes the place of is fetched and kept before. */
  async send(site: SiteRecord, what: ToSend): Promise<Result<SentFile, Refusal>> {
    const facts = identify(new Uint8Array(await what.blob.arrayBuffer()), what.name);
    if (!facts.ok) return facts;
    const { type, width, height } = facts.value;
    if (!isFileFormat(type)) return bad('type', `Sites are sent ${formatsText(fileFormats)}.`);
    const held = heldName(site, what.slot.id);
    const name = held ?? what.name;
    // A browser goes by the type that a server makes of the ending.
    if (formatNamed(name) !== type)
      return bad(
        'ending',
        `“${what.slot.name}” holds on to the name ${name}, and a ${pictureFormats[type].name} cannot go by that. ${this.mended(name)}`,
      );
    const file: SentFile = {
      version: 1,
      id: what.id,
      site: site.id,
      slot: what.slot.id,
      name,
      address: finalAddress(site.way, name) ?? '',
      state: 'waiting',
      shown: false,
      at: new Date().toISOString(),
      type,
      width,
      height,
      bytes: what.blob.size,
      sha256: await sha256(await what.blob.arrayBuffer()),
      alt: what.alt,
      colours: what.colours,
      graphic: what.graphic,
      over: null,
      live: null,
      problem: null,
    };
    await this.files.add(file, what.blob);
    const done = await this.deliver(site, file, what.blob);
    // Called off, or to go under another name: it is not to wait.
    if (!done.ok && (done.problem.code === 'cancelled' || done.problem.code === 'name-taken'))
      await this.files.remove(file.id);
    return done;
  }

  /** Sends what waited or failed once more. */
  async again(site: SiteRecord, file: SentFile): Promise<Result<SentFile, Refusal>> {
    const blob = await this.files.blob(file.id);
    return blob
      ? this.deliver(site, file, blob)
      : bad('gone', 'Its file is no longer kept here. Send the graphic anew.');
  }

  /** By hand: the file was given to the person; where it is shown is told afterwards. */
  private async byHand(site: SiteRecord, file: SentFile): Promise<Result<SentFile, Refusal>> {
    await this.files.change(file.id, { state: 'sent', at: new Date().toISOString() });
    await this.stands(site, file);
    return good({ ...file, state: 'sent', shown: true });
  }

  private deliver(site: SiteRecord, file: SentFile, blob: Blob): Promise<Result<SentFile, Refusal>> {
    if (site.way.kind === 'by-hand') return this.byHand(site, file);
    return this.inTurn(site.id, async () => {
      const stop = new AbortController();
      this.stops.set(file.id, stop);
      this.tell(file.id, { share: 0, waits: false, tries: 0 });
      try {
        const done = await this.delivered(site, file, blob, stop.signal);
        // What stood there before stays what it was; only what was not there yet waits to be sent.
        if (!done.ok && (file.state === 'waiting' || file.state === 'failed'))
          await this.files.change(file.id, { state: 'failed', problem: done.problem.message.slice(0, 400) });
        return done;
      } finally {
        this.stops.delete(file.id);
        this.tell(file.id, null);
      }
    });
  }

  private async delivered(
    site: SiteRecord,
    file: SentFile,
    blob: Blob,
    signal: AbortSignal,
  ): Promise<Result<SentFile, Refusal>> {
    // A name that the page holds on to is replaced, and so is what somebody made of a file that stands there.
    const held = heldName(site, file.slot) === file.name || (file.state === 'sent' && wayCan(site.way).replace);
    const before = held ? await this.found(site, file, signal) : good(null);
    if (!before.ok) return before;
    const token = file.id.replaceAll('-', '');
    const sent = await this.signedIn(site, async (way, secret) => {
      for (let tries = 0; ; tries++) {
        const over = before.value?.sha256 ?? null;
        const ask = { do: 'send', way, secret, name: file.name, over, token } as const;
        const done = await this.relay.run(ask, {
          file: blob,
          signal,
          line: (l) => {
            if (l.at === 'progress') this.tell(file.id, { share: l.sent / Math.max(1, l.total), waits: false, tries });
          },
        });
        if (done.ok || !passes(done.problem.code) || tries + 1 >= MOST_TRIES || signal.aborted) return done;
        this.tell(file.id, { share: 0, waits: true, tries: tries + 1 });
        await rest(waitBefore(tries), signal);
        if (signal.aborted) return cancelled;
      }
    });
    if (!sent.ok) {
      if (sent.problem.code !== 'name-taken') return sent;
      return {
        ok: false,
        problem: { ...sent.problem, next: nextFreeName(file.name, new Set([...(await this.names(site)), file.name])) },
      };
    }
    const now: Partial<SentFile> = {
      state: 'sent',
      at: new Date().toISOString(),
      address: sent.value.address ?? file.address,
      over: before.value && before.value.id !== file.id ? before.value.id : null,
      problem: null,
    };
    await this.files.change(file.id, now);
    await this.stands(site, file);
    // What stood there under this name is there no more.
    if (held)
      for (const f of await this.files.of(site.id))
        if (f.slot === file.slot && f.name === file.name && f.id !== file.id && f.state === 'sent')
          await this.files.change(f.id, { state: 'down' });
    const whole = { ...file, ...now, shown: true };
    await this.look(site, whole);
    return good(whole);
  }

  /** It is what its place shows now; where that shows several, it is one of them. */
  private async stands(site: SiteRecord, file: SentFile): Promise<void> {
    const slot = this.book.byId().get(file.slot);
    if (!slot || !holdsSeveral(slot)) return this.files.show(file.slot, site.id, file.id);
    await this.files.change(file.id, { shown: true });
    await this.sites.change(site.id, (now) => {
      const there = now.members[file.slot] ?? [];
      if (there.some((m) => m.file === file.id)) return now;
      const label = (file.graphic?.name ?? '').slice(0, 60);
      return { ...now, members: { ...now.members, [file.slot]: [...there, { file: file.id, label, share: 1 }] } };
    });
  }

  /** What stands at a name that is held on to, fetched and kept; null where nothing does. */
  private async found(
    site: SiteRecord,
    file: SentFile,
    signal: AbortSignal,
  ): Promise<Result<SentFile | null, Refusal>> {
    // Its own bytes: what visitors are shown may have been written anew on the way to them.
    const there = await this.signedIn(site, (way, secret) => this.relay.read(way, secret, file.name, signal));
    if (!there.ok) return there;
    const { blob, facts } = there.value;
    if (facts.status === 404 || facts.status === 410) return good(null);
    if (facts.status !== 200)
      return bad(
        'site',
        `The site answers ${facts.status} for “${file.name}”, so what is there cannot be kept. Nothing was sent.`,
      );
    const bytes = await blob.arrayBuffer();
    const hash = await sha256(bytes);
    const stood = (f: SentFile) => f.state === 'sent' || f.state === 'down';
    const known = (await this.files.of(site.id)).find(
      (f) => f.slot === file.slot && f.name === file.name && f.sha256 === hash && stood(f),
    );
    if (known) return good(known);
    const read = identify(new Uint8Array(bytes), file.name);
    if (!read.ok || !isFileFormat(read.value.type))
      return bad('other', `What stands at “${file.name}” is no picture, so nothing was sent over it. Check the name.`);
    const { type, width, height } = read.value;
    const theirs: SentFile = {
      ...file,
      id: crypto.randomUUID(),
      state: 'sent',
      at: new Date().toISOString(),
      type,
      width,
      height,
      bytes: bytes.byteLength,
      sha256: hash,
      alt: '',
      colours: null,
      graphic: null,
      live: null,
    };
    await this.files.add(theirs, blob);
    return good(theirs);
  }

  /** Looks at a file as a visitor, and notes what was found. */
  async look(site: SiteRecord, file: SentFile, signal?: AbortSignal): Promise<Live | null> {
    const { way } = site;
    if (!file.address || way.kind === 'stand-in') return null;
    const first = await this.relay.look(file.address, way.ownNetwork, false, signal);
    const at = new Date().toISOString();
    let live: Live;
    if (!first.ok) live = { word: 'silent', said: first.problem.message.slice(0, 400), at };
    else {
      const { blob, facts } = first.value;
      if (facts.status === 200) this.seen.update((all) => new Map(all).set(file.id, blob));
      const hash = await sha256(await blob.arrayBuffer());
      const looked = { status: facts.status, sha256: hash, age: facts.age, fresh: null, size: null, difference: null };
      const all: Looked =
        hash === file.sha256 && facts.status === 200 ? looked : await this.closely(way, file, blob, looked, signal);
      const earlier = (await this.files.of(site.id)).filter((f) => f.id !== file.id).map((f) => f.sha256);
      live = liveOf(file, all, at, earlier);
    }
    if (signal?.aborted) return null;
    await this.files.change(file.id, { live });
    return live;
  }

  /** What else is to be known where other bytes came: what lies behind caches, and how the pictures differ. */
  private async closely(
    way: SiteRecord['way'],
    file: SentFile,
    live: Blob,
    looked: Looked,
    signal?: AbortSignal,
  ): Promise<Looked> {
    const behind = await this.relay.look(file.address, 'ownNetwork' in way && way.ownNetwork, true, signal);
    const fresh = behind.ok
      ? { status: behind.value.facts.status, sha256: await sha256(await behind.value.blob.arrayBuffer()) }
      : null;
    const sent = await this.files.blob(file.id);
    const compared =
      sent && looked.status === 200 ? await this.pixels.compareLive(sent, live, signal).catch(() => null) : null;
    return { ...looked, fresh, size: compared?.size ?? null, difference: compared?.difference ?? null };
  }

  /** Takes a file away from its site; it stays here, so that it can be put back. */
  async takeDown(site: SiteRecord, file: SentFile): Promise<Result<unknown, Refusal>> {
    if (!wayCan(site.way).remove)
      return bad('cannot', 'This way in removes nothing. Take the file away there yourself.');
    return this.inTurn(site.id, async () => {
      const done = await this.signedIn(site, (way, secret) =>
        this.relay.run({ do: 'remove', way, secret, name: file.name, address: file.address }),
      );
      if (done.ok) {
        await this.files.change(file.id, { state: 'down', shown: false, live: null });
        await this.leaves(site.id, file);
      }
      return done;
    });
  }

  /** Files are what a row shows from now on, in their order; those that were in it stay on the site, and are not shown. */
  async standTogether(site: SiteRecord, slot: string, ids: readonly string[]): Promise<void> {
    const before = (await this.files.of(site.id)).filter((f) => f.slot === slot && f.shown && !ids.includes(f.id));
    for (const file of before) await this.files.change(file.id, { shown: false });
    await this.sites.change(site.id, (now) => {
      const byId = new Map((now.members[slot] ?? []).map((m) => [m.file, m]));
      return { ...now, members: { ...now.members, [slot]: ids.flatMap((id) => byId.get(id) ?? []) } };
    });
  }

  /** It is no longer one of several. */
  async leaves(site: string, file: SentFile): Promise<void> {
    await this.sites.change(site, (now) => {
      const there = (now.members[file.slot] ?? []).filter((m) => m.file !== file.id);
      return { ...now, members: { ...now.members, [file.slot]: there } };
    });
  }

  /** Makes an earlier file what its place shows: sent again where it is no longer there. */
  async putBack(site: SiteRecord, file: SentFile): Promise<Result<SentFile, Refusal>> {
    const held = heldName(site, file.slot) === file.name;
    if (file.state === 'sent' && !held) {
      await this.stands(site, file);
      await this.look(site, file);
      return good(file);
    }
    const blob = await this.files.blob(file.id);
    if (!blob) return bad('gone', 'Its file is no longer kept here. Send the graphic anew.');
    return this.deliver(site, file, blob);
  }

  cancel(id: string): void {
    this.stops.get(id)?.abort();
  }

  private tell(id: string, state: UnderWay | null): void {
    this.going.update((all) => {
      const next = new Map(all);
      if (state) next.set(id, state);
      else next.delete(id);
      return next;
    });
  }

  /** One thing after another at each site. */
  private inTurn<T>(site: string, work: () => Promise<T>): Promise<T> {
    const turn = (this.tails.get(site) ?? Promise.resolve()).then(work, work);
    this.tails.set(
      site,
      turn.catch(() => undefined),
    );
    return turn;
  }
}

const rest = (ms: number, signal: AbortSignal) =>
  new Promise<void>((go) => {
    const timer = setTimeout(go, ms);
    signal.addEventListener('abort', () => {
      clearTimeout(timer);
      go();
    });
  });
