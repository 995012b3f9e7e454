import type { Layer } from './graphic';
import type { Group } from './layer';

/** A layer in a group, or in none; the layer itself where it is in that already. */
function inGroup(layer: Layer, group: Group | undefined): Layer {
  if (layer.group === group || (layer.group?.id === group?.id && layer.group?.name === group?.name)) return layer;
  const next = { ...layer };
  delete next.group;
  return group ? { ...next, group } : next;
}

/** All that are in a group with one of those named, from back to front; those in none stay themselves. */
export function wholeGroups(layers: readonly Layer[], ids: readonly string[]): string[] {
  const groups = new Set(layers.filter((l) => l.group && ids.includes(l.id)).map((l) => l.group!.id));
  return layers.filter((l) => ids.includes(l.id) || (l.group && groups.has(l.group.id))).map((l) => l.id);
}

/** The group that layers are all of and make up whole; null where there is none. */
export function groupOf(layers: readonly Layer[], ids: readonly string[]): Group | null {
  const group = layers.find((l) => l.id === ids[0])?.group;
  if (!group) return null;
  const members = layers.filter((l) => l.group?.id === group.id);
  return members.length === ids.length && members.every((l) => ids.includes(l.id)) ? group : null;
}

/**
 * Layers as their groups allow: those of a group lie next to each other, and a group has two at least. What was moved
 * out from between its own is of the group no more. The list itself where nothing is to be done.
 */
export function settledGroups(layers: readonly Layer[]): Layer[] {
  const runs: { id: string; from: number; length: number }[] = [];
  for (const [i, { group }] of layers.entries()) {
    const last = runs.at(-1);
    if (group && last?.id === group.id && last.from + last.length === i) last.length++;
    else if (group) runs.push({ id: group.id, from: i, length: 1 });
  }
  const kept = new Set<(typeof runs)[number]>();
  for (const id of new Set(runs.map((r) => r.id))) {
    const longest = runs.filter((r) => r.id === id).reduce((a, b) => (b.length > a.length ? b : a));
    if (longest.length > 1) kept.add(longest);
  }
  if (kept.size === runs.length) return layers as Layer[];
  const within = (i: number) => runs.some((r) => kept.has(r) && i >= r.from && i < r.from + r.length);
  return layers.map((l, i) => (!l.group || within(i) ? l : inGroup(l, undefined)));
}

/** Layers made a group: brought together where the one in front lies, in the order they had. */
export function grouped(layers: readonly Layer[], ids: readonly string[], group: Group): Layer[] {
  const members = layers.filter((l) => ids.includes(l.id)).map((l) => inGroup(l, group));
  if (members.length < 2) return layers as Layer[];
  const front = layers.findLastIndex((l) => ids.includes(l.id));
  const behind = layers.slice(0, front).filter((l) => !ids.includes(l.id));
  return settledGroups([...behind, ...members, ...layers.slice(front + 1)]);
}

/** Layers let out of their groups, where they lie. */
export function ungrouped(layers: readonly Layer[], ids: readonly string[]): Layer[] {
  return settledGroups(layers.map((l) => (ids.includes(l.id) ? inGroup(l, undefined) : l)));
}

/**
 * Layers put among others at a place. Between two of one group they come to be of it, so that it is not parted; away
 * from their own they are of it no more.
 */
export function insertedAt(others: readonly Layer[], layers: readonly Layer[], at: number): Layer[] {
  const place = Math.min(Math.max(at, 0), others.length);
  const around = others[place - 1]?.group;
  const joins = around && around.id === others[place]?.group?.id ? around : null;
  const own = joins ? layers.map((l) => inGroup(l, joins)) : layers;
  return settledGroups([...others.slice(0, place), ...own, ...others.slice(place)]);
}

/** Layers moved so that the first of them is at a place, in the order they had (see `insertedAt`). */
export function reordered(layers: readonly Layer[], ids: readonly string[], to: number): Layer[] {
  const members = layers.filter((l) => ids.includes(l.id));
  const rest = layers.filter((l) => !ids.includes(l.id));
  const next = insertedAt(rest, members, to);
  return next.every((l, i) => l === layers[i]) ? (layers as Layer[]) : next;
}
