import { bad, good, type Result } from '../problem';
import { bottom, contains, enclosing, right, type Box, type Point, type Size } from '../geometry/box';
import { placesOf, type SlotSet } from '../slot/set';
import { figure, type Slot } from '../slot/slot';
import { stripOf } from '../slot/strip';
import { filling } from './cropping';
import { frameFor, type Frame } from './frame';
import { isPicture, newGraphic, type Graphic, type Layer, type PictureLayer } from './graphic';

/** Cells of one set may be wanted so much larger or smaller than each other by rounding alone. */
const ALIKE = 0.01;

/** A place of a set on its one canvas: which slot it is, and where it lies, canvas px. */
export interface SetFrame {
  readonly slot: Slot;
  readonly rect: Box;
}

/**
 * Where the places of a strip or a mosaic lie on one canvas, in the order of the page. Canvas px are px of the slots'
 * files at 1×: a set that is wanted larger than it is shown has its gaps larger too. A strip that skips its gaps has its
 * tiles edge to edge; one that runs on behind them, and a mosaic, have what lies in the gaps on the canvas. Fails with
 * `set` for a row (its pictures are one each), where a slot is missing, or where its figures do not go together.
 */
export function setFrames(set: SlotSet, slotOf: (id: string) => Slot | undefined): Result<readonly SetFrame[]> {
  if (set.kind === 'row')
    return bad('set', `“${set.name}” has a picture of its own in each place: start a graphic for its slot.`);
  const first = slotOf(set.kind === 'mosaic' ? set.cells[0]!.slot : set.slot);
  const places = placesOf(set, first ?? null);
  const slots = places.map((p) => slotOf(p.slot));
  if (!places.length || slots.some((s) => !s))
    return bad(
      'set',
      `“${set.name}” is not whole: one of its slots is no longer in the book, or its figures do not close.`,
    );
  const by = slots[0]!.width / places[0]!.box.width;
  const odd = slots.findIndex((s, i) => Math.abs(s!.width / places[i]!.box.width / by - 1) > ALIKE);
  if (odd >= 0)
    return bad(
      'set',
      `Place ${odd + 1} of “${set.name}” is wanted ${figure(slots[odd]!.width / places[odd]!.box.width)} times as large as it is shown, the first ${figure(by)} times. Give them one measure in the book.`,
    );
  const strip =
    set.kind === 'strip'
      ? stripOf({ count: set.count, tile: slots[0]!.width, gap: set.gap * by, total: null, behind: set.behind })
      : null;
  if (strip && !strip.ok) return strip;
  return good(
    places.map(({ box }, i): SetFrame => {
      const slot = slots[i]!;
      const x = strip?.ok ? strip.value.tiles[i]!.from : box.x * by;
      return { slot, rect: { x, y: box.y * by, width: slot.width, height: slot.height } };
    }),
  );
}

/** The canvas that holds all places of a set. */
export function setCanvas(frames: readonly SetFrame[]): Size {
  const { width, height } = enclosing(frames.map((f) => f.rect))!;
  return { width, height };
}

/** One empty canvas for all places of a strip or a mosaic, a frame for each. Fails as `setFrames` does. */
export function setGraphic(
  own: { id: string; name: string; created: string },
  set: SlotSet,
  slotOf: (id: string) => Slot | undefined,
): Result<Graphic> {
  const found = setFrames(set, slotOf);
  if (!found.ok) return found;
  const frames = found.value.map(({ rect, slot }, i) => frameFor(`place-${i + 1}`, rect, slot));
  return good({ ...newGraphic({ ...own, slot: found.value[0]!.slot }), canvas: setCanvas(found.value), frames });
}

/** A photo that fills a frame's place on the canvas and no more of it, cropped about its focus. */
export const fillingFrame = (layer: PictureLayer, rect: Box): PictureLayer => ({
  ...filling(layer, rect, layer.focus),
  turn: 0,
});

/**
 * Which frames of a set photos that come together are for, one each: those that no picture fills yet, in the page's
 * order. One that comes alone is for the frame it is let go on (`at`, canvas px), where the canvas has a photo already;
 * else it is one picture over all of them, and this is empty.
 */
export function framesForPhotos({ frames, layers }: Graphic, count: number, at: Point | null): Frame[] {
  if (frames.length < 2) return [];
  const photos = layers.filter((l) => isPicture(l) && l.role === 'photo' && l.visible);
  if (count > 1) {
    const fills = ({ rect }: Frame, l: Layer) =>
      isPicture(l) &&
      l.place.mode === 'free' &&
      l.place.x === rect.x &&
      l.place.y === rect.y &&
      l.place.width === rect.width;
    return frames.filter((f) => !photos.some((l) => fills(f, l))).slice(0, count);
  }
  const on =
    at && photos.length ? frames.find(({ rect }) => contains(rect, { ...at, width: 0, height: 0 })) : undefined;
  return on ? [on] : [];
}

/** What sides of a frame another lies beyond: at these its picture goes on, and what crosses them is cut in two. */
export function seamSides(
  rect: Box,
  frames: readonly { readonly rect: Box }[],
): ReadonlySet<'left' | 'right' | 'top' | 'bottom'> {
  const seams = new Set<'left' | 'right' | 'top' | 'bottom'>();
  for (const { rect: other } of frames) {
    if (other.x === rect.x && other.y === rect.y && other.width === rect.width && other.height === rect.height)
      continue;
    const across = other.y < bottom(rect) && bottom(other) > rect.y;
    const down = other.x < right(rect) && right(other) > rect.x;
    if (across && other.x >= right(rect) - 1e-6) seams.add('right');
    if (across && right(other) <= rect.x + 1e-6) seams.add('left');
    if (down && other.y >= bottom(rect) - 1e-6) seams.add('bottom');
    if (down && bottom(other) <= rect.y + 1e-6) seams.add('top');
  }
  return seams;
}
