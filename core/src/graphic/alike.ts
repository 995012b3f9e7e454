import same from 'fast-deep-equal';
import { firstRun, withRuns } from '../words/words';
import { isPicture, type Layer, type WordsLayer } from './graphic';
import { merged } from './merge';
import type { RunLook } from './runs';

/** What a layer has for itself: what it is, where it lies, what is in it. */
const OWN = new Set([
  ...['id', 'name', 'group', 'role', 'place', 'turn', 'sizing', 'form', 'words', 'paragraphs', 'fields'],
  ...['asset', 'natural', 'opaque', 'vector', 'crop', 'focus', 'flip', 'cutout'],
]);

/** A veil is what its form says. */
const isOwn = (key: string, layer: Layer) => OWN.has(key) && !(key === 'form' && layer.role === 'veil');

const runKeys = ['face', 'size', 'colour', 'tracking', 'case'] as const satisfies readonly (keyof RunLook)[];

/** How letters changed from one block to another, as far as all of it did; alignment too. */
function lettersAlike(from: WordsLayer, to: WordsLayer, other: WordsLayer): WordsLayer {
  const [old, now] = [firstRun(from), firstRun(to)];
  const look = Object.fromEntries(runKeys.filter((k) => !same(old[k], now[k])).map((k) => [k, now[k]])) as RunLook;
  const next = Object.keys(look).length ? withRuns(other, look) : other;
  const { align } = to.paragraphs[0]!;
  return align === from.paragraphs[0]!.align
    ? next
    : { ...next, paragraphs: next.paragraphs.map((p) => ({ ...p, align })) };
}

/** Whether two layers have the same settings. */
export const isAlike = (a: Layer, b: Layer): boolean => a.role === b.role || (isPicture(a) && isPicture(b));

/** What layers of different roles share: whether they are seen and can be changed, how much shows through, shadows. */
const SHARED = new Set(['visible', 'locked', 'opacity', 'shadow']);

/**
 * What changed from a layer (`from`, then `to`) done to another: every setting of how it looks that it has too, none of
 * what it is, holds or where it lies. The other itself where that is none.
 */
export function changedAlike(from: Layer, to: Layer, other: Layer): Layer {
  const kin = isAlike(from, other);
  const [before, after, own] = [from, to, other] as unknown as Readonly<Record<string, unknown>>[];
  const next: Record<string, unknown> = {};
  for (const key of Object.keys(to))
    if (key in other && before![key] !== after![key] && (kin ? !isOwn(key, other) : SHARED.has(key)))
      next[key] = merged(before![key], after![key], own![key]);
  const changed = Object.keys(next).length ? { ...other, ...next } : other;
  return from.role === 'words' && to.role === 'words' && changed.role === 'words'
    ? lettersAlike(from, to, changed)
    : changed;
}

/** The one colour of a layer: its words', what fills it, its line's, its veil's; null where it has none, or several. */
export function layerColour(layer: Layer): string | null {
  if (layer.role === 'veil') return layer.colour;
  if (layer.role === 'words') return firstRun(layer).colour;
  if (layer.role !== 'shape') return null;
  if (layer.form.kind === 'line') return layer.border?.colour ?? null;
  return layer.fill.kind === 'colour' ? layer.fill.colour : null;
}

/** A layer in another colour (see `layerColour`); itself where it has none. */
export function withColour(layer: Layer, colour: string): Layer {
  if (layerColour(layer) === null) return layer;
  if (layer.role === 'veil') return { ...layer, colour };
  if (layer.role === 'words') return withRuns(layer, { colour });
  if (layer.role !== 'shape') return layer;
  if (layer.form.kind === 'line') return { ...layer, border: layer.border && { ...layer.border, colour } };
  return { ...layer, fill: { kind: 'colour', colour } };
}
