import { DestroyRef, Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import {
  alikeText,
  checkGraphic,
  clamp,
  fitWord,
  fitWordOfAll,
  foundInSeveral,
  isPicture,
  pictureState,
  reportAtRest,
  rowOf,
  tileChangesText,
  type Alike,
  type Edition,
  type Frame,
  type Graphic,
  type PlacedPicture,
  type TileRow,
  type TileSet,
  type Told,
} from '@bright-slot/core';
import { LastWordsService } from '../document/last-words.service';
import { ReportContexts } from '../document/report-context.service';
import { whenSaved } from '../document/when-saved';
import type { Piece } from '../output/all-files';
import { LeavingFiles } from '../document/leaving-files.service';
import { JobStopped } from '../pixels/pixel-client';
import { PixelsService } from '../pixels/pixels.service';
import { GraphicsRepository } from '../storage/graphics-repository';
import { storageProblem } from '../storage/storage-problem';
import { TileSets } from '../storage/tile-sets.service';
import { breather, framesFirst } from '../ui/breather';

/** One of what a set is made of, and what is known of it. */
export interface Member extends Piece {
  /** Changes with what it shows. */
  readonly state: string;
}

/** What was found out of a member: its picture, how it fits, what its file weighs. */
interface Found {
  readonly url?: string;
  readonly fit?: string;
  readonly findings?: readonly Told[];
  readonly bytes?: number;
}

/** What is found waits so long for more, ms. */
const SOON = 50;
/** How large a member is painted, px across. */
const PAINTED = { least: 96, most: 720 };

/** A set as it is: tiles of one layout, or one canvas with a frame for each place; its pictures, its fit, its editions. */
@Injectable()
export class SetSession {
  private readonly sets = inject(TileSets);
  private readonly repository = inject(GraphicsRepository);
  private readonly pixels = inject(PixelsService);
  private readonly contexts = inject(ReportContexts);
  private readonly leaving = inject(LeavingFiles);
  private readonly store = inject(Store);
  private readonly lastWords = inject(LastWordsService);

  readonly loaded = signal(false);
  readonly problem = signal('');
  /** The set of tiles; null for one canvas with several frames. */
  readonly set = signal<TileSet | null>(null);
  readonly graphics = signal<readonly Graphic[]>([]);
  readonly editions = signal<readonly Edition[]>([]);
  /** How alike its tiles came out when they were made last. */
  readonly alike = signal<Omit<Alike, 'derived'> | null>(null);
  private readonly subjects = signal<ReadonlyMap<string, PlacedPicture['subject']>>(new Map());
  private readonly found = signal<ReadonlyMap<string, Found>>(new Map());
  private readonly urls = new Set<string>();
  private stop = new AbortController();

  /** What editions are kept under. */
  readonly id = computed(() => this.set()?.id ?? this.graphics()[0]?.id ?? '');
  readonly name = computed(() => this.set()?.name ?? this.graphics()[0]?.name ?? '');
  readonly members = computed<readonly Member[]>(() => {
    const graphics = this.graphics();
    const of = (graphic: Graphic, frame: Frame): Member => ({
      graphic,
      frame,
      name: graphic.name,
      state: this.stateOf(graphic, frame),
    });
    if (this.set()) return graphics.map((g) => of(g, g.frames[0]!));
    return graphics.flatMap((g) => g.frames.map((f) => of(g, f)));
  });
  readonly rows = computed<readonly TileRow[]>(() => (this.set() ? this.graphics().map((g) => this.rowOf(g)) : []));
  readonly byHand = computed(() => this.graphics().map((g) => (this.set() ? this.byHandOf(g) : '')));
  readonly alikeText = computed(() => {
    const alike = this.alike();
    return alike
      ? alikeText(
          alike,
          this.rows().map((r) => r.word),
        )
      : '';
  });
  /** How all of it fits, in a word or two; empty while it is looked at. */
  readonly fit = computed(() => fitWordOfAll(this.members().map((m) => this.of(m).fit)));

  /** What is to be fixed or looked at, once all are judged. */
  readonly shared = computed(() => {
    if (!this.fit()) return [];
    return foundInSeveral(this.members().map((m) => this.of(m).findings ?? []));
  });

  /** What was found out of graphics once; they do not change. */
  private readonly known = {
    states: new WeakMap<Graphic, Map<string, string>>(),
    rows: new WeakMap<Graphic, TileRow>(),
    byHand: new WeakMap<Graphic, string>(),
  };

  private stateOf(graphic: Graphic, frame: Frame): string {
    const states = once(this.known.states, graphic, () => new Map<string, string>());
    const found = states.get(frame.id) ?? `${graphic.id} ${frame.id} ${pictureState(graphic, frame)}`;
    states.set(frame.id, found);
    return found;
  }

  private rowOf(graphic: Graphic): TileRow {
    return once(
      this.known.rows,
      graphic,
      () => rowOf(graphic, this.subjects()) ?? { word: graphic.name, line: '', photo: null },
    );
  }

  private byHandOf(graphic: Graphic): string {
    return once(this.known.byHand, graphic, () => tileChangesText(graphic));
  }

  /** Finds out of a graphic what is to be shown of it, before it is: of a hundred not all at once. */
  async warm(graphic: Graphic): Promise<void> {
    await this.readSubjects([graphic]);
    // What is sound is not looked through again where all are written at once.
    checkGraphic(graphic);
    this.stateOf(graphic, graphic.frames[0]!);
    this.rowOf(graphic);
    this.byHandOf(graphic);
  }

  constructor() {
    effect(() => {
      const members = this.members();
      // What they are judged by is known a moment later than they are.
      const judged = this.contexts.ready();
      this.stop.abort();
      const { signal: stop } = (this.stop = new AbortController());
      untracked(() => void this.look(members, judged, stop));
    });
    inject(DestroyRef).onDestroy(() => {
      this.stop.abort();
      for (const url of this.urls) URL.revokeObjectURL(url);
    });
  }

  /** A set of tiles by its id; else the graphic of that id, whose frames are a set. */
  async open(id: string): Promise<void> {
    try {
      await whenSaved(this.store);
      await this.lastWords.written;
      const set = await this.sets.set(id);
      const graphics = [];
      for (const of of set?.graphics ?? [id]) {
        const graphic = await this.repository.graphic(of);
        if (graphic) graphics.push(graphic);
      }
      if (!set && !graphics.length) {
        this.problem.set('There is no such set in this browser. It may have been deleted, or made in another browser.');
        return this.loaded.set(true);
      }
      await this.take(set, graphics);
      this.editions.set(await this.sets.editions(id));
    } catch (error) {
      this.problem.set(storageProblem(error).message);
    }
    this.loaded.set(true);
  }

  /** The set as it is from now on. */
  async take(set: TileSet | null, graphics: readonly Graphic[]): Promise<void> {
    await this.readSubjects(graphics);
    this.graphics.set(graphics);
    this.set.set(set);
  }

  private async readSubjects(graphics: readonly Graphic[]): Promise<void> {
    const known = this.subjects();
    const unknown = new Set(graphics.flatMap((g) => g.layers.filter(isPicture).map((l) => l.asset)));
    for (const asset of unknown) if (known.has(asset)) unknown.delete(asset);
    if (!unknown.size) return;
    const next = new Map(known);
    for (const asset of unknown) next.set(asset, (await this.repository.asset(asset))?.subject ?? null);
    this.subjects.set(next);
  }

  async readEditions(): Promise<void> {
    this.editions.set(await this.sets.editions(this.id()).catch(() => []));
  }

  of({ state }: Member): Found {
    return this.found().get(state) ?? {};
  }

  /** With what is about to be shown. */
  private knownOf({ state }: Member): Found {
    return { ...this.found().get(state), ...this.coming.get(state) };
  }

  /** What is found is shown with the next frame: a hundred rows are not gone through for each. */
  private tell(member: Member, more: Found): void {
    this.coming.set(member.state, { ...this.coming.get(member.state), ...more });
    if (this.coming.size > 1) return;
    setTimeout(() => {
      const found = new Map(this.found());
      for (const [state, own] of this.coming) found.set(state, { ...found.get(state), ...own });
      this.coming.clear();
      this.found.set(found);
    }, SOON);
  }
  private readonly coming = new Map<string, Found>();

  /** Paints what is not painted, then judges and weighs: what is seen comes first. */
  private async look(members: readonly Member[], judged: boolean, stop: AbortSignal): Promise<void> {
    try {
      for (const m of members) {
        if (this.knownOf(m).url) continue;
        const wide = Math.round(clamp(m.frame.rect.width, PAINTED.least, PAINTED.most));
        const blob = await this.pixels.miniature(m.graphic, m.frame, wide, stop);
        if (stop.aborted) return;
        const url = URL.createObjectURL(blob);
        this.urls.add(url);
        this.tell(m, { url });
      }
      if (!judged) return;
      for (const m of members) {
        if (this.knownOf(m).fit) continue;
        const context = await this.contexts.whole(m.graphic, m.frame);
        if (stop.aborted) return;
        const weighed = context.weights?.chosen.bytes;
        const report = await reportAtRest(context, breather(framesFirst));
        if (stop.aborted) return;
        const findings = report.findings.map(({ id, group, title }) => ({ id, group, title }));
        this.tell(m, { fit: fitWord(report), findings, ...(weighed !== undefined && { bytes: weighed }) });
      }
      for (const m of members) {
        if (this.knownOf(m).bytes !== undefined) continue;
        const { blob } = await this.leaving.of(m.graphic, m.frame, stop, this.pixels.files);
        if (stop.aborted) return;
        this.tell(m, { bytes: blob.size });
      }
    } catch (error) {
      if (error instanceof JobStopped || stop.aborted) return;
      this.problem.set(error instanceof Error ? error.message : String(error));
    }
  }
}

/** What was found out of a thing once. */
function once<K extends WeakKey, V>(known: WeakMap<K, V>, of: K, find: () => V): V {
  const before = known.get(of);
  if (before !== undefined) return before;
  const found = find();
  known.set(of, found);
  return found;
}
