import same from 'fast-deep-equal';
import type { Backdrop, Graphic, Layer } from './graphic';
import { merged } from './merge';

/** What a graphic is derived to: what follows its source of it. */
export type Derived = Pick<Graphic, 'layers' | 'backdrop'>;

/** Derived content of a graphic. */
export const derivedOf = ({ layers, backdrop }: Derived): Derived => ({ layers, backdrop });

/**
 * What a graphic is after its source was derived anew: `last` is what was derived before, `mine` what was made of that,
 * `fresh` what is derived now. Layer by layer, setting by setting: what was changed by hand stays, the rest follows. A
 * layer taken away by hand stays away; one that is derived no more goes, unless something of it was changed.
 */
export function followed(last: Derived, mine: Derived, fresh: Derived): Derived {
  const by = (list: readonly Layer[]) => new Map(list.map((l) => [l.id, l]));
  const [base, own, next] = [by(last.layers), by(mine.layers), by(fresh.layers)];
  const kept = mine.layers.flatMap((layer) => {
    const [was, is] = [base.get(layer.id), next.get(layer.id)];
    if (is) return [was ? (merged(was, layer, is) as Layer) : layer];
    return was && untouched(was, layer) ? [] : [layer];
  });
  const added = fresh.layers.filter((l) => !own.has(l.id) && !base.has(l.id));
  const all = by([...kept, ...added]);
  const backdrop = merged(last.backdrop, mine.backdrop, fresh.backdrop) as Backdrop;
  // The order is a setting too: mine where I changed it.
  const common = (list: readonly Layer[]) => list.flatMap((l) => (own.has(l.id) && base.has(l.id) ? [l.id] : []));
  if (!same(common(mine.layers), common(last.layers))) return { layers: [...kept, ...added], backdrop };
  const follows = fresh.layers.flatMap((l) => all.get(l.id) ?? []);
  return { layers: besideTheirs(follows, kept, mine.layers), backdrop };
}

/** What is derived with what is not, each in front of what it stood in front of. */
function besideTheirs(derived: readonly Layer[], kept: readonly Layer[], mine: readonly Layer[]): Layer[] {
  const out = [...derived];
  for (const layer of kept) {
    if (out.some((l) => l.id === layer.id)) continue;
    const at = mine.findIndex((l) => l.id === layer.id);
    const before = mine.slice(0, at).findLast((l) => out.some((o) => o.id === l.id));
    out.splice(before ? out.findIndex((o) => o.id === before.id) + 1 : 0, 0, layer);
  }
  return out;
}

/** Which layers were changed by hand since they were derived: changed, added or taken away. */
export interface ChangedByHand {
  readonly layer: string;
  readonly name: string;
  readonly how: 'changed' | 'added' | 'removed';
}

/** A layer without what follows from the graphic it is in: nobody changed that by hand. */
function byHand(layer: Layer): Layer {
  if (layer.role === 'veil' && layer.justEnough) return { ...layer, strength: 0 };
  if (layer.role === 'words' && !layer.fields.frozen) return { ...layer, fields: { ...layer.fields, values: {} } };
  return layer;
}
const untouched = (was: Layer, is: Layer) => was === is || same(byHand(was), byHand(is));

/** What was changed by hand of what was derived. */
export function changedByHand(last: Derived, mine: Derived): ChangedByHand[] {
  const own = new Map(mine.layers.map((l) => [l.id, l]));
  const base = new Map(last.layers.map((l) => [l.id, l]));
  const at = ({ id, name }: Layer, how: ChangedByHand['how']): ChangedByHand => ({ layer: id, name, how });
  return [
    ...mine.layers.flatMap((l) => {
      const was = base.get(l.id);
      return !was ? [at(l, 'added')] : untouched(was, l) ? [] : [at(l, 'changed')];
    }),
    ...last.layers.flatMap((l) => (own.has(l.id) ? [] : [at(l, 'removed')])),
  ];
}

/** A layer as it was derived again: back where it was taken away, as it was where it was changed, gone where it was added. */
export function followingAgain(last: Derived, mine: Derived, layer: string): Derived {
  const was = last.layers.find((l) => l.id === layer);
  if (!was) return { ...mine, layers: mine.layers.filter((l) => l.id !== layer) };
  if (mine.layers.some((l) => l.id === layer))
    return { ...mine, layers: mine.layers.map((l) => (l.id === layer ? was : l)) };
  const before = last.layers.slice(0, last.layers.indexOf(was)).findLast((l) => mine.layers.some((m) => m.id === l.id));
  const at = before ? mine.layers.findIndex((l) => l.id === before.id) + 1 : 0;
  return { ...mine, layers: [...mine.layers.slice(0, at), was, ...mine.layers.slice(at)] };
}
