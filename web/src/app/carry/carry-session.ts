import { DestroyRef, Injectable, computed, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import {
  carriedGraphic,
  cutText,
  frameOf,
  limits,
  measured,
  scoreOf,
  slotsToCarryTo,
  type ComposeRole,
  type Composition,
  type Graphic,
  type Measures,
  type Problem,
  type Slot,
  type Source,
} from '@bright-slot/core';
import { Composing } from '../document/composing.service';
import { MakeGraphic } from '../document/make-graphic';
import { Collections } from '../storage/collections.service';
import { JobStopped } from '../pixels/pixel-client';
import { GraphicsRepository } from '../storage/graphics-repository';
import { SlotBook } from '../storage/slot-book.service';
import { TypeService } from '../type/type.service';

/** One way to compose it for a slot, as far as it was looked at. */
export interface Try {
  readonly composition: Composition;
  readonly measures: Measures;
  readonly score: number;
  /** Its picture, an address of this page; null until it is painted. */
  readonly url: string | null;
}

/** A slot it is carried over to. */
export interface Target {
  readonly slot: Slot;
  /** Whether it is to be made. */
  readonly wanted: boolean;
  /** Best first, once all were looked at; null while none is known. */
  readonly tries: readonly Try[] | null;
  /** The way that was chosen by hand; null for the best. */
  readonly chosen: string | null;
  /** What the fit report says of the one shown; empty until it was asked. */
  readonly fit: string;
  readonly problem: string;
}

/** The one that is shown of a target: as chosen, or the best. */
export const shownOf = (t: Target): Try | null =>
  t.tries?.find((x) => x.composition.way === t.chosen) ?? t.tries?.[0] ?? null;

/** So many of the likely best are looked at as they are read. */
const LOOKED_AT = 2;
/** Pictures of tries are so wide at most, px. */
const WIDE = 640;

/** A graphic carried over to other slots: which, and how it is composed for each. */
@Injectable()
export class CarrySession {
  private readonly repository = inject(GraphicsRepository);
  private readonly composing = inject(Composing);
  private readonly book = inject(SlotBook);
  private readonly maker = inject(MakeGraphic);
  private readonly collections = inject(Collections);
  private readonly router = inject(Router);
  private readonly type = inject(TypeService);

  readonly source = signal<Source | null>(null);
  readonly picture = signal<string | null>(null);
  readonly targets = signal<readonly Target[]>([]);
  readonly problem = signal('');
  readonly making = signal(false);
  readonly focused = signal<string | null>(null);
  readonly target = computed(() => this.targets().find((t) => t.slot.id === this.focused()) ?? null);
  /** How many are to be made. */
  readonly wanted = computed(() => this.targets().filter((t) => t.wanted && shownOf(t)).length);
  /** Whether anything is still being looked at. */
  readonly busy = computed(() => this.targets().some((t) => t.tries === null && !t.problem) || this.refining() > 0);
  private readonly refining = signal(0);
  private stop = new AbortController();
  private readonly urls: string[] = [];

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.stop.abort();
      for (const url of this.urls) URL.revokeObjectURL(url);
    });
  }

  async open(id: string): Promise<void> {
    let graphic: Graphic | null = null;
    try {
      graphic = (await this.repository.graphic(id)) ?? null;
    } catch {
      // Told below.
    }
    if (!graphic) {
      this.problem.set('That graphic is no longer here. Go back to Graphics.');
      return;
    }
    const source = await this.composing.source(graphic);
    this.source.set(source);
    const stop = this.stop.signal;
    void this.composing
      .miniature({ graphic: source.graphic }, WIDE, stop)
      .then((blob) => this.picture.set(this.urlOf(blob)))
      .catch(() => undefined);
    const slots = slotsToCarryTo(frameOf(graphic).slot, this.book.slots() ?? []);
    this.targets.set(slots.map(blankTarget));
    this.focused.set(slots[0]?.id ?? null);
    for (const { id: slot } of slots) this.begin(slot);
  }

  /** What is being looked at, so that nothing is made before it is. */
  private readonly looking = new Map<string, Promise<void>>();

  private begin(id: string): void {
    this.looking.set(id, this.look(id));
  }

  private urlOf(blob: Blob): string {
    const url = URL.createObjectURL(blob);
    this.urls.push(url);
    return url;
  }

  private set(id: string, change: (t: Target) => Target): void {
    this.targets.update((all) => all.map((t) => (t.slot.id === id ? change(t) : t)));
  }

  private at(id: string): Target | undefined {
    return this.targets().find((t) => t.slot.id === id);
  }

  /** Composes it for a slot in every way, then looks at each as it is seen. */
  private async look(id: string): Promise<void> {
    const { signal: stop } = this.stop;
    const source = this.source();
    const target = this.at(id);
    if (!source || !target) return;
    try {
      const found = await this.composing.compositions(source, target.slot, stop);
      const tries = sorted(
        found.map((c): Try => ({ composition: c, measures: c.measures, score: scoreOf(c.measures), url: null })),
      );
      this.set(id, (t) => ({ ...t, tries, problem: '' }));
      this.refining.update((n) => n + 1);
      try {
        // Something is to be seen first; then the likely best are looked at as they are read.
        for (const { composition } of tries) await this.paint(id, composition, source, stop);
        for (const { composition } of tries.slice(0, LOOKED_AT)) await this.read(id, composition, source, stop);
        // What was not read is no better than what was.
        for (let best = this.unread(id); best; best = this.unread(id))
          await this.read(id, best.composition, source, stop);
        await this.settle(id, source, stop);
      } finally {
        this.refining.update((n) => n - 1);
      }
    } catch (error) {
      if (error instanceof JobStopped || stop.aborted) return;
      const message = error instanceof Error ? error.message : String(error);
      this.set(id, (t) => ({ ...t, problem: message, tries: t.tries ?? [] }));
    }
  }

  /** The one that is shown, where it was not read yet. */
  private unread(id: string): Try | null {
    const target = this.at(id);
    const shown = target && shownOf(target);
    return shown?.measures.read === null ? shown : null;
  }

  private replace(id: string, way: string, source: Source, change: (x: Try) => Try): void {
    if (this.source() !== source) return;
    this.set(id, (t) => ({
      ...t,
      tries: sorted((t.tries ?? []).map((x) => (x.composition.way === way ? change(x) : x))),
    }));
  }

  private async paint(id: string, c: Composition, source: Source, stop: AbortSignal): Promise<void> {
    const width = Math.min(WIDE, Math.round(c.graphic.canvas.width));
    const url = this.urlOf(await this.composing.miniature(c, width, stop));
    this.replace(id, c.way, source, (x) => ({ ...x, composition: c, url }));
  }

  private async measure(id: string, c: Composition, source: Source, ratio: number | null): Promise<void> {
    const shaper = await this.type.ensure(c.graphic);
    const measures = measured(c, source, frameOf(c.graphic).slot, shaper, ratio ?? 1);
    this.replace(id, c.way, source, (x) => ({ ...x, composition: c, measures, score: scoreOf(measures) }));
  }

  /** Looks at how a way is read. */
  private async read(id: string, c: Composition, source: Source, stop: AbortSignal): Promise<void> {
    await this.measure(id, c, source, await this.composing.readAsItIs(c, stop));
  }

  /** The one that is shown of a slot, its veil just strong enough, and what the fit report says of it. */
  private async settle(id: string, source: Source, stop: AbortSignal): Promise<void> {
    const target = this.at(id);
    const shown = target && shownOf(target);
    if (!shown) return;
    const { way } = shown.composition;
    const name = (c: Composition) => this.asGraphic(c, target.slot);
    let composition = await this.composing.veiled(shown.composition, false, stop);
    let { fit, ratio } = await this.composing.judged(name(composition));
    // What is enough at one pixel a px may be a little too faint at the file's own.
    if (ratio !== null && ratio < 1) {
      composition = await this.composing.veiled(composition, true, stop);
      ({ fit, ratio } = await this.composing.judged(name(composition)));
    }
    await this.paint(id, composition, source, stop);
    this.set(id, (t) => (shownOf(t)?.composition.way === way ? { ...t, fit } : t));
  }

  private asGraphic(c: Composition, slot: Slot): Graphic {
    const source = this.source()!;
    return carriedGraphic(c, source, {
      id: crypto.randomUUID(),
      name: `${cutText(source.graphic.name, limits.name - slot.name.length - 2, true)}, ${slot.name}`,
      created: new Date().toISOString(),
    });
  }

  want(id: string, on: boolean): void {
    this.set(id, (t) => ({ ...t, wanted: on }));
  }

  choose(id: string, way: string): void {
    this.focused.set(id);
    this.set(id, (t) => ({ ...t, chosen: way, fit: '', wanted: true }));
    const source = this.source();
    if (source)
      this.looking.set(
        id,
        this.settle(id, source, this.stop.signal).catch(() => undefined),
      );
  }

  /** One more slot. */
  add(slot: Slot): void {
    this.focused.set(slot.id);
    if (this.at(slot.id)) return this.want(slot.id, true);
    this.targets.update((all) => [...all, blankTarget(slot)]);
    this.begin(slot.id);
  }

  /** A layer is for something else: all is composed anew. */
  setRole(layer: string, role: ComposeRole): void {
    const source = this.source();
    if (!source) return;
    this.stop.abort();
    this.stop = new AbortController();
    this.source.set({ ...source, roles: new Map([...source.roles, [layer, role]]) });
    this.targets.update((all) => all.map((t) => ({ ...t, tries: null, fit: '', problem: '' })));
    for (const t of this.targets()) this.begin(t.slot.id);
  }

  /** What is made, and what it is made from, as a collection: judged, saved and sent together. Null where it cannot be. */
  private async gather(made: readonly string[]): Promise<string | null> {
    const { id, name } = this.source()!.graphic;
    const collection = await this.collections.make(name, [id, ...made]);
    return typeof collection === 'string' ? collection : null;
  }

  /** Whether what is made is kept together, as one collection with what it is made from. */
  readonly together = signal(false);

  /** Makes all that are wanted, each a graphic of its own that follows this one. */
  async make(): Promise<Problem | null> {
    const source = this.source();
    if (!source || this.making()) return null;
    this.making.set(true);
    const made: string[] = [];
    try {
      for (const { slot, wanted } of this.targets()) {
        if (wanted) await this.looking.get(slot.id);
        const target = this.at(slot.id);
        const shown = target?.wanted ? shownOf(target) : null;
        if (!target || !shown) continue;
        const kept = await this.maker.keep(
          this.asGraphic(shown.composition, target.slot),
          `Carried over from ${source.graphic.name}`,
        );
        if (!kept.ok) return kept.problem;
        made.push(kept.value.id);
        // Made once, it is not made again by a second press.
        this.want(target.slot.id, false);
      }
      const within = this.together() && made.length > 1 ? await this.gather(made) : null;
      await this.router.navigate(['/graphics'], {
        queryParams: within === null ? { from: source.graphic.id } : { within },
      });
      return null;
    } finally {
      this.making.set(false);
    }
  }
}

const blankTarget = (slot: Slot): Target => ({ slot, wanted: true, tries: null, chosen: null, fit: '', problem: '' });

const sorted = (tries: readonly Try[]): Try[] => [...tries].sort((a, b) => b.score - a.score);
