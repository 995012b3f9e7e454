import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { RouterLink } from '@angular/router';
import { firstValueFrom } from 'rxjs';
import {
  editionChanges,
  limits,
  layoutName,
  newTile,
  rowContents,
  seenInRow,
  sharedText,
  sizeText,
  weightText,
  windowWidth,
  withoutSize,
  type Edition,
  type Result,
} from '@bright-slot/core';
import { readCsv, readHtmlSheet, readPasted, sheetRows, sheetText, type Cells } from '@bright-slot/core/sets/sheet';
import { SetStarts } from '../document/set-starts.service';
import { askLayout } from '../layouts/layout-dialog';
import { AllFiles } from '../output/all-files';
import { SendAll } from '../output/send-all';
import { PageLikeness, Pages } from '../page/page-likeness';
import { PixelsService } from '../pixels/pixels.service';
import { FileDrop } from '../ui/file-drop';
import { Icon } from '../ui/icon';
import { whenText } from '../ui/when';
import { EditionDialog, type EditionAsked, type EditionChosen } from './edition-dialog';
import { Editions } from './editions';
import { SetSession } from './set-session';
import { rowAt, TileRows } from './tile-rows';
import { TILE_HEIGHT, tileWidth } from './tile-size';
import { TileTable, type Working } from './tile-table';

/** More findings than these are not told of a set one by one. */
const MOST_FINDINGS = 3;
const SHEET = /\.(csv|tsv|txt)$/i;

/** A set as it stands on its page, the table it is made from, what its tiles share, and its editions. */
@Component({
  selector: 'bs-set-page',
  imports: [Icon, PageLikeness, RouterLink, TileRows],
  providers: [AllFiles, Editions, SendAll, SetSession, TileTable],
  hostDirectives: [FileDrop],
  host: {
    '[class.dropping]': 'drops.held()',
    '(document:keydown)': 'keys($event)',
    '(document:paste)': 'pasted($event)',
    '(focusin)': 'held($event)',
    '(change)': 'held($event)',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './set-page.html',
  styleUrls: ['./set-table.scss', './set-page.scss'],
})
export class SetPage {
  /** From the address: a set of tiles, or a graphic with several frames. */
  readonly id = input.required<string>();
  protected readonly session = inject(SetSession);
  protected readonly table = inject(TileTable);
  protected readonly editing = inject(Editions);
  protected readonly all = inject(AllFiles);
  protected readonly sending = inject(SendAll);
  protected readonly drops = inject(FileDrop);
  private readonly pages = inject(Pages);
  private readonly starts = inject(SetStarts);
  private readonly dialogs = inject(MatDialog);
  private readonly pixels = inject(PixelsService);
  protected readonly weight = weightText;
  protected readonly first: Working = { what: 'Making the tiles', done: 0, of: 0 };
  protected readonly when = whenText;
  protected readonly most = limits.name;
  /** Whether the page shows what came last first. */
  protected readonly latestFirst = signal(false);
  /** Whether tiles have a second line. */
  protected readonly lined = signal(false);
  private readonly tiles = viewChild(TileRows);
  private readonly pane = viewChild<ElementRef<HTMLElement>>('pane');
  private readonly paneWidth = signal(900);
  protected readonly hole = signal<{ left: number; top: number; width: number; height: number } | null>(null);

  protected readonly slot = computed(() => this.session.members()[0]?.frame.slot ?? null);
  protected readonly slotText = computed(() => {
    const [slot, set] = [this.slot(), this.session.set()];
    const count = this.session.members().length;
    if (!slot) return '';
    const places = count === 1 ? 'one picture' : `${count} places of one picture`;
    const what = set ? `a set of ${count}` : places;
    return `${what}, ${withoutSize(slot.name)} ${sizeText(slot)}`;
  });
  protected readonly high = TILE_HEIGHT;
  protected readonly tileWidth = tileWidth;
  protected readonly withLine = computed(() => this.lined() || this.session.rows().some((r) => r.line));
  /** Whether files are on their way. Changes of the table wait for each other, and files for them. */
  protected readonly busy = computed(() => this.all.done() !== null || this.sending.done() !== null);
  /** How many the page shows; the rest of them would not be seen. */
  protected readonly shown = computed(() => {
    const slot = this.slot();
    const count = this.session.members().length;
    return this.session.set() && slot && slot.rowShows > 1 ? seenInRow(count, slot.rowShows) : count;
  });
  protected readonly unseen = computed(() => {
    const rest = this.session.members().slice(this.shown());
    if (!rest.length) return '';
    const called = rest.map((m) => `“${m.name}”`).slice(0, 3);
    const more = rest.length > 3 ? ` and ${rest.length - 3} more` : '';
    const nth = rest.length === 1 ? `The ${ordinal(this.shown() + 1)}, ` : '';
    return `${nth}${called.join(', ')}${more}, would not be seen: the page shows ${this.shown()}.`;
  });
  /** What the page shows, in its order; the same as long as it shows the same. */
  private readonly standing = computed(
    () =>
      this.session
        .members()
        .slice(0, this.shown())
        .map((m) => ({ slot: m.frame.slot, url: this.session.of(m).url })),
    { equal: (a, b) => a.length === b.length && a.every((x, i) => x.slot === b[i]!.slot && x.url === b[i]!.url) },
  );
  protected readonly page = computed(() => {
    const standing = this.standing();
    if (!standing.length) return null;
    return this.pages.together(standing.map(({ slot, url }) => ({ slot, picture: url ? { url, alt: '' } : null })));
  });
  protected readonly pageWidth = computed(() => {
    const slot = this.slot();
    return slot ? Math.max(windowWidth(slot, 'desktop'), slot.shownWidth + 64) : 900;
  });
  protected readonly pageScale = computed(() => Math.min(1, this.paneWidth() / this.pageWidth()));
  protected readonly pageHeight = computed(() => {
    const members = this.session.members();
    if (!this.session.set()) {
      const { width = 1, height = 1 } = members[0]?.graphic.canvas ?? {};
      return Math.min(300, Math.max(150, (this.paneWidth() * 0.7 * height) / width + 90));
    }
    return this.shown() > 7 ? 300 : 210;
  });
  protected readonly pageTransform = computed(() => {
    const top = Math.max(0, (this.hole()?.top ?? 0) * this.pageScale() - 46);
    return `translate(0px, ${-top}px) scale(${this.pageScale()})`;
  });
  protected readonly layout = computed(() => {
    const [set, slot] = [this.session.set(), this.slot()];
    return set && slot ? layoutName(set.layout, slot) : '';
  });
  /** What is to be fixed or looked at in the set, and how many more there are. */
  protected readonly findings = computed(() => {
    const shared = this.session.shared();
    const told = shared.slice(0, MOST_FINDINGS).map((s) => ({
      before: s.group === 'before',
      text: sharedText(s, this.session.members().length),
    }));
    return { told, more: shared.length - told.length };
  });
  protected readonly canSend = computed(() => this.sending.can(this.session.members()));
  /** What changed from each edition to what stands now. */
  protected readonly changes = computed(
    () => new Map(this.session.editions().map((e) => [e.id, changesText(e, this.session.graphics())])),
  );

  constructor() {
    effect(() => {
      const id = this.id();
      untracked(() => void this.open(id));
    });
    this.drops.files.subscribe(({ files, event }) => void this.dropped(files, event));
    const watch = new ResizeObserver(() => {
      const width = this.pane()?.nativeElement.clientWidth;
      if (width) this.paneWidth.set(width);
    });
    afterNextRender(() => {
      const host = this.host.nativeElement;
      watch.observe(host);
    });
    effect(() => {
      const pane = this.pane()?.nativeElement;
      if (pane) watch.observe(pane);
    });
    inject(DestroyRef).onDestroy(() => {
      watch.disconnect();
      this.table.cancel();
      this.all.cancel();
    });
  }
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  private async open(id: string): Promise<void> {
    void this.sending.ask();
    await this.table.readShelf();
    await this.session.open(id);
    const { tiles, photos } = this.starts.take(id);
    if (tiles && this.session.set() && !this.session.graphics().length) await this.table.begin(tiles);
    if (photos.length) await this.nextEdition(photos);
  }

  /** What a member's file is called. */
  protected readonly nameOf = (i: number): string => {
    const members = this.session.members();
    const member = members[i];
    if (!member) return '';
    const { slot, export: choices } = member.frame;
    const key = JSON.stringify([i, members.length, this.latestFirst(), member.name, slot.name, choices.format]);
    const name = this.called.get(key) ?? this.all.name(members, i, this.latestFirst());
    this.called.set(key, name);
    return name;
  };
  private readonly called = new Map<string, string>();

  /** Another row, to be written in at once. */
  protected async addRow(): Promise<void> {
    if (await this.table.addRow()) this.tiles()?.write(this.session.rows().length - 1);
  }

  /** What the field that is written in held before: until it is otherwise, undo is the set's and not the field's. */
  private entered = '';
  protected held({ target }: Event): void {
    if (target instanceof HTMLInputElement) this.entered = target.value;
  }

  protected keys(event: KeyboardEvent): void {
    const editing = event.target instanceof HTMLInputElement && event.target.value !== this.entered;
    if (!(event.ctrlKey || event.metaKey) || editing || document.querySelector('.cdk-overlay-backdrop')) return;
    const key = event.key.toLowerCase();
    const back = key === 'z' && !event.shiftKey;
    const forth = key === 'y' || (key === 'z' && event.shiftKey);
    if (!back && !forth) return;
    event.preventDefault();
    if (event.target instanceof HTMLElement) event.target.blur();
    void (back ? this.table.undo() : this.table.redo());
  }

  /** A sheet on the clipboard goes in at the row it is pasted on; one word in a field is only that. */
  protected pasted(event: ClipboardEvent): void {
    const data = event.clipboardData;
    if (!data || !this.session.set() || document.querySelector('.cdk-overlay-backdrop')) return;
    const files = [...data.files].filter((f) => f.type.startsWith('image/'));
    const html = data.getData('text/html');
    const text = data.getData('text/plain');
    const table = html ? readHtmlSheet(html) : null;
    const cells = table?.ok ? table : text ? readPasted(text) : null;
    const field = event.target instanceof HTMLInputElement ? event.target : null;
    if (cells?.ok && (cells.value.length > 1 || (cells.value[0]!.length > 1 && !field))) {
      event.preventDefault();
      const at = field?.classList.contains('word') ? rowAt(field) : undefined;
      if (field && at !== undefined) field.value = this.session.rows()[at]?.word ?? '';
      void this.bring(cells, at);
    } else if (files.length && !field) {
      event.preventDefault();
      void this.table.bringPhotos(files);
    }
  }

  /** From the clipboard, by the button; browsers ask first. */
  protected async paste(): Promise<void> {
    try {
      for (const item of await navigator.clipboard.read()) {
        const kind = ['text/html', 'text/plain'].find((t) => item.types.includes(t));
        if (!kind) continue;
        const said = await (await item.getType(kind)).text();
        const html = kind === 'text/html' ? readHtmlSheet(said) : null;
        const plain = item.types.includes('text/plain') ? await (await item.getType('text/plain')).text() : '';
        await this.bring(html?.ok ? html : readPasted(plain));
        return;
      }
      this.table.problem.set('There is no sheet on the clipboard. Copy the rows in your sheet first.');
    } catch {
      this.table.problem.set('The browser does not let it be read here. Click on a row, and press Ctrl and V.');
    }
  }

  protected async bringSheet(files: FileList | readonly File[] | null): Promise<void> {
    const [file] = [...(files ?? [])];
    if (!file) return;
    if (file.size > 8_000_000) {
      this.table.problem.set('That sheet is too large to be read here. Take only the rows of this set.');
      return;
    }
    await this.bring(readCsv(sheetText(new Uint8Array(await file.arrayBuffer()))));
  }

  private async bring(cells: Result<Cells>, at?: number): Promise<void> {
    if (!cells.ok) this.table.problem.set(cells.problem.message);
    else await this.table.bring(sheetRows(cells.value), at);
  }

  protected async bringPhotos(files: FileList | null): Promise<void> {
    if (files?.length) await this.table.bringPhotos([...files]);
  }

  /** A sheet brings rows; photos go to their rows, or are those of the next edition of one picture. */
  private async dropped(files: readonly File[], event: DragEvent): Promise<void> {
    if (!this.session.loaded() || this.busy()) return;
    if (!this.session.set()) return this.nextEdition(files);
    if (files.length === 1 && SHEET.test(files[0]!.name)) return this.bringSheet(files);
    await this.table.bringPhotos(files, event.target instanceof Element ? rowAt(event.target) : undefined);
  }

  protected async changeLayout(): Promise<void> {
    const set = this.session.set();
    const row = this.session.rows().find((r) => r.photo) ?? this.session.rows()[0];
    if (!set || !row) return;
    const contents = rowContents(row, set);
    const chosen = await askLayout(this.dialogs, {
      title: 'The layout they share',
      said: 'All tiles follow the one you press; what was changed by hand on a tile stays.',
      slot: set.slot,
      now: set.layout,
      all: async (stop) => {
        const found = await this.pixels.layouts(contents, set.look, set.slot, stop);
        return found.map(({ layout, derived }) => ({
          key: layout,
          name: layoutName(layout, set.slot),
          graphic: newTile({ id: 'tried', created: set.created }, { ...set, layout }, { contents, derived }),
        }));
      },
    });
    if (chosen) await this.table.setLayout(chosen.key, chosen.name);
  }

  /** The next edition: with photos that were given, or chosen there. */
  protected async nextEdition(files: readonly File[] = []): Promise<void> {
    await this.table.rest();
    if (!this.session.graphics().length) return;
    const data: EditionAsked = {
      name: this.session.name(),
      places: this.editing.places(),
      graphic: this.session.set() ? null : this.session.graphics()[0]!,
      files: [...files],
      pieces: this.session.members().length,
      site: this.canSend(),
    };
    const ref = this.dialogs.open<EditionDialog, EditionAsked, EditionChosen>(EditionDialog, {
      data,
      width: '760px',
      maxWidth: '94vw',
      autoFocus: 'first-tabbable',
    });
    const chosen = await firstValueFrom(ref.afterClosed());
    if (!chosen || !(await this.editing.make(chosen.photos))) return;
    if (chosen.then === 'save') await this.save();
    if (chosen.then === 'send') await this.send();
  }

  protected async save(): Promise<void> {
    await this.table.rest();
    await this.all.zip(this.session.members(), this.session.name(), this.latestFirst());
  }

  protected async saveInFolder(): Promise<void> {
    await this.all.folder(this.session.members(), this.latestFirst());
  }

  protected async send(): Promise<void> {
    await this.table.rest();
    const members = this.session.members();
    await this.sending.send(members, this.all.names(members, this.latestFirst()));
  }
}

const ordinal = (n: number): string =>
  ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth'][n - 1] ?? `${n}th`;

/** What changed from an edition to what stands now: “7 photos, 2 words”. */
function changesText(edition: Edition, now: readonly Edition['graphics'][number][]): string {
  const before = new Map(edition.graphics.map((g) => [g.id, g]));
  const counts = { photo: 0, words: 0, other: 0 };
  for (const graphic of now) {
    const was = before.get(graphic.id);
    if (was) for (const { what } of editionChanges(was, graphic)) counts[what]++;
  }
  const added = now.filter((g) => !before.has(g.id)).length;
  const gone = edition.graphics.filter((g) => !now.some((n) => n.id === g.id)).length;
  const many = (n: number, one: string, more: string) => (n ? [`${n} ${n === 1 ? one : more}`] : []);
  const told = [
    ...many(counts.photo, 'photo', 'photos'),
    ...many(counts.words, 'word', 'words'),
    // What follows from other photos and words (crops, sizes) is not told beside them.
    ...(counts.photo || counts.words ? [] : many(counts.other, 'other change', 'other changes')),
    ...many(added, 'tile more', 'tiles more'),
    ...many(gone, 'tile less', 'tiles less'),
  ];
  return told.join(', ') || 'nothing else';
}
