import '../zod-setup';
import * as z from 'zod';
import { bad, good, type Result } from '../problem';
import { contains, enclosing, moved, type Box, type Point } from '../geometry/box';
import { clamp } from '../geometry/clamp';
import { middleOf } from '../geometry/turn';
import { limits } from '../limits';
import { cutText } from '../text';
import { extent } from '../geometry/lengths';
import { textOf } from '../words/words';
import type { Shaper } from '../words/shaper';
import { movedLayer } from './arrange';
import { GRAPHIC_VERSION, Layer, isPicture, type Graphic } from './graphic';
import { isNewer } from './history';
import { migrateGraphic } from './migrate';
import { scaledAbout } from './several';
import { layerBounds } from './shape-geometry';

/** The name under which layers lie on the clipboard. */
export const CLIP_TYPE = 'application/x-bright-slot-layers+json';
/** More than this many letters are not read from a clipboard. */
const MOST = 8_000_000;

const Head = z.object({
  kind: z.literal('layers'),
  version: z.number(),
  canvas: z.object({ width: extent, height: extent }),
  layers: z.array(z.unknown()).min(1).max(limits.layers),
});

/** Layers as they lie on the clipboard: a line of JSON. */
export function clipOf(graphic: Graphic, layers: readonly Layer[]): string {
  return JSON.stringify({ kind: 'layers', version: GRAPHIC_VERSION, canvas: graphic.canvas, layers });
}

/** The same for programs that take text: the words, a line each; the names where there are none. */
export function clipText(layers: readonly Layer[]): string {
  const words = layers.flatMap((l) => (l.role === 'words' ? textOf(l) : []));
  return (words.length ? words : layers.map((l) => l.name)).join('\n');
}

/** What was read from a clipboard. */
export interface Clip {
  readonly canvas: Graphic['canvas'];
  readonly layers: readonly Layer[];
  /** How many could not be read and are left out. */
  readonly passed: number;
}

const cannot = (message: string) => bad('clip', message);

/** Layers read from the clipboard, of this version or an earlier one; whatever is no layer of ours is left out. */
export function readClip(text: string): Result<Clip> {
  if (text.length > MOST) return cannot('What is on the clipboard is too large to be pasted.');
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return cannot('What is on the clipboard cannot be read. Copy it once more.');
  }
  const head = Head.safeParse(value);
  if (!head.success) return cannot('What is on the clipboard cannot be read. Copy it once more.');
  if (isNewer(value, GRAPHIC_VERSION))
    return cannot('That was copied with a later version of Bright Slot. Reload this tab, then paste again.');
  const { canvas } = head.data;
  const now = migrateGraphic({ version: head.data.version, canvas, layers: head.data.layers }) as { layers: unknown[] };
  const read = now.layers.map((l) => Layer.safeParse(l));
  const layers = read.flatMap((l) => (l.success ? [l.data] : []));
  if (!layers.length) return cannot('What is on the clipboard cannot be read. Copy it once more.');
  return good({ canvas, layers, passed: read.length - layers.length });
}

/** How far a copy is set off from what it is a copy of, canvas px. */
const OFF = 12;
/** What is too large for a canvas takes so much of it. */
const FITS = 0.9;

/** A copy's name: told from the one that is there already. */
function nameIn(layer: Layer, { layers }: Graphic): string {
  if (!layers.some((l) => l.name === layer.name)) return layer.name;
  return cutText(`${cutText(layer.name, limits.name - 6)}, copy`, limits.name);
}

/**
 * Copied layers as they come into a graphic: under new ids, which those that follow one another take over; as groups of
 * their own; what followed something that is not there stays where it was seen. `layers` is to be added, its ids from
 * `newId`.
 */
function asNew(clip: Pick<Clip, 'layers'>, graphic: Graphic, newId: () => string): Layer[] {
  const ids = new Map(clip.layers.map((l) => [l.id, newId()]));
  // A part of a group that is here stays of it where it comes to lie within; a whole one is another.
  const parts = new Set(graphic.layers.flatMap((l) => (l.group && !ids.has(l.id) ? [l.group.id] : [])));
  const groups = new Map(
    clip.layers.flatMap((l) => (l.group ? [[l.group.id, parts.has(l.group.id) ? l.group.id : newId()] as const] : [])),
  );
  const followed = (id: string) => ids.get(id) ?? (graphic.layers.some((l) => l.id === id) ? id : null);
  return clip.layers.map((layer): Layer => {
    const { group, ...rest } = layer;
    const copy = {
      ...rest,
      id: ids.get(layer.id)!,
      name: nameIn(layer, graphic),
      ...(group ? { group: { ...group, id: groups.get(group.id)! } } : {}),
    } as Layer;
    if (copy.role === 'veil') return { ...copy, words: copy.words.flatMap((id) => followed(id) ?? []) };
    if (copy.role !== 'shape' || copy.place.mode !== 'around') return copy;
    // A note that comes without its words is no longer around any: two notes around one line would hide each other.
    const words = ids.get(copy.place.words);
    return { ...copy, place: words ? { ...copy.place, words } : { mode: 'box', box: copy.place.last } };
  });
}

/** How far copies are moved to be seen: onto the canvas, and the `first` of them not onto what it is a copy of. */
function offsetFor(box: Box, first: Box, taken: readonly Box[], { width, height }: Graphic['canvas']): Point {
  const within = (from: number, length: number, room: number) =>
    length <= room ? clamp(from, 0, room - length) : (room - length) / 2;
  const canvas = { x: 0, y: 0, width, height };
  const near = middleOf(box);
  const seen = near.x > 0 && near.y > 0 && near.x < width && near.y < height;
  const to = seen ? box : { ...box, x: within(box.x, box.width, width), y: within(box.y, box.height, height) };
  const same = (a: Box, b: Box) =>
    Math.max(Math.abs(a.x - b.x), Math.abs(a.y - b.y), Math.abs(a.width - b.width), Math.abs(a.height - b.height)) < 1;
  const there = (by: Point) => taken.some((o) => same(o, moved(first, by)));
  // At the right or lower edge copies go the other way.
  const ways = [OFF, -OFF].flatMap((x) => [OFF, -OFF].map((y) => ({ x, y })));
  for (let n = 0; n < 20; n++)
    for (const way of n === 0 ? [{ x: 0, y: 0 }] : ways) {
      const at = moved(to, { x: way.x * n, y: way.y * n });
      const by = { x: at.x - box.x, y: at.y - box.y };
      if (!there(by) && (n === 0 || contains(canvas, at) || !contains(canvas, to))) return by;
    }
  return { x: to.x - box.x + OFF, y: to.y - box.y + OFF };
}

/**
 * Copied layers as they are to be added to a graphic: where they were, set off from what they are copies of; moved onto
 * the canvas where they would lie beside it, made to fit where they come from a larger one. A photo that covered its
 * canvas covers this one.
 */
export function pastedLayers(
  clip: Pick<Clip, 'canvas' | 'layers'>,
  graphic: Graphic,
  shaper: Shaper,
  newId: () => string,
): Layer[] {
  const { canvas } = graphic;
  const copies = asNew(clip, graphic, newId);
  const scene = { canvas, layers: [...graphic.layers, ...copies] };
  // A covering picture, a veil and a band lie as they are set to; a note goes where its words are.
  const lies = (l: Layer) =>
    l.role === 'veil' ||
    (l.role === 'shape' && (l.place.mode === 'band' || l.place.mode === 'around')) ||
    (isPicture(l) && l.place.mode !== 'free');
  const boxOf = (layers: readonly Layer[]) =>
    enclosing(layers.filter((l) => !lies(l)).map((l) => layerBounds(l, scene, shaper)));
  let placed = copies;
  const own = boxOf(copies);
  if (!own) return copies;
  const other = clip.canvas.width !== canvas.width || clip.canvas.height !== canvas.height;
  const by = Math.min((canvas.width * FITS) / own.width, (canvas.height * FITS) / own.height);
  if (other && by < 1) placed = copies.map((l) => (lies(l) ? l : scaledAbout(l, by, middleOf(own), canvas)));
  const box = boxOf(placed)!;
  const taken = graphic.layers.map((l) => layerBounds(l, graphic, shaper));
  const first = layerBounds(
    placed.find((l) => !lies(l))!,
    scene,
    shaper,
  );
  const off = offsetFor(box, first, taken, canvas);
  return off.x === 0 && off.y === 0 ? placed : placed.map((l) => (lies(l) ? l : movedLayer(l, off, canvas)));
}
