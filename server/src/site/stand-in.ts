import { existsSync, readdirSync } from 'node:fs';
import {
  bad,
  good,
  renderPage,
  setWith,
  type RenderedPage,
  type SentPicture,
  type Site,
  type SiteRecord,
  type Slot,
  type SlotSet,
} from '@bright-slot/core';
import type { Connector } from './connector';
import { receive } from './receive';
import type { SiteStore, StoredPicture } from './store';

/** The site that the stand-in plays: its record, its slots, and the folder with what its pages showed at first. */
export interface PlayedSite {
  readonly record: SiteRecord;
  readonly slots: readonly Slot[];
  readonly sets: readonly SlotSet[];
  readonly first: string;
}

/** The stand-in for a person's site: a connector to pages that it renders itself. */
export interface StandIn extends Connector {
  /** The paths of its pages. */
  readonly paths: readonly string[];
  /** A page as a visitor sees it. */
  page(path: string): RenderedPage;
}

/** The stand-in over a memory of its own; `origin` is where its pages are served. */
export function standIn({ record, slots, sets, first }: PlayedSite, store: SiteStore, origin: string): StandIn {
  const byId = new Map(slots.map((s) => [s.id, s]));
  const sent = (p: StoredPicture): SentPicture => ({ ...p, address: `${origin}/pictures/${p.id}/${p.name}` });
  // What the pages showed before anything was sent there.
  const shownFirst = new Map(
    (existsSync(first) ? readdirSync(first) : []).map((file) => [file.replace(/\.\w+$/, ''), file]),
  );
  /** The house's own picture, in a slot that nothing was ever sent to. */
  const firstOf = (id: string) => (store.untouched(id) ? (shownFirst.get(id) ?? null) : null);
  const slotsOn = (ids: readonly string[]) => ids.flatMap((id) => byId.get(id) ?? []);
  /** The set that the slots of a page stand in. */
  const setOf = (ids: readonly string[]) => (ids[0] === undefined ? null : setWith(ids[0], sets, (id) => byId.has(id)));
  const cannotShow = (slot: string, id: string) => {
    if (!byId.has(slot)) return noSlot;
    const picture = store.pictures().find((p) => p.id === id);
    if (!picture) return bad('no-picture', 'The site no longer has that picture.');
    if (picture.slot !== slot)
      return bad('other-slot', 'That picture was sent for another place. Send it for this one.');
    return null;
  };
  const noSlot = bad('no-slot', 'The site has no such slot.');

  return {
    paths: record.pages.map((p) => p.path),
    page(path) {
      const { kind, slots: ids } = record.pages.find((p) => p.path === path)!;
      return renderPage(
        kind,
        {
          slots: slotsOn(ids).flatMap((slot) => {
            const row = store.row(slot.id).slice(0, Math.max(1, slot.rowShows));
            if (row.length)
              return row.map((p) => ({ slot, picture: { url: `/pictures/${p.id}/${p.name}`, alt: p.alt } }));
            const file = firstOf(slot.id);
            return [{ slot, picture: file ? { url: `/first/${file}`, alt: '' } : null }];
          }),
          set: setOf(ids),
          // The page wears what was chosen for what it shows, else what it was told to.
          colours:
            slotsOn(ids)
              .map((slot) => store.shown(slot.id)?.colours)
              .find((c) => c !== undefined) ?? store.settings(path),
        },
        record.look,
      );
    },
    list: () =>
      Promise.resolve({
        name: record.name,
        host: record.address,
        look: record.look,
        pages: record.pages.map(({ path, kind, slots: ids }) => ({
          path,
          kind,
          address: `${origin}${path}`,
          title: renderPage(kind, { slots: [] }, record.look).title,
          set: setOf(ids),
          slots: slotsOn(ids).map((slot) => {
            const now = store.shown(slot.id);
            const file = firstOf(slot.id);
            return {
              slot,
              now: now && sent(now),
              row: store.row(slot.id).map(sent),
              first: file && `${origin}/first/${file}`,
              earlier: store.earlier(slot.id).map(sent),
            };
          }),
        })),
        names: store.pictures().map((p) => p.name),
      } satisfies Site),
    async put(bytes, facts) {
      const answer = await receive(store, (id) => byId.has(id), bytes, facts);
      return answer.ok ? good(sent(answer.value)) : answer;
    },
    async show(slot, id) {
      const problem = cannotShow(slot, id);
      if (problem) return problem;
      await store.show(slot, id);
      return good(null);
    },
    async showRow(slot, ids) {
      if ((byId.get(slot)?.rowShows ?? 1) < 2) return bad('no-row', 'That place shows one picture. Send one.');
      for (const id of ids) {
        const problem = cannotShow(slot, id);
        if (problem) return problem;
      }
      await store.showRow(slot, ids);
      return good(null);
    },
    async withdraw(slot) {
      if (!byId.has(slot)) return noSlot;
      await store.show(slot, null);
      return good(null);
    },
  };
}
