import { Injectable, computed, inject, signal } from '@angular/core';
import {
  heldName,
  isStaleDescription,
  nextFreeName,
  pictureState,
  proposedDescription,
  siteOf,
  withEnding,
  type Problem,
  type Result,
  type Site,
  type SiteRecord,
  type Slot,
} from '@bright-slot/core';
import { SiteClient } from '../connector/site-client';
import { JobStopped } from '../pixels/pixel-client';
import { LeavingFiles } from '../document/leaving-files.service';
import { GraphicsRepository } from '../storage/graphics-repository';
import { OwnPages } from '../storage/own-pages.service';
import { Sites } from '../storage/sites.service';
import type { Piece } from './all-files';
import { SiteSending } from './site-sending';

/** All files of a set put on their site in one step: each made and sent, then shown together in its place. */
@Injectable()
export class SendAll {
  private readonly leaving = inject(LeavingFiles);
  private readonly repository = inject(GraphicsRepository);
  private readonly client = inject(SiteClient);
  private readonly sites = inject(Sites);
  private readonly sending = inject(SiteSending);
  private readonly pages = inject(OwnPages);
  /** How many are there, while they are being sent. */
  readonly done = signal<number | null>(null);
  readonly said = signal('');
  readonly problem = signal('');
  /** Where visitors see them. */
  readonly visitor = signal('');
  /** What the stand-in answered; null where it did not. */
  private readonly site = signal<Site | null>(null);
  private stop = new AbortController();
  private current = '';

  /** Asks which slots the site has. */
  async ask(): Promise<void> {
    const site = await this.client.site();
    this.site.set(site.ok ? site.value : null);
  }

  private readonly has = computed(
    () => new Set((this.site()?.pages ?? []).flatMap((p) => p.slots.map((s) => s.slot.id))),
  );

  /** The person's own site that takes files, on which a slot stands. */
  private own(slot: Slot): SiteRecord | null {
    const site = siteOf(slot, this.sites.all() ?? []);
    return site && site.way.kind !== 'stand-in' && site.way.kind !== 'by-hand' ? site : null;
  }

  /** Whether all pieces have a place on a site that takes them. */
  can(pieces: readonly Piece[]): boolean {
    return this.canAt(pieces.map((p) => p.frame.slot));
  }

  /** Whether all of some slots are places on a site that takes files. */
  canAt(slots: readonly Slot[]): boolean {
    return slots.length > 0 && slots.every((slot) => this.own(slot) !== null || this.has().has(slot.id));
  }

  cancel(): void {
    this.stop.abort();
    this.sending.cancel(this.current);
  }

  /** Sends all; whether all of them are there. What was sent when one is refused stays there, and is not shown. */
  async send(pieces: readonly Piece[], names: readonly string[]): Promise<boolean> {
    if (this.done() !== null) return false;
    this.stop = new AbortController();
    this.said.set('');
    this.problem.set('');
    this.visitor.set('');
    const sent: { slot: Slot; id: string; own: SiteRecord | null; address: string }[] = [];
    try {
      for (const [i, piece] of pieces.entries()) {
        this.done.set(i);
        const there = await this.one(piece, names[i]!);
        if (this.stop.signal.aborted) throw new JobStopped();
        if (!there.ok) {
          this.problem.set(this.toldOf(there.problem, i, pieces.length));
          return false;
        }
        sent.push(there.value);
      }
      const problem = await this.together(sent);
      if (problem) {
        this.problem.set(problem.message);
        return false;
      }
      this.said.set(pieces.length === 1 ? 'It is on the site.' : `All ${pieces.length} are on the site.`);
      this.visitor.set(this.visitorOf(sent[0]!));
      return true;
    } catch (error) {
      if (error instanceof JobStopped || this.stop.signal.aborted)
        this.said.set('It was called off: the page shows what it showed before.');
      else this.problem.set(error instanceof Error ? error.message : String(error));
      return false;
    } finally {
      this.done.set(null);
    }
  }

  private toldOf({ message }: Problem, at: number, of: number): string {
    const before = at === 0 ? '' : ` ${at} of ${of} are there; the page shows what it showed before. Try again.`;
    return `${message}${before}`;
  }

  /** Makes a piece's file and sends it; nothing shows it yet where it goes to the stand-in. */
  private async one(
    { graphic, frame }: Piece,
    name: string,
  ): Promise<Result<{ slot: Slot; id: string; own: SiteRecord | null; address: string }>> {
    const { alt } = frame.export;
    const own = this.own(frame.slot);
    const { blob, format } = await this.leaving.of(graphic, frame, this.stop.signal);
    const described = alt.trim() && !isStaleDescription(frame.export, graphic.layers);
    const state = pictureState(graphic, frame);
    const what = {
      blob,
      name: withEnding(name, format),
      alt: described ? alt : proposedDescription(graphic.layers),
      colours: this.pages.of(frame.slot.id)?.colours ?? null,
    };
    const note = (given: string) =>
      this.repository.addExport({ name: given, graphicId: graphic.id, at: Date.now(), to: 'site' }).catch(() => null);
    if (own) {
      const taken = await this.sending.names(own);
      const id = (this.current = crypto.randomUUID());
      const free = taken.has(what.name) ? nextFreeName(what.name, taken) : what.name;
      const as = heldName(own, frame.slot.id) ?? free;
      const about = { id: graphic.id, name: graphic.name, state: state.slice(0, 60) };
      const done = await this.sending.send(own, { ...what, id, name: as, slot: frame.slot, graphic: about });
      if (!done.ok) return done;
      await note(done.value.name);
      return { ok: true, value: { slot: frame.slot, id, own, address: done.value.address } };
    }
    for (let as = what.name, tries = 0; ; tries++) {
      const about = { id: graphic.id, name: graphic.name, state };
      const done = await this.client.send({ ...what, name: as, slot: frame.slot.id, graphic: about }, this.stop.signal);
      // The site keeps one of each name.
      if (!done.ok && done.problem.next && tries < 40) as = done.problem.next;
      else if (!done.ok) return done;
      else {
        await note(done.value.name);
        return { ok: true, value: { slot: frame.slot, id: done.value.id, own: null, address: done.value.address } };
      }
    }
  }

  /** Shows what was sent: several of one slot side by side, in their order. */
  private async together(sent: readonly { slot: Slot; id: string; own: SiteRecord | null }[]): Promise<Problem | null> {
    const bySlot = new Map<string, { slot: Slot; own: SiteRecord | null; ids: string[] }>();
    for (const { slot, own, id } of sent) {
      const known = bySlot.get(slot.id) ?? { slot, own, ids: [] };
      known.ids.push(id);
      bySlot.set(slot.id, known);
    }
    for (const { slot, own, ids } of bySlot.values()) {
      if (own) {
        if (slot.rowShows > 1) await this.sending.standTogether(own, slot.id, ids);
        continue;
      }
      const shown = ids.length > 1 ? await this.client.showRow(slot.id, ids) : await this.client.show(slot.id, ids[0]!);
      if (!shown.ok) return shown.problem;
    }
    return null;
  }

  private visitorOf({ slot, own, address }: { slot: Slot; own: SiteRecord | null; address: string }): string {
    if (own) return address;
    const page = this.site()?.pages.find((p) => p.slots.some((s) => s.slot.id === slot.id));
    return page ? `${this.client.origin}${page.path}` : '';
  }
}
