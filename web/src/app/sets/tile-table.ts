import { Injectable, computed, inject, signal } from '@angular/core';
import {
  cutText,
  contentLetters,
  enoughTiles,
  filePixels,
  layoutLook,
  limits,
  likestPhoto,
  movedRow,
  nameFrom,
  newTile,
  proposedPhotos,
  rowContents,
  rowsForPhotos,
  sameLook,
  tileAnew,
  topDensity,
  type Derived,
  type Edition,
  type Graphic,
  type PlacedPicture,
  type TileRow,
  type TileSet,
} from '@bright-slot/core';
import type { Sheet } from '@bright-slot/core/sets/sheet';
import { Composing } from '../document/composing.service';
import { PlacedPictures } from '../document/placed-pictures.service';
import { ShelfService, type ShelfItem } from '../media/shelf/shelf.service';
import { JobStopped } from '../pixels/pixel-client';
import { PixelsService } from '../pixels/pixels.service';
import { HouseStyleService } from '../storage/house-style.service';
import { TileSets } from '../storage/tile-sets.service';
import { breather, framesFirst } from '../ui/breather';
import { SetSession } from './set-session';

/** A tile as it is to be: a graphic that is there, or none yet, and what it is to say and show. */
interface Draft {
  readonly graphic: Graphic | null;
  readonly row: TileRow;
  /** Whether what was changed by hand goes. */
  readonly again?: boolean;
}

/** A set as it stood: what one step of undo comes back to. */
interface State {
  readonly set: TileSet;
  readonly graphics: readonly Graphic[];
  readonly step: string;
}

/** What is under way: how many of how many are done; `of` is 0 while that is not known. */
export interface Working {
  readonly what: string;
  readonly done: number;
  readonly of: number;
}

const MOST_STEPS = 60;

/** The table that a set's tiles are made from: every change makes all of them anew, alike, in one step. */
@Injectable()
export class TileTable {
  private readonly session = inject(SetSession);
  private readonly sets = inject(TileSets);
  private readonly pixels = inject(PixelsService);
  private readonly composing = inject(Composing);
  private readonly placing = inject(PlacedPictures);
  private readonly shelf = inject(ShelfService);
  private readonly house = inject(HouseStyleService);

  readonly working = signal<Working | null>(null);
  readonly problem = signal('');
  readonly told = signal('');
  readonly items = signal<readonly ShelfItem[]>([]);
  /** Photos, those that are large enough for a tile first. */
  readonly photos = computed(() => {
    const slot = this.session.set()?.slot;
    const photos = this.items().filter((i) => !i.transparent && !i.sheet && !i.vector);
    const needs = slot && filePixels(slot, topDensity(slot));
    const small = (i: ShelfItem) => (needs && (i.width < needs.width || i.height < needs.height) ? 1 : 0);
    return photos.sort((a, b) => small(a) - small(b));
  });
  private readonly past = signal<readonly State[]>([]);
  private readonly future = signal<readonly State[]>([]);
  readonly undoable = computed(() => this.past().at(-1)?.step ?? null);
  readonly redoable = computed(() => this.future().at(-1)?.step ?? null);
  /** Tiles whose photo was chosen by hand: no other is proposed for them. */
  private readonly chosen = new Set<string>();
  private stop = new AbortController();
  /** One change after another, and how many are not done yet. */
  private tail: Promise<unknown> = Promise.resolve();
  readonly waiting = signal(0);

  /** Whether the house style is another than the tiles are made of. */
  readonly styleNow = computed(() => {
    const set = this.session.set();
    const look = layoutLook(this.house.style());
    return set && !sameLook(look, set.look) ? look : null;
  });

  async readShelf(): Promise<void> {
    const { items, problem } = await this.shelf.list();
    this.items.set(items);
    if (problem) this.told.set(problem);
  }

  cancel(): void {
    this.stop.abort();
  }

  /** Fills a set that is new: so many tiles, a photo proposed for each. */
  begin(count: number): Promise<boolean> {
    return this.change('Made', async () => {
      const { photos } = proposedPhotos(
        Array.from({ length: count }, () => ({ word: '', photo: '' })),
        this.photos().map(named),
      );
      const drafts: Draft[] = [];
      for (const id of photos) drafts.push({ graphic: null, row: { word: '', line: '', photo: await this.photo(id) } });
      return { drafts };
    });
  }

  setWord(at: number, typed: string): Promise<boolean> {
    const word = cutText(typed.toWellFormed().replace(/\s+/g, ' ').trim(), contentLetters.title);
    return this.change(`Word: ${word}`, async (drafts) => {
      if (drafts[at]!.row.word === word) return null;
      const next = withRow(drafts, at, { word });
      return { drafts: word ? await this.photoFor(next, at) : next };
    });
  }

  setLine(at: number, typed: string): Promise<boolean> {
    const line = cutText(typed.toWellFormed().replace(/\s+/g, ' ').trim(), contentLetters.line);
    return this.change('Line', (drafts) =>
      drafts[at]!.row.line === line ? null : { drafts: withRow(drafts, at, { line }) },
    );
  }

  setPhoto(at: number, item: ShelfItem): Promise<boolean> {
    return this.change(`Photo: ${item.title}`, async (drafts) => {
      const photo = await this.photo(item.id);
      const { graphic } = drafts[at]!;
      if (graphic) this.chosen.add(graphic.id);
      return photo && { drafts: withRow(drafts, at, { photo }) };
    });
  }

  /** A photo whose name goes with a tile's new word; it changes places with a tile that had it without asking for it. */
  private async photoFor(drafts: readonly Draft[], at: number): Promise<readonly Draft[]> {
    const own = drafts[at]!;
    if (own.graphic && this.chosen.has(own.graphic.id)) return drafts;
    const id = likestPhoto(own.row.word, this.photos().map(named));
    const item = this.photos().find((p) => p.id === id);
    if (!item) return drafts;
    const other = drafts.findIndex((d, i) => i !== at && item.hash !== undefined && d.row.photo?.asset === item.hash);
    const held = other >= 0 && drafts[other]!;
    if (held && (this.chosen.has(held.graphic?.id ?? '') || likestPhoto(held.row.word, [named(item)]))) return drafts;
    const photo = await this.photo(item.id);
    if (!photo) return drafts;
    const next = withRow(drafts, at, { photo });
    return held ? withRow(next, other, { photo: own.row.photo }) : next;
  }

  addRow(): Promise<boolean> {
    return this.change('A tile more', async (drafts) => {
      const used = new Set(drafts.flatMap((d) => d.row.photo?.asset ?? []));
      const free = this.photos().find((p) => p.hash === undefined || !used.has(p.hash));
      return { drafts: [...drafts, { graphic: null, row: { word: '', line: '', photo: await this.photo(free?.id) } }] };
    });
  }

  removeRow(at: number): Promise<boolean> {
    const word = this.session.rows()[at]?.word;
    return this.change(word ? `“${word}” taken out` : 'A tile taken out', (drafts) => ({
      drafts: drafts.filter((_, i) => i !== at),
    }));
  }

  move(from: number, to: number): Promise<boolean> {
    return this.change('Order', (drafts) => {
      const moved = movedRow(drafts, from, to);
      return moved === drafts ? null : { drafts: moved };
    });
  }

  /** A tile as the layout has it, without what was changed by hand. */
  followAgain(at: number): Promise<boolean> {
    return this.change('Follows the layout again', (drafts) => ({
      drafts: drafts.map((d, i) => (i === at ? { ...d, again: true } : d)),
    }));
  }

  setLayout(layout: string, name: string): Promise<boolean> {
    return this.change(`Layout: ${name}`, (drafts) => ({ drafts, set: { layout } }));
  }

  takeStyle(): Promise<boolean> {
    const look = this.styleNow();
    return this.change('House style', (drafts) => (look ? { drafts, set: { look } } : null));
  }

  rename(typed: string): Promise<boolean> {
    const name = nameFrom(typed, limits.name, this.session.name());
    return this.change('Name', (drafts) => (name === this.session.name() ? null : { drafts, set: { name } }));
  }

  /** Rows of a sheet, from a row on: those that are there say what it says, those that are not are added. */
  bring({ rows, told }: Sheet, from?: number): Promise<boolean> {
    return this.change('Rows brought in', async (drafts) => {
      const at = from ?? firstOpen(drafts.map((d) => d.row.word));
      const enough = enoughTiles(Math.max(drafts.length, at + rows.length));
      if (!enough.ok) {
        this.problem.set(enough.problem.message);
        return null;
      }
      const beside = new Set(
        drafts.flatMap((d, i) => (i < at || i >= at + rows.length ? (d.row.photo?.asset ?? []) : [])),
      );
      const free = this.photos().filter((p) => p.hash === undefined || !beside.has(p.hash));
      const found = proposedPhotos(rows, (rows.some((r) => r.photo) ? this.photos() : free).map(named));
      const next = [...drafts];
      for (const [i, { word, line }] of rows.entries()) {
        this.working.set({ what: 'Fetching photos', done: i, of: rows.length });
        const old = next[at + i];
        const photo = (await this.photo(found.photos[i])) ?? old?.row.photo ?? null;
        next[at + i] = { graphic: old?.graphic ?? null, row: { word, line, photo } };
        if (this.stop.signal.aborted) return null;
      }
      this.told.set([...told, ...missingText(found.missing, found.doubled)].join(' '));
      return { drafts: next };
    });
  }

  /** Photos from this computer: to the rows of their names, else one after another from a row on; more rows where there are more. */
  bringPhotos(files: readonly File[], from?: number): Promise<boolean> {
    return this.change(files.length === 1 ? 'A photo' : `${files.length} photos`, async (drafts) => {
      const photos: PlacedPicture[] = [];
      const refused: string[] = [];
      for (const [i, file] of files.entries()) {
        this.working.set({ what: 'Bringing in photos', done: i, of: files.length });
        const brought = await this.placing.file(file, this.stop.signal);
        if (this.stop.signal.aborted) return null;
        if (brought.ok) photos.push(brought.value);
        else refused.push(brought.problem.message);
      }
      if (refused.length) this.problem.set(refused.join(' '));
      if (!photos.length) return null;
      const words = drafts.map((d) => d.row.word);
      const rows = rowsForPhotos(words, photos, from ?? 0);
      let next: readonly Draft[] = drafts;
      for (const [i, photo] of photos.entries()) {
        const at = rows[i] ?? null;
        if (at === null) next = [...next, { graphic: null, row: { word: '', line: '', photo } }];
        else {
          const { graphic } = next[at]!;
          if (graphic) this.chosen.add(graphic.id);
          next = withRow(next, at, { photo });
        }
      }
      const enough = enoughTiles(next.length);
      if (!enough.ok) {
        this.problem.set(enough.problem.message);
        return null;
      }
      await this.readShelf();
      return { drafts: next };
    });
  }

  /** A next edition: other photos in the tiles' order, what was there kept as it was. */
  nextEdition(photos: readonly (PlacedPicture | null)[], edition: Edition): Promise<boolean> {
    return this.change('New edition', (drafts) => ({
      drafts: drafts.map((d, i) => (photos[i] ? { ...d, row: { ...d.row, photo: photos[i] } } : d)),
      edition,
    }));
  }

  /** The set as it stands, to be kept as an edition. */
  private async photo(id: string | null | undefined): Promise<PlacedPicture | null> {
    const item = this.items().find((i) => i.id === id);
    if (!item) return null;
    const found = await this.placing.of(item);
    if (!found.ok) {
      this.problem.set(found.problem.message);
      return null;
    }
    // It is among the person's own from now on.
    const { asset } = found.value;
    if (item.hash === undefined)
      this.items.update((all) => all.map((i) => (i.id === item.id ? { ...i, hash: asset } : i)));
    return found.value;
  }

  /** Does a change after those before it: derives all tiles anew, and writes them and the set at once. */
  private change(
    step: string,
    ask: (drafts: readonly Draft[]) => Asked | null | Promise<Asked | null>,
  ): Promise<boolean> {
    return this.inTurn(() => this.changed(step, ask));
  }

  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    this.waiting.update((n) => n + 1);
    const done = this.tail.then(work).finally(() => this.waiting.update((n) => n - 1));
    this.tail = done.catch(() => undefined);
    return done;
  }

  /** Settled once every change that was asked for is made. */
  async rest(): Promise<void> {
    await this.tail;
  }

  private async changed(step: string, ask: (drafts: readonly Draft[]) => Asked | null | Promise<Asked | null>) {
    const before = this.session.set();
    if (!before) return false;
    this.stop = new AbortController();
    const { signal } = this.stop;
    this.problem.set('');
    this.told.set('');
    this.working.set({ what: 'Making the tiles', done: 0, of: 0 });
    try {
      const rows = this.session.rows();
      const asked = await ask(this.session.graphics().map((graphic, i) => ({ graphic, row: rows[i]! })));
      if (!asked || signal.aborted) return false;
      const set = { ...before, ...asked.set };
      const graphics = await this.derived(asked.drafts, set, signal);
      return await this.write({ ...set, graphics: graphics.map((g) => g.id) }, graphics, step, asked.edition ?? null);
    } catch (error) {
      if (!(error instanceof JobStopped) && !signal.aborted)
        this.problem.set(error instanceof Error ? error.message : String(error));
      return false;
    } finally {
      this.working.set(null);
    }
  }

  /** All tiles as the layout has them now, what was changed by hand kept; veils just strong enough. */
  private async derived(drafts: readonly Draft[], set: TileSet, stop: AbortSignal): Promise<Graphic[]> {
    const contents = drafts.map((d) => rowContents(d.row, set));
    const { derived, ...alike } = await this.pixels.tiles(set.layout, contents, set.look, set.slot, stop);
    const created = new Date().toISOString();
    const graphics: Graphic[] = [];
    const breathe = breather(framesFirst);
    for (const [i, { graphic, again }] of drafts.entries()) {
      const made = { contents: contents[i]!, derived: JSON.parse(derived[i]!) as Derived };
      let tile = graphic
        ? tileAnew(graphic, set, made, again)
        : newTile({ id: crypto.randomUUID(), created }, set, made);
      const veiled = tile.layers.some((l) => l.role === 'veil' && l.justEnough);
      if (veiled && tile.layers !== graphic?.layers)
        tile = (await this.composing.veiled({ graphic: tile }, true, stop)).graphic;
      await this.session.warm(tile);
      graphics.push(tile);
      const rest = breathe();
      if (!rest) continue;
      this.working.set({ what: 'Making the tiles', done: i + 1, of: drafts.length });
      await rest;
      stop.throwIfAborted();
    }
    this.session.alike.set(alike);
    return graphics;
  }

  private async write(
    set: TileSet,
    graphics: readonly Graphic[],
    step: string,
    edition: Edition | null,
    taken?: string,
  ): Promise<boolean> {
    const [before, were] = [this.session.set()!, this.session.graphics()];
    const problem = await this.put(set, graphics, step, edition, taken);
    if (problem) {
      this.problem.set(problem);
      return false;
    }
    this.past.update((p) => [...p, { set: before, graphics: were, step }].slice(-MOST_STEPS));
    this.future.set([]);
    return true;
  }

  /** Writes what is otherwise than it is, and shows it. Gives what went wrong. */
  private async put(
    set: TileSet,
    graphics: readonly Graphic[],
    step: string,
    edition: Edition | null = null,
    taken?: string,
  ): Promise<string> {
    const were = new Map(this.session.graphics().map((g) => [g.id, g]));
    const is = new Set(graphics.map((g) => g.id));
    const problem = await this.sets.write({
      sets: [set],
      graphics: graphics.filter((g) => were.get(g.id) !== g),
      step,
      removed: [...were.keys()].filter((id) => !is.has(id)),
      edition,
      ...(taken === undefined ? {} : { taken }),
    });
    if (problem) return problem.message;
    await this.session.take(set, graphics);
    if (edition || taken !== undefined) await this.session.readEditions();
    return '';
  }

  /** An edition put back as it was, what stands now kept as one instead. */
  putBack(edition: Edition, now: Edition): Promise<boolean> {
    return this.inTurn(async () =>
      edition.set ? this.write(edition.set, edition.graphics, `Put back: ${edition.name}`, now, edition.id) : false,
    );
  }

  undo(): Promise<void> {
    return this.walk(this.past, this.future);
  }

  redo(): Promise<void> {
    return this.walk(this.future, this.past);
  }

  private walk(from: typeof this.past, to: typeof this.past): Promise<void> {
    return this.inTurn(async () => {
      const state = from().at(-1);
      const set = this.session.set();
      if (!state || !set) return;
      const now = { set, graphics: this.session.graphics(), step: state.step };
      const problem = await this.put(state.set, state.graphics, state.step);
      this.problem.set(problem);
      if (problem) return;
      from.update((p) => p.slice(0, -1));
      to.update((p) => [...p, now]);
    });
  }
}

interface Asked {
  readonly drafts: readonly Draft[];
  readonly set?: Partial<TileSet>;
  readonly edition?: Edition;
}

const named = ({ id, title, file }: ShelfItem) => ({ id, name: title, ...(file === undefined ? {} : { file }) });

const withRow = (drafts: readonly Draft[], at: number, change: Partial<TileRow>): readonly Draft[] =>
  drafts.map((d, i) => (i === at ? { ...d, row: { ...d.row, ...change } } : d));

/** The first row that says nothing, and none after which says anything; else the end. */
function firstOpen(words: readonly string[]): number {
  return words.findLastIndex((w) => w.trim() !== '') + 1;
}

function missingText(missing: readonly string[], doubled: readonly string[]): string[] {
  const some = (list: readonly string[]) => {
    const named = [...new Set(list)].slice(0, 5).join(', ');
    return list.length > 5 ? `${named} and ${list.length - 5} more` : named;
  };
  return [
    ...(missing.length
      ? [
          `Not among your photos: ${some(missing)}. Others were proposed; drop the files here, and they go to their rows.`,
        ]
      : []),
    ...(doubled.length ? [`Several photos are called ${some(doubled)}: the first was taken.`] : []),
  ];
}
