import { clamp } from '../geometry/clamp';
import { coverBox, coverIntent } from '../geometry/fit';
import { bottom, intersection, right, type Box, type Point, type Size } from '../geometry/box';
import { boxAbout, middleOf, turnedPoint } from '../geometry/turn';
import type { PictureLayer } from './graphic';
import {
  coverFrame,
  cropFor,
  freePlace,
  mirrored,
  mirroredPoint,
  pictureGeometry,
  stretchOf,
} from './picture-geometry';

/** Least side of a crop, in the picture's own px and in canvas px. */
const LEAST = 4;

/** A picture's size as it is drawn before any scaling: its own, but for a stretch. */
const drawnSize = (layer: PictureLayer): Size => ({
  width: layer.natural.width,
  height: layer.natural.height / stretchOf(layer.place),
});

/**
 * What a picture is cropped within, canvas px, unturned about its middle: the canvas where it covers it, its own
 * frame otherwise.
 */
export function cropWindow(layer: PictureLayer, canvas: Size): Box {
  return layer.place.mode === 'cover' ? coverFrame(layer, canvas) : pictureGeometry(layer, canvas).shown;
}

/** The part of the picture that shows in its window, in px of the picture as it came. */
export function cropPart(layer: PictureLayer, canvas: Size): Box {
  const { image } = pictureGeometry(layer, canvas);
  const window = intersection(cropWindow(layer, canvas), image) ?? image;
  const across = layer.natural.width / image.width;
  const down = layer.natural.height / image.height;
  return mirrored(
    {
      x: (window.x - image.x) * across,
      y: (window.y - image.y) * down,
      width: window.width * across,
      height: window.height * down,
    },
    layer.natural,
    layer.flip,
  );
}

/** A picture moved and zoomed under its window to `image` (canvas px), in proportion, held so that it fills the window. */
export function withImageAt(layer: PictureLayer, image: Box, canvas: Size): PictureLayer {
  const window = cropWindow(layer, canvas);
  const drawn = drawnSize(layer);
  const filled = coverBox(
    drawn,
    window,
    {
      x: (window.x + window.width / 2 - image.x) / image.width,
      y: (window.y + window.height / 2 - image.y) / image.height,
    },
    Math.max(1, Math.min(image.width / coverBox(drawn, window).width, 1000)),
  );
  if (layer.place.mode === 'cover') {
    const intent = coverIntent(filled, window);
    return intent
      ? { ...layer, place: { mode: 'cover', zoom: intent.zoom, focus: mirroredPoint(intent.focus, layer.flip) } }
      : layer;
  }
  const cropped = cropFor(layer, filled, window);
  return cropped ? { ...layer, ...cropped } : layer;
}

/** A picture zoomed about the middle of its window: `by` times as large as now. */
export function zoomedInWindow(layer: PictureLayer, by: number, canvas: Size): PictureLayer {
  const { image } = pictureGeometry(layer, canvas);
  const middle = middleOf(cropWindow(layer, canvas));
  return withImageAt(
    layer,
    {
      x: middle.x - (middle.x - image.x) * by,
      y: middle.y - (middle.y - image.y) * by,
      width: image.width * by,
      height: image.height * by,
    },
    canvas,
  );
}

/** How much larger the picture is than the least that fills its window: 1 and more. */
export function windowZoom(layer: PictureLayer, canvas: Size): number {
  const least = coverBox(drawnSize(layer), cropWindow(layer, canvas)).width;
  return pictureGeometry(layer, canvas).image.width / least;
}

/** A covering or contained picture with a window of its own: what shows of it on the canvas, held by a crop. */
export function withOwnFrame(layer: PictureLayer, canvas: Size): PictureLayer {
  if (layer.place.mode === 'free') return layer;
  const { image } = pictureGeometry(layer, canvas);
  const cropped = cropFor(layer, image, cropWindow(layer, canvas));
  return cropped ? { ...layer, ...cropped } : layer;
}

/** A picture with another window over it (canvas px, unturned about the present window's middle), held within the picture. */
export function withWindow(layer: PictureLayer, window: Box, canvas: Size): PictureLayer {
  if (layer.place.mode === 'cover') return layer;
  const { image, pivot } = pictureGeometry(layer, canvas);
  const x = clamp(window.x, image.x, right(image) - LEAST);
  const y = clamp(window.y, image.y, bottom(image) - LEAST);
  const held = {
    x,
    y,
    width: clamp(right(window), x + LEAST, right(image)) - x,
    height: clamp(bottom(window), y + LEAST, bottom(image)) - y,
  };
  const cropped = cropFor(layer, image, held);
  if (!cropped || cropped.place.mode !== 'free') return layer;
  // The boxes were unturned about the old middle, and the new frame turns about its own.
  const placed = boxAbout(turnedPoint(middleOf(held), layer.turn, pivot), held);
  return { ...layer, crop: cropped.crop, place: { ...cropped.place, x: placed.x, y: placed.y } };
}

/**
 * A picture of which exactly `part` (px of the picture as it came) shows. A free one keeps its scale and corner,
 * and its frame takes the part's size; a covering one shows the part's width across the canvas.
 */
export function withPart(layer: PictureLayer, part: Box, canvas: Size): PictureLayer {
  const { natural } = layer;
  const width = clamp(part.width, LEAST, natural.width);
  const height = clamp(part.height, LEAST, natural.height);
  const x = clamp(part.x, 0, natural.width - width);
  const y = clamp(part.y, 0, natural.height - height);
  const { image, shown } = pictureGeometry(layer, canvas);
  if (layer.place.mode === 'cover') {
    const window = cropWindow(layer, canvas);
    const seen = mirrored({ x, y, width, height }, natural, layer.flip);
    const scale = window.width / width;
    return withImageAt(
      layer,
      {
        x: window.x - seen.x * scale,
        y: window.y - seen.y * scale,
        width: natural.width * scale,
        height: natural.height * scale,
      },
      canvas,
    );
  }
  return {
    ...layer,
    crop: { x, y, width, height },
    place: freePlace({ x: shown.x, y: shown.y, width: (width * image.width) / natural.width }, stretchOf(layer.place)),
  };
}

/** A free picture's frame brought to a ratio (width ÷ height) about its middle: the side that is too long is cut. */
export function withRatio(layer: PictureLayer, ratio: number, canvas: Size): PictureLayer {
  const own = withOwnFrame(layer, canvas);
  const { shown } = pictureGeometry(own, canvas);
  const width = Math.min(shown.width, shown.height * ratio);
  return withWindow(own, boxAbout(middleOf(shown), { width, height: width / ratio }), canvas);
}

/** A picture that fills a box (canvas px), cropped as little as that takes, about a point in shares of it. */
export function filling<P extends Pick<PictureLayer, 'natural'>>(
  layer: P,
  box: Box,
  about: Point,
): P & Pick<PictureLayer, 'place' | 'crop'> {
  const { width, height } = layer.natural;
  const by = Math.max(box.width / width, box.height / height);
  const part = { width: Math.min(width, box.width / by), height: Math.min(height, box.height / by) };
  const crop = {
    x: clamp(about.x * width - part.width / 2, 0, width - part.width),
    y: clamp(about.y * height - part.height / 2, 0, height - part.height),
    ...part,
  };
  return { ...layer, crop, place: { mode: 'free', x: box.x, y: box.y, width: box.width } };
}

/**
 * A picture whose frame is exactly `size` canvas px: the crop is brought to its ratio about the middle, then
 * drawn at that size, corner kept. In proportion.
 */
export function withFrameSize(layer: PictureLayer, size: Size, canvas: Size): PictureLayer {
  const own = withRatio(layer, size.width / size.height, canvas);
  if (own.place.mode !== 'free') return own;
  const { x, y } = withOwnFrame(layer, canvas).place as { x: number; y: number };
  return { ...own, place: { ...own.place, x, y, width: size.width } };
}

/** A picture without its crop: a free one at the same scale and place, a covering one at the least that covers. */
export function uncropped(layer: PictureLayer, canvas: Size): PictureLayer {
  const { image, pivot } = pictureGeometry(layer, canvas);
  if (layer.place.mode === 'cover')
    return { ...layer, crop: null, place: { mode: 'cover', focus: layer.focus, zoom: 1 } };
  const placed = boxAbout(turnedPoint(middleOf(image), layer.turn, pivot), image);
  return {
    ...layer,
    crop: null,
    place: freePlace(placed, stretchOf(layer.place)),
  };
}
