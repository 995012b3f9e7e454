import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { RouterLink } from '@angular/router';
import {
  shotWidth,
  sizeText,
  type SentPicture,
  type Site,
  type PageColours,
  type SitePage,
  type Slot,
  type Result,
} from '@bright-slot/core';
import { Icon } from '../ui/icon';
import { slotUnder } from '../ui/dropped';
import { FileDrop } from '../ui/file-drop';
import { MakeGraphic } from '../document/make-graphic';
import { PageLikeness, type Likeness } from '../page/page-likeness';
import { OwnPages } from '../storage/own-pages.service';
import { SlotBook } from '../storage/slot-book.service';
import { SiteClient } from '../connector/site-client';
import { Sites } from '../storage/sites.service';
import { GraphicsRepository } from '../storage/graphics-repository';
import { tickedOf } from '../ui/event-value';
import { whenText } from '../ui/when';
import { PageSettings } from './page-settings';

interface SlotOnPage {
  readonly slot: Slot;
  readonly now: SentPicture | null;
  readonly row: readonly SentPicture[];
  readonly first: string | null;
  readonly earlier: readonly SentPicture[];
}

interface PageCard {
  readonly page: SitePage;
  readonly likeness: Likeness;
  readonly width: number;
  readonly slots: readonly SlotOnPage[];
}

/** What the stand-in can do wrong, and how much. */
const faults = [
  { id: 'slow', name: 'Slow', is: 3000 },
  { id: 'full', name: 'Full', is: true },
  { id: 'forgetful', name: 'Forgetful', is: true },
  { id: 'reEncoding', name: 'Re-encodes', is: 40 },
  { id: 'caching', name: 'Caches', is: true },
  { id: 'darkening', name: 'Darkens', is: 0.3 },
] as const;
type FaultId = (typeof faults)[number]['id'];

/** What a likeness is seen through, CSS px. */
const WINDOW = { width: 380, height: 252 };

/** The demo's site: its pages, what each slot shows now, and what it showed before, as the site itself says. */
@Component({
  selector: 'bs-stand-in-pages',
  imports: [Icon, PageLikeness, PageSettings, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  hostDirectives: [FileDrop],
  templateUrl: './stand-in-pages.html',
  styleUrl: './stand-in-pages.scss',
})
export class StandInPages {
  private readonly client = inject(SiteClient);
  private readonly repository = inject(GraphicsRepository);
  private readonly snack = inject(MatSnackBar);
  private readonly maker = inject(MakeGraphic);
  private readonly book = inject(SlotBook);
  private readonly ownPages = inject(OwnPages);
  private readonly sites = inject(Sites);
  /** What is kept here of it. */
  protected readonly record = computed(() => this.sites.all()?.find((s) => s.way.kind === 'stand-in') ?? null);
  protected readonly tickedOf = tickedOf;
  protected readonly origin = this.client.origin;
  protected readonly faults = faults;
  protected readonly faulty = signal<ReadonlySet<FaultId>>(new Set());
  protected readonly site = signal<Site | null>(null);
  protected readonly problem = signal('');
  /** Slot whose change is under way. */
  protected readonly busy = signal<string | null>(null);
  /** Graphics that are still here, so that the others are named without a link. */
  protected readonly known = signal<ReadonlySet<string>>(new Set());
  protected readonly when = whenText;
  protected readonly size = sizeText;
  protected readonly windowHeight = WINDOW.height;
  protected readonly windowWidth = WINDOW.width;

  protected readonly cards = computed<PageCard[]>(() =>
    (this.site()?.pages ?? []).map((page) => {
      const slots = page.slots;
      const [first] = slots;
      const own = first && slots.length === 1 ? this.ownPages.shown(first.slot.id, 'desktop') : null;
      const width = own ? shotWidth(own.shot) : Math.max(720, ...slots.map((s) => s.slot.shownWidth + 64));
      const content = {
        set: page.set,
        own,
        colours: slots.find((s) => s.now?.colours)?.now?.colours ?? null,
        slots: slots.flatMap(({ slot, row, first }) =>
          row.length
            ? row
                .slice(0, Math.max(1, slot.rowShows))
                .map(({ address, alt }) => ({ slot, picture: { url: address, alt } }))
            : [{ slot, picture: first ? { url: first, alt: '' } : null }],
        ),
      };
      return { page, slots, width, likeness: { kind: page.kind, content, look: this.site()!.look } };
    }),
  );

  protected scale(card: PageCard): string {
    return `scale(${WINDOW.width / card.width})`;
  }

  constructor() {
    inject(FileDrop).files.subscribe(({ files, event }) => void this.dropped(files, event));
    void this.reload();
    void this.repository.list().then((all) => this.known.set(new Set(all.entries.map((e) => e.id))));
  }

  protected async reload(): Promise<void> {
    const site = await this.client.site();
    if (site.ok) this.site.set(site.value);
    this.problem.set(site.ok ? '' : site.problem.message);
  }

  /** A picture on a place begins a graphic for it. */
  private async dropped(files: readonly File[], event: DragEvent): Promise<void> {
    const id = slotUnder(event);
    const on = this.cards().flatMap((c) => c.slots.filter((s) => s.slot.id === id))[0];
    if (on) await this.start(on, files);
    else this.problem.set('Drop a picture on one of the places, and a graphic for it is begun.');
  }

  /** A graphic for a place, at its slot as the book has it now. */
  protected async start({ slot }: SlotOnPage, files: readonly File[] = []): Promise<void> {
    const problem = await this.maker.start(this.book.byId().get(slot.id) ?? slot, files);
    if (problem) this.problem.set(problem.message);
  }

  /** Tells a page which colours to have. */
  protected async tell(page: SitePage, colours: PageColours | null): Promise<void> {
    const done = await this.client.settings(page.path, colours);
    if (!done.ok) this.problem.set(done.problem.message);
    else this.snack.open(colours ? `${page.title} has them now.` : `${page.title} has its own again.`);
  }

  protected async misbehave(id: FaultId, on: boolean): Promise<void> {
    const wanted = new Set(this.faulty());
    if (on) wanted.add(id);
    else wanted.delete(id);
    const done = await this.client.faults(
      Object.fromEntries(faults.filter((f) => wanted.has(f.id)).map((f) => [f.id, f.is])),
    );
    if (done.ok) this.faulty.set(wanted);
    else this.problem.set(done.problem.message);
  }

  protected async takeDown({ slot, now, row }: SlotOnPage): Promise<void> {
    if (!now) return;
    const what = row.length > 1 ? `All ${row.length} are` : `“${now.name}” is`;
    if (await this.show(slot.id, null))
      this.snack
        .open(`${what} taken down from ${slot.name}.`, 'Undo')
        .onAction()
        .subscribe(() => void this.showAgain(slot.id, row));
  }

  /** What a place showed: one picture, several side by side, or nothing. */
  private async showAgain(slot: string, row: readonly SentPicture[]): Promise<void> {
    if (row.length < 2) return void (await this.show(slot, row[0]?.id ?? null));
    const ids = row.map((p) => p.id);
    await this.change(slot, () => this.client.showRow(slot, ids));
  }

  protected async putBack({ slot, row }: SlotOnPage, picture: SentPicture): Promise<void> {
    if (await this.show(slot.id, picture.id))
      this.snack
        .open(`${slot.name} shows “${picture.name}” again.`, 'Undo')
        .onAction()
        .subscribe(() => void this.showAgain(slot.id, row));
  }

  private show(slot: string, picture: string | null): Promise<boolean> {
    return this.change(slot, () => this.client.show(slot, picture));
  }

  private async change(slot: string, ask: () => Promise<Result<unknown>>): Promise<boolean> {
    this.busy.set(slot);
    const answer = await ask();
    if (answer.ok) await this.reload();
    else this.problem.set(answer.problem.message);
    this.busy.set(null);
    return answer.ok;
  }
}
