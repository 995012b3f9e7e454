import { coverBox, coverIntent } from '../geometry/fit';
import { intersection, type Box, type Size } from '../geometry/box';
import type { PictureLayer, Place } from './graphic';

export interface PictureGeometry {
  /** The whole picture, also what the crop hides. Canvas px. */
  readonly image: Box;
  /** The part that shows: the crop's box. Canvas px; may reach past the canvas. */
  readonly shown: Box;
}

const whole = (canvas: Size): Box => ({ x: 0, y: 0, width: canvas.width, height: canvas.height });

/** Derives a picture's boxes on a canvas from its intent. */
export function pictureGeometry(layer: PictureLayer, canvas: Size): PictureGeometry {
  const { natural, place } = layer;
  if (place.mode === 'cover') {
    const image = coverBox(natural, whole(canvas), place.focus, place.zoom);
    return { image, shown: image };
  }
  const crop = layer.crop ?? { x: 0, y: 0, ...natural };
  const scale = place.width / crop.width;
  return {
    image: {
      x: place.x - crop.x * scale,
      y: place.y - crop.y * scale,
      width: natural.width * scale,
      height: natural.height * scale,
    },
    shown: { x: place.x, y: place.y, width: place.width, height: crop.height * scale },
  };
}

/** Canvas px for one px of the picture itself; above 1 it is enlarged. */
export function pictureScale(layer: PictureLayer, canvas: Size): number {
  return pictureGeometry(layer, canvas).image.width / layer.natural.width;
}

/**
 * The intent for a picture whose shown part is put at `shown`: `cover` again
 * while an uncropped photo still covers the canvas, so that the intent outlives
 * a change of slot; `free` otherwise.
 */
export function placeFor(layer: PictureLayer, shown: Box, canvas: Size): Place {
  if (layer.role === 'photo' && !layer.crop) {
    const intent = coverIntent(shown, whole(canvas));
    if (intent) return { mode: 'cover', ...intent };
  }
  return { mode: 'free', x: shown.x, y: shown.y, width: shown.width };
}

/**
 * A crop and place under which the whole picture lies at `image` and shows within
 * `window` (both canvas px); null where they do not meet.
 */
export function cropFor(layer: PictureLayer, image: Box, window: Box): Pick<PictureLayer, 'place' | 'crop'> | null {
  const shown = intersection(image, window);
  if (!shown) return null;
  const scale = layer.natural.width / image.width;
  return {
    crop: {
      x: Math.max(0, (shown.x - image.x) * scale),
      y: Math.max(0, (shown.y - image.y) * scale),
      width: Math.min(layer.natural.width, shown.width * scale),
      height: Math.min(layer.natural.height, shown.height * scale),
    },
    place: { mode: 'free', x: shown.x, y: shown.y, width: shown.width },
  };
}
