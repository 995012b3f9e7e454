import { CdkVirtualForOf, CdkVirtualScrollViewport, CdkVirtualScrollableElement } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  computed,
  inject,
  input,
  signal,
} from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Router, RouterLink } from '@angular/router';
import { firstValueFrom } from 'rxjs';
import {
  collectionLimits,
  cutText,
  limits,
  safeWord,
  weightText,
  type Collection,
  type Demo,
  type Problem,
  type Slot,
  type TileSet,
  pictureState,
} from '@bright-slot/core';
import { PlaceBar } from '../shell/place-bar';
import { Icon } from '../ui/icon';
import { Store } from '@ngrx/store';
import { MakeGraphic } from '../document/make-graphic';
import { SiteClient } from '../connector/site-client';
import { LastWordsService } from '../document/last-words.service';
import { whenSaved } from '../document/when-saved';
import { BringOpenRaster, isOpenRaster } from '../document/bring-open-raster';
import { ArchiveService } from '../storage/archive/archive.service';
import { SlotBook } from '../storage/slot-book.service';
import { SlotUse } from '../storage/slot-use.service';
import { StorageHealth } from '../storage/storage-health.service';
import { Collections } from '../storage/collections.service';
import { FocusAtOnce } from '../ui/focus-at-once';
import { GraphicsRepository, type GraphicEntry, type UnreadableEntry } from '../storage/graphics-repository';
import { storageProblem } from '../storage/storage-problem';
import { DemoService, type Start } from '../document/demo.service';
import { FirstSteps } from './first-steps';
import { byName, finder, groupedBySlot } from './grouped';
import { cardRows, type CardRow } from './card-rows';
import { DRAGGED, GraphicCard, type Held } from './graphic-card';
import { Rows } from './row-scrolling';
import { NewGraphicDialog, type Started } from './new-graphic-dialog';
import { CollectionFiles } from './collection-files';
import { SetCard } from './set-card';
import { SetStarts } from '../document/set-starts.service';
import { TileSets } from '../storage/tile-sets.service';
import { today } from '../ui/when';
import { FileDrop } from '../ui/file-drop';
import { saveFile } from '../ui/download';
import { valueOf } from '../ui/event-value';

/** Names in a sentence, a few of them. */
const listed = (names: readonly string[]) =>
  names.length > 6 ? `${names.slice(0, 5).join(', ')} and ${names.length - 5} more` : names.join(', ');

/** What stands at the left and the right of the cards, px; the same as a place's padding. */
const SIDES = 72;

/** How long a deleted graphic can still be brought back, ms. */
const GRACE = 24 * 3600 * 1000;

/** The home: every graphic standing on its page. */
@Component({
  selector: 'bs-graphics-page',
  imports: [
    PlaceBar,
    Icon,
    GraphicCard,
    SetCard,
    CollectionFiles,
    FirstSteps,
    RouterLink,
    CdkVirtualForOf,
    CdkVirtualScrollViewport,
    CdkVirtualScrollableElement,
    FocusAtOnce,
    Rows,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  hostDirectives: [FileDrop],
  host: { class: 'place', '[class.dropping]': 'drops.held()' },
  templateUrl: './graphics-page.html',
  styleUrl: './graphics-page.scss',
})
export class GraphicsPage {
  protected readonly valueOf = valueOf;
  private readonly repository = inject(GraphicsRepository);
  private readonly demo = inject(DemoService);
  private readonly dialogs = inject(MatDialog);
  private readonly maker = inject(MakeGraphic);
  private readonly snack = inject(MatSnackBar);
  private readonly store = inject(Store);
  private readonly lastWords = inject(LastWordsService);
  private readonly use = inject(SlotUse);
  private readonly book = inject(SlotBook);
  private readonly site = inject(SiteClient);
  private readonly router = inject(Router);
  protected readonly health = inject(StorageHealth);
  protected readonly archive = inject(ArchiveService);
  protected readonly layered = inject(BringOpenRaster);

  protected readonly entries = signal<readonly GraphicEntry[] | null>(null);
  /** What was said at the first start; undefined until it was looked up. */
  protected readonly said = signal<Start | null | undefined>(undefined);
  /** What there is to look round in; undefined until it was looked up. */
  protected readonly toLookRound = signal<Demo | null | undefined>(undefined);
  /** Whether to ask how to begin: once, and where there is nothing yet. */
  protected readonly asks = computed(
    () => (this.said() === null || this.said() === 'left') && this.entries()?.length === 0 && !this.unreadable().length,
  );
  protected readonly query = signal('');
  protected readonly sort = signal<'latest' | 'name'>('latest');
  protected readonly problem = signal('');
  protected readonly unreadable = signal<readonly UnreadableEntry[]>([]);
  /** How many deleted graphics still take room. */
  protected readonly deleted = signal(0);
  /** Where graphics are live: the page's title by the graphic's id. */
  private readonly live = signal<ReadonlyMap<string, { title: string; earlier: boolean }>>(new Map());

  /** Where a graphic is live, and whether as it is now; empty where it is not. */
  protected liveOn({ id }: GraphicEntry): string {
    const live = this.live().get(id);
    if (!live) return '';
    return live.earlier ? `live on ${live.title}: an earlier state` : `live on ${live.title}`;
  }

  /** From the address: only what was made from that graphic, and that itself. */
  readonly from = input<string>();
  private readonly byId = computed(() => new Map((this.entries() ?? []).map((e) => [e.id, e])));
  /** How many were made from each. */
  private readonly madeOf = computed(() => {
    const counts = new Map<string, number>();
    for (const { madeFrom } of this.entries() ?? [])
      if (madeFrom !== undefined) counts.set(madeFrom, (counts.get(madeFrom) ?? 0) + 1);
    return counts;
  });
  /** What the cards of one graphic and of all made from it say. */
  protected readonly kin = computed(() => {
    const id = this.from();
    const own = id === undefined ? undefined : this.byId().get(id);
    return own ? { id: own.id, name: own.name } : null;
  });
  /** From the address: only what is in that collection. */
  readonly within = input<string>();
  protected readonly collections = inject(Collections);
  protected readonly opened = computed(() => this.collections.all().find((c) => c.id === this.within()) ?? null);
  /** Whether a new one is being named, and which graphic is to be in it. */
  protected readonly naming = signal<{ readonly graphic: string | null } | null>(null);
  /** The one over which a graphic is held. */
  protected readonly over = signal<string | null>(null);
  protected readonly mostName = collectionLimits.name;
  private readonly shown = computed(() => {
    const [kin, opened] = [this.kin(), this.opened()];
    const tiles = this.tileSets.ofGraphic();
    const all = (this.entries() ?? []).filter((e) => kin || opened || !tiles.has(e.id));
    if (kin) return all.filter((e) => e.id === kin.id || e.madeFrom === kin.id);
    if (!opened) return all;
    const held = new Set(opened.graphics);
    return all.filter((e) => held.has(e.id));
  });
  protected readonly groups = computed(() =>
    groupedBySlot(this.shown(), this.query(), this.sort(), this.collections.holding()),
  );

  protected readonly tileSets = inject(TileSets);
  private readonly starts = inject(SetStarts);
  /** Sets of tiles that are found, each with its tiles. */
  protected readonly sets = computed(() => {
    if (this.kin() || this.opened()) return [];
    const has = finder(this.query());
    const found = this.tileSets.all().flatMap((set) => {
      const entries = this.held(set);
      return has(set.name, set.slot, entries.map((e) => e.name).join(' ')) ? [{ set, entries }] : [];
    });
    const latest = ({ entries }: (typeof found)[number]) => Math.max(0, ...entries.map((e) => e.changed));
    return found.sort((a, b) =>
      this.sort() === 'name' ? byName.compare(a.set.name, b.set.name) : latest(b) - latest(a),
    );
  });

  /** Photos for the next edition of a set. */
  protected async nextEdition(set: string, photos: readonly File[]): Promise<void> {
    this.starts.give(set, { photos });
    await this.router.navigate(['/sets', set]);
  }

  protected async removeSet(set: TileSet): Promise<void> {
    const problem = await this.tileSets.remove(set);
    if (problem) return this.tell(problem);
    await this.reload();
    this.snack
      .open(`“${set.name}” and its ${set.graphics.length} tiles were deleted.`, 'Undo', { duration: 20_000 })
      .onAction()
      .subscribe(() => void this.tileSets.bringBack(set).then(() => this.reload()));
  }

  /** The graphics of a collection or a set that are there, in its order. */
  protected held({ graphics }: Pick<Collection, 'graphics'>): GraphicEntry[] {
    return graphics.flatMap((id) => this.byId().get(id) ?? []);
  }

  /** How many of a collection's graphics are there. */
  protected countOf({ graphics }: Collection): number {
    return graphics.reduce((n, id) => n + (this.byId().has(id) ? 1 : 0), 0);
  }

  protected async makeCollection(event: Event, typed: string): Promise<void> {
    event.preventDefault();
    const graphic = this.naming()?.graphic;
    const made = await this.collections.make(typed, graphic ? [graphic] : []);
    if (typeof made !== 'string') return this.tell(made);
    this.naming.set(null);
    // One that a graphic was put in is known by that; an empty one is shown, to be filled.
    if (!graphic) await this.router.navigate(['/graphics'], { queryParams: { within: made } });
    else this.snack.open('It is in the new collection.', 'Close');
  }

  protected async rename({ id }: Collection, typed: string): Promise<void> {
    const problem = typed.trim() ? await this.collections.rename(id, typed) : null;
    if (problem) this.tell(problem);
  }

  protected async hold({ id }: Pick<GraphicEntry, 'id'>, { collection, is }: Held): Promise<void> {
    const problem = await this.collections.hold(collection, id, is);
    if (problem) this.tell(problem);
  }

  protected async removeCollection(collection: Collection): Promise<void> {
    const problem = await this.collections.remove(collection.id);
    if (problem) return this.tell(problem);
    await this.router.navigate(['/graphics']);
    this.snack
      .open(`The collection “${collection.name}” is gone; its graphics are not.`, 'Undo', { duration: 20_000 })
      .onAction()
      .subscribe(() => void this.collections.bringBack(collection));
  }

  protected dragOver(event: DragEvent, id: string): void {
    if (!event.dataTransfer?.types.includes(DRAGGED)) return;
    event.preventDefault();
    event.dataTransfer.dropEffect = 'copy';
    this.over.set(id);
  }

  protected async dropOn(event: DragEvent, collection: string): Promise<void> {
    const id = event.dataTransfer?.getData(DRAGGED);
    this.over.set(null);
    if (!id) return;
    event.preventDefault();
    const problem = await this.collections.hold(collection, id, true);
    if (problem) return this.tell(problem);
    const name = this.collections.all().find((c) => c.id === collection)?.name;
    this.snack.open(`“${this.byId().get(id)?.name}” is in “${name}”.`, 'Close');
  }

  /** The graphic that one was made from, where it is there still. */
  protected madeFrom({ madeFrom }: GraphicEntry): GraphicEntry | null {
    return (madeFrom === undefined ? undefined : this.byId().get(madeFrom)) ?? null;
  }

  protected madeOfIt({ id }: GraphicEntry): number {
    return this.madeOf().get(id) ?? 0;
  }

  /** How wide rows of cards are, px. */
  private readonly width = signal(0);
  protected readonly rows = computed(() => (this.width() ? cardRows(this.groups(), this.width()) : []));
  protected readonly byKey = (_: number, row: CardRow) => row.key;

  protected readonly drops = inject(FileDrop);

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const watch = new ResizeObserver(() => {
      const main = host.querySelector('main');
      if (main) this.width.set(main.clientWidth - SIDES);
    });
    afterNextRender(() => watch.observe(host.querySelector('main')!));
    inject(DestroyRef).onDestroy(() => watch.disconnect());
    this.drops.files.subscribe(({ files, event }) => {
      // On a set they are for that.
      if (!(event.target instanceof Element && event.target.closest('bs-set-card'))) void this.dropped(files);
    });
    void this.start();
  }

  private async start(): Promise<void> {
    const [said] = await Promise.all([
      this.demo.start().catch(() => 'own' as const),
      this.archive.tidy().catch(() => undefined),
    ]);
    // Who is asked how to begin is asked that at once; what is there already does not wait for the demo.
    if (said === null || said === 'left') await this.lookForDemo();
    this.said.set(said);
    await this.reload();
    if (said === 'demo') await this.lookForDemo();
    void this.repository.sweep(Date.now() - GRACE).catch(() => undefined);
    await this.lookWhatIsLive();
  }

  private async lookForDemo(): Promise<void> {
    const demo = this.demo.source.there ? await this.demo.source.all() : null;
    this.toLookRound.set(demo?.ok ? demo.value : null);
  }

  /** It was decided how to begin. */
  protected async begun(slot: Slot | null): Promise<void> {
    this.said.set(await this.demo.start());
    if (slot) {
      await this.maker.start(slot);
      return;
    }
    await this.reload();
    await this.lookWhatIsLive();
  }

  /** The demo goes, by one press and back by another. */
  protected async leaveDemo(): Promise<void> {
    const left = await this.demo.leave();
    if (!left.ok) return this.tell(left.problem);
    this.said.set('left');
    this.live.set(new Map());
    await this.reload();
    const { stay, undo } = left.value;
    const rest = stay
      ? ` ${stay === 1 ? 'One graphic that you worked on stays' : `${stay} graphics that you worked on stay`}.`
      : '';
    this.snack
      .open(`The demo is gone.${rest}`, 'Undo', { duration: 20_000 })
      .onAction()
      .subscribe(() => void undo().then(() => this.begun(null)));
  }

  private async lookWhatIsLive(): Promise<void> {
    const site = await this.site.site();
    if (!site.ok) return;
    const live = new Map<string, { title: string; earlier: boolean }>();
    for (const page of site.value.pages)
      for (const { now } of page.slots) {
        const graphic = now && (await this.repository.graphic(now.graphic.id).catch(() => null));
        if (!graphic) continue;
        const { id, state } = now.graphic;
        const earlier = state !== undefined && !graphic.frames.some((f) => state === pictureState(graphic, f));
        live.set(id, { title: page.title, earlier });
      }
    this.live.set(live);
  }

  private async reload(): Promise<void> {
    try {
      await whenSaved(this.store);
      await this.lastWords.written;
      const { entries, unreadable } = await this.repository.list();
      this.use.note(entries);
      this.entries.set(entries);
      this.unreadable.set(unreadable);
      this.deleted.set(await this.repository.deletedCount());
      void this.health.look();
    } catch (error) {
      this.entries.set([]);
      this.problem.set(storageProblem(error).message);
    }
  }

  /** Pictures begin a graphic; what was saved here comes back. */
  private async dropped(files: readonly File[]): Promise<void> {
    if (/\.(zip|ora)$/i.test(files[0]!.name)) return this.bringBack(files);
    await this.make(files);
  }

  protected async make(files: readonly File[] = []): Promise<void> {
    const ref = this.dialogs.open<NewGraphicDialog, string, Started>(NewGraphicDialog, {
      data: files.length ? (files.length === 1 ? files[0]!.name : `${files.length} pictures`) : '',
      width: '760px',
      maxWidth: '94vw',
      autoFocus: 'first-tabbable',
    });
    const chosen = await firstValueFrom(ref.afterClosed());
    if (!chosen) return;
    if ('tiles' in chosen) {
      const problem = await this.maker.forTiles(chosen.tiles, chosen.count);
      return problem ? this.tell(problem) : undefined;
    }
    if ('kind' in chosen) {
      const slots = this.book.byId();
      const made = await this.maker.forSet(chosen, (id) => slots.get(id), files);
      return made.ok ? undefined : this.tell(made.problem);
    }
    const problem = await this.maker.start(chosen, files);
    if (problem) this.tell(problem);
  }

  protected async duplicate({ id }: GraphicEntry): Promise<void> {
    const graphic = await this.repository.graphic(id);
    if (!graphic) return this.reload();
    const copy = {
      ...graphic,
      id: crypto.randomUUID(),
      name: `${cutText(graphic.name, limits.name - 6)}, copy`,
      created: new Date().toISOString(),
      madeFrom: graphic.id,
    };
    const kept = await this.maker.keep(copy, `Made from ${graphic.name}`);
    if (kept.ok) await this.reload();
    else this.tell(kept.problem);
  }

  protected async remove({ id, name }: GraphicEntry): Promise<void> {
    try {
      await this.repository.setDeleted(id, Date.now());
    } catch (error) {
      const problem = storageProblem(error, 'delete');
      if (problem.code !== 'disk-full') return this.tell(problem);
      // Noting that it is deleted takes room; deleting it gives some back.
      if (!confirm(`${problem.message} Delete “${name}” for good? It cannot be brought back.`)) return;
      return this.removeForGood(id, name);
    }
    await this.reload();
    const ref = this.snack.open(`“${name}” was deleted.`, 'Undo');
    ref.onAction().subscribe(() => void this.bringGraphicBack(id));
  }

  private async bringGraphicBack(id: string): Promise<void> {
    try {
      await this.repository.setDeleted(id, undefined);
    } catch (error) {
      this.tell(storageProblem(error, 'delete'));
    }
    await this.reload();
  }

  private async removeForGood(id: string, name: string): Promise<void> {
    try {
      await this.repository.removeForGood(id);
      await this.repository.sweep(0).catch(() => undefined);
      this.snack.open(`“${name}” was deleted for good.`, 'Close');
    } catch (error) {
      this.tell(storageProblem(error, 'delete'));
    }
    await this.reload();
  }

  /** One that cannot be opened: all that is stored of it, as a file. */
  protected async saveRaw(u: UnreadableEntry): Promise<void> {
    const text = await this.repository.raw(u.id);
    saveFile(new Blob([text], { type: 'application/json' }), `${safeWord(u.name)}.json`);
  }

  protected removeUnreadable(u: UnreadableEntry): void {
    if (confirm(`Delete “${u.name}” for good? It cannot be brought back.`)) void this.removeForGood(u.id, u.name);
  }

  protected async saveEverything(): Promise<void> {
    this.problem.set('');
    const packed = await this.archive.pack();
    if (!packed.ok) return this.tell(packed.problem);
    const name = `bright-slot-${today()}.zip`;
    const { blob, left } = packed.value;
    saveFile(blob, name);
    if (left.length)
      this.problem.set(
        `${name} holds all but what cannot be read any more: ${listed(left)}. Everything else is in it.`,
      );
    else this.snack.open(`Everything is in ${name}, ${weightText(blob.size)}.`, 'Close');
  }

  protected async bringBack(files: ArrayLike<File> | null): Promise<void> {
    const file = files?.[0];
    if (!file || this.archive.progress() !== null) return;
    this.problem.set('');
    if (isOpenRaster(file)) return this.bringLayers(file);
    const brought = await this.archive.bringBack(file);
    if (!brought.ok) return this.tell(brought.problem);
    await this.reload();
    const { graphics, same, pictures, left } = brought.value;
    const count = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`;
    const done = `Brought back ${count(graphics, 'graphic')} and ${count(pictures, 'picture')}; ${same} stood here just the same.`;
    if (left.length)
      this.problem.set(`${done} Left out, since it is damaged or from a newer version: ${listed(left)}.`);
    else this.snack.open(done, 'Close');
  }

  /** A layered picture of another program; it opens, unless something is to be told of it. */
  private async bringLayers(file: File): Promise<void> {
    const brought = await this.layered.bringIn(file);
    if (!brought.ok) return this.tell(brought.problem);
    const { graphic, left } = brought.value;
    if (!left.length) return void this.router.navigate(['/graphics', graphic.id]);
    await this.reload();
    this.problem.set(`“${graphic.name}” was brought in. Not as it was there: ${listed(left)}.`);
  }

  private tell(problem: Problem): void {
    if (problem.code !== 'stopped') this.problem.set(problem.message);
  }

  protected async clearDeleted(): Promise<void> {
    try {
      await this.repository.sweep(Date.now());
    } catch (error) {
      this.tell(storageProblem(error, 'delete'));
    }
    await this.reload();
  }
}
