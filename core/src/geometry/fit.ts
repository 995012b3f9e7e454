import { clamp } from './clamp';
import { contains, right, bottom, type Box, type Point, type Size } from './box';

/**
 * Box of a whole picture that covers `frame` in proportion.
 * `focus` is the point of the picture (0…1 each way) that is brought as near to
 * the frame's centre as covering allows; `zoom` ≥ 1 enlarges beyond the least cover.
 * Units of the result: those of `frame`.
 */
export function coverBox(picture: Size, frame: Box, focus: Point = { x: 0.5, y: 0.5 }, zoom = 1): Box {
  const scale = Math.max(frame.width / picture.width, frame.height / picture.height) * Math.max(1, zoom);
  const width = Math.max(frame.width, picture.width * scale);
  const height = Math.max(frame.height, picture.height * scale);
  return {
    x: clamp(frame.x + frame.width / 2 - focus.x * width, frame.x + frame.width - width, frame.x),
    y: clamp(frame.y + frame.height / 2 - focus.y * height, frame.y + frame.height - height, frame.y),
    width,
    height,
  };
}

/** Box of a whole picture held within `frame` in proportion, centred. */
export function containBox(picture: Size, frame: Box): Box {
  const scale = Math.min(frame.width / picture.width, frame.height / picture.height);
  const width = picture.width * scale;
  const height = picture.height * scale;
  return { x: frame.x + (frame.width - width) / 2, y: frame.y + (frame.height - height) / 2, width, height };
}

/**
 * The cover intent that gives `box` again, when `box` covers `frame` (within 1e-6);
 * null when it does not. Inverse of `coverBox`.
 */
export function coverIntent(box: Box, frame: Box): { focus: Point; zoom: number } | null {
  if (!contains(box, frame, 1e-6)) return null;
  const least = Math.max(frame.width / box.width, frame.height / box.height);
  return {
    focus: {
      x: (frame.x + frame.width / 2 - box.x) / box.width,
      y: (frame.y + frame.height / 2 - box.y) / box.height,
    },
    zoom: Math.max(1, 1 / least),
  };
}

export type Corner = 'top-left' | 'top-right' | 'bottom-right' | 'bottom-left';

/** A box resized in proportion by a corner dragged to `to`; the opposite corner stays. `least` is the smallest width. */
export function resizedByCorner(box: Box, corner: Corner, to: Point, least = 8): Box {
  const atLeft = corner.endsWith('left');
  const atTop = corner.startsWith('top');
  const fixed = { x: atLeft ? right(box) : box.x, y: atTop ? bottom(box) : box.y };
  const wide = (atLeft ? fixed.x - to.x : to.x - fixed.x) / box.width;
  const high = (atTop ? fixed.y - to.y : to.y - fixed.y) / box.height;
  // The pointer's projection on the box's diagonal, so that neither axis jumps ahead of the other.
  const by =
    (wide * box.width * box.width + high * box.height * box.height) / (box.width * box.width + box.height * box.height);
  const width = Math.max(least, box.width * by);
  const height = (width / box.width) * box.height;
  return { x: atLeft ? fixed.x - width : fixed.x, y: atTop ? fixed.y - height : fixed.y, width, height };
}
