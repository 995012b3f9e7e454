import { Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import {
  AS_IT_IS,
  adaptToSlot,
  asSource,
  changedByHand,
  changedOfLayout,
  composeRoles,
  derivedOf,
  followed,
  followedLayout,
  followingAgain,
  frameOf,
  layoutAgain,
  type ChangedByHand,
  type ComposeRole,
  type Derived,
  type Graphic,
} from '@bright-slot/core';
import { GraphicsRepository } from '../storage/graphics-repository';
import { Composing } from './composing.service';
import { Workbench } from './workbench';

/** What a graphic that follows another would follow to: derived anew from its source as that is now. */
interface Fresh {
  readonly of: string;
  readonly name: string;
  readonly derived: Derived;
}

/** A moment of rest before the source is looked at: what was opened is painted first. */
const REST = 800;

const asRoles = (roles: Readonly<Record<string, string>>) =>
  new Map(Object.entries(roles).filter((r): r is [string, ComposeRole] => composeRoles.some((c) => c === r[1])));

/** The graphic at work, where it follows another: whether that changed, and what was changed here by hand. */
@Injectable()
export class Following {
  private readonly workbench = inject(Workbench);
  private readonly composing = inject(Composing);
  private readonly repository = inject(GraphicsRepository);
  private readonly fresh = signal<Fresh | null>(null);
  /** Whether the source is there no more. */
  readonly gone = signal(false);
  /** Whether the news was put off, until it is opened again. */
  readonly later = signal(false);

  readonly follows = computed(() => this.workbench.graphic()?.follows ?? null);
  /** The layout it follows; null where it follows a graphic, or nothing. */
  readonly layout = computed(() => followedLayout(this.follows() ?? undefined));
  /** What was changed by hand since it was derived. */
  readonly byHand = computed<readonly ChangedByHand[]>(() => {
    const graphic = this.workbench.graphic();
    if (!graphic?.follows) return [];
    const { last } = graphic.follows;
    return this.layout() === null ? changedByHand(last, graphic) : changedOfLayout(last, graphic);
  });
  /** What its source has otherwise by now, by the layers' names; empty where nothing. */
  readonly news = computed<readonly string[]>(() => {
    const [follows, fresh] = [this.follows(), this.fresh()];
    if (!follows || fresh?.of !== follows.of) return [];
    const changed = changedByHand(follows.last, fresh.derived).map((c) => c.name);
    const ground = JSON.stringify(follows.last.backdrop) !== JSON.stringify(fresh.derived.backdrop);
    return [...new Set([...changed, ...(ground ? ['Backdrop'] : [])])];
  });

  constructor() {
    const which = computed(() => {
      const graphic = this.workbench.graphic();
      return graphic?.follows ? `${graphic.id} ${graphic.follows.of} ${graphic.follows.way}` : null;
    });
    effect((cleanUp) => {
      if (which() === null) return;
      const stop = new AbortController();
      const timer = setTimeout(() => void untracked(() => this.look(stop.signal)), REST);
      cleanUp(() => {
        clearTimeout(timer);
        stop.abort();
      });
    });
  }

  /** Derives it anew from its source as that is now. */
  private async look(stop: AbortSignal): Promise<void> {
    this.fresh.set(null);
    this.gone.set(false);
    this.later.set(false);
    const graphic = this.workbench.graphic();
    const follows = graphic?.follows;
    // A layout does not change.
    if (!graphic || !follows || followedLayout(follows) !== null) return;
    try {
      const source = await this.repository.graphic(follows.of);
      if (stop.aborted) return;
      if (!source) return this.gone.set(true);
      const composed = await this.derive(source, graphic, stop);
      if (composed && !stop.aborted) this.fresh.set({ of: source.id, name: source.name, derived: composed });
    } catch {
      // It goes on as it is; the next time it is opened its source is looked at again.
    }
  }

  private async derive(source: Graphic, mine: Graphic, stop: AbortSignal): Promise<Derived | null> {
    const { way, roles } = mine.follows!;
    if (way === AS_IT_IS) {
      const alone = asSource(source);
      return derivedOf(adaptToSlot(alone, frameOf(alone).id, frameOf(mine).slot));
    }
    const from = await this.composing.source(source, asRoles(roles));
    const all = await this.composing.compositions(from, frameOf(mine).slot, stop);
    const found = all.find((c) => c.way === way);
    return found ? derivedOf(found.graphic) : null;
  }

  /** Follows: what was changed by hand stays; one step. */
  follow(): void {
    const graphic = this.workbench.graphic();
    const [follows, fresh] = [graphic?.follows, this.fresh()];
    if (!graphic || !follows || !fresh) return;
    const kept = this.byHand();
    const derived = followed(follows.last, graphic, fresh.derived);
    this.workbench.edit({
      type: 'follow',
      derived,
      follows: { ...follows, name: fresh.name, last: fresh.derived },
      name: `Followed ${fresh.name}`,
    });
    const names = [...new Set(kept.map((k) => k.name))];
    if (names.length) this.workbench.say(`What you changed by hand stays: ${names.join(', ')}.`);
  }

  /** One layer as it was derived again. */
  again({ layer, name }: ChangedByHand): void {
    const graphic = this.workbench.graphic();
    if (!graphic?.follows) return;
    const { follows } = graphic;
    const again = this.layout() === null ? followingAgain : layoutAgain;
    const derived = again(follows.last, graphic, layer);
    this.workbench.edit({ type: 'follow', derived, follows, name: `${name} follows ${follows.name} again` });
  }

  /** It is a graphic of its own from now on. */
  stop(): void {
    const follows = this.follows();
    if (follows) this.workbench.edit({ type: 'stop-following', name: `No longer follows ${follows.name}` });
  }
}
