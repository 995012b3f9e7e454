import { coverBox, coverIntent } from '../geometry/fit';
import { bottom, intersection, right, type Box, type Size } from '../geometry/box';
import type { PictureLayer } from './graphic';
import { cropFor, pictureGeometry } from './picture-geometry';

/** Least side of a crop, in the picture's own px and in canvas px. */
const LEAST = 4;

const clamp = (n: number, low: number, high: number) => Math.min(Math.max(n, low), Math.max(low, high));

/** What a picture is cropped within, canvas px: the canvas where it covers it, its own frame otherwise. */
export function cropWindow(layer: PictureLayer, canvas: Size): Box {
  return layer.place.mode === 'cover' ? { x: 0, y: 0, ...canvas } : pictureGeometry(layer, canvas).shown;
}

/** The part of the picture that shows in its window, in the picture's own px. */
export function cropPart(layer: PictureLayer, canvas: Size): Box {
  const { image } = pictureGeometry(layer, canvas);
  const window = intersection(cropWindow(layer, canvas), image) ?? image;
  const scale = layer.natural.width / image.width;
  return {
    x: (window.x - image.x) * scale,
    y: (window.y - image.y) * scale,
    width: window.width * scale,
    height: window.height * scale,
  };
}

/** A picture moved and zoomed under its window to `image` (canvas px), in proportion, held so that it fills the window. */
export function withImageAt(layer: PictureLayer, image: Box, canvas: Size): PictureLayer {
  const window = cropWindow(layer, canvas);
  const filled = coverBox(
    layer.natural,
    window,
    {
      x: (window.x + window.width / 2 - image.x) / image.width,
      y: (window.y + window.height / 2 - image.y) / image.height,
    },
    Math.max(1, Math.min(image.width / coverBox(layer.natural, window).width, 1000)),
  );
  if (layer.place.mode === 'cover') {
    const intent = coverIntent(filled, window);
    return intent ? { ...layer, place: { mode: 'cover', ...intent } } : layer;
  }
  const cropped = cropFor(layer, filled, window);
  return cropped ? { ...layer, ...cropped } : layer;
}

/** A picture zoomed about the middle of its window: `by` times as large as now. */
export function zoomedInWindow(layer: PictureLayer, by: number, canvas: Size): PictureLayer {
  const { image } = pictureGeometry(layer, canvas);
  const w = cropWindow(layer, canvas);
  const middle = { x: w.x + w.width / 2, y: w.y + w.height / 2 };
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
  const least = coverBox(layer.natural, cropWindow(layer, canvas)).width;
  return pictureGeometry(layer, canvas).image.width / least;
}

/** A picture with another window over it (canvas px), held within the picture; a covering one keeps the canvas as its window. */
export function withWindow(layer: PictureLayer, window: Box, canvas: Size): PictureLayer {
  if (layer.place.mode === 'cover') return layer;
  const { image } = pictureGeometry(layer, canvas);
  const x = clamp(window.x, image.x, right(image) - LEAST);
  const y = clamp(window.y, image.y, bottom(image) - LEAST);
  const held = {
    x,
    y,
    width: clamp(right(window), x + LEAST, right(image)) - x,
    height: clamp(bottom(window), y + LEAST, bottom(image)) - y,
  };
  const cropped = cropFor(layer, image, held);
  return cropped ? { ...layer, ...cropped } : layer;
}

/**
 * A picture of which exactly `part` (its own px) shows. A free one keeps its scale and corner, and its frame
 * takes the part's size; a covering one shows the part's width across the canvas.
 */
export function withPart(layer: PictureLayer, part: Box, canvas: Size): PictureLayer {
  const { natural } = layer;
  const width = clamp(part.width, LEAST, natural.width);
  const height = clamp(part.height, LEAST, natural.height);
  const x = clamp(part.x, 0, natural.width - width);
  const y = clamp(part.y, 0, natural.height - height);
  const { image, shown } = pictureGeometry(layer, canvas);
  if (layer.place.mode === 'cover') {
    const scale = canvas.width / width;
    return withImageAt(
      layer,
      { x: -x * scale, y: -y * scale, width: natural.width * scale, height: natural.height * scale },
      canvas,
    );
  }
  const scale = image.width / natural.width;
  return {
    ...layer,
    crop: { x, y, width, height },
    place: { mode: 'free', x: shown.x, y: shown.y, width: width * scale },
  };
}

/** A picture without its crop: a free one at the same scale and place, a covering one at the least that covers. */
export function uncropped(layer: PictureLayer, canvas: Size): PictureLayer {
  const { image } = pictureGeometry(layer, canvas);
  if (layer.place.mode === 'cover')
    return { ...layer, crop: null, place: { mode: 'cover', focus: { x: 0.5, y: 0.5 }, zoom: 1 } };
  return { ...layer, crop: null, place: { mode: 'free', x: image.x, y: image.y, width: image.width } };
}
