import { containBox, coverBox, coverIntent } from '../geometry/fit';
import { intersection, type Box, type Point, type Size } from '../geometry/box';
import { boxAbout, middleOf, turnedBounds, turnedPoint, turnedSize } from '../geometry/turn';
import type { PictureLayer, Place } from './graphic';

export interface PictureGeometry {
  /** The whole picture, also what the crop hides, before it is turned. Canvas px. */
  readonly image: Box;
  /** The part that shows: the crop's box, before it is turned. May reach past the canvas. */
  readonly shown: Box;
  /** Both are turned about this point, by the layer's `turn`. */
  readonly pivot: Point;
}

/** A part or a point of a picture as it came, as a part of it mirrored, and back. `size` is the picture's. */
export function mirrored(part: Box, size: Size, flip: PictureLayer['flip']): Box {
  return {
    ...part,
    x: flip.across ? size.width - part.x - part.width : part.x,
    y: flip.down ? size.height - part.y - part.height : part.y,
  };
}

export const mirroredPoint = (p: Point, flip: PictureLayer['flip']): Point => ({
  x: flip.across ? 1 - p.x : p.x,
  y: flip.down ? 1 - p.y : p.y,
});

/** What a covering picture has to cover, in its own unturned directions about the canvas's middle. */
export function coverFrame(layer: Pick<PictureLayer, 'turn'>, canvas: Size): Box {
  return boxAbout({ x: canvas.width / 2, y: canvas.height / 2 }, turnedSize(canvas, layer.turn));
}

/** The part that shows, in px of the picture mirrored as it is shown. */
export function seenPart(layer: PictureLayer): Box {
  return mirrored(layer.crop ?? { x: 0, y: 0, ...layer.natural }, layer.natural, layer.flip);
}

/** How a place's own width and height differ: 1 is true, 1.036 is 3.6 % wider than true. */
export const stretchOf = (place: Place): number => (place.mode === 'free' ? (place.stretch ?? 1) : 1);

/** A place of a picture's own: its left, top and width (canvas px), and how much wider than true it is drawn. */
export function freePlace({ x, y, width }: Omit<Box, 'height'>, stretch: number): Place & { mode: 'free' } {
  return { mode: 'free', x, y, width, ...(stretch === 1 ? {} : { stretch }) };
}

/** Derives a picture's boxes on a canvas from its intent. */
export function pictureGeometry(layer: PictureLayer, canvas: Size): PictureGeometry {
  const { natural, place } = layer;
  if (place.mode === 'cover') {
    const frame = coverFrame(layer, canvas);
    const image = coverBox(natural, frame, mirroredPoint(place.focus, layer.flip), place.zoom);
    return { image, shown: image, pivot: middleOf(frame) };
  }
  const part = seenPart(layer);
  const shown =
    place.mode === 'contain'
      ? contained(layer, canvas)
      : {
          x: place.x,
          y: place.y,
          width: place.width,
          height: (part.height * place.width) / part.width / stretchOf(place),
        };
  const across = shown.width / part.width;
  const down = shown.height / part.height;
  return {
    image: {
      x: shown.x - part.x * across,
      y: shown.y - part.y * down,
      width: natural.width * across,
      height: natural.height * down,
    },
    shown,
    pivot: middleOf(shown),
  };
}

/** The box of what shows when the whole of it, turned, is held within the canvas. */
function contained(layer: PictureLayer, canvas: Size): Box {
  const part = seenPart(layer);
  const room = containBox(turnedSize(part, layer.turn), { x: 0, y: 0, ...canvas });
  const by = room.width / turnedSize(part, layer.turn).width;
  return boxAbout(middleOf(room), { width: part.width * by, height: part.height * by });
}

/** What shows, as a box to be turned about its own middle: what handles hold. Canvas px. */
export function placedBox(layer: PictureLayer, canvas: Size): Box {
  const { shown, pivot } = pictureGeometry(layer, canvas);
  return boxAbout(turnedPoint(middleOf(shown), layer.turn, pivot), shown);
}

/** A point of the canvas as a point of the picture as it came, in its own px. */
export function ownPoint(layer: PictureLayer, canvas: Size, p: Point): Point {
  const { image, pivot } = pictureGeometry(layer, canvas);
  const flat = turnedPoint(p, -layer.turn, pivot);
  const share = mirroredPoint(
    { x: (flat.x - image.x) / image.width, y: (flat.y - image.y) / image.height },
    layer.flip,
  );
  return { x: share.x * layer.natural.width, y: share.y * layer.natural.height };
}

/** A point of the picture as it came (its own px) on the canvas: the inverse of `ownPoint`. */
export function canvasPoint(layer: PictureLayer, canvas: Size, own: Point): Point {
  const { image, pivot } = pictureGeometry(layer, canvas);
  const share = mirroredPoint({ x: own.x / layer.natural.width, y: own.y / layer.natural.height }, layer.flip);
  return turnedPoint({ x: image.x + share.x * image.width, y: image.y + share.y * image.height }, layer.turn, pivot);
}

/** The upright box around what shows, turned. Canvas px. */
export function pictureBounds(layer: PictureLayer, canvas: Size): Box {
  const { shown, pivot } = pictureGeometry(layer, canvas);
  return turnedBounds(shown, layer.turn, pivot);
}

/** The upright box around the whole picture, turned, also what the crop hides. Canvas px. */
export function wholeBounds(layer: PictureLayer, canvas: Size): Box {
  const { image, pivot } = pictureGeometry(layer, canvas);
  return turnedBounds(image, layer.turn, pivot);
}

/** Canvas px for one px of the picture itself, the larger way; above 1 it is enlarged. */
export function pictureScale(layer: PictureLayer, canvas: Size): number {
  const { image } = pictureGeometry(layer, canvas);
  return Math.max(image.width / layer.natural.width, image.height / layer.natural.height);
}

/**
 * The intent for a picture whose shown part is put at `placed` (canvas px, turned about its own middle):
 * `cover` again while an uncropped photo still covers the canvas, so that the intent outlives a change of slot;
 * `free` otherwise.
 */
export function placeFor(layer: PictureLayer, placed: Box, canvas: Size): Place {
  if (layer.role === 'photo' && !layer.crop && stretchOf(layer.place) === 1) {
    const frame = coverFrame(layer, canvas);
    const image = boxAbout(turnedPoint(middleOf(placed), -layer.turn, middleOf(frame)), placed);
    const intent = coverIntent(image, frame);
    if (intent) return { mode: 'cover', zoom: intent.zoom, focus: mirroredPoint(intent.focus, layer.flip) };
  }
  return freePlace(placed, stretchOf(layer.place));
}

/**
 * A crop and place under which the whole picture lies at `image` and shows within `window` (both canvas px,
 * unturned about the window's middle); null where they do not meet.
 */
export function cropFor(layer: PictureLayer, image: Box, window: Box): Pick<PictureLayer, 'place' | 'crop'> | null {
  const shown = intersection(image, window);
  if (!shown) return null;
  const { natural } = layer;
  const across = natural.width / image.width;
  const down = natural.height / image.height;
  const seen = {
    x: Math.max(0, (shown.x - image.x) * across),
    y: Math.max(0, (shown.y - image.y) * down),
    width: Math.min(natural.width, shown.width * across),
    height: Math.min(natural.height, shown.height * down),
  };
  const about = middleOf(window);
  // What is cut off one side moves the middle that the layer turns about.
  const placed = boxAbout(turnedPoint(middleOf(shown), layer.turn, about), shown);
  return {
    crop: mirrored(seen, natural, layer.flip),
    place: freePlace(placed, stretchOf(layer.place)),
  };
}
