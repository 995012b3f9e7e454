import { intersection, type Box } from '../geometry/box';
import { clamp } from '../geometry/clamp';
import { typeSize } from '../compose/roles';
import { leastType } from '../compose/slot-room';
import type { LayoutContents, LayoutLook } from '../graphic/contents';
import type { Derived } from '../graphic/follows';
import { isPicture, type PictureLayer, type WordsLayer } from '../graphic/graphic';
import { pictureGeometry, pictureScale } from '../graphic/picture-geometry';
import { laidOut, layoutNamed, wanting } from '../layouts/laid-out';
import type { Layout } from '../layouts/layouts';
import { places, saysNothing } from '../layouts/stage';
import { subjectBox } from '../report/subject-hidden';
import { topDensity, type Slot } from '../slot/slot';
import { layoutOf, wordsBounds } from '../words/layout';
import type { Shaper } from '../words/shaper';

/** How tiles of one layout came to be alike. */
export interface Alike {
  /** Each as it is derived, in the order given. */
  readonly derived: readonly Derived[];
  /** The titles' type size, canvas px: the least and the most, which are the same but in layouts that give each its own;
   * and which tile's decided it. Null where none has a title. */
  readonly size: { readonly least: number; readonly most: number; readonly decides: number | null } | null;
  /** Tiles whose title takes more lines than the least of any. */
  readonly longer: readonly number[];
  /** Tiles whose word has no room, though the slot has room for words. */
  readonly without: readonly number[];
  /** How high subjects stand, in shares of the tile: the least and the most, and the tile that is farthest from the others. */
  readonly subjects: { readonly least: number; readonly most: number; readonly odd: number } | null;
}

/** No more is taken from a common size so that a long title needs one line less. Common practice, no source. */
const SHRINK = 0.7;
/** Subjects are brought to one height by enlarging no more than so much: a photo is to stay the same photo. */
const ENLARGE = 1.6;
/** Rounds in which sizes are brought to the least of them. */
const ROUNDS = 4;
/** Sizes are the same within so much, px. */
const SAME = 0.11;

/**
 * Several contents in one layout, as alike as they can be: titles of one size, the longest deciding; subjects of one
 * height, as far as enlarging their photos allows. A tile that the layout cannot hold (it wants a photo and there is
 * none) has its words on a plain ground.
 */
export function tilesAlike(
  layout: string,
  tiles: readonly LayoutContents[],
  look: LayoutLook,
  slot: Slot,
  shaper: Shaper,
): Alike {
  const work = makingAlike(layout, tiles, look, slot, shaper);
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
  }
}

/** `tilesAlike` a piece at a time, so that it can be stopped between: after each tile it gives how many there were. */
export function* makingAlike(
  layout: string,
  tiles: readonly LayoutContents[],
  look: LayoutLook,
  slot: Slot,
  shaper: Shaper,
): Generator<number, Alike, void> {
  const one = (contents: LayoutContents, most?: number): Derived =>
    laid(layout, contents, look, slot, shaper, most) ?? {
      layers: [],
      backdrop: { kind: 'colour', colour: look.paper },
    };
  const sizeOf = (d: Derived) => {
    const title = titleOf(d);
    return title && typeSize(title, shaper);
  };
  const linesOf = (d: Derived) => {
    const title = titleOf(d);
    return title && layoutOf(title, shaper).lines;
  };
  let made = 0;
  const derived: Derived[] = [];
  for (const tile of tiles) {
    derived.push(one(tile));
    yield ++made;
  }
  const first = derived.map(sizeOf);
  let px = Math.min(...numbers(first));
  const decides = longest(derived, first, px, shaper);
  // What the layout could not hold, and is laid otherwise, says nothing of how long the others' words are.
  const own = first.filter((_, i) => layoutHas(layout, tiles[i]!));
  const differ = numbers(own).some((size) => size - px > SAME);
  // In some layouts what is beside the words has its place by their size: a few rounds, until none is larger.
  for (let round = 0; round < ROUNDS; round++) {
    const large = derived.flatMap((d, i) => ((sizeOf(d) ?? px) - px > SAME ? [i] : []));
    if (!large.length) break;
    for (const i of large) {
      derived[i] = one(tiles[i]!, px);
      yield ++made;
    }
    px = Math.min(...numbers(derived.map(sizeOf)));
  }
  // A title that takes a line more than the others stands otherwise than they do; a little smaller, none may.
  const longer = () => {
    const lines = derived.map(linesOf);
    const fewest = Math.min(...numbers(lines));
    return { fewest, at: lines.flatMap((n, i) => (n !== null && n > fewest ? [i] : [])) };
  };
  const { fewest, at } = longer();
  const floor = Math.max(leastType(slot), px * SHRINK);
  for (let size = px; at.length > 0 && size > floor;) {
    size = Math.max(floor, size * 0.94);
    const tried = at.map((i) => one(tiles[i]!, size));
    yield made;
    if (tried.some((d) => linesOf(d) !== fewest)) continue;
    // On one line they may be smaller than they were asked to be.
    const now = Math.min(size, ...numbers(tried.map(sizeOf)));
    if (now < floor) break;
    px = now;
    for (const [i, tile] of tiles.entries()) {
      derived[i] = one(tile, px);
      yield ++made;
    }
    break;
  }
  const sizes = numbers(derived.map(sizeOf));
  const settled = subjectsAlike(derived, tiles, slot, shaper);
  return {
    derived: settled.derived,
    size: sizes.length
      ? { least: Math.min(...sizes), most: Math.max(...sizes), decides: differ ? decides : (at[0] ?? null) }
      : null,
    longer: longer().at,
    without: saysNothing(slot) ? [] : derived.flatMap((d, i) => (titleOf(d) ? [] : [i])),
    subjects: settled.subjects,
  };
}

/** Whether a layout has all it needs of a tile. */
function layoutHas(layout: string, tile: LayoutContents): boolean {
  const own = layoutNamed(layout);
  return own !== undefined && wanting(own, tile).length === 0;
}

/** Of the tiles with the smallest title, the one whose title is the widest. */
function longest(
  derived: readonly Derived[],
  sizes: readonly (number | null)[],
  px: number,
  shaper: Shaper,
): number | null {
  let best: { at: number; width: number } | null = null;
  for (const [at, size] of sizes.entries()) {
    const title = size === px ? titleOf(derived[at]!) : null;
    const width = title ? wordsBounds(title, layoutOf(title, shaper)).width : 0;
    if (title && width > (best?.width ?? 0)) best = { at, width };
  }
  return best?.at ?? null;
}

function laid(
  layout: string,
  contents: LayoutContents,
  look: LayoutLook,
  slot: Slot,
  shaper: Shaper,
  most?: number,
): Derived | null {
  const own = layoutNamed(layout);
  const lay = (by: Layout | undefined) => (by ? laidOut(by, contents, look, slot, shaper, most) : null);
  const made = lay(own);
  if (made && (titleOf(made) || saysNothing(slot))) return made;
  // Its words where they have room: over the photo, or alone until there is one.
  const quiet = contents.photo ? lay(layoutNamed('quiet')) : null;
  if (quiet && titleOf(quiet)) return quiet;
  const large = lay(layoutNamed('large'));
  return large && titleOf(large) ? large : (made ?? quiet ?? large);
}

const numbers = (list: readonly (number | null)[]): number[] => list.flatMap((n) => (n === null ? [] : [n]));
function titleOf({ layers }: Derived): WordsLayer | null {
  const title = layers.find((l) => l.id === places.title);
  return title?.role === 'words' ? title : null;
}

function photoOf({ layers }: Derived): PictureLayer | null {
  const photo = layers.find((l) => l.id === places.photo);
  return photo && isPicture(photo) ? photo : null;
}

/** How high a photo's subject stands in its tile, in shares of the tile's height; null where it has none. */
function heightOf(derived: Derived, { photo }: LayoutContents, slot: Slot): number | null {
  const layer = photoOf(derived);
  if (!layer || !photo?.subject) return null;
  return subjectBox(layer, photo.subject, slot).height / slot.height;
}

interface Settled {
  readonly derived: readonly Derived[];
  readonly subjects: Alike['subjects'];
}

/** Photos enlarged so that their subjects are as high as each other, as far as that goes. */
function subjectsAlike(
  derived: readonly Derived[],
  tiles: readonly LayoutContents[],
  slot: Slot,
  shaper: Shaper,
): Settled {
  const heights = derived.map((d, i) => heightOf(d, tiles[i]!, slot));
  const known = numbers(heights);
  if (known.length < 2) return { derived, subjects: null };
  const most = derived.map((d, i) => mostTimes(d, tiles[i]!, slot, shaper));
  /** Heights that come of aiming at one: those below it are enlarged as far as they may be. */
  const aimed = (aim: number) => heights.map((h, i) => (h === null ? null : Math.max(h, Math.min(aim, h * most[i]!))));
  const spread = (list: readonly number[]) => Math.max(...list) / Math.min(...list);
  const aims = [...new Set(known)].sort((a, b) => a - b);
  // The least spread; where that is the same, the least enlarged.
  const best = aims.reduce((a, b) => (spread(numbers(aimed(b))) < spread(numbers(aimed(a))) - 0.02 ? b : a));
  const settled = derived.map((d, i) => {
    const h = heights[i];
    const times = h ? clamp(best / h, 1, most[i]!) : 1;
    return times > 1.01 ? enlarged(d, tiles[i]!, times, slot) : d;
  });
  const now = settled.map((d, i) => heightOf(d, tiles[i]!, slot));
  const middle = numbers(now).sort((a, b) => a - b)[Math.floor(known.length / 2)]!;
  const far = (h: number | null) => (h === null ? -1 : Math.abs(Math.log(h / middle)));
  const odd = now.reduce<number>((worst, h, i) => (far(h) > far(now[worst]!) ? i : worst), 0);
  return {
    derived: settled,
    subjects: { least: Math.min(...numbers(now)), most: Math.max(...numbers(now)), odd },
  };
}

/** How many times a tile's photo may be enlarged: sharp still, its subject whole and no more under the words than before. */
function mostTimes(derived: Derived, tile: LayoutContents, slot: Slot, shaper: Shaper): number {
  const layer = photoOf(derived);
  const subject = tile.photo?.subject;
  if (!layer || !subject || layer.turn !== 0) return 1;
  const sharp = layer.vector ? ENLARGE : 1 / (pictureScale(layer, slot) * topDensity(slot));
  const title = titleOf(derived);
  const words = title && wordsBounds(title, layoutOf(title, shaper));
  const under = (box: Box) => {
    const shared = words && intersection(box, words);
    return shared ? (shared.width * shared.height) / (box.width * box.height) : 0;
  };
  const before = subjectBox(layer, subject, slot);
  const window = seenIn(layer, slot);
  const whole = (box: Box) => {
    const shared = intersection(box, window);
    return shared ? (shared.width * shared.height) / (box.width * box.height) : 0;
  };
  for (let times = Math.min(ENLARGE, sharp); times > 1.01; times -= 0.05) {
    const now = photoOf(enlarged(derived, tile, times, slot))!;
    const box = subjectBox(now, subject, slot);
    if (whole(box) >= whole(before) - 0.01 && under(box) <= under(before) + 0.02) return times;
  }
  return 1;
}

/** Where a photo is to be seen, canvas px. */
function seenIn(layer: PictureLayer, canvas: { width: number; height: number }): Box {
  const all = { x: 0, y: 0, width: canvas.width, height: canvas.height };
  return intersection(pictureGeometry(layer, canvas).shown, all) ?? all;
}

/** A tile with its photo so many times as large, its subject's middle held where it is as far as that goes. */
function enlarged(derived: Derived, { photo }: LayoutContents, times: number, slot: Slot): Derived {
  const layers = derived.layers.map((layer) => {
    if (layer.id !== places.photo || !isPicture(layer) || !photo?.subject) return layer;
    const { subject } = photo;
    const middle = { x: subject.x + subject.width / 2, y: subject.y + subject.height / 2 };
    if (layer.crop) return { ...layer, crop: tighter(layer.crop, layer.natural, middle, times) };
    if (layer.place.mode !== 'cover') return layer;
    const box = subjectBox(layer, subject, slot);
    const at = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
    const { image } = pictureGeometry(layer, slot);
    const [width, height] = [image.width * times, image.height * times];
    // The point of the picture that is to come to the middle of the canvas.
    const focus = {
      x: clamp(middle.x + (slot.width / 2 - at.x) / width, 0, 1),
      y: clamp(middle.y + (slot.height / 2 - at.y) / height, 0, 1),
    };
    return { ...layer, place: { mode: 'cover' as const, focus, zoom: layer.place.zoom * times } };
  });
  return { ...derived, layers };
}

/** A crop so many times as tight, its own px, a point (shares of the picture) held where it is in it. */
function tighter(
  crop: Box,
  natural: { width: number; height: number },
  point: { x: number; y: number },
  times: number,
): Box {
  const [width, height] = [crop.width / times, crop.height / times];
  const at = { x: point.x * natural.width, y: point.y * natural.height };
  return {
    x: clamp(at.x - (at.x - crop.x) / times, 0, Math.max(0, natural.width - width)),
    y: clamp(at.y - (at.y - crop.y) / times, 0, Math.max(0, natural.height - height)),
    width,
    height,
  };
}

/** How alike tiles are, in a sentence or two; `words` as the tiles have them. */
export function alikeText(
  { size, longer, without, subjects }: Omit<Alike, 'derived'>,
  words: readonly string[],
): string {
  const called = (i: number) => (words[i]?.trim() ? `“${words[i].trim()}”` : `tile ${i + 1}`);
  const told: string[] = [];
  if (size) {
    const px = (n: number) => String(Math.round(n * 10) / 10);
    const by = size.decides === null ? '' : ` (the longest, ${called(size.decides)}, decides)`;
    told.push(
      size.most - size.least <= SAME
        ? `words ${px(size.least)} px in all${by}`
        : `words from ${px(size.least)} to ${px(size.most)} px: this layout gives each its own size, others have them alike`,
    );
  }
  if (without.length)
    told.push(
      `${without.slice(0, 3).map(called).join(', ')} ${without.length === 1 ? 'has' : 'have'} no room for words: shorten them`,
    );
  if (longer.length) {
    const some = longer.slice(0, 3).map(called).join(', ');
    const more = longer.length > 3 ? ` and ${longer.length - 3} more` : '';
    told.push(
      `${some}${more} ${longer.length === 1 ? 'takes' : 'take'} a line more than the others: shorter words would stand alike`,
    );
  }
  if (subjects) {
    const apart = 1 - subjects.least / subjects.most;
    const percent = Math.round(apart * 100);
    told.push(
      apart <= 0.15
        ? `subjects within ${percent} % of one height`
        : `subjects differ by ${percent} % in height, ${called(subjects.odd)} most: another photo, or one taken from nearer or farther, would stand alike`,
    );
  }
  return told.length ? `${told.join('; ')}.` : '';
}
