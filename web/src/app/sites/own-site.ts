import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Router, RouterLink } from '@angular/router';
import {
  heldName,
  WebAddress,
  holdsSeveral,
  pagesOf,
  shownIn,
  sizeText,
  wayCan,
  type SentFile,
  type SiteRecord,
  type Slot,
} from '@bright-slot/core';
import { MakeGraphic } from '../document/make-graphic';
import { SiteSending } from '../output/site-sending';
import { PageLikeness, Pages, type Likeness } from '../page/page-likeness';
import { GraphicsRepository } from '../storage/graphics-repository';
import { OwnPages } from '../storage/own-pages.service';
import { SentFiles } from '../storage/sent-files.service';
import { Sites } from '../storage/sites.service';
import { SlotBook } from '../storage/slot-book.service';
import { copyText, saveFile } from '../ui/download';
import { slotUnder } from '../ui/dropped';
import { FileDrop } from '../ui/file-drop';
import { Icon } from '../ui/icon';
import { SelectField } from '../ui/select-field';
import { TextField } from '../ui/text-field';
import { whenText } from '../ui/when';
import { PageSettings } from './page-settings';
import { Several } from './several';

interface Place {
  readonly slot: Slot;
  readonly now: SentFile | null;
  readonly earlier: readonly SentFile[];
  /** What waits or did not get there. */
  readonly open: readonly SentFile[];
  readonly likeness: Likeness;
  readonly width: number;
  readonly how: string;
}

/** What a likeness is seen through, CSS px. */
const WINDOW = { width: 400, height: 158 };

/** A site of the person's: its pages, what each place shows as far as is known, and what a visitor really sees. */
@Component({
  selector: 'bs-own-site',
  imports: [Icon, PageLikeness, PageSettings, RouterLink, Several, SelectField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  hostDirectives: [FileDrop],
  templateUrl: './own-site.html',
  styleUrl: './own-site.scss',
})
export class OwnSite {
  readonly site = input.required<SiteRecord>();
  private readonly book = inject(SlotBook);
  private readonly pages = inject(Pages);
  private readonly own = inject(OwnPages);
  protected readonly files = inject(SentFiles);
  private readonly sites = inject(Sites);
  private readonly maker = inject(MakeGraphic);
  private readonly router = inject(Router);
  private readonly snack = inject(MatSnackBar);
  private readonly repository = inject(GraphicsRepository);
  protected readonly sending = inject(SiteSending);
  protected readonly problem = signal('');
  /** The file whose change is under way. */
  protected readonly busy = signal<string | null>(null);
  protected readonly looking = signal(false);
  protected readonly both = signal<string | null>(null);
  protected readonly selectedId = signal('');
  /** Graphics that are still here. */
  protected readonly known = signal<ReadonlySet<string>>(new Set());
  protected readonly when = whenText;
  protected readonly size = sizeText;
  protected readonly windowWidth = WINDOW.width;
  protected readonly windowHeight = WINDOW.height;
  protected readonly can = computed(() => wayCan(this.site().way));
  protected readonly byHand = computed(() => this.site().way.kind === 'by-hand');

  /** Addresses of files, once they were read. */
  private readonly urls = signal<ReadonlyMap<string, string>>(new Map());
  private readonly reading = new Set<string>();

  protected readonly places = computed<Place[]>(() => {
    const files = (this.files.all() ?? []).filter((f) => f.site === this.site().id);
    return pagesOf(this.site(), this.book.slots() ?? []).flatMap((p) =>
      p.slots.map((slot) => {
        const { now, earlier } = shownIn(slot.id, files);
        // What a visitor was shown, where that was looked at; else what was sent.
        const url = now && (this.seenUrl(now) ?? this.urlOf(now.id));
        const shot = this.own.of(slot.id)?.desktop;
        return {
          slot,
          now,
          earlier,
          open: files.filter((f) => f.slot === slot.id && (f.state === 'failed' || f.state === 'waiting')),
          likeness: this.pages.of(slot, url ? { url, alt: now.alt } : null),
          width: this.pages.width(slot, 'desktop'),
          how: shot ? 'your screenshot' : 'a likeness',
        };
      }),
    );
  });
  protected readonly selected = computed(
    () => this.places().find((p) => p.slot.id === this.selectedId()) ?? this.places()[0] ?? null,
  );
  /** Slots of the book that stand on no page of this site. */
  protected readonly others = computed(() => {
    const here = new Set(this.places().map((p) => p.slot.id));
    const rest = (this.book.slots() ?? []).filter((s) => !here.has(s.id));
    return [
      { id: '', name: 'a slot of the book …' },
      ...rest.map((s) => ({ id: s.id, name: `${s.name}, ${sizeText(s)}` })),
    ];
  });
  /** What the person is to put there themselves, in the order of the pages. */
  protected readonly toUpload = computed(() => this.places().filter((p) => p.now && !p.now.address));
  /** What is not there yet. */
  protected readonly waiting = computed(() => this.places().flatMap((p) => p.open));
  protected readonly drifted = computed(
    () => this.places().filter((p) => p.now?.live && isDrift(p.now.live.word)).length,
  );

  constructor() {
    inject(FileDrop).files.subscribe(({ files, event }) => void this.dropped(files, event));
    const stop = new AbortController();
    inject(DestroyRef).onDestroy(() => {
      stop.abort();
      for (const url of [...this.urls().values(), ...this.seenUrls.values()]) URL.revokeObjectURL(url);
    });
    void this.repository.list().then((all) => this.known.set(new Set(all.entries.map((e) => e.id))));
    // What changed there since is noticed by looking; once for each site that is opened.
    let looked = '';
    effect(() => {
      const { id } = this.site();
      if (this.files.all() === null || this.book.slots() === null || looked === id) return;
      looked = id;
      untracked(() => void this.lookAtAll(stop.signal));
    });
  }

  /** Where a file's bytes are to be seen; null until they were read. */
  protected urlOf(id: string): string | null {
    const url = this.urls().get(id);
    if (!url && !this.reading.has(id)) {
      this.reading.add(id);
      void this.files.blob(id).then((blob) => {
        if (blob) this.urls.update((all) => new Map(all).set(id, URL.createObjectURL(blob)));
      });
    }
    return url ?? null;
  }

  protected readonly urlFor = (id: string) => this.urlOf(id);
  protected readonly several = holdsSeveral;

  private readonly seenUrls = new Map<Blob, string>();
  /** What a visitor was shown, as a picture. */
  protected seenUrl(file: SentFile): string | null {
    const blob = this.sending.seen().get(file.id);
    if (!blob) return null;
    const url = this.seenUrls.get(blob) ?? URL.createObjectURL(blob);
    this.seenUrls.set(blob, url);
    return url;
  }

  protected scale(width: number): string {
    return `scale(${WINDOW.width / width})`;
  }

  protected isDrift(file: SentFile): boolean {
    return file.live !== null && isDrift(file.live.word);
  }

  protected async lookAtAll(signal?: AbortSignal): Promise<void> {
    this.looking.set(true);
    for (const { now } of this.places()) {
      if (signal?.aborted) break;
      if (now) await this.sending.look(this.site(), now, signal);
    }
    this.looking.set(false);
  }

  protected async look(file: SentFile): Promise<void> {
    this.busy.set(file.id);
    await this.sending.look(this.site(), file);
    this.busy.set(null);
  }

  /** A picture on a place begins a graphic for it. */
  private async dropped(files: readonly File[], event: DragEvent): Promise<void> {
    const place = this.places().find((p) => p.slot.id === slotUnder(event));
    if (place) await this.start(place.slot, files);
    else this.problem.set('Drop a picture on one of the places, and a graphic for it is begun.');
  }

  protected async start(slot: Slot, files: readonly File[] = []): Promise<void> {
    const problem = await this.maker.start(slot, files);
    if (problem) this.problem.set(problem.message);
  }

  protected measure(): void {
    void this.router.navigate(['/slots'], { queryParams: { way: 'screenshot', site: this.site().address } });
  }

  protected async addPlace(id: string): Promise<void> {
    const slot = this.book.byId().get(id);
    if (!slot) return;
    const site = this.site();
    const page = { path: '', kind: slot.page, slots: [id] };
    await this.sites.put({ ...site, pages: [...site.pages, page] });
    this.selectedId.set(id);
  }

  /** Takes a place off the site's pages; the slot stays in the book. */
  protected async dropPlace(slot: Slot): Promise<void> {
    const site = this.site();
    const pages = site.pages
      .map((p) => ({ ...p, slots: p.slots.filter((s) => s !== slot.id) }))
      .filter((p) => p.slots.length > 0);
    await this.sites.put({ ...site, pages });
    if (slot.site === site.address) await this.book.put({ ...slot, site: '' });
    this.snack
      .open(`“${slot.name}” stands on this site no more.`, 'Undo')
      .onAction()
      .subscribe(() => void Promise.all([this.sites.put(site), this.book.put(slot)]));
  }

  /** The one file name that a page looks for; none where each file has a name of its own. */
  protected async hold(slot: Slot, typed: string): Promise<void> {
    const name = typed.trim();
    const site = this.site();
    const holds = Object.fromEntries(Object.entries(site.holds).filter(([id]) => id !== slot.id));
    if (name && !/^[^/\\]+\.(jpe?g|png|webp)$/i.test(name)) {
      this.problem.set('A file name the page looks for ends in .jpg, .png or .webp, and has no slash in it.');
      return;
    }
    this.problem.set('');
    await this.sites.put({ ...site, holds: name ? { ...holds, [slot.id]: name.slice(0, 200) } : holds });
  }

  /** Where the person put it. */
  protected async placed(file: SentFile, typed: string): Promise<void> {
    const text = typed.trim();
    const address = /^https?:\/\//.test(text) ? text : `https://${text}`;
    if (!WebAddress.safeParse(address).success) {
      this.problem.set('Copy the picture’s own address from your page: it begins with https://.');
      return;
    }
    this.problem.set('');
    // Wherever else the same address is used, it changes too.
    const same = (f: SentFile) => f.id === file.id || (file.address !== '' && f.address === file.address);
    const all = (this.files.all() ?? []).filter((f) => f.site === this.site().id && f.state === 'sent' && same(f));
    for (const f of all) await this.files.change(f.id, { address });
    if (all.length > 1) this.snack.open(`Changed in ${all.length} places.`);
    for (const f of all) await this.look({ ...f, address });
  }

  /** What is to be uploaded by hand, in the order of the pages, with what to do. */
  protected async saveAll(): Promise<void> {
    const { blobSink, makeZip } = await import('../storage/archive/zip');
    const waiting = this.toUpload();
    const sink = blobSink('application/zip');
    const zip = makeZip(sink.writable);
    const names: string[] = [];
    for (const [i, { now, slot }] of waiting.entries()) {
      const blob = await this.files.blob(now!.id);
      if (!blob) continue;
      const name = `${String(i + 1).padStart(2, '0')}-${now!.name}`;
      await zip.blob(name, blob, true);
      names.push(`${name}\n    goes into “${slot.name}”, ${sizeText(slot)}`);
    }
    await zip.text('what-to-do.txt', `${toDo}\n\n${names.join('\n')}\n`);
    await zip.finish();
    saveFile(sink.blob(), `${this.site().address}-to-upload.zip`);
  }

  protected async takeDown(file: SentFile): Promise<void> {
    const done = await this.changing(file, () => this.sending.takeDown(this.site(), file));
    if (done)
      this.snack
        .open(`“${file.name}” is taken away there; it is kept here.`, 'Undo')
        .onAction()
        .subscribe(() => void this.putBack(file));
  }

  protected async putBack(file: SentFile): Promise<void> {
    const { now } = shownIn(file.slot, this.files.all() ?? []);
    if (!(await this.changing(file, () => this.sending.putBack(this.site(), file)))) return;
    const held = heldName(this.site(), file.slot) === file.name;
    const said = held
      ? `The page shows “${file.name}” as it was ${whenText(file.at)}.`
      : `“${file.name}” is at its address again. Let the page point to it.`;
    const note = this.snack.open(said, now && now.id !== file.id ? 'Undo' : undefined);
    if (now && now.id !== file.id) note.onAction().subscribe(() => void this.putBack(now));
  }

  /** One of several was taken out: it is still at its address. */
  protected leftOut(file: SentFile): void {
    const site = this.site();
    this.snack
      .open(`“${file.name}” is none of them any more; the file is still there.`, 'Undo')
      .onAction()
      .subscribe(() => void this.sites.put(site));
  }

  protected async again(file: SentFile): Promise<void> {
    await this.changing(file, () => this.sending.again(this.site(), file));
  }

  protected async sendAll(): Promise<void> {
    await Promise.all(this.waiting().map((f) => this.sending.again(this.site(), f)));
  }

  protected async forget(file: SentFile): Promise<void> {
    await this.files.remove(file.id);
  }

  protected async copy(address: string): Promise<void> {
    if (await copyText(address)) this.snack.open('The address is copied.');
  }

  private async changing(
    file: SentFile,
    work: () => Promise<{ ok: true } | { ok: false; problem: { code: string; message: string } }>,
  ): Promise<boolean> {
    this.busy.set(file.id);
    const done = await work();
    this.busy.set(null);
    this.problem.set(done.ok || done.problem.code === 'cancelled' ? '' : done.problem.message);
    return done.ok;
  }
}

const toDo = `Upload the files in this order, each into its place on the site. Save the page each time, then copy the address
that the picture got (open the picture by itself and copy what the browser shows) and type it on Sites beside its place:
Bright Slot then looks at it as a visitor sees it.`;

/** Whether a visitor sees something else than what was meant. */
const isDrift = (word: string): boolean => !['as-sent', 're-encoded', 'resized'].includes(word);
