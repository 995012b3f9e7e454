import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { MatSnackBar } from '@angular/material/snack-bar';
import { ActivatedRoute, Router } from '@angular/router';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  duplicateSlot,
  filterSlots,
  freeSlotName,
  noFilter,
  readSlotFile,
  sizeText,
  slotFrom,
  slotGroups,
  slotsIn,
  slotsToAdd,
  type SlotSet,
  slotsToStart,
  writeSlotFile,
  type Slot,
  type SlotFilter,
} from '@bright-slot/core';
import { PlaceBar } from '../shell/place-bar';
import { Icon } from '../ui/icon';
import { MakeGraphic } from '../document/make-graphic';
import { ShotService } from './shot.service';
import { ShotView } from './shot-view';
import { SlotBook } from '../storage/slot-book.service';
import { SlotCard } from './slot-card';
import { SlotEditor } from './slot-editor';
import { SlotOnPage } from '../page/slot-on-page';
import { SlotOutlines } from './slot-outlines';
import { LiveFinder } from './finders/live-finder';
import { MosaicFinder } from './finders/mosaic-finder';
import { PictureFinder } from './finders/picture-finder';
import { RatioFinder } from './finders/ratio-finder';
import { ScreenshotFinder } from './finders/screenshot-finder';
import { StripFinder } from './finders/strip-finder';
import { TypeFinder } from './finders/type-finder';
import { today } from '../ui/when';
import { slotUnder } from '../ui/dropped';
import { FileDrop } from '../ui/file-drop';
import { saveFile } from '../ui/download';
import { valueOf } from '../ui/event-value';

const ways = [
  { id: 'type', name: 'Type it', icon: 'keyboard' },
  { id: 'screenshot', name: 'From a screenshot', icon: 'monitor' },
  { id: 'live', name: 'On the live page', icon: 'ruler' },
  { id: 'picture', name: 'Current picture', icon: 'image' },
  { id: 'ratio', name: 'Ratio, one side', icon: 'ratio' },
  { id: 'mosaic', name: 'Mosaic', icon: 'mosaic' },
  { id: 'strip', name: 'Strip', icon: 'strip' },
] as const;
type Way = (typeof ways)[number]['id'];

/** A file of slots larger than this is none, bytes. */
const MOST_FILE = 16_000_000;

/** The book of slots, and beside it the ways to find a size. */
@Component({
  selector: 'bs-slots-page',
  imports: [
    PlaceBar,
    Icon,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    SlotOutlines,
    SlotCard,
    SlotEditor,
    SlotOnPage,
    ShotView,
    TypeFinder,
    RatioFinder,
    PictureFinder,
    ScreenshotFinder,
    LiveFinder,
    MosaicFinder,
    StripFinder,
  ],
  providers: [ShotService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  hostDirectives: [FileDrop],
  host: { class: 'place' },
  templateUrl: './slots-page.html',
  styleUrl: './slots-page.scss',
})
export class SlotsPage {
  protected readonly valueOf = valueOf;
  /** From the address: the way that is open, a slot that is looked at. */
  readonly way = input<string>();
  readonly slot = input<string>();
  /** The slot whose own page is looked for, and the graphic that it is for. */
  readonly page = input<string>();
  readonly graphic = input<string>();
  protected readonly ownPageOf = computed(() => this.book.byId().get(this.page() ?? '') ?? null);
  protected readonly book = inject(SlotBook);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly maker = inject(MakeGraphic);
  private readonly snack = inject(MatSnackBar);
  private readonly router = inject(Router);
  private readonly fragment = toSignal(inject(ActivatedRoute).fragment);

  protected readonly ways = ways;
  protected readonly openWay = computed<Way | null>(() => ways.find((w) => w.id === this.way())?.id ?? null);
  protected readonly handed = computed(() => /^measured=(.*)$/s.exec(this.fragment() ?? '')?.[1] ?? '');
  protected readonly filter = signal<SlotFilter>(noFilter);
  protected readonly problems = signal<readonly string[]>([]);
  protected readonly selectedId = linkedSignal<string | null>(() => this.slot() ?? null);
  protected readonly selected = computed(() => this.book.byId().get(this.selectedId() ?? '') ?? null);
  /** The slot looked at last, for sums that are about one. */
  protected readonly lastSlot = linkedSignal<Slot | null, Slot | null>({
    source: this.selected,
    computation: (now, before) => now ?? before?.value ?? null,
  });
  protected readonly editing = this.book.editing;
  protected readonly previewed = this.book.draft;
  /** What the editor begins with: where one was left, the state it was left in. */
  protected readonly opened = linkedSignal(() =>
    this.editing() ? (untracked(this.previewed) ?? this.editing()) : null,
  );

  protected readonly found = computed(() => filterSlots(this.book.slots() ?? [], this.filter()));
  protected readonly groups = computed(() => {
    const there = new Set((this.book.slots() ?? []).map((s) => s.group));
    return slotGroups.filter((g) => there.has(g));
  });
  protected readonly sites = computed(() =>
    [...new Set((this.book.slots() ?? []).map((s) => s.site))].sort().reverse(),
  );
  protected readonly isAll = computed(() => JSON.stringify(this.filter()) === JSON.stringify(noFilter));

  protected set(change: Partial<SlotFilter>): void {
    this.filter.update((f) => ({ ...f, ...change }));
  }

  protected setShape(value: string): void {
    const shapes = ['rectangle', 'rounded', 'ellipse'] as const;
    this.set({ shape: shapes.find((s) => s === value) ?? null });
  }

  protected setSite(value: string): void {
    this.set({ site: value === '*' ? null : value });
  }

  protected showAll(): void {
    this.filter.set(noFilter);
  }

  protected go(way: Way | null): void {
    this.selectedId.set(null);
    void this.router.navigate(['/slots'], { queryParams: way ? { way } : {} });
  }

  /** A screenshot of the page of a slot is to be measured. */
  protected findPage(slot: Slot): void {
    this.selectedId.set(null);
    void this.router.navigate(['/slots'], { queryParams: { way: 'screenshot', page: slot.id } });
  }

  /** Back to where it was asked for, which shows it. */
  protected async pageKept(undo: () => Promise<void>): Promise<void> {
    const slot = this.ownPageOf();
    if (slot) await this.leavePage(slot);
    this.snack
      .open(`“${slot?.name ?? 'The slot'}” stands in your own page now.`, 'Undo')
      .onAction()
      .subscribe(() => void undo());
  }

  protected async leavePage(slot: Slot): Promise<void> {
    const graphic = this.graphic();
    if (graphic) await this.router.navigate(['/graphics', graphic], { queryParams: { page: 'true' } });
    else await this.router.navigate(['/slots'], { queryParams: { slot: slot.id } });
  }

  protected select(slot: Slot): void {
    this.selectedId.set(this.selectedId() === slot.id ? null : slot.id);
  }

  protected added(slots: readonly Slot[]): void {
    this.filter.set(noFilter);
    this.selectedId.set(slots[0]?.id ?? null);
  }

  /** On a screenshot more slots are often measured, so the view stays. */
  protected addedFromShot(): void {
    this.filter.set(noFilter);
  }

  constructor() {
    inject(FileDrop).files.subscribe(({ files, event }) => void this.dropped(files, event));
  }

  /** A picture on a slot begins a graphic for it; a book of slots is brought in wherever it lands. */
  private async dropped(files: readonly File[], event: DragEvent): Promise<void> {
    const slot = this.book.byId().get(slotUnder(event) ?? this.selectedId() ?? '');
    if (/\.json$/i.test(files[0]!.name)) return this.bringIn(files);
    if (slot) return this.start(slot, files);
    this.problems.set(['Drop a picture on one of the slots, and a graphic for it is begun.']);
  }

  protected async start(slot: Slot, files: readonly File[] = []): Promise<void> {
    const problem = await this.maker.start(slot, files);
    if (problem) this.problems.set([problem.message]);
  }

  protected edit(slot: Slot): void {
    this.selectedId.set(slot.id);
    this.previewed.set(null);
    this.editing.set(slot);
  }

  /** A new slot begins with how its size is found. */
  protected newSlot(): void {
    this.go(null);
    const { nativeElement: host } = this.host;
    setTimeout(() => host.querySelector<HTMLElement>('.ways .way')?.focus());
  }

  /** All figures typed by hand. */
  protected byHand(): void {
    this.previewed.set(null);
    this.editing.set(
      slotFrom({
        id: crypto.randomUUID(),
        name: freeSlotName('New slot', this.book.slots() ?? []),
        group: 'Own sizes',
        width: 940,
        height: 198,
        dated: today(),
      }),
    );
  }

  protected async saveEdit(slot: Slot): Promise<void> {
    const before = this.book.byId().get(slot.id);
    if (!(await this.book.put(slot))) return;
    this.editing.set(null);
    this.selectedId.set(slot.id);
    this.snack
      .open(before ? `“${slot.name}” is changed.` : `“${slot.name}”, ${sizeText(slot)}, is in the book.`, 'Undo')
      .onAction()
      .subscribe(() => void (before ? this.book.put(before) : this.book.remove(slot.id)));
  }

  protected async duplicate(slot: Slot): Promise<void> {
    const copy = duplicateSlot(slot, crypto.randomUUID(), this.book.slots() ?? []);
    if (!(await this.book.put(copy))) return;
    this.selectedId.set(copy.id);
    this.snack
      .open(`“${copy.name}” is in the book.`, 'Undo')
      .onAction()
      .subscribe(() => void this.book.remove(copy.id));
  }

  protected async remove(slot: Slot): Promise<void> {
    const sets = this.book.sets().filter((set) => slotsIn(set).includes(slot.id));
    if (!(await this.book.remove(slot.id))) return;
    this.selectedId.set(null);
    this.snack
      .open(`“${slot.name}” was deleted. Graphics made for it keep it.`, 'Undo')
      .onAction()
      .subscribe(() => void this.book.putTogether([slot], sets).then(() => this.selectedId.set(slot.id)));
  }

  protected async restore(): Promise<void> {
    await this.book.put(...slotsToStart);
  }

  protected save(slots: readonly Slot[]): void {
    saveFile(
      new Blob([writeSlotFile(slots, this.setsOf(slots))], { type: 'application/json' }),
      `slots-${today()}.json`,
    );
  }

  /** The sets that stand in some slots alone. */
  private setsOf(slots: readonly Slot[]): SlotSet[] {
    const ids = new Set(slots.map((s) => s.id));
    return this.book.sets().filter((set) => slotsIn(set).every((id) => ids.has(id)));
  }

  protected async bringIn(files: ArrayLike<File> | null): Promise<void> {
    const file = files?.[0];
    if (!file) return;
    this.problems.set([]);
    if (file.size > MOST_FILE)
      return this.problems.set(['That file is too large to be a book of slots. Nothing was brought in.']);
    const read = readSlotFile(await file.text());
    if (!read.ok) return this.problems.set([read.problem.message]);
    const fresh = slotsToAdd(this.book.slots() ?? [], read.value.slots, () => crypto.randomUUID());
    this.problems.set(read.value.problems.slice(0, 5));
    // A slot that came beside one that differs has another id; its set stays with the one that was here.
    const known = new Set(this.book.sets().map((set) => set.id));
    const sets = read.value.sets.filter((set) => !known.has(set.id));
    if (!(await this.book.putTogether(fresh, sets))) return;
    const same = read.value.slots.length - fresh.length;
    this.snack
      .open(`${fresh.length} brought in; ${same} stood here just the same.`, fresh.length ? 'Undo' : 'Close')
      .onAction()
      .subscribe(() => void (fresh.length && this.book.remove(...fresh.map((s) => s.id))));
  }
}
