import { DestroyRef, Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import { coloursIn, type Graphic, type Instead, type PlacedPicture, type Routine, type Used } from '@bright-slot/core';
import { Composing } from '../document/composing.service';
import { Everywhere, replacing, type ChangeOfMany, type Replaced, type Use } from '../document/everywhere.service';
import { PlacedPictures } from '../document/placed-pictures.service';
import { ShelfService, type ShelfItem } from '../media/shelf/shelf.service';
import { Routines } from '../storage/routines.service';
import { HouseStyleService } from '../storage/house-style.service';
import { storageProblem } from '../storage/storage-problem';

export type UsedKind = Used['kind'] | 'routine';

/** A graphic that uses it: as it is and as it would be, and how each fits. */
export interface Tried {
  readonly graphic: Graphic;
  readonly places: number;
  readonly wanted: boolean;
  readonly before: string | null;
  readonly after: string | null;
  readonly fitBefore: string;
  readonly fitAfter: string;
}

/** A colour that is used, and in how many graphics. */
export interface UsedColour {
  readonly colour: string;
  readonly graphics: number;
}

const WIDE = 480;
/** What is typed rests so long before it is looked for, ms. */
const REST = 250;
const MOST_COLOURS = 40;

/** What is used in many graphics, what takes its place, and what each of them would be. */
@Injectable()
export class EverywhereSession {
  private readonly everywhere = inject(Everywhere);
  private readonly composing = inject(Composing);
  private readonly shelf = inject(ShelfService);
  private readonly placing = inject(PlacedPictures);
  private readonly house = inject(HouseStyleService);
  readonly routines = inject(Routines);

  readonly kind = signal<UsedKind>('picture');
  readonly items = signal<readonly ShelfItem[]>([]);
  readonly colours = signal<readonly UsedColour[] | null>(null);
  readonly problem = signal('');
  readonly said = signal('');
  readonly busy = signal(false);
  readonly picture = signal<ShelfItem | null>(null);
  readonly otherPicture = signal<ShelfItem | null>(null);
  private readonly placed = signal<PlacedPicture | null>(null);
  readonly colour = signal<string | null>(null);
  readonly otherColour = signal<string>('#1f6f5c');
  readonly words = signal('');
  readonly otherWords = signal('');
  readonly tried = signal<readonly Tried[] | null>(null);
  /** Whether the house style has it too, and it is to be replaced there. */
  readonly inHouse = signal(true);
  private done: { readonly replaced: Replaced; readonly step: string } | null = null;
  readonly undoable = signal(false);
  private stop = new AbortController();
  private readonly urls = new Set<string>();

  readonly used = computed<Used | null>(() => {
    const [picture, colour, words] = [this.picture(), this.colour(), this.words().trim()];
    switch (this.kind()) {
      case 'picture':
        return picture?.hash === undefined ? null : { kind: 'picture', asset: picture.hash };
      case 'colour':
        return colour ? { kind: 'colour', colour } : null;
      case 'words':
        return words ? { kind: 'words', text: words } : null;
      case 'routine':
        return null;
    }
  });
  readonly instead = computed<Instead | null>(() => {
    const placed = this.placed();
    switch (this.kind()) {
      case 'picture':
        return placed && placed.asset !== this.picture()?.hash ? { kind: 'picture', picture: placed } : null;
      case 'colour':
        return this.otherColour() === this.colour() ? null : { kind: 'colour', colour: this.otherColour() };
      case 'words':
        return this.otherWords().trim() && this.otherWords().trim() !== this.words().trim()
          ? { kind: 'words', text: this.otherWords().trim() }
          : null;
      case 'routine':
        return null;
    }
  });
  readonly routine = signal<Routine | null>(null);
  /** What is to be done to them; null while that is not said. */
  readonly change = computed<ChangeOfMany | null>(() => {
    const [what, by, routine] = [this.used(), this.instead(), this.routine()];
    if (this.kind() === 'routine') return routine && this.everywhere.taking(routine);
    return what && by && replacing(what, by, stepOf(what, by));
  });
  readonly wanted = computed(() => (this.tried() ?? []).filter((t) => t.wanted));
  readonly houseHas = computed(() => {
    const { colours, logos } = this.house.style();
    const what = this.used();
    if (what?.kind === 'colour') return colours.some((c) => c.colour.toLowerCase() === what.colour);
    return what?.kind === 'picture' && logos.includes(what.asset);
  });

  constructor() {
    effect((cleanUp) => {
      const [what, change] = [this.used(), this.change()];
      this.stop.abort();
      const { signal: stop } = (this.stop = new AbortController());
      untracked(() => this.undoable() || this.said.set(''));
      const timer = setTimeout(() => untracked(() => void this.look(what, change, stop)), REST);
      cleanUp(() => {
        clearTimeout(timer);
        this.stop.abort();
      });
    });
    inject(DestroyRef).onDestroy(() => {
      this.stop.abort();
      for (const url of this.urls) URL.revokeObjectURL(url);
    });
  }

  /** What there is to choose from; `asked`: a picture's hash or a colour that the address names. */
  async open(asked: {
    picture?: string | undefined;
    colour?: string | undefined;
    routine?: string | undefined;
  }): Promise<void> {
    try {
      this.items.set((await this.shelf.list()).items);
      const item = this.items().find((i) => i.hash !== undefined && i.hash === asked.picture);
      if (item) this.picture.set(item);
      const routine = this.routines.all().find((r) => r.id === asked.routine);
      if (routine) {
        this.kind.set('routine');
        this.routine.set(routine);
      }
      if (asked.colour && /^#[0-9a-f]{6}$/i.test(asked.colour)) {
        this.kind.set('colour');
        this.colour.set(asked.colour.toLowerCase());
      }
      const counts = new Map<string, number>();
      for await (const graphic of this.everywhere.graphics())
        for (const colour of new Set([...graphic.layers, graphic.backdrop].flatMap(coloursIn)))
          counts.set(colour, (counts.get(colour) ?? 0) + 1);
      const all = [...counts].map(([colour, graphics]) => ({ colour, graphics }));
      this.colours.set(all.sort((a, b) => b.graphics - a.graphics).slice(0, MOST_COLOURS));
    } catch (error) {
      this.problem.set(storageProblem(error).message);
    }
  }

  async takeInstead(item: ShelfItem): Promise<void> {
    this.otherPicture.set(item);
    this.placed.set(null);
    const found = await this.placing.of(item);
    if (this.otherPicture() !== item) return;
    if (!found.ok) return this.problem.set(found.problem.message);
    this.placed.set(found.value);
  }

  async bringInstead(files: FileList | null): Promise<void> {
    const [file] = [...(files ?? [])];
    if (!file) return;
    this.busy.set(true);
    const found = await this.placing.file(file);
    this.busy.set(false);
    if (!found.ok) return this.problem.set(found.problem.message);
    this.items.set((await this.shelf.list()).items);
    const item = this.items().find((i) => i.hash === found.value.asset);
    if (item) this.otherPicture.set(item);
    this.placed.set(found.value);
  }

  want(id: string, wanted: boolean): void {
    this.tried.update((all) => all?.map((t) => (t.graphic.id === id ? { ...t, wanted } : t)) ?? null);
  }

  /** Those that it is about: what uses it; of a routine, all of which anything comes. */
  private async concerned(what: Used | null, change: ChangeOfMany | null): Promise<readonly Use[] | null> {
    if (what) return this.everywhere.uses(what);
    if (this.kind() !== 'routine' || !change) return null;
    const uses: Use[] = [];
    for await (const graphic of this.everywhere.graphics())
      if ((await change.of(graphic)) !== graphic) uses.push({ graphic, places: 0 });
    return uses;
  }

  /** Each graphic that it is about, before; and after, once it is said what is done. */
  private async look(what: Used | null, change: ChangeOfMany | null, stop: AbortSignal): Promise<void> {
    this.problem.set('');
    try {
      const uses = await this.concerned(what, change);
      if (stop.aborted) return;
      if (!uses) return this.tried.set(null);
      const before = new Map(this.tried()?.map((t) => [t.graphic, t]));
      // A routine is for those that are chosen; what is used is for all that use it.
      this.tried.set(uses.map((u) => fresh(u, before.get(u.graphic), what !== null)));
      for (const { graphic } of uses) {
        const url = await this.paint(graphic, stop);
        if (stop.aborted) return;
        this.tell(graphic.id, { before: url });
      }
      if (!change) return;
      const next = new Map<string, Graphic>();
      for (const { graphic } of uses) {
        const changed = await this.everywhere.changed(graphic, change, stop);
        const url = await this.paint(changed, stop);
        if (stop.aborted) return;
        next.set(graphic.id, changed);
        this.tell(graphic.id, { after: url });
      }
      for (const { graphic } of uses) {
        const [was, is] = [await this.composing.judged(graphic), await this.composing.judged(next.get(graphic.id)!)];
        if (stop.aborted) return;
        this.tell(graphic.id, { fitBefore: was.fit, fitAfter: is.fit });
      }
    } catch (error) {
      if (!stop.aborted) this.problem.set(error instanceof Error ? error.message : String(error));
    }
  }

  /** From the beginning: what was being looked at is given up. */
  private lookAgain(what: Used | null, change: ChangeOfMany | null): void {
    this.stop.abort();
    this.stop = new AbortController();
    void this.look(what, change, this.stop.signal);
  }

  private async paint(graphic: Graphic, stop: AbortSignal): Promise<string> {
    const url = URL.createObjectURL(await this.composing.miniature({ graphic }, WIDE, stop));
    this.urls.add(url);
    return url;
  }

  private tell(id: string, more: Partial<Tried>): void {
    this.tried.update((all) => all?.map((t) => (t.graphic.id === id ? { ...t, ...more } : t)) ?? null);
  }

  /** Does it to all that are wanted, as one. */
  async replace(): Promise<void> {
    const change = this.change();
    const [what, by] = [this.used(), this.instead()];
    if (!change || this.busy()) return;
    this.busy.set(true);
    const replaced = await this.everywhere.change(
      this.wanted().map((t) => t.graphic.id),
      change,
    );
    if (replaced.problem) this.problem.set(replaced.problem.message);
    else {
      this.done = { replaced, step: change.step };
      this.undoable.set(true);
      const count = replaced.before.length;
      const stay = replaced.busy ? ` ${replaced.busy} at work in another tab stayed as before.` : '';
      this.said.set(`${count === 1 ? 'One graphic has' : `${count} graphics have`} it now.${stay}`);
      if (what && by && this.houseHas() && this.inHouse()) await this.replaceInHouse(what, by);
      this.lookAgain(what, what ? null : change);
    }
    this.busy.set(false);
  }

  private async replaceInHouse(what: Used, by: Instead): Promise<void> {
    const { colours, logos } = this.house.style();
    if (what.kind === 'colour' && by.kind === 'colour')
      await this.house.change({
        colours: colours.map((c) => (c.colour.toLowerCase() === what.colour ? { ...c, colour: by.colour } : c)),
      });
    if (what.kind === 'picture' && by.kind === 'picture')
      await this.house.change({ logos: logos.map((l) => (l === what.asset ? by.picture.asset : l)) });
  }

  /** All of them as they were, as one. */
  async undo(): Promise<void> {
    const done = this.done;
    if (!done || this.busy()) return;
    this.busy.set(true);
    const problem = await this.everywhere.undo(done.replaced, done.step);
    this.problem.set(problem?.message ?? '');
    if (!problem) {
      this.done = null;
      this.undoable.set(false);
      this.said.set('All of them are as they were.');
      this.lookAgain(this.used(), this.change());
    }
    this.busy.set(false);
  }
}

const fresh = ({ graphic, places }: Use, before: Tried | undefined, wanted: boolean): Tried => ({
  graphic,
  places,
  wanted: before?.wanted ?? wanted,
  before: before?.before ?? null,
  after: null,
  fitBefore: before?.fitBefore ?? '',
  fitAfter: '',
});

function stepOf(what: Used, by: Instead): string {
  if (what.kind === 'words' && by.kind === 'words') return `“${what.text}” everywhere: “${by.text}”`;
  if (what.kind === 'colour' && by.kind === 'colour') return `${what.colour} everywhere: ${by.colour}`;
  return by.kind === 'picture' ? `Picture everywhere: ${by.picture.name}` : 'Everywhere';
}
