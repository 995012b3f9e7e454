import { containBox, coverBox, coverIntent } from '../geometry/fit';
import { intersection, type Box, type Point, type Size } from '../geometry/box';
import { middleOf, turnedPoint, boxAbout } from '../geometry/turn';
import { busyIn, type BusyMap } from '../pixels/saliency';
import type { PictureLayer } from './graphic';
import { cropWindow, windowZoom, withImageAt } from './cropping';
import { coverFrame, freePlace, mirrored, mirroredPoint, pictureGeometry, stretchOf } from './picture-geometry';

/** What is known of a picture that may take another's place. Size in its own px; focus in shares of it. */
export interface Replacement {
  readonly asset: string;
  readonly name: string;
  readonly natural: Size;
  readonly opaque: boolean;
  readonly vector: boolean;
  readonly focus: Point;
}

/** A picture box of the least size that fills `window`, `zoom` times, its focus brought to `at`. */
function about(natural: Size, window: Box, zoom: number, focus: Point, at: Point): Box {
  const { width, height } = coverBox(natural, window, undefined, zoom);
  return { x: at.x - focus.x * width, y: at.y - focus.y * height, width, height };
}

/**
 * Another picture in a layer's place: the same frame, zoom, look, fade, shadow and turn. Its focus comes to where
 * the old one's stood, as far as filling the frame allows. A logo shown whole keeps to the old one's box, in
 * proportion; a mask made for the old picture goes.
 */
export function swapped(layer: PictureLayer, by: Replacement, canvas: Size): PictureLayer {
  const { asset, name, natural, opaque, vector, focus } = by;
  const window = cropWindow(layer, canvas);
  const old = pictureGeometry(layer, canvas);
  const seen = mirroredPoint(layer.focus, layer.flip);
  const hold = (n: number, low: number, length: number) => Math.min(Math.max(n, low), low + length);
  const at = {
    x: hold(old.image.x + seen.x * old.image.width, window.x, window.width),
    y: hold(old.image.y + seen.y * old.image.height, window.y, window.height),
  };
  const next: PictureLayer = {
    ...layer,
    asset,
    name,
    natural,
    opaque,
    vector,
    focus,
    crop: null,
    cutout: layer.cutout?.kind === 'subject' ? null : layer.cutout,
  };
  if (layer.place.mode === 'cover') {
    const image = about(natural, window, layer.place.zoom, mirroredPoint(focus, layer.flip), at);
    const place = { mode: 'cover' as const, focus: layer.place.focus, zoom: layer.place.zoom };
    return withImageAt({ ...next, place }, image, canvas);
  }
  if (layer.place.mode === 'contain' && !layer.crop) return { ...next, place: layer.place };
  if (layer.role === 'logo' && !layer.crop) {
    const box = containBox(natural, window);
    return { ...next, place: { mode: 'free', x: box.x, y: box.y, width: box.width } };
  }
  const zoom = windowZoom(layer, canvas);
  const image = about(natural, window, zoom, mirroredPoint(focus, layer.flip), at);
  // A stand-in crop of the frame's own ratio, which the image is then put under.
  const least = coverBox(natural, window);
  const scale = natural.width / least.width;
  const crop = { x: 0, y: 0, width: window.width * scale, height: window.height * scale };
  const framed: PictureLayer = {
    ...next,
    crop,
    place: { mode: 'free', x: window.x, y: window.y, width: window.width },
  };
  return withImageAt(framed, image, canvas);
}

/** A picture whose focus was moved (shares of the whole, as it came): a covering one follows it. */
export function withFocus(layer: PictureLayer, focus: Point): PictureLayer {
  const { place } = layer;
  return { ...layer, focus, ...(place.mode === 'cover' ? { place: { ...place, focus } } : {}) };
}

/** How a picture would do in a slot. */
export interface Suit {
  /** The part of it that would show, in its own px. */
  readonly part: Box;
  /** How much of its subject would be seen, 0…1. */
  readonly kept: number;
  /** How much of the frame its subject would take, 0…1. */
  readonly fills: number;
  /** Canvas px times density for one of its own px; above 1 it would be enlarged. */
  readonly scale: number;
  /** How busy it is where words stand, 0…1; null where none do. */
  readonly busy: number | null;
}

/** From here on words over a picture are hard to read whatever their colour. Tuned on the demo's photographs. */
export const BUSY = 0.055;

/**
 * How a picture covers a frame by its focus. `subject` in shares of the picture; `pixels` is what the frame needs;
 * `words` are the boxes that words take, in shares of the frame.
 */
export function suitOf(
  picture: { natural: Size; focus: Point; subject: Box; busy?: BusyMap },
  pixels: Size,
  words: readonly Box[] = [],
): Suit {
  const { natural, focus, subject, busy } = picture;
  const image = coverBox(natural, { x: 0, y: 0, ...pixels }, focus);
  const scale = image.width / natural.width;
  const part = {
    x: (0 - image.x) / scale,
    y: (0 - image.y) / scale,
    width: pixels.width / scale,
    height: pixels.height / scale,
  };
  const own = {
    x: subject.x * natural.width,
    y: subject.y * natural.height,
    width: subject.width * natural.width,
    height: subject.height * natural.height,
  };
  const seen = intersection(own, part);
  const area = seen ? seen.width * seen.height : 0;
  const under = words.map((w) => ({
    x: (part.x + w.x * part.width) / natural.width,
    y: (part.y + w.y * part.height) / natural.height,
    width: (w.width * part.width) / natural.width,
    height: (w.height * part.height) / natural.height,
  }));
  return {
    part,
    scale,
    kept: area / (own.width * own.height),
    fills: area / (part.width * part.height),
    busy: busy && under.length ? Math.max(...under.map((w) => busyIn(busy, w))) : null,
  };
}

/** A subject that takes so much of a frame's area is large enough in it: common practice, no source. */
const LARGE = 0.6;

/**
 * Pictures with how they suit, the best first: enough pixels, then the subject whole and large in the frame, calm where
 * words stand; as they came otherwise.
 */
export function bySuit<T extends { readonly suit: Suit }>(list: readonly T[]): T[] {
  const rank = ({ suit }: T) =>
    (suit.scale <= 1.001 ? 20 : 0) +
    8 * suit.kept ** 2 +
    6 * Math.sqrt(Math.min(1, suit.fills / LARGE)) -
    (suit.busy === null ? 0 : 4 * Math.min(1, suit.busy / BUSY)) -
    Math.max(0, suit.scale - 1);
  return [...list].sort((a, b) => rank(b) - rank(a));
}

/**
 * A part of a picture (its own px, as it came) as a layer of its own, lying where that part lies now.
 * The layer has no id of its own yet.
 */
export function partAsLayer(layer: PictureLayer, part: Box, canvas: Size): PictureLayer {
  const { image, pivot } = pictureGeometry(layer, canvas);
  const across = image.width / layer.natural.width;
  const down = image.height / layer.natural.height;
  const seen = mirrored(part, layer.natural, layer.flip);
  const box = {
    x: image.x + seen.x * across,
    y: image.y + seen.y * down,
    width: seen.width * across,
    height: seen.height * down,
  };
  const placed = boxAbout(turnedPoint(middleOf(box), layer.turn, pivot), box);
  return {
    ...layer,
    crop: part,
    place: freePlace(placed, stretchOf(layer.place)),
  };
}

/** Two pictures that meet along a line across the canvas: `at` canvas px from the left or the top. */
export interface Seam {
  readonly axis: 'x' | 'y';
  readonly at: number;
  /** Layer ids: the one before the line (left, above) and the one after it. */
  readonly before: string;
  readonly after: string;
}

const NEAR = 0.75;

/** Where pictures of a graphic meet along straight lines for most of their length. */
export function seamsOf(layers: readonly PictureLayer[], canvas: Size): Seam[] {
  const boxes = layers
    .filter((l) => l.visible && !l.locked && l.turn === 0 && l.place.mode === 'free')
    .map((l) => ({ id: l.id, ...pictureGeometry(l, canvas).shown }));
  const seams: Seam[] = [];
  for (const a of boxes)
    for (const b of boxes) {
      if (a.id === b.id) continue;
      const shared = (from: 'x' | 'y', length: 'width' | 'height') =>
        (Math.min(a[from] + a[length], b[from] + b[length]) - Math.max(a[from], b[from])) /
        Math.max(1, Math.min(a[length], b[length]));
      if (Math.abs(a.y + a.height - b.y) < NEAR && shared('x', 'width') > 0.8)
        seams.push({ axis: 'y', at: b.y, before: a.id, after: b.id });
      if (Math.abs(a.x + a.width - b.x) < NEAR && shared('y', 'height') > 0.8)
        seams.push({ axis: 'x', at: b.x, before: a.id, after: b.id });
    }
  return seams;
}

/** A picture's frame with one side moved to `at`; enlarged in proportion where it does not reach so far. */
function withSide(layer: PictureLayer, axis: 'x' | 'y', end: boolean, at: number, canvas: Size): PictureLayer {
  const { image, shown } = pictureGeometry(layer, canvas);
  const length = axis === 'x' ? 'width' : 'height';
  const from = end ? shown[axis] : at;
  const window = { ...shown, [axis]: from, [length]: Math.max(4, (end ? at : shown[axis] + shown[length]) - from) };
  const lacks = image[axis] > window[axis] + 1e-6 || image[axis] + image[length] < window[axis] + window[length] - 1e-6;
  const crop = {
    x: 0,
    y: 0,
    width: window.width * (layer.natural.width / image.width),
    height: window.height * (layer.natural.height / image.height),
  };
  const by = Math.max(1, crop.width / layer.natural.width, crop.height / layer.natural.height);
  const framed: PictureLayer = {
    ...layer,
    crop: { ...crop, width: crop.width / by, height: crop.height / by },
    place: { mode: 'free', x: window.x, y: window.y, width: window.width },
  };
  if (!lacks) return withImageAt(framed, image, canvas);
  const middle = middleOf(image);
  return withImageAt(framed, boxAbout(middle, { width: image.width * by, height: image.height * by }), canvas);
}

/** Both pictures of a seam with the line moved to `at`: each keeps its scale while it reaches. */
export function movedSeam(
  pair: { before: PictureLayer; after: PictureLayer },
  axis: 'x' | 'y',
  at: number,
  canvas: Size,
): { before: PictureLayer; after: PictureLayer } {
  const low = pictureGeometry(pair.before, canvas).shown;
  const high = pictureGeometry(pair.after, canvas).shown;
  const length = axis === 'x' ? 'width' : 'height';
  const held = Math.min(Math.max(at, low[axis] + 4), high[axis] + high[length] - 4);
  return {
    before: withSide(pair.before, axis, true, held, canvas),
    after: withSide(pair.after, axis, false, held, canvas),
  };
}

/** Two photos laid so that they fill the canvas and meet along a line `at` canvas px from the left or the top. */
export function meeting(
  pair: { before: PictureLayer; after: PictureLayer },
  axis: 'x' | 'y',
  at: number,
  canvas: Size,
): { before: PictureLayer; after: PictureLayer } {
  const fill = (layer: PictureLayer, window: Box): PictureLayer => {
    const straight: PictureLayer = { ...layer, turn: 0, place: { mode: 'cover', focus: layer.focus, zoom: 1 } };
    const image = coverBox(layer.natural, window, mirroredPoint(layer.focus, layer.flip));
    const scale = layer.natural.width / image.width;
    return withImageAt(
      {
        ...straight,
        crop: { x: 0, y: 0, width: window.width * scale, height: window.height * scale },
        place: { mode: 'free', x: window.x, y: window.y, width: window.width },
      },
      image,
      canvas,
    );
  };
  const { width, height } = canvas;
  const [first, second] =
    axis === 'y'
      ? [
          { x: 0, y: 0, width, height: at },
          { x: 0, y: at, width, height: height - at },
        ]
      : [
          { x: 0, y: 0, width: at, height },
          { x: at, y: 0, width: width - at, height },
        ];
  return { before: fill(pair.before, first), after: fill(pair.after, second) };
}

/** A covering picture for a canvas of another size: it keeps its place, but never loses its focus from sight. */
export function coveringAnew(layer: PictureLayer, canvas: Size): PictureLayer {
  if (layer.place.mode !== 'cover') return layer;
  const frame = coverFrame(layer, canvas);
  const { image } = pictureGeometry(layer, canvas);
  const seen = mirroredPoint(layer.focus, layer.flip);
  const p = { x: image.x + seen.x * image.width, y: image.y + seen.y * image.height };
  // A twelfth of the frame around it, so that it does not hug the edge. Common practice, no source.
  const room = { x: frame.width / 12, y: frame.height / 12 };
  const safe =
    p.x >= frame.x + room.x &&
    p.x <= frame.x + frame.width - room.x &&
    p.y >= frame.y + room.y &&
    p.y <= frame.y + frame.height - room.y;
  if (safe || !coverIntent(image, frame)) return layer;
  return { ...layer, place: { ...layer.place, focus: layer.focus } };
}
